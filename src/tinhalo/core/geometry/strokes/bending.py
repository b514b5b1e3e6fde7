"""Whether what hangs on a narrow place bends it off: a beam that is held at one end.

A stroke that ends freely is a cantilever. Handled, weeded or lifted off, it carries a load that grows with its area,
and the bending moment at a section is that load times the distance of its centroid, M = q·A·d. Of a sheet that is t
thick a section w wide resists with a modulus of t·w²/6 (the section modulus of a rectangle, as in any handbook of
mechanics), so what it has to bear grows with A·d/w². A strip of a material's least width, twice as long as it is wide,
just holds (common practice): it bears A·d/w² = 2·least. Of two sides of a section the one that bears less is taken, as
the other one is what is held.

A tip that tapers to a point bears a third of a strip's: it may be √3 times as long. What hangs on both ends, as the
sides of a loop, is no cantilever: it is weak where it is too narrow for further than it is wide.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely
from shapely import LineString, Point, Polygon
from shapely.geometry.base import BaseGeometry
from shapely.ops import nearest_points

from tinhalo.core.geometry.arrays import XY, Floats
from tinhalo.core.geometry.regions.windows import square

#: What a section may bear, in least widths: a strip twice as long as it is wide.
BEARS = 2.0
#: How much is looked at around a section, in least widths. A piece that goes on beyond that bears more than it may,
#: even one that tapers: at least 4.5²/6 of the least width.
_AROUND = 4.5
#: Half the width of the cut that parts both sides, in mm.
_CUT = 1e-4


@dataclass(frozen=True)
class Section:
    """A narrow section across a stroke: its width and its middle, in mm."""

    width: float
    at: XY


def around(section: Section, least: float) -> Polygon:
    """What has to be known of an area to say whether a stroke gives way at a section narrower than ``least`` mm."""
    return square(section.at, _AROUND * least)


def gives_way(piece: Polygon, near: BaseGeometry, section: Section, length: float, least: float) -> bool:
    """Whether a stroke gives way at a narrow section.

    Args:
        piece: what the stroke is a part of.
        near: what of the area lies ``around`` the section.
        section: narrower than ``least`` mm.
        length: how far the stroke is narrower than that around it, in mm.
    """
    return _bears(piece, near, section, length, least) > BEARS * least


def _bears(piece: Polygon, near: BaseGeometry, section: Section, length: float, least: float) -> float:
    """What a section bears, A·d/w² in mm: infinite where it certainly breaks."""
    edge = around(section, least).exterior
    cut = _across(near, section)
    sides = _sides(near, cut)
    hanging = [side for side in sides if not shapely.intersects(side, edge)]
    if len(sides) >= 2 and hanging:
        at = Point(section.at)
        return min(side.area * side.centroid.distance(at) for side in hanging) / section.width**2
    # Both sides go on: one of them hangs by it alone, or they meet again elsewhere.
    if length > section.width:
        return float("inf")
    return float("inf") if len(_sides(piece, cut)) >= 2 else 0.0


def _across(area: BaseGeometry, section: Section) -> Polygon:
    """A hairline cut through the middle of a stroke, to where either side is nearest."""
    middle = np.array(section.at)
    near = _nearest(area.boundary, section)
    way = near - middle
    unit = way / max(float(np.hypot(*way)), _CUT)
    # The half of what is around that lies beyond the middle.
    far = 2 * section.width
    beside = far * np.array((-unit[1], unit[0]))
    beyond = Polygon([middle + beside, middle + beside - far * unit, middle - beside - far * unit, middle - beside])
    opposite = shapely.intersection(area.boundary, beyond)
    ends = [near, middle, middle - way if opposite.is_empty else _nearest(opposite, section)]
    # A little over both edges, so that nothing is left of them.
    return shapely.buffer(LineString(ends), 2 * _CUT, cap_style="square", quad_segs=1)


def _nearest(edge: BaseGeometry, section: Section) -> Floats:
    return shapely.get_coordinates(nearest_points(Point(section.at), edge)[1])[0]


def _sides(area: BaseGeometry, cut: Polygon) -> list[Polygon]:
    """What a cut parts: the pieces that lie at it."""
    parts = shapely.get_parts(shapely.difference(area, cut))
    return [part for part in parts if part.distance(cut) < _CUT and part.area > 0]
