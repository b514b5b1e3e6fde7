"""The carved surface: as paths leave it, and as it is wanted, on a grid or along a line; and where the two differ."""

from __future__ import annotations

import json
from collections.abc import Collection, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
import shapely
from numpy.typing import NDArray

from tinhalo.core.engine.carved import Carved
from tinhalo.core.geometry.arrays import XY, Floats
from tinhalo.core.geometry.carving.heights import Grid, cut, cut_at, inside, wanted
from tinhalo.core.output.milling import Operation, Work
from tinhalo.core.runtime.cancellation import checkpoint
from tinhalo.core.runtime.progress import each, part

#: Deeper than wanted by more than this, in mm, is a gouge; so much over a ridge is wood left standing.
GOUGE, LEFT = 0.02, 0.005


@dataclass(frozen=True)
class Fault:
    """Where the surface is not as wanted: how large an area in mm², by how much at most in mm, and where that is."""

    area: float
    most: float
    at: XY | None


@dataclass(frozen=True)
class Relief:
    """Heights on a grid, shape (rows, columns), in mm, 0 on top of the board.

    Attributes:
        grid: where.
        heights: as paths leave it; under the board, where it is cut out, its underside.
        off: how much higher that is than wanted, in mm; lower is negative.
        gouged: where it is deeper than wanted.
        left: where wood is left standing.
    """

    grid: Grid
    heights: Floats
    off: Floats
    gouged: Fault
    left: Fault

    @property
    def nbytes(self) -> int:
        """Memory held, in bytes."""
        return self.heights.nbytes + self.off.nbytes + 500

    def packed(self) -> bytes:
        """For a browser: the length of a JSON text as a 32-bit number, that text (padded to four bytes), then heights
        and differences as 32-bit floats, row by row from below, all little-endian."""
        grid = self.grid
        told: dict[str, Any] = {"x": grid.x, "y": grid.y, "cell": grid.cell, "columns": grid.columns, "rows": grid.rows}
        told |= {"gouged": _told(self.gouged), "left": _told(self.left)}
        text = json.dumps(told).encode()
        text += b" " * (-len(text) % 4)
        parts = [one.astype("<f4").tobytes() for one in (self.heights, self.off)]
        return b"".join([np.uint32(len(text)).tobytes(), text, *parts])


def relief(one: Carved, work: Work, cells: int, levels: Collection[int] | None = None) -> Relief:
    """The relief of all passes, or of some, with at most about so many cells along its longer side."""
    finished = levels is None and one.set.cut_out and not one.board.is_empty
    x0, y0, x1, y1 = one.board.bounds if finished else one.stock
    grid = Grid.over((x0, y0, x1, y1), max(x1 - x0, y1 - y0) / cells)
    carving = [op for op in work.operations if op.level is not None]
    with part(0, 0.7):
        heights = simulated(carving, grid, levels)
    with part(0.7, 1):
        off = heights - ideal(one, grid, levels)
    on_board = inside(grid, one.board)
    off[~on_board] = 0
    if levels is None:
        marked = [op for op in work.operations if op.level is None and not op.through]
        heights = np.minimum(heights, simulated(marked, grid))
        if finished:
            heights = np.where(on_board, heights, -one.thickness)
    ridge = one.set.ridge + LEFT
    return Relief(grid, heights, off, _fault(grid, -off, GOUGE), _fault(grid, off, ridge))


def simulated(operations: Sequence[Operation], grid: Grid, levels: Collection[int] | None = None) -> Floats:
    """Heights that paths leave, shape (rows, columns), in mm; of all, or only of passes of the carving."""
    heights = grid.flat()
    for one in each(operations):
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
    for number, level in each(list(enumerate(one.passes))):
        if levels is None or number in levels:
            deep = wanted(level.area, grid, 1 / one.cone.tangent, level.depth)
            heights = np.where(deep > 0, np.minimum(heights, -level.start - deep), heights)
            checkpoint()
    return heights


def ideal_at(one: Carved, points: Floats, levels: Collection[int] | None = None) -> Floats:
    """The same at points, shape (n, 2)."""
    low = np.zeros(len(points))
    places = [shapely.Point(point) for point in points.tolist()]
    for number, level in enumerate(one.passes):
        if levels is None or number in levels:
            edge = level.area.boundary
            far = np.array([place.distance(edge) for place in places])
            deep = -level.start - np.minimum(level.depth, far / one.cone.tangent)
            low = np.where(shapely.contains_xy(level.area, points), np.minimum(low, deep), low)
    return low


@dataclass(frozen=True)
class Section:
    """Along a line: how far, and how high it is there as paths leave it and as it is wanted; shape (n,), in mm."""

    along: Floats
    carved: Floats
    wanted: Floats


def section(one: Carved, work: Work, start: XY, end: XY, count: int, levels: Collection[int] | None = None) -> Section:
    """A cut through the relief, at so many places."""
    share = np.linspace(0, 1, count)[:, None]
    points = np.array(start) + (np.array(end) - np.array(start)) * share
    carving = [op for op in work.operations if op.level is not None]
    heights, low = simulated_at(carving, points, levels), ideal_at(one, points, levels)
    return Section((share * np.hypot(end[0] - start[0], end[1] - start[1]))[:, 0], heights, low)


def _fault(grid: Grid, off: Floats, limit: float) -> Fault:
    beyond: NDArray[np.bool_] = off > limit
    if not beyond.any():
        return Fault(0, max(0.0, float(off.max())), None)
    row, column = np.unravel_index(int(off.argmax()), off.shape)
    at = (grid.x + float(column) * grid.cell, grid.y + float(row) * grid.cell)
    return Fault(float(beyond.sum()) * grid.cell**2, float(off.max()), at)


def _told(one: Fault) -> dict[str, Any]:
    return {"area_mm2": round(one.area, 3), "most_mm": round(one.most, 4), "at": one.at}
