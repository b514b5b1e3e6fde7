"""Lay items one after the other where there is room: on an offcut of any outline, or round what lies there already.

Each is laid as far to the left as it goes, then as far up, the largest first. Places are tried on a grid: those that
are free are where the correlation of the item's cells with the taken ones is nothing (after Babu and Babu, "A generic
approach for nesting of 2-D parts in 2-D sheets", 2001, from memory; the correlation by FFT is common practice).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from shapely import Polygon
from shapely.affinity import translate
from shapely.geometry.base import BaseGeometry

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.affine import after, shift, turn
from tinhalo.core.output.blank import Blank
from tinhalo.core.runtime.cancellation import checkpoint
from tinhalo.core.runtime.progress import report

#: Cells that a blank is divided in, and the smallest, in mm.
_CELLS = 200_000
_LEAST_CELL = 0.5
#: What lies on an edge lies within it, in mm.
_SAME = 1e-6


@dataclass(frozen=True)
class Nested:
    """An item that was laid: which one, its sheet, and how its middle is turned and moved there, degrees and mm."""

    item: int
    sheet: int
    x: float
    y: float
    turn: float


def placed(hull: Polygon, one: Nested) -> Polygon:
    """An item's polygon as it lies on its sheet."""
    matrix = after(shift(one.x, one.y), turn(one.turn, 1, 1))
    return shapely.transform(hull, lambda points: points @ matrix[:, :2].T + matrix[:, 2])


def fill(
    blank: Blank,
    hulls: Sequence[Polygon],
    counts: Sequence[int],
    angles: Sequence[Sequence[float]],
    spacing: float,
    sheet: int,
    lying: Sequence[Nested] = (),
) -> list[Nested]:
    """What of so many of each item goes on a blank beside what is ``lying`` there; angles in degrees, spacing in mm."""
    grid = _Grid(blank, [placed(hulls[one.item], one) for one in lying], spacing)
    made: list[Nested] = []
    order = sorted((k for k, count in enumerate(counts) if count), key=lambda k: -hulls[k].area)
    for done, k in enumerate(order):
        taken = np.fft.rfft2(grid.taken)
        ways = [(angle, _Way(grid, placed(hulls[k], Nested(k, sheet, 0, 0, angle)), taken)) for angle in angles[k]]
        for _ in range(counts[k]):
            checkpoint()
            found = [(*place, angle) for angle, way in ways if (place := way.first()) is not None]
            if not found:
                break
            _, x, y, angle = min(found, key=lambda one: (one[0], -one[2]))
            made.append(Nested(k, sheet, x, y, angle))
            low, cells = grid.take(placed(hulls[k], made[-1]))
            for _, way in ways:
                way.meet(low, cells)
        report((done + 1) / len(order))
    return made


class _Grid:
    """A blank in cells: which of them are not free, and which are taken by pieces."""

    def __init__(self, blank: Blank, lying: Sequence[Polygon], spacing: float) -> None:
        self.bounds = blank.free.bounds
        self.free, self.spacing = blank.free.buffer(_SAME), spacing
        width, height = blank.size
        self.cell = max(_LEAST_CELL, math.sqrt(width * height / _CELLS))
        # What is kept clear around an item may reach over the edges.
        self._edge = math.ceil(spacing / self.cell) + 2
        rows, columns = (math.ceil(side / self.cell) + 2 * self._edge for side in (height, width))
        self.shape = rows, columns
        self.lying: list[Polygon] = []
        self.taken = np.zeros(self.shape)
        self.walls = np.fft.rfft2(1.0 - self.inside(self.free, (0, 0), self.shape))
        for one in lying:
            self.take(one)

    def inside(self, area: BaseGeometry, low: tuple[int, int], shape: tuple[int, int]) -> Floats:
        """1 where the middle of a cell lies in an area, else 0: so many rows and columns from (row, column) ``low``."""
        shapely.prepare(area)
        ys, xs = ((at - self._edge + np.arange(count) + 0.5) * self.cell for at, count in zip(low, shape, strict=True))
        return shapely.contains_xy(area, *np.meshgrid(xs, ys)).astype(float)

    def box(self, area: BaseGeometry) -> tuple[tuple[int, int], tuple[int, int]]:
        """First row and column of the cells that an area touches, and how many."""
        x0, y0, x1, y1 = (math.floor(value / self.cell) + self._edge for value in area.bounds)
        return (y0, x0), (y1 + 1 - y0, x1 + 1 - x0)

    def take(self, piece: Polygon) -> tuple[tuple[int, int], Floats]:
        """Mark the cells of a piece as taken, also those whose middle lies beside it: the first of them, and which."""
        self.lying.append(piece)
        near = piece.buffer(self.cell * math.sqrt(0.5), quad_segs=2)
        (row, column), (rows, columns) = self.box(near)
        inside = self.inside(near, (row, column), (rows, columns))
        _add(self.taken, (row, column), inside)
        return (row, column), inside

    def is_clear(self, piece: Polygon) -> bool:
        """Whether a piece lies in what is free, and as far from all others as it should."""
        return self.free.covers(piece) and all(piece.distance(one) >= self.spacing for one in self.lying)


