"""The medial axis of an area as lines that a V-bit follows: places with their clearance, as few as a tolerance allows.

The cones of a bit that is as deep everywhere as its clearance allows are, together, the slope that rises from the edge
everywhere: each place lies on the way from its nearest place of the edge to a middle, in that middle's circle. Spurs
that run from the middle into each corner of a flattened curve do not change that surface and are taken off.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from shapely import MultiPolygon

from tinhalo.core.geometry.arrays import Floats, Ints
from tinhalo.core.geometry.strokes.bands import near_bisectors
from tinhalo.core.geometry.strokes.bisectors import Bisectors
from tinhalo.core.geometry.strokes.burning import meeting
from tinhalo.core.runtime.compilation import njit

#: A bisector is drawn with so many pieces at most.
_MOST_PIECES = 256


@dataclass(frozen=True)
class _Graph:
    """Places (x, y, clearance), shape (n, 3), and the pairs that are joined, shape (m, 2)."""

    places: Floats
    pairs: Ints


def carved_axis(area: MultiPolygon, most: float, within: float) -> list[Floats]:
    """Lines of (x, y, clearance), shape (n, 3) each, in mm, where the clearance is at most ``most``.

    A line of one place is a round dot. What follows them clears all that lies closer to the edge than to them, within
    ``within`` mm.
    """
    if area.is_empty:
        return []
    found = near_bisectors(area, most)
    if not len(found.ends):
        return []
    start, end = found.vertices[found.ends[:, 0]], found.vertices[found.ends[:, 1]]
    radius = np.zeros(len(found.vertices))
    radius[found.ends[:, 0]], radius[found.ends[:, 1]] = found.radii(start), found.radii(end)
    lengths = np.hypot(*(end - start).T)
    ends = found.ends.astype(np.int64)
    kept, dots = _pruned(ends, *meeting(ends, len(radius)), radius, lengths, 0.85 * within)
    graph = _clipped(_drawn(found, radius, np.flatnonzero(kept), within / 4), most)
    lines = [graph.places[line] for line in _lines(graph)]
    lines = [one[_fewer(one, within / 2)] for one in lines]
    lone = [np.array([[*found.vertices[node], radius[node]]]) for node in np.flatnonzero(dots).tolist()]
    return lines + [one for one in lone if one[0, 2] <= most]


@njit(cache=True, nogil=True)
def _pruned(ends: Any, meeting: Any, begins: Any, radius: Any, lengths: Any, within: float) -> Any:
    """Which pieces stay, and which nodes are all that is left of what they stood for.

    A loose end goes where its circle, and those of all that went before, stick out of the next node's by less than
    ``within``; how far they do adds up on the way.
    """
    count = len(begins) - 1
    left = begins[1:] - begins[:-1]
    out = np.zeros(count)
    kept = np.ones(len(ends), np.bool_)
    dots = np.zeros(count, np.bool_)
    waiting = [node for node in range(count) if left[node] == 1]
    while len(waiting) > 0:
        node = waiting.pop()
        if left[node] != 1:
            continue
        for k in range(begins[node], begins[node + 1]):
            piece = meeting[k]
            if not kept[piece]:
                continue
            other = ends[piece, 1] if ends[piece, 0] == node else ends[piece, 0]
            sticks_out = out[node] + max(0.0, lengths[piece] + radius[node] - radius[other])
            if sticks_out <= within:
                kept[piece] = False
                left[node] -= 1
                left[other] -= 1
                out[other] = max(out[other], sticks_out)
                if left[other] == 1:
                    waiting.append(other)
                elif left[other] == 0:
                    dots[other] = True
            break
    return kept, dots


def _drawn(found: Bisectors, radius: Floats, pieces: Ints, within: float) -> _Graph:
    """Bisectors with places along them where they are curved or their clearance is: Boost's are straight there."""
    ends = found.ends[pieces]
    bent = _Bent.of(found, pieces)
    start, stop = bent.along(found.vertices[ends[:, 0]]), bent.along(found.vertices[ends[:, 1]])
    # A chord of a curve whose second derivative is 1 / h at most is off by length² / 8 h.
    reach = np.sqrt(8 * np.maximum(bent.height, 1e-6) * within)
    straight = ~found.is_corner[pieces].any(axis=1)
    parts = np.clip(np.ceil(np.abs(stop - start) / reach), 1, _MOST_PIECES)
    parts = np.where(straight, 1, parts).astype(np.intp)
    inner = parts - 1
    owner = np.repeat(np.arange(len(pieces)), inner)
    step = np.arange(len(owner)) - np.repeat(np.cumsum(inner) - inner, inner) + 1
    at = start[owner] + (stop - start)[owner] * step / parts[owner]
    places = np.vstack([np.column_stack([found.vertices, radius]), bent.places(owner, at)])

    first = len(radius) + np.cumsum(inner) - inner
    owner = np.repeat(np.arange(len(pieces)), parts)
    k = np.arange(len(owner)) - (np.cumsum(parts) - parts)[owner]
    begins = np.where(k == 0, ends[owner, 0], first[owner] + k - 1)
    stops = np.where(k == parts[owner] - 1, ends[owner, 1], first[owner] + k)
    return _Graph(places, np.stack([begins, stops], axis=1))


