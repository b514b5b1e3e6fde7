"""Underlap: what only just meets the layer above reaches under it, so that no slit shows between them."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import shapely
from shapely import LineString, MultiLineString, MultiPolygon, Polygon

from tinhalo.core.geometry.curves.precision import Precision
from tinhalo.core.geometry.regions.morphology import close_gaps
from tinhalo.core.geometry.regions.offset import buffered
from tinhalo.core.geometry.regions.overlay import intersect, union
from tinhalo.core.geometry.regions.region import Region, plainer
from tinhalo.core.geometry.stacking.support import Resting

#: Shorter seams (mm) are only where edges cross.
_LEAST = 1.0
#: Seams are looked for with outlines this coarse, in mm.
_COARSE = 0.002
#: An underlap of up to this (mm) is none: it comes of following the same curve twice.
_NONE = 0.02
#: Slits up to this width (mm) come of drawing the same edge twice.
_CRACK = 0.05


def seams(resting: Resting, within: float) -> Iterator[tuple[Polygon, list[LineString]]]:
    """Stretches where the ground ends at the edge of what rests on it, or just short of it, instead of under it.

    Args:
        resting: what the ground should reach under.
        within: how far apart their edges may be, in mm.
    Returns:
        of each stretch what is within that distance, and its lines.
    """
    edge = resting.ground.area.boundary
    close = edge.intersection(buffered(plainer(resting.off.area, _COARSE), within))
    if close.is_empty:
        return
    # Where it reaches under the edge it may come out again beside it.
    every = shapely.get_parts(close.difference(buffered(_overlap(resting), within + 0.01)))
    lines: list[LineString] = [part for part in every if isinstance(part, LineString) and part.length > 0]
    if not lines:
        return
    # Uniting what is around each line is far quicker than one buffer of hundreds of lines.
    around_all = shapely.disjoint_subset_union_all(shapely.buffer(np.array(lines, object), within, quad_segs=4))
    stretches = [part for part in shapely.get_parts(around_all) if isinstance(part, Polygon)]
    # Each line is in the stretch around it, and in no other one.
    line, stretch = shapely.STRtree(stretches).query([part.interpolate(0) for part in lines], predicate="intersects")
    for k, around in enumerate(stretches):
        own: list[int] = line[stretch == k].tolist()
        found = [lines[i] for i in own]
        if sum(part.length for part in found) >= _LEAST:
            yield around, found


def _overlap(resting: Resting) -> MultiPolygon:
    """What truly lies on the ground: no strips along a common edge that come of following curves."""
    # Piece by piece: all at once takes a time that grows with the square of their number.
    lying = np.asarray(shapely.get_parts(resting.lying.area), object)
    opened = shapely.buffer(shapely.buffer(lying, -_NONE / 2, quad_segs=2), _NONE / 2, quad_segs=2)
    return plainer(Region.of(np.asarray(opened, object)).area, _COARSE)


def underlapped(ground: Region, top: Region, by: float, within: float, precision: Precision) -> Region:
    """The region reaching ``by`` mm under another one where their edges meet; elsewhere it stays as it is.

    Args:
        ground: the region.
        top: the other one.
        by: how far it reaches under, in mm.
        within: how wide a slit between them may be to be bridged, in mm.
        precision: how finely arcs are drawn.
    """
    lines = MultiLineString([line for _, found in seams(Resting(top, ground), within) for line in found])
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
