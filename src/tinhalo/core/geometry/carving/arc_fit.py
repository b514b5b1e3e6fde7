"""Arcs of circles among the places of a level way, for machines that know them."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np

from tinhalo.core.geometry.arrays import XY, Floats
from tinhalo.core.runtime.compilation import njit

#: Fewer places are no arc, and larger radii (mm) are straight as far as a machine can tell.
_FEWEST = 5
_LARGEST = 1_000.0
#: An arc goes on for this much of a turn at most: more would leave controllers in doubt.
_TURN = math.pi * 0.95


@dataclass(frozen=True)
class Arc:
    """From where the way is to ``end``, round ``middle``; ``left`` where it turns counter-clockwise."""

    end: XY
    middle: XY
    left: bool


def fitted(points: Floats, within: float) -> list[Arc | XY]:
    """A way, shape (n, 2), as straight moves and arcs from its first place on, none further off than ``within`` mm."""
    ends, arcs = _fitted(np.ascontiguousarray(points), within)
    found: list[Arc | XY] = []
    for (x, y), (mx, my, turn) in zip(points[ends].tolist(), arcs.tolist(), strict=True):
        found.append(Arc((x, y), (mx, my), turn > 0) if turn else (x, y))
    return found


@njit(cache=True, nogil=True)
def _fitted(points: Any, within: float) -> Any:
    """Where each move ends, and for each its middle and which way it turns: 0 where it is straight."""
    last = len(points) - 1
    ends = np.empty(max(last, 0), np.int64)
    arcs = np.zeros((max(last, 0), 3))
    count, at = 0, 0
    while at < last:
        end, size = at + 1, _FEWEST - 1
        best = (0.0, 0.0, 0.0)
        # Twice as far each time, then back to where it still fits.
        low, high = at, min(at + size, last)
        while high - at >= _FEWEST - 1:
            arc = _arc(points[at : high + 1], within)
            if arc[2] == 0:
                break
            best, end, low = arc, high, high
            if high == last:
                break
            size *= 2
            high = min(at + size, last)
        while best[2] != 0 and high - low > 1:
            middle = (low + high) // 2
            arc = _arc(points[at : middle + 1], within)
            if arc[2] != 0:
                best, end, low = arc, middle, middle
            else:
                high = middle
        ends[count] = end
        arcs[count, 0], arcs[count, 1], arcs[count, 2] = best
        count += 1
        at = end
    return ends[:count].copy(), arcs[:count].copy()


@njit(cache=True, nogil=True)
def _arc(points: Any, within: float) -> Any:
    """The arc through the first, the middle and the last of places, where all others lie on it; else turns 0."""
    none = (0.0, 0.0, 0.0)
    n = len(points)
    ax, ay = points[0]
    bx, by = points[n // 2, 0] - ax, points[n // 2, 1] - ay
    cx, cy = points[n - 1, 0] - ax, points[n - 1, 1] - ay
    across = 2 * (bx * cy - by * cx)
    if abs(across) < 1e-9:
        return none
    b2, c2 = bx * bx + by * by, cx * cx + cy * cy
    mx, my = (cy * b2 - by * c2) / across, (bx * c2 - cx * b2) / across
    radius = math.hypot(mx, my)
    if radius > _LARGEST:
        return none
    mx, my = mx + ax, my + ay
    way = 1.0 if across > 0 else -1.0
    turned = 0.0
    for k in range(n):
        ox, oy = points[k, 0] - mx, points[k, 1] - my
        if abs(math.hypot(ox, oy) - radius) > within:
            return none
        if k == 0:
            continue
        px, py = points[k - 1, 0] - mx, points[k - 1, 1] - my
        # What is straight between two places bulges out on the arc.
        if ((ox - px) ** 2 + (oy - py) ** 2) / (8 * radius) > within:
            return none
        turn = math.atan2(px * oy - py * ox, px * ox + py * oy) * way
        turned += turn
        if turn <= 0 or turned > _TURN:
            return none
    return mx, my, way


def warm() -> None:
    """Compile, or load the compiled code, ahead of the first use."""
    _fitted(np.zeros((2, 2)), 0.1)