@dataclass(frozen=True)
class _Bent:
    """Bisectors of a corner and an edge, and of two corners.

    The first are parabolas: a place over the edge, ``t`` beside the corner's foot on it, is (t² + h²) / 2h away from
    both, h being the corner's distance from the edge. The second are straight, and a place ``t`` from the middle
    between the corners is hypot(t, h) away, h being half their distance.

    Attributes:
        foot: where t is 0, shape (m, 2).
        way: along which t is measured, shape (m, 2), a unit vector.
        up: from the foot to the corner, a unit vector; of two corners nothing.
        height: h, shape (m,).
        is_parabola: shape (m,).
    """

    foot: Floats
    way: Floats
    up: Floats
    height: Floats
    is_parabola: NDArray[np.bool_]

    @staticmethod
    def of(found: Bisectors, pieces: Ints) -> _Bent:
        """Of some pieces; what it says of straight ones means nothing."""
        is_corner, corner, segment = found.is_corner[pieces], found.corner[pieces], found.segment[pieces]
        both = is_corner[:, 0] & is_corner[:, 1]
        rows, which = np.arange(len(pieces)), np.where(is_corner[:, 0], 0, 1)
        line = np.where(both[:, None, None], corner, segment[rows, 1 - which])
        along = line[:, 1] - line[:, 0]
        along = along / np.maximum(np.hypot(*along.T), 1e-12)[:, None]
        across = np.stack([-along[:, 1], along[:, 0]], axis=1)
        to_corner = corner[rows, which] - line[:, 0]
        foot = line[:, 0] + along * (to_corner * along).sum(axis=1)[:, None]
        high = (to_corner * across).sum(axis=1)
        middle, half = (line[:, 0] + line[:, 1]) / 2, np.hypot(*(line[:, 1] - line[:, 0]).T) / 2
        up = across * np.where(both, 0, np.sign(high))[:, None]
        height = np.asarray(np.where(both, half, np.abs(high)), float)
        return _Bent(np.where(both[:, None], middle, foot), np.where(both[:, None], across, along), up, height, ~both)

    def along(self, points: Floats) -> Floats:
        """The t of a point on each, shape (m,)."""
        return ((points - self.foot) * self.way).sum(axis=1)

    def places(self, rows: Ints, t: Floats) -> Floats:
        """Places (x, y, clearance), shape (k, 3)."""
        height = np.maximum(self.height[rows], 1e-12)
        clear = np.where(self.is_parabola[rows], (t**2 + height**2) / (2 * height), np.hypot(t, height))
        at = self.foot[rows] + self.way[rows] * t[:, None] + self.up[rows] * clear[:, None]
        return np.column_stack([at, clear])


