"""Strokes too thin for the material, and gaps too tight for the cutter."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import cast

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import MultiPolygon, Polygon
from shapely.ops import linemerge

from tinhalo.core.findings.finding import Finding, outline_of, rounded
from tinhalo.core.findings.mends.filling import filling_one, is_backing
from tinhalo.core.findings.mends.mend import Mend
from tinhalo.core.findings.mends.thicker import thickened
from tinhalo.core.findings.surveyed import SLACK, Surveyed
from tinhalo.core.geometry.arrays import XY, Ints
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.regions.selection import holding
from tinhalo.core.geometry.regions.windows import within_each
from tinhalo.core.geometry.strokes.bending import Section, around, gives_way
from tinhalo.core.geometry.strokes.narrow_places import narrow_gaps, narrow_strokes
from tinhalo.core.geometry.strokes.notches import gaps_at
from tinhalo.core.geometry.strokes.widths import Widths
from tinhalo.core.recipe.border_steps import CloseGaps, OpenGaps

#: What is shown around narrow places follows their middles this closely, in mm.
_SHOWN = 0.05
#: So many sections of a narrow stretch are looked at.
_SECTIONS = 6
#: What misses a limit by less than this share of it is not told.
_SHARE = 0.05
#: A gap on film under this width (mm) that the font itself has closes again as it is weeded (common practice).
_FAINT = 0.1


def check_thin_spots(one: Surveyed) -> list[Finding]:
    """Each stretch of a stroke that is narrower than the material's least width."""
    least = one.limits.least_width
    stretches = _stretches(narrow_strokes(one.region.simple, least - SLACK), least, one.region.area)
    found = [
        (section.width, section.at, stretch.around)
        for stretch, section in zip(stretches, _weakest(one.region.area, stretches, least), strict=True)
        if section is not None
    ]
    return [
        Finding(
            kind="thin_spot",
            severity="warning",
            layer=one.layer.id,
            sentence=(
                f"{one.title} is only {one.length(width)} wide{one.at_letter(at, ' here')}: {one.material.name} needs "
                f"{one.length(least)}, or it breaks."
            ),
            at=at,
            outline=outline_of(around),
            measure=round(width, 3),
            limit=least,
            unit="mm",
            mends=thickened(one, width, at if len(found) > 1 else None),
        )
        for width, at, around in found
    ]


def check_tight_gaps(one: Surveyed) -> list[Finding]:
    """Each stretch of a gap that is narrower than can be cut."""
    least = one.limits.opening
    why = f"in {one.material.name} it needs {one.length(least)} to stay open"
    if least > one.limits.least_gap:
        why = f"a tool {one.length(least)} wide does not get in"
    stretches = _stretches(narrow_gaps(one.region.simple, least - min(SLACK, _SHARE * least)), least, None)
    gaps = gaps_at(one.region, [stretch.narrowest.at for stretch in stretches], least)
    # Into a notch no tool has to get, and there is nothing in it that could tear.
    narrow = [
        (stretch.narrowest.width, stretch.narrowest.at, stretch.around)
        for stretch, gap in zip(stretches, gaps, strict=True)
        if not gap.notch
    ]
    closed = [gap.filled for gap in gaps if not gap.notch]
    inside = holding(one.region.hole_areas(), [at for _, at, _ in narrow])
    strays = [area for area, held in zip(one.region.hole_areas(), inside, strict=True) if held]
    widen = Mend.by_step(f"Widen to {one.length(least)}", one.layer.id, OpenGaps(to=least))
    close = Mend.by_step(f"Close gaps up to {one.length(least)}", one.layer.id, CloseGaps(up_to=least))

    def mends(at: XY, joined: bool) -> Iterator[Mend]:
        yield from _filling(one, strays, at)
        yield widen
        if joined:
            yield close
        if len(narrow) > 1 and (spot := one.anchor(at)):
            yield Mend.by_step("Widen only here", one.layer.id, OpenGaps(to=least, only=(spot,)), here=True)
            if joined:
                yield Mend.by_step("Close only here", one.layer.id, CloseGaps(up_to=least, only=(spot,)), here=True)

    return [
        Finding(
            kind="tight_gap",
            severity="note" if _of_the_font(one, width, at) else "warning",
            layer=one.layer.id,
            sentence=f"The gap in {one.title} is only {one.length(width)} wide{one.at_letter(at, ' here')}: {why}.",
            at=at,
            outline=outline_of(around),
            measure=round(width, 3),
            limit=least,
            unit="mm",
            mends=tuple(mends(at, joined)),
        )
        for (width, at, around), joined in zip(narrow, closed, strict=True)
    ]


def _of_the_font(one: Surveyed, width: float, at: XY) -> bool:
    """Whether a gap on weeded film is one of a few hundredths inside a letter: it stays closed, and nobody sees it."""
    return one.limits.weeded and width < _FAINT and one.parts_near(at, width) == 1


def _filling(one: Surveyed, strays: Sequence[Polygon], at: XY) -> Iterator[Mend]:
    """Behind a face an opening that is a hole is filled first of all."""
    if is_backing(one) and any(stray.contains(shapely.Point(at)) for stray in strays):
        yield from filling_one(one, at)


@dataclass(frozen=True)
class _Stretch:
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
        return self.sections[0]


def _weakest(area: MultiPolygon, stretches: Sequence[_Stretch], least: float) -> list[Section | None]:
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


def _stretches(widths: Widths | None, least: float, within: MultiPolygon | None) -> list[_Stretch]:
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
    found: list[_Stretch] = []
    for place in thinnest_first[first].tolist():
        own = thinnest_first[place_in[thinnest_first] == place_in[place]]
        taken = own[np.unique(np.linspace(0, len(own) - 1, _SECTIONS).astype(int))].tolist()
        sections = tuple(Section(float(width[k]), rounded(cast(XY, tuple(places[k].tolist())))) for k in taken)
        area = MultiPolygon([shown[k] for k in np.flatnonzero(shown_in == place_in[place])])
        found.append(_Stretch(sections, float(lengths[own].sum()), area))
    return found


def _holding(parts: NDArray[np.object_], points: Sequence[shapely.Point] | NDArray[np.object_]) -> Ints:
    """Which of the parts, which lie apart, holds each point; -1 where none does."""
    held = np.full(len(points), -1)
    # Of thousands of points in a part with thousands of vertices: the tree prepares what it is asked of.
    part, point = shapely.STRtree(points).query(parts, predicate="intersects")
    held[point] = part
    return held
