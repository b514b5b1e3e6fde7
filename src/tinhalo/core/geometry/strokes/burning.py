"""Burn a medial axis back from its loose ends, as a fuse is; compiled, for axes have tens of thousands of pieces."""

from __future__ import annotations

import heapq
from dataclasses import dataclass
from typing import Any

import numpy as np

from tinhalo.core.geometry.arrays import Floats, Ints
from tinhalo.core.geometry.strokes.medial_axis import MedialAxis
from tinhalo.core.runtime.compilation import njit


@dataclass(frozen=True)
class Burnt:
    """How the fire went, per piece of the axis; shape (m,) each.

    Attributes:
        way: how far the fire had come when the piece caught, in mm; 0 where it never did.
        beyond: the greatest radius of what had burnt before it, in mm.
        first: the node that it caught at, -1 where it never did.
    """

    way: Floats
    beyond: Floats
    first: Ints


def burn(axis: MedialAxis, lengths: Floats) -> Burnt:
    """Burn all ends at once; ``lengths``, shape (m,), says how far it is along each piece, in mm."""
    ends = axis.ends.astype(np.int64)
    count = len(axis.points)
    way, beyond, first = _burn(ends, *meeting(ends, count), axis.runs_on, axis.radius, lengths)
    return Burnt(way, beyond, first.astype(np.intp))


def meeting(ends: Ints, count: int) -> tuple[Ints, Ints]:
    """Pieces, shape (m, 2), by the node they meet at: those of node n are ``order[begins[n]:begins[n + 1]]``."""
    order = np.argsort(ends.ravel(), kind="stable") // 2
    begins = np.concatenate([[0], np.cumsum(np.bincount(ends.ravel(), minlength=count))])
    return order.astype(np.int64), begins.astype(np.int64)


@njit(cache=True, nogil=True)
def _burn(ends: Any, meeting: Any, begins: Any, runs_on: Any, radius: Any, lengths: Any) -> Any:
    count, pieces = len(begins) - 1, len(ends)
    # Where the axis runs on to infinity, its last piece is no end.
    left = begins[1:] - begins[:-1] + runs_on
    burnt_to = np.zeros(count)
    widest = np.zeros(count)
    way = np.zeros(pieces)
    beyond = np.zeros(pieces)
    first = np.full(pieces, -1, np.int64)
    waiting: Any = [(0.0, node) for node in range(count) if left[node] == 1]
    heapq.heapify(waiting)
    while len(waiting) > 0:
        time, node = heapq.heappop(waiting)
        if left[node] != 1:
            continue
        piece = -1
        for k in range(begins[node], begins[node + 1]):
            if first[meeting[k]] < 0:
                piece = meeting[k]
                break
        if piece < 0:
            # All that is left is the way to infinity.
            continue
        left[node] = 0
        other = ends[piece, 1] if ends[piece, 0] == node else ends[piece, 0]
        here = max(widest[node], radius[node])
        way[piece], beyond[piece], first[piece] = time, here, node
        left[other] -= 1
        burnt_to[other] = max(burnt_to[other], time + lengths[piece])
        widest[other] = max(widest[other], here)
        if left[other] == 1:
            heapq.heappush(waiting, (burnt_to[other], other))
    return way, beyond, first


def warm() -> None:
    """Compile, or load from the cache."""
    nothing = np.zeros(0, np.int64)
    _burn(nothing.reshape(0, 2), nothing, np.zeros(1, np.int64), np.zeros(0, np.bool_), np.zeros(0), np.zeros(0))
