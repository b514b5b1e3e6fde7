"""Underlap: what only just meets the layer above reaches under it, so that no slit shows between them."""

from __future__ import annotations

from collections.abc import Iterator

import shapely
from shapely import LineString, MultiLineString, Polygon
from shapely.geometry.base import BaseGeometry

from tinhalo.core.geometry.borders import close_gaps
from tinhalo.core.geometry.combine import intersect, union
from tinhalo.core.geometry.precision import Precision
from tinhalo.core.geometry.region import Region

#: Shorter seams (mm) are only where edges cross.
_LEAST = 1.0
#: Slits up to this width (mm) come of drawing the same edge twice.
_CRACK = 0.05


def seams(
    ground: Region, top: Region, lying: BaseGeometry, within: float
) -> Iterator[tuple[Polygon, list[LineString]]]:
    """Stretches where one region ends at another one's edge, or just short of it, instead of under it.

    Args:
        ground: the region that should reach under the other.
        top: the other one.
        lying: what of the other one lies on it already.
        within: how far apart their edges may be, in mm.
    Returns:
        of each stretch what is within that distance, and its lines.
    """
    close = ground.area.boundary.intersection(top.area.buffer(within))
    if close.is_empty:
        return
    # Where it reaches under the edge it may come out again beside it.
    every: BaseGeometry = close.difference(lying.buffer(within + 0.01))
    for around in shapely.get_parts(every.buffer(within, quad_segs=4)):
        if isinstance(around, Polygon):
            parts = shapely.get_parts(every.intersection(around))
            lines = [line for line in parts if isinstance(line, LineString) and line.length > 0]
            if sum(line.length for line in lines) >= _LEAST:
                yield around, lines


def underlapped(ground: Region, top: Region, by: float, within: float, precision: Precision) -> Region:
    """The region reaching ``by`` mm under another one where their edges meet; elsewhere it stays as it is.

    Args:
        ground: the region.
        top: the other one.
        by: how far it reaches under, in mm.
        within: how wide a slit between them may be to be bridged, in mm.
        precision: how finely arcs are drawn.
    """
    lying = intersect(ground, top).area
    lines = MultiLineString([line for _, found in seams(ground, top, lying, within) for line in found])
    if lines.is_empty:
        return ground
    slit, reach = (
        Region.of(shapely.buffer(lines, size, quad_segs=precision.quarter_segments(size)))
        for size in (within, within + by)
    )
    filled = intersect(close_gaps(union([ground, top]), within + 0.02, precision), slit)
    # All that is united overlaps; where arcs were drawn anew, hairlines may be left between.
    made = union([ground, intersect(reach, union([top, filled]))])
    return union([made, intersect(reach, close_gaps(made, _CRACK, precision))])
