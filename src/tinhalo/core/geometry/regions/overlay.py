"""Unite, cut away and intersect regions; fill their holes."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

import numpy as np
import shapely
from shapely import Polygon

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.regions.region import NO_MARKS, Region
from tinhalo.core.geometry.regions.robust import overlaid
from tinhalo.core.geometry.regions.selection import standing_inside


def union(regions: Sequence[Region]) -> Region:
    """Everything that is in any of the regions; overlapping areas become one."""
    filled = [r for r in regions if not r.is_empty]
    if len(filled) == 1:
        return filled[0]
    drawn = _drawn_by(filled)
    marks = np.concatenate([NO_MARKS, *[r.marks for r in filled]])
    return Region.of(overlaid(shapely.disjoint_subset_union_all, [r.area for r in filled]), drawn).with_marks(marks)


def subtract(region: Region, tool: Region) -> Region:
    """What is in the region and not in the tool."""
    if tool.is_empty:
        return region
    left = Region.of(overlaid(shapely.difference, region.area, tool.area), region.drawn)
    return left.with_marks(_clipped(region.marks, tool, shapely.difference))


def intersect(region: Region, tool: Region) -> Region:
    """What is in both."""
    shared = Region.of(overlaid(shapely.intersection, region.area, tool.area), _drawn_by([region, tool]))
    return shared.with_marks(_clipped(region.marks, tool, shapely.intersection))


def _drawn_by(regions: Sequence[Region]) -> tuple[Outline, ...]:
    """The outlines that drew any of them, each once: united with itself over and over, one takes seconds to unite."""
    return tuple({id(outline): outline for region in regions for outline in region.drawn}.values())


def _clipped(marks: Floats, tool: Region, by: Callable[..., Any]) -> Floats:
    """What is left of straight marks, shape (n, 2, 2)."""
    if not len(marks):
        return marks
    parts = [part for part in shapely.get_parts(by(shapely.linestrings(marks), tool.area)) if part.length > 0]
    parts = [part for one in parts for part in shapely.get_parts(one)]
    return np.concatenate([NO_MARKS, *[shapely.get_coordinates(part)[None, [0, -1]] for part in parts]])


def fill_holes(region: Region) -> Region:
    """The region without holes; pieces that stood inside a filled hole become part of what surrounds them."""
    if region.holes == 0:
        return region
    pieces = list(region.area.geoms)
    swallowed = standing_inside(pieces)
    shells = [Polygon(piece.exterior) for piece, is_inside in zip(pieces, swallowed, strict=True) if not is_inside]
    return Region.of(np.array(shells, object), region.drawn)
