"""Stretches of strokes and gaps that are narrower than a limit, and which strokes give way there."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import cast

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import MultiPolygon
from shapely.ops import linemerge

from tinhalo.core.geometry.arrays import XY, Ints
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.regions.windows import within_each
from tinhalo.core.geometry.strokes.bending import Section, around, gives_way
from tinhalo.core.geometry.strokes.narrow_places import narrow_strokes
from tinhalo.core.geometry.strokes.widths import Widths

#: What is shown around narrow places follows their middles this closely, in mm.
_SHOWN = 0.05
#: So many sections of a narrow stretch are looked at.
_SECTIONS = 6


@dataclass(frozen=True)
class Stretch:
    """A narrow stretch that lies apart from others.

    Attributes:
        sections: along it, the narrowest first, the widest last.
        length: how far it is narrow, in mm.
        around: the area around it.
    """

    sections: tuple[Section, ...]
    length: float
    around: MultiPolygon

    @property
    def narrowest(self) -> Section:
        """Its narrowest section."""
        return self.sections[0]


def weak_strokes(region: Region, least: float, slack: float) -> list[tuple[Stretch, Section]]:
    """Each stretch of a stroke narrower than ``least`` mm, by more than ``slack`` mm, that gives way; and where.

    Of a stretch that is the narrowest section that does, see ``bending``.
    """
    stretches = stretches_of(narrow_strokes(region.simple, least - slack), least, region.area)
    weak = _weakest(region.area, stretches, least)
    return [(stretch, section) for stretch, section in zip(stretches, weak, strict=True) if section is not None]


def _weakest(area: MultiPolygon, stretches: Sequence[Stretch], least: float) -> list[Section | None]:
    """The narrowest section of each stretch that gives way, where one does."""
    if not stretches:
        return []
    pieces = np.asarray(shapely.get_parts(area), object)
    tree = shapely.STRtree(pieces)
    sections = [section for stretch in stretches for section in stretch.sections]
    boxes = np.array([around(one, least).bounds for one in sections])
    near = dict(zip(sections, within_each(area, boxes), strict=True))

    def weak(section: Section, length: float) -> bool:
        # The middle of a stroke lies in its piece, but for the last digit.
        piece = pieces[tree.nearest(shapely.Point(section.at))]
        return gives_way(piece, near[section], section, length, least)

    return [next((one for one in stretch.sections if weak(one, stretch.length)), None) for stretch in stretches]


def stretches_of(widths: Widths | None, least: float, within: MultiPolygon | None) -> list[Stretch]:
    """Narrow stretches that lie apart, the narrowest first."""
    if widths is None:
        return []
    narrow = np.isfinite(widths.width)
    # One line after the other is buffered far faster than every stretch by itself.
    lines = linemerge(shapely.multilinestrings(widths.thinner_than(np.inf)))
    shown_around = shapely.buffer(shapely.simplify(lines, _SHOWN), max(least, 0.5) / 2 + 0.1, quad_segs=4)
    parts = np.asarray(shapely.get_parts(shown_around), object)
    shown = Region.of(shown_around if within is None else shapely.intersection(shown_around, within)).area.geoms
    places, width = widths.place[narrow], widths.width[narrow]
    lengths = widths.lengths_under(least)[narrow]
    place_in = _holding(parts, np.asarray(shapely.points(places), object))
    shown_in = _holding(parts, [one.representative_point() for one in shown])
    thinnest_first = np.argsort(width, kind="stable")
    _, first = np.unique(place_in[thinnest_first], return_index=True)
    found: list[Stretch] = []
    for place in thinnest_first[first].tolist():
        own = thinnest_first[place_in[thinnest_first] == place_in[place]]
        taken = own[np.unique(np.linspace(0, len(own) - 1, _SECTIONS).astype(int))].tolist()
        sections = tuple(Section(float(width[k]), cast(XY, tuple(places[k].tolist()))) for k in taken)
        area = MultiPolygon([shown[k] for k in np.flatnonzero(shown_in == place_in[place])])
        found.append(Stretch(sections, float(lengths[own].sum()), area))
    return found


def _holding(parts: NDArray[np.object_], points: Sequence[shapely.Point] | NDArray[np.object_]) -> Ints:
    """Which of the parts, which lie apart, holds each point; -1 where none does."""
    held = np.full(len(points), -1)
    # Of thousands of points in a part with thousands of vertices: the tree prepares what it is asked of.
    part, point = shapely.STRtree(points).query(parts, predicate="intersects")
    held[point] = part
    return held
