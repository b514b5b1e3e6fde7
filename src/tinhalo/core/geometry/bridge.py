"""Bridges: short straight bars that join pieces which do not touch, or only in a point."""

from __future__ import annotations

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import LineString, Point, Polygon
from shapely.ops import nearest_points

from tinhalo.core.geometry.outline import Floats
from tinhalo.core.geometry.precision import Precision
from tinhalo.core.geometry.region import Region

#: Pieces closer than this (mm) touch: their bridge is a round patch, since it has no direction.
_TOUCHING = 1e-6
#: Edges face each other where they are hardly further apart than the least distance, in mm.
_FACING = 0.05


def bridged(
    region: Region, width: float, up_to: float, precision: Precision, only: NDArray[np.bool_] | None = None
) -> Region:
    """Join pieces by the shortest bars there are.

    Args:
        region: the pieces.
        width: of each bar, in mm.
        up_to: the longest gap that is bridged, in mm. Pieces further away stay apart.
        precision: how finely a round patch is drawn.
        only: which pieces get a bar, one each, to the piece next to it; None for all that can be joined.
    Returns:
        the region with as few bars as join what is to be joined: for all, the shortest spanning tree of its pieces.
    """
    pieces: list[Polygon] = list(region.area.geoms)
    if len(pieces) < 2:
        return region
    pairs = shapely.STRtree(pieces).query(pieces, predicate="dwithin", distance=up_to)
    near: list[tuple[int, int]] = pairs.T.tolist()
    gaps = sorted((pieces[a].distance(pieces[b]), a, b) for a, b in near if a < b)
    leader = list(range(len(pieces)))
    waiting = set(range(len(pieces)) if only is None else np.flatnonzero(only).tolist())

    def lead(piece: int) -> int:
        while leader[piece] != piece:
            piece = leader[piece]
        return piece

    bars: list[Polygon] = []
    for gap, a, b in gaps:
        if lead(a) != lead(b) and (a in waiting or b in waiting):
            leader[lead(b)] = lead(a)
            if only is not None:
                waiting -= {a, b}
            bars.append(_bar(_ends(pieces[a], pieces[b], gap), width, precision))
    return Region.of(shapely.disjoint_subset_union_all([region.area, *bars]), region.drawn) if bars else region


def _ends(one: Polygon, other: Polygon, gap: float) -> Floats:
    """Where a bar between two pieces begins and ends, shape (2, 2): in the middle of where they face each other."""
    facing = shapely.get_parts(one.intersection(other.buffer(gap + _FACING)))
    middle = max(facing, key=lambda part: part.area).centroid if len(facing) else one
    start = nearest_points(middle, other)[1]
    return shapely.get_coordinates([nearest_points(one, start)[0], start])


def _bar(ends: Floats, width: float, precision: Precision) -> Polygon:
    """A bar of that width, reaching half of it into the pieces at either end."""
    way = ends[1] - ends[0]
    length = float(np.hypot(*way))
    if length < _TOUCHING:
        return Point(ends[0]).buffer(width / 2, quad_segs=precision.quarter_segments(width / 2))
    reach = way / length * width / 2
    return LineString([ends[0] - reach, ends[1] + reach]).buffer(width / 2, cap_style="flat")
