"""The surface that tools leave, and the one that is wanted, at places: heights in mm, 0 at the top of the stock.

A bit cuts, at a place, as deep as its profile is there, the lowest along its way. Along a straight move the height of a
profile over a place is convex, so its least is found at once: no steps are taken along the way.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from shapely import MultiPolygon

from tinhalo.core.geometry.arrays import Box, Floats
from tinhalo.core.geometry.regions.region import edges_of
from tinhalo.core.runtime.compilation import njit


@dataclass(frozen=True)
class Profile:
    """A tool's shape from below: flat for ``flat`` mm from its middle, then rising by ``rise`` mm for each mm.

    A mill's side is upright: its rise is infinite.
    """

    flat: float
    rise: float


@dataclass(frozen=True)
class Grid:
    """Places in rows from below: ``columns`` by ``rows``, ``cell`` mm apart, the first at (x, y)."""

    x: float
    y: float
    cell: float
    columns: int
    rows: int

    @staticmethod
    def over(box: Box, cell: float) -> Grid:
        """The places at the middles of cells that cover a box."""
        x0, y0, x1, y1 = box
        columns, rows = max(1, math.ceil((x1 - x0) / cell)), max(1, math.ceil((y1 - y0) / cell))
        return Grid(x0 + cell / 2, y0 + cell / 2, cell, columns, rows)

    def flat(self, height: float = 0.0) -> Floats:
        """The same height everywhere, shape (rows, columns)."""
        return np.full((self.rows, self.columns), height)


def cut(heights: Floats, grid: Grid, paths: Sequence[Floats], profile: Profile) -> None:
    """Lower ``heights``, shape (rows, columns), to what a tool leaves along paths, each of (x, y, z), shape (n, 3)."""
    moves = moves_of(paths)
    if len(moves):
        _cut(heights, grid.x, grid.y, grid.cell, moves, profile.flat, profile.rise)


def cut_at(heights: Floats, points: Floats, paths: Sequence[Floats], profile: Profile) -> None:
    """The same at any points, shape (n, 2); heights (n,)."""
    moves = moves_of(paths)
    if len(moves) and len(points):
        _cut_at(heights, points, moves, profile.flat, profile.rise)


def moves_of(paths: Sequence[Floats]) -> Floats:
    """Straight moves, shape (m, 2, 3); a path of one place is a move that goes nowhere."""
    found = [np.stack([one[:-1], one[1:]], axis=1) if len(one) > 1 else one[None, [0, 0]] for one in paths if len(one)]
    return np.concatenate(found) if found else np.zeros((0, 2, 3))


def wanted(area: MultiPolygon, grid: Grid, slope: float, depth: float) -> Floats:
    """How deep an area is wanted, shape (rows, columns): down along a slope from its edge, to a depth at most.

    Args:
        area: in mm.
        grid: where.
        slope: how much deeper it gets for each mm from the edge.
        depth: in mm.
    """
    edges = edges_of(area)
    if not len(edges):
        return grid.flat()
    far = grid.flat(depth / slope)
    _near(far, grid.x, grid.y, grid.cell, edges)
    return np.where(inside(grid, area), far * slope, 0.0)


def inside(grid: Grid, area: MultiPolygon) -> NDArray[np.bool_]:
    """Which places are in an area, shape (rows, columns)."""
    found = np.zeros((grid.rows, grid.columns), np.bool_)
    _fill(found, grid.x, grid.y, grid.cell, edges_of(area))
    return found


@njit(cache=True, nogil=True)
def _least(px: float, py: float, move: Any, flat: float, rise: float) -> float:
    """Height of a tool's profile over a place, the least along a move; infinite where the tool never is."""
    ax, ay, az = move[0, 0], move[0, 1], move[0, 2]
    wx, wy, wz = move[1, 0] - ax, move[1, 1] - ay, move[1, 2] - az
    length = math.hypot(wx, wy)
    if length < 1e-12:
        off = math.hypot(px - ax, py - ay)
        low = min(az, az + wz)
        if off <= flat:
            return low
        return low + (off - flat) * rise if rise < math.inf else math.inf
    along = ((px - ax) * wx + (py - ay) * wy) / length
    aside = abs((px - ax) * wy - (py - ay) * wx) / length
    slope = wz / length
    best = math.inf
    if aside <= flat:
        # Where the flat of the tool is over the place, the lower end of that counts.
        half = math.sqrt(flat * flat - aside * aside)
        first, last = max(along - half, 0.0), min(along + half, length)
        if first <= last:
            best = az + min(slope * first, slope * last)
    if rise < math.inf:
        at = along
        if abs(slope) < rise:
            at = along - aside * (slope / rise) / math.sqrt(1 - (slope / rise) ** 2)
        elif slope > 0:
            at = 0.0
        else:
            at = length
        at = min(max(at, 0.0), length)
        off = math.hypot(along - at, aside) - flat
        best = min(best, az + slope * at + max(off, 0.0) * rise)
    return best


