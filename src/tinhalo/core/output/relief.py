"""The carved surface on a grid: as paths leave it, and as it is wanted."""

from __future__ import annotations

from collections.abc import Collection, Sequence

import numpy as np

from tinhalo.core.engine.carved import Carved
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.carving.heights import Grid, cut, cut_at, wanted
from tinhalo.core.output.milling import Operation
from tinhalo.core.runtime.cancellation import checkpoint


def simulated(operations: Sequence[Operation], grid: Grid, levels: Collection[int] | None = None) -> Floats:
    """Heights that paths leave, shape (rows, columns), in mm; of all, or only of passes of the carving."""
    heights = grid.flat()
    for one in operations:
        if levels is None or one.level in levels:
            cut(heights, grid, one.paths, one.profile)
            checkpoint()
    return heights


def simulated_at(operations: Sequence[Operation], points: Floats, levels: Collection[int] | None = None) -> Floats:
    """The same at points, shape (n, 2)."""
    heights = np.zeros(len(points))
    for one in operations:
        if levels is None or one.level in levels:
            cut_at(heights, points, one.paths, one.profile)
            checkpoint()
    return heights


def ideal(one: Carved, grid: Grid, levels: Collection[int] | None = None) -> Floats:
    """Heights as they are wanted, from the areas and the bit's slope alone: no path is looked at."""
    heights = grid.flat()
    for number, level in enumerate(one.passes):
        if levels is None or number in levels:
            deep = wanted(level.area, grid, 1 / one.cone.tangent, level.depth)
            heights = np.where(deep > 0, np.minimum(heights, -level.start - deep), heights)
            checkpoint()
    return heights