class _Way:
    """An item in one direction; its places are whole cells apart, from the left and the upper edge of what is free."""

    def __init__(self, grid: _Grid, hull: Polygon, taken: np.ndarray) -> None:
        self._grid = grid
        x0, _, _, y1 = hull.bounds
        left, _, _, top = grid.bounds
        self._at = left - x0, top - y1
        self._hull = translate(hull, *self._at)
        apart = self._hull.buffer(grid.spacing + grid.cell / 2, quad_segs=4)
        self._low, (rows, columns) = grid.box(apart)
        self._fits = rows <= grid.shape[0] and columns <= grid.shape[1]
        if self._fits:
            own, near = (grid.inside(one, self._low, (rows, columns)) for one in (self._hull, apart))
            self._near = near
            over, beside = (np.conj(np.fft.rfft2(one, grid.shape)) for one in (own, near))
            self._met = np.fft.irfft2(over * grid.walls + beside * taken, grid.shape)
            # Further the item would come in again at the other side.
            self._met[grid.shape[0] - rows + 1 :] = 1
            self._met[:, grid.shape[1] - columns + 1 :] = 1

    def meet(self, low: tuple[int, int], cells: Floats) -> None:
        """Cells are taken since, from (row, column) ``low`` on: only places near them meet them."""
        if self._fits:
            (rows, columns), (high, wide) = self._near.shape, cells.shape
            shape = rows + high - 1, columns + wide - 1
            met = np.fft.irfft2(np.fft.rfft2(cells, shape) * np.conj(np.fft.rfft2(self._near, shape)), shape)
            met = np.roll(met, (rows - 1, columns - 1), (0, 1))
            _add(self._met, (low[0] - rows + 1, low[1] - columns + 1), met)

    def first(self) -> tuple[float, float, float] | None:
        """Where it lies furthest left, then highest: how far right it reaches there, and the place of its middle."""
        if not self._fits:
            return None
        grid = self._grid
        met = self._met
        for column in np.flatnonzero((met < 0.5).any(axis=0)):
            for row in np.flatnonzero(met[:, column] < 0.5)[::-1]:
                x, y = (float(column - self._low[1]) * grid.cell, float(row - self._low[0]) * grid.cell)
                there = translate(self._hull, x, y)
                if grid.is_clear(there):
                    return there.bounds[2], self._at[0] + x, self._at[1] + y
                # Cells tell it only nearly.
                self._met[row, column] = 1
        return None


def _add(grid: Floats, low: tuple[int, int], part: Floats) -> None:
    """Add a part to a grid from (row, column) ``low`` on, where it lies within."""
    (row, column), (top, left) = low, (max(low[0], 0), max(low[1], 0))
    there = grid[top : max(row + part.shape[0], 0), left : max(column + part.shape[1], 0)]
    there += part[top - row : top - row + there.shape[0], left - column : left - column + there.shape[1]]