@njit(cache=True, nogil=True)
def _cut(heights: Any, x: float, y: float, cell: float, moves: Any, flat: float, rise: float) -> None:
    rows, columns = heights.shape
    for k in range(len(moves)):
        move = moves[k]
        low = min(move[0, 2], move[1, 2])
        if low >= 0:
            continue
        reach = flat + (-low / rise if rise < math.inf else 0.0)
        c0 = max(0, math.ceil((min(move[0, 0], move[1, 0]) - reach - x) / cell))
        c1 = min(columns - 1, math.floor((max(move[0, 0], move[1, 0]) + reach - x) / cell))
        r0 = max(0, math.ceil((min(move[0, 1], move[1, 1]) - reach - y) / cell))
        r1 = min(rows - 1, math.floor((max(move[0, 1], move[1, 1]) + reach - y) / cell))
        # Of a long move askew only what is near it in each row.
        wx, wy = move[1, 0] - move[0, 0], move[1, 1] - move[0, 1]
        for r in range(r0, r1 + 1):
            py = y + r * cell
            first, last = c0, c1
            if abs(wy) > 1e-9:
                s0 = (py - reach - move[0, 1]) / wy
                s1 = (py + reach - move[0, 1]) / wy
                s0, s1 = max(0.0, min(s0, s1)), min(1.0, max(s0, s1))
                xa, xb = move[0, 0] + wx * s0, move[0, 0] + wx * s1
                first = max(c0, math.ceil((min(xa, xb) - reach - x) / cell))
                last = min(c1, math.floor((max(xa, xb) + reach - x) / cell))
            for c in range(first, last + 1):
                # Nothing of the profile is lower than its tip.
                if heights[r, c] <= low:
                    continue
                found = _least(x + c * cell, py, move, flat, rise)
                heights[r, c] = min(heights[r, c], found)


@njit(cache=True, nogil=True)
def _cut_at(heights: Any, points: Any, moves: Any, flat: float, rise: float) -> None:
    for k in range(len(moves)):
        move = moves[k]
        low = min(move[0, 2], move[1, 2])
        if low >= 0:
            continue
        reach = flat + (-low / rise if rise < math.inf else 0.0)
        x0, x1 = min(move[0, 0], move[1, 0]) - reach, max(move[0, 0], move[1, 0]) + reach
        y0, y1 = min(move[0, 1], move[1, 1]) - reach, max(move[0, 1], move[1, 1]) + reach
        for i in range(len(points)):
            px, py = points[i]
            if x0 <= px <= x1 and y0 <= py <= y1 and heights[i] > low:
                heights[i] = min(heights[i], _least(px, py, move, flat, rise))


@njit(cache=True, nogil=True)
def _fill(inside: Any, x: float, y: float, cell: float, edges: Any) -> None:
    """Which places are inside edges, by how many are crossed on the way there along a row."""
    rows, columns = inside.shape
    for k in range(len(edges)):
        ax, ay, bx, by = edges[k, 0, 0], edges[k, 0, 1], edges[k, 1, 0], edges[k, 1, 1]
        if ay > by:
            ax, ay, bx, by = bx, by, ax, ay
        for r in range(max(0, math.ceil((ay - y) / cell)), min(rows - 1, math.ceil((by - y) / cell) - 1) + 1):
            at = ax + (bx - ax) * (y + r * cell - ay) / (by - ay)
            c = max(0, math.ceil((at - x) / cell))
            if c < columns:
                inside[r, c] = not inside[r, c]
    for r in range(rows):
        within = False
        for c in range(columns):
            within = within != inside[r, c]
            inside[r, c] = within


@njit(cache=True, nogil=True)
def _near(far: Any, x: float, y: float, cell: float, edges: Any) -> None:
    """Lower distances to those from edges."""
    rows, columns = far.shape
    reach = far.max()
    for k in range(len(edges)):
        ax, ay = edges[k, 0]
        wx, wy = edges[k, 1, 0] - ax, edges[k, 1, 1] - ay
        size = max(wx * wx + wy * wy, 1e-18)
        c0 = max(0, math.ceil((min(ax, ax + wx) - reach - x) / cell))
        c1 = min(columns - 1, math.floor((max(ax, ax + wx) + reach - x) / cell))
        r0 = max(0, math.ceil((min(ay, ay + wy) - reach - y) / cell))
        r1 = min(rows - 1, math.floor((max(ay, ay + wy) + reach - y) / cell))
        for r in range(r0, r1 + 1):
            for c in range(c0, c1 + 1):
                px, py = x + c * cell - ax, y + r * cell - ay
                share = min(max((px * wx + py * wy) / size, 0.0), 1.0)
                far[r, c] = min(far[r, c], math.hypot(px - share * wx, py - share * wy))


def warm() -> None:
    """Compile, or load the compiled code, ahead of the first use."""
    heights = np.zeros((1, 1))
    moves = np.zeros((1, 2, 3))
    _cut(heights, 0.0, 0.0, 1.0, moves, 0.5, 1.0)
    _cut_at(np.zeros(1), np.zeros((1, 2)), moves, 0.5, 1.0)
    _fill(np.zeros((1, 1), np.bool_), 0.0, 0.0, 1.0, moves[:, :, :2].copy())
    _near(heights, 0.0, 0.0, 1.0, moves[:, :, :2].copy())
