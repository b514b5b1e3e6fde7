"""Stencil bridges: bars that hold what stands in a hole."""

from __future__ import annotations

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import LineString, Point, Polygon

from tinhalo.core.geometry.regions.region import Region


def held(region: Region, count: int, width: float, angle: float, only: NDArray[np.bool_] | None = None) -> Region:
    """The region with bars from every piece that stands in a hole to the hole's edge, or to what stands before it.

    Args:
        region: the pieces.
        count: how many bars each gets, evenly round its middle.
        width: of each bar, in mm.
        angle: direction of the first, in degrees counter-clockwise from the right.
        only: which pieces are held; None for all that stand in a hole.
    """
    shells = [Polygon(piece.exterior) for piece in region.area.geoms]
    holes = region.hole_areas()
    if not holes:
        return region
    inside: list[tuple[int, int]] = shapely.STRtree(holes).query(shells, predicate="covered_by").T.tolist()
    # The smallest hole around a piece is the one that it stands in.
    around: dict[int, Polygon] = {}
    for island, hole in inside:
        if island not in around or holes[hole].area < around[island].area:
            around[island] = holes[hole]
    bars = [
        bar
        for island, hole in around.items()
        if only is None or only[island]
        for turn in np.radians(angle + np.arange(count) * 360 / count).tolist()
        if (bar := _bar(shells[island], hole, region, turn, width)) is not None
    ]
    return Region.of(shapely.union_all([region.area, *bars]), region.drawn) if bars else region


def _bar(island: Polygon, hole: Polygon, region: Region, turn: float, width: float) -> Polygon | None:
    """The bar from an island outwards in a direction (radians); None where it would have no length."""
    # The middle of a bent island may be beside it.
    middle = island.centroid if island.covers(island.centroid) else island.representative_point()
    way = np.array([np.cos(turn), np.sin(turn)])
    x0, y0, x1, y1 = hole.bounds
    far = Point(np.array([middle.x, middle.y]) + way * (x1 - x0 + y1 - y0))
    free = shapely.difference(LineString([middle, far]), region.area)
    # Past the island, which it may leave more than once, the first stretch of air leads to what is next.
    leaves = middle.distance(Point(shapely.get_coordinates(LineString([middle, far]).intersection(island))[-1]))
    for stretch in sorted(shapely.get_parts(free), key=middle.distance):
        if isinstance(stretch, LineString) and middle.distance(stretch) >= leaves - 1e-6:
            start, end = shapely.get_coordinates(stretch)[[0, -1]]
            reach = way * width / 2
            return LineString([start - reach, end + reach]).buffer(width / 2, cap_style="flat")
    return None
