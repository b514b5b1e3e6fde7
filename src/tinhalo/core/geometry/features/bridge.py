"""Bridges: short straight bars that join pieces which do not touch, or only in a point."""

from __future__ import annotations

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import LineString, MultiPolygon, Point, Polygon
from shapely.ops import nearest_points

from tinhalo.core.geometry.arrays import Box, Floats
from tinhalo.core.geometry.curves.precision import Precision
from tinhalo.core.geometry.regions.proximity import edge_distance
from tinhalo.core.geometry.regions.region import Region

#: Pieces closer than this (mm) touch: their bridge is a round patch, since it has no direction.
_TOUCHING = 1e-6
#: How large a patch may get, in widths of the bar: at a square corner it takes the root of two.
_PATCHES = (1.0, 1.2, 1.45, 2.0, 3.0)
#: This share of the width is all of it: an arc that bends away is a little less across.
_WHOLE = 0.98
#: Edges face each other where they are further apart than the least distance by less than so many widths of the bar.
_FACING = (1 / 3, 2 / 3, 1.0, 1.5, 2.0)
#: How far into a piece a bar reaches, in widths.
_REACHES = (0.5, 0.75, 1.0, 1.5, 2.0, 3.0)


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
    bars = bars_between(list(region.area.geoms), width, up_to, precision, only)
    return Region.of(shapely.disjoint_subset_union_all([region.area, *bars]), region.drawn) if bars else region


def bars_between(
    pieces: list[Polygon], width: float, up_to: float, precision: Precision, only: NDArray[np.bool_] | None = None
) -> list[Polygon]:
    """The bars that join pieces; see ``bridged``."""
    # Loading it takes a moment, which other steps need not wait for.
    from scipy.cluster.hierarchy import DisjointSet

    if len(pieces) < 2:
        return []
    pairs = shapely.STRtree(pieces).query(pieces, predicate="dwithin", distance=up_to)
    near: list[tuple[int, int]] = pairs.T.tolist()
    gaps = sorted((edge_distance(*_facing(pieces[a], pieces[b], up_to)), a, b) for a, b in near if a < b)
    joined = DisjointSet(range(len(pieces)))
    waiting = set(range(len(pieces)) if only is None else np.flatnonzero(only).tolist())

    bars: list[Polygon] = []
    for gap, a, b in gaps:
        if (a in waiting or b in waiting) and joined.merge(a, b):
            if only is not None:
                waiting -= {a, b}
            bars.append(_bar(pieces[a], pieces[b], gap, width, precision))
    return bars


def _bar(one: Polygon, other: Polygon, gap: float, width: float, precision: Precision) -> Polygon:
    """A bar of that width between two pieces: where they face each other, with both its ends whole inside of them."""
    near = _facing(one, other, gap + width * (_FACING[-1] + _REACHES[-1] + 1))
    if gap < _TOUCHING:
        return _patch(*near, nearest_points(*near)[0], width, precision)
    shortest: Polygon | None = None
    for share in _FACING:
        bar, firm = _straight(*_ends(*near, gap + width * share), *near, width)
        if firm:
            return bar
        # Beside a corner, or at a pointed end, it would leave a neck.
        shortest = shortest or bar
    assert shortest
    return shortest


def _facing(one: Polygon, other: Polygon, reach: float) -> tuple[MultiPolygon, MultiPolygon]:
    """What of two pieces lies within so many mm of the box around the other; nothing else of them is looked at."""
    return (_around(one, other.bounds, reach), _around(other, one.bounds, reach))


def _around(piece: Polygon, box: Box, reach: float) -> MultiPolygon:
    x0, y0, x1, y1 = box
    window = shapely.box(x0 - reach, y0 - reach, x1 + reach, y1 + reach)
    whole = shapely.contains(window, shapely.box(*piece.bounds))
    return MultiPolygon([piece]) if whole else Region.of(shapely.intersection(piece, window)).area


def _patch(one: MultiPolygon, other: MultiPolygon, at: Point, width: float, precision: Precision) -> Polygon:
    """A disc about a point where two pieces touch, so large that it reaches into both with the whole width."""
    for share in _PATCHES:
        radius = width / 2 * share
        patch = at.buffer(radius, quad_segs=precision.quarter_segments(radius))
        if all(_across(piece, patch) >= _WHOLE * width for piece in (one, other)):
            return patch
    return at.buffer(width / 2, quad_segs=precision.quarter_segments(width / 2))


def _across(piece: MultiPolygon, patch: Polygon) -> float:
    """How wide a patch is where it enters a piece, in mm."""
    arc = patch.exterior.intersection(piece)
    return 0.0 if arc.is_empty else 2 * float(shapely.minimum_bounding_radius(arc))  # pyright: ignore[reportUnknownMemberType]


def _ends(one: MultiPolygon, other: MultiPolygon, within: float) -> tuple[Floats, Floats]:
    """Where a bar between two pieces begins and ends: in the middle of where they are that close to each other."""
    facing = shapely.get_parts(one.intersection(other.buffer(within)))
    middle = max(facing, key=lambda part: part.area).centroid if len(facing) else one
    end = nearest_points(middle, other)[1]
    start, end = shapely.get_coordinates([nearest_points(one, end)[0], end])
    return start, end


def _straight(start: Floats, end: Floats, one: MultiPolygon, other: MultiPolygon, width: float) -> tuple[Polygon, bool]:
    """The bar between two places on pieces, reaching into them, and whether it holds with its whole width."""
    way = (end - start) / np.hypot(*(end - start))
    reaches = _reach(one, start, -way, width), _reach(other, end, way, width)
    a, b = (width * (_REACHES[0] if reach is None else reach) for reach in reaches)
    return LineString([start - way * a, end + way * b]).buffer(width / 2, cap_style="flat"), None not in reaches


def _reach(piece: MultiPolygon, at: Floats, way: Floats, width: float) -> float | None:
    """How many widths a bar goes on into a piece until its whole end is inside; None where it never is."""
    across = np.array([-way[1], way[0]]) * width / 2
    for share in _REACHES:
        end = at + way * width * share
        if piece.covers(LineString([end - across, end + across])):
            return share
    return None
