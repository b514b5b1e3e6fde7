"""Unite, cut away and intersect regions; fill their holes."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import shapely
from shapely import GeometryCollection, Point, Polygon, STRtree

from tinhalo.core.geometry.region import Region


def union(regions: Sequence[Region]) -> Region:
    """Everything that is in any of the regions; overlapping areas become one."""
    filled = [r for r in regions if not r.is_empty]
    if len(filled) == 1:
        return filled[0]
    return Region.of(shapely.union_all([r.area for r in filled]), tuple(o for r in filled for o in r.drawn))


def subtract(region: Region, tool: Region) -> Region:
    """What is in the region and not in the tool."""
    if tool.is_empty:
        return region
    return Region.of(shapely.difference(region.area, tool.area), region.drawn)


def intersect(region: Region, tool: Region) -> Region:
    """What is in both."""
    return Region.of(shapely.intersection(region.area, tool.area), region.drawn + tool.drawn)


def fill_holes(region: Region) -> Region:
    """The region without holes; pieces that stood inside a filled hole become part of what surrounds them."""
    if region.holes == 0:
        return region
    shells = np.array([Polygon(p.exterior) for p in region.area.geoms], object)
    # Pieces do not cross: with one of its points, a whole shell is inside another one.
    corners = np.array([Point(p.exterior.coords[0]) for p in region.area.geoms], object)
    swallowed, _ = STRtree(shells).query(corners, predicate="within")
    return Region.of(GeometryCollection(list(np.delete(shells, swallowed))), region.drawn)