def _clipped(graph: _Graph, most: float) -> _Graph:
    """Only what is as clear as ``most`` or less; what goes beyond ends there."""
    clear = graph.places[graph.pairs, 2]
    under = clear <= most
    crossing = np.flatnonzero(under[:, 0] != under[:, 1])
    a, b = graph.places[graph.pairs[crossing, 0]], graph.places[graph.pairs[crossing, 1]]
    share = (most - a[:, 2]) / (b[:, 2] - a[:, 2])
    places = np.vstack([graph.places, a + (b - a) * share[:, None]])
    pairs = graph.pairs.copy()
    beyond = np.where(under[crossing, 0], 1, 0)
    pairs[crossing, beyond] = len(graph.places) + np.arange(len(crossing))
    return _Graph(places, pairs[under.any(axis=1)])


def _lines(graph: _Graph) -> list[Ints]:
    """The graph as lines between nodes where other than two pieces meet; rings end where they began."""
    if not len(graph.pairs):
        return []
    used, flat = np.unique(graph.pairs, return_inverse=True)
    ends = flat.reshape(-1, 2).astype(np.int64)
    order, stops = _walked(ends, *meeting(ends, len(used)))
    return [used[one] for one in np.split(order, stops) if len(one)]


@njit(cache=True, nogil=True)
def _walked(ends: Any, meeting: Any, begins: Any) -> Any:
    """All lines one after the other, as nodes, and where each stops."""
    count = len(begins) - 1
    gone = np.zeros(len(ends), np.bool_)
    walked = np.empty(2 * len(ends) + 1, np.int64)
    stops = np.empty(len(ends) + 1, np.int64)
    at, lines = 0, 0
    # First from where lines end, then round what is left: rings.
    for rings in range(2):
        for first in range(count):
            if rings == 0 and begins[first + 1] - begins[first] == 2:
                continue
            for k in range(begins[first], begins[first + 1]):
                piece, node = meeting[k], first
                if gone[piece]:
                    continue
                walked[at] = node
                at += 1
                while True:
                    gone[piece] = True
                    node = ends[piece, 1] if ends[piece, 0] == node else ends[piece, 0]
                    walked[at] = node
                    at += 1
                    if begins[node + 1] - begins[node] != 2:
                        break
                    other = meeting[begins[node]]
                    if gone[other]:
                        other = meeting[begins[node] + 1]
                    if gone[other]:
                        break
                    piece = other
                stops[lines] = at
                lines += 1
    return walked[:at].copy(), stops[: lines - 1].copy()


def fewer(line: Floats, within: float) -> Floats:
    """A line with fewer places, shape (n, d): none of those left out is further than ``within`` from what is left."""
    return line[_fewer(line, within)]


def _fewer(line: Floats, within: float) -> Any:
    return _douglas_peucker(np.ascontiguousarray(line), within)


@njit(cache=True, nogil=True)
def _douglas_peucker(line: Any, within: float) -> Any:
    """Which places stay (Douglas and Peucker 1973), measured in all dimensions at once."""
    count, size = line.shape
    kept = np.zeros(count, np.bool_)
    if count == 0:
        return kept
    kept[0] = kept[count - 1] = True
    waiting = [(0, count - 1)]
    while len(waiting) > 0:
        first, last = waiting.pop()
        length = 0.0
        for d in range(size):
            length += (line[last, d] - line[first, d]) ** 2
        furthest, at = within, -1
        for k in range(first + 1, last):
            dot = 0.0
            for d in range(size):
                dot += (line[k, d] - line[first, d]) * (line[last, d] - line[first, d])
            share = min(max(dot / length, 0.0), 1.0) if length > 0 else 0.0
            off = 0.0
            for d in range(size):
                off += (line[k, d] - line[first, d] - share * (line[last, d] - line[first, d])) ** 2
            off = math.sqrt(off)
            if off > furthest:
                furthest, at = off, k
        if at >= 0:
            kept[at] = True
            waiting.append((first, at))
            waiting.append((at, last))
    return kept


def warm() -> None:
    """Compile, or load the compiled code, ahead of the first use."""
    nothing = np.zeros((0, 2), np.int64)
    met = meeting(nothing, 1)
    _pruned(nothing, *met, np.zeros(1), np.zeros(0), 0.1)
    _walked(nothing, *met)
    _fewer(np.zeros((2, 3)), 0.1)
    _fewer(np.zeros((2, 2)), 0.1)
