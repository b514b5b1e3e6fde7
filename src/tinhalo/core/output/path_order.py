"""In which order a machine follows a drawing's lines, and where it begins each.

Engraving comes before scoring, scoring before cutting, and what lies inside is cut before what goes round it: a piece
that is free already may have moved. Within these rules the way between the lines is short: the nearest next, then
bettered by moving one line and by turning round runs of them (or-opt and 2-opt: G. Croes, 1958; I. Or, 1976), with the
best beginnings of closed lines found exactly for an order (a shortest path through layers of candidates).
"""

from __future__ import annotations

import random
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import shapely
from shapely import Polygon

from tinhalo.core.design.hand_over import Process
from tinhalo.core.geometry.arrays import Box, Floats, Ints
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.output.drawing import Drawing

#: What is done first.
ORDER: tuple[Process, ...] = ("engrave", "carve", "score", "cut")
#: Places where a closed line may be begun, at most.
_BEGINNINGS = 24
_ROUNDS = 3
#: Tries at most, and lines squared times tries: of many lines one try takes long, and gains little.
_KICKS, _EFFORT = 24, 16_000
#: Lines that are looked at together, and more than are looked at more than once.
_TOGETHER, _MANY = 80, 3_000


@dataclass(frozen=True)
class Stroke:
    """One line as it is followed, from its first segment on.

    Attributes:
        layer: id of the layer it is of.
        process: what is done along it.
        contour: in mm, begun where the machine comes in.
    """

    layer: str
    process: Process
    contour: Contour

    @property
    def start(self) -> Floats:
        """Where it begins, shape (2,)."""
        return self.contour.segments[0, 0]

    @property
    def end(self) -> Floats:
        """Where it ends."""
        return self.contour.segments[-1, 3]


def ordered(drawing: Drawing) -> list[Stroke]:
    """All lines of a drawing that a tool follows, in order, begun from the upper left corner of its page."""
    x0, _, _, y1 = drawing.page or (0.0, 0.0, 0.0, 0.0)
    here = np.array([x0, y1], float)
    made: list[Stroke] = []
    for process in ORDER:
        lines = [(layer.id, one) for layer in drawing.layers if layer.process == process for one in layer.followed]
        if not lines:
            continue
        way = Way([contour for _, contour in lines], here)
        for index, contour in way.found():
            made.append(Stroke(lines[index][0], process, contour))
        here = made[-1].end
    return made


def travel(strokes: Sequence[Stroke], page: Box | None) -> float:
    """The way in mm that a machine goes without working, from the upper left corner of the page on."""
    if not strokes:
        return 0.0
    x0, _, _, y1 = page or (0.0, 0.0, 0.0, 0.0)
    starts = np.array([one.start for one in strokes])
    before = np.array([[x0, y1], *(one.end for one in strokes[:-1])])
    return float(np.hypot(*(starts - before).T).sum())


class Way:
    """The order of some lines after each other."""

    def __init__(self, lines: Sequence[Contour], start: Floats) -> None:
        self._lines, self._start = lines, start
        self._places = [_places(one) for one in lines]
        self._inner = _within(lines)
        #: Of each line what has to come before it, and what after.
        self._before: list[set[int]] = [set() for _ in lines]
        self._after: list[set[int]] = [set() for _ in lines]
        for inner, outer in self._inner:
            self._before[outer].add(inner)
            self._after[inner].add(outer)
        # Which place each line is begun at; an open one ends at its other one.
        self._at = [0] * len(lines)
        self._begin = np.array([one[0] for one in self._places])
        self._end = np.array([one[0 if line.closed else 1] for one, line in zip(self._places, lines, strict=True)])

    def found(self) -> list[tuple[int, Contour]]:
        """Indices in order, and each line begun where it should be."""
        if len(self._lines) > _MANY:
            order = self._begun(self._in_rows())
        else:
            order = self.settled(self._nearest())
            kicks = min(_KICKS, _EFFORT // len(order) ** 2)
            order = self.kicked(order, random.Random(len(order)), kicks)
        return [(i, _from(self._lines[i], self._at[i])) for i in order]

    def settled(self, order: list[int]) -> list[int]:
        """An order bettered, with the best beginning of each line, in turn."""
        order = self._begun(order)
        for _ in range(_ROUNDS):
            length = self.length(order)
            order = self._begun(self._bettered(order))
            if self.length(order) > length - 1e-6:
                break
        return order

    def shuffled(self, chance: random.Random) -> list[int]:
        """Any order that is allowed: what lies inside before what goes round it."""
        left = list(range(len(self._lines)))
        chance.shuffle(left)
        order: list[int] = []
        done: set[int] = set()
        while left:
            i = next(one for one in left if self._before[one] <= done)
            left.remove(i)
            order.append(i)
            done.add(i)
        return order

    def length(self, order: Sequence[int]) -> float:
        """The way between the lines in mm."""
        return self._length(order, self._start)

    def end(self, order: Sequence[int]) -> Floats:
        """Where the last of them ends."""
        return self._end[order[-1]].copy()

    def _in_rows(self) -> list[int]:
        """To and fro in rows, what lies within others first: a quick order of very many lines."""
        middle = np.array([one.mean(axis=0) for one in self._places])
        low, high = middle.min(axis=0), middle.max(axis=0)
        size = max(float(high[1] - low[1]), 1e-9)
        row = np.floor((high[1] - middle[:, 1]) / size * np.sqrt(len(middle) / 2))
        across = np.where(row % 2 == 0, middle[:, 0], -middle[:, 0])
        depth = np.array([len(one) for one in self._after])
        return np.lexsort([across, row, -depth]).tolist()

    def kicked(self, order: list[int], chance: random.Random, times: int) -> list[int]:
        """The shortest of several tries: some lines put anywhere, then all of it bettered (iterated local search)."""
        length, at = self.length(order), list(self._at)
        for _ in range(times):
            tried = list(order)
            for _ in range(3):
                i = chance.choice(tried)
                rest = [one for one in tried if one != i]
                low, high = self._room(rest, i)
                k = chance.randint(low, high)
                tried = [*rest[:k], i, *rest[k:]]
            tried = self._begun(self._bettered(self._begun(tried)))
            if self.length(tried) < length - 1e-9:
                order, length, at = tried, self.length(tried), list(self._at)
            for i, place in enumerate(at):
                if self._at[i] != place:
                    self._set(i, place)
        return order

    def _room(self, rest: Sequence[int], i: int) -> tuple[int, int]:
        """From where to where a line may stand among others."""
        place = {one: k for k, one in enumerate(rest)}
        low = max((place[one] + 1 for one in self._before[i] if one in place), default=0)
        return low, min((place[one] for one in self._after[i] if one in place), default=len(rest))

    def _ends(self, order: Sequence[int]) -> tuple[Floats, Floats]:
        """Where each of them begins and ends, shape (n, 2)."""
        return self._begin[order], self._end[order]

    def _set(self, i: int, place: int) -> None:
        """A line is begun at one of its places."""
        self._at[i] = place
        self._begin[i] = self._places[i][place]
        self._end[i] = self._places[i][place if self._lines[i].closed else 1 - place]

    def _length(self, order: Sequence[int], start: Floats) -> float:
        begin, end = self._ends(order)
        return float(np.hypot(*(begin - np.vstack([start, end[:-1]])).T).sum())

    def _nearest(self) -> list[int]:
        points = np.concatenate(self._places)
        owner = np.repeat(np.arange(len(self._lines)), [len(one) for one in self._places])
        first = np.concatenate([[0], np.cumsum([len(one) for one in self._places])])
        waiting = [len(one) for one in self._before]
        free = np.array([count == 0 for count in waiting])[owner]
        here, order = self._start, list[int]()
        for _ in self._lines:
            far = np.where(free, np.hypot(*(points - here).T), np.inf)
            k = int(far.argmin())
            i = int(owner[k])
            self._set(i, k - int(first[i]))
            order.append(i)
            free[first[i] : first[i + 1]] = False
            for outer in self._after[i]:
                waiting[outer] -= 1
                if waiting[outer] == 0:
                    free[first[outer] : first[outer + 1]] = True
            here = self._end[i]
        return order

    def _begun(self, order: list[int]) -> list[int]:
        """The same order with the best beginning of each line: the shortest path from candidate to candidate."""
        cost: Floats = np.hypot(*(self._places[order[0]] - self._start).T)
        came: list[Ints] = []
        for a, b in pairwise(order):
            leave = self._places[a] if self._lines[a].closed else self._places[a][::-1]
            ways = cost[:, None] + np.hypot(*(leave[:, None] - self._places[b][None]).transpose(2, 0, 1))
            came.append(ways.argmin(axis=0))
            cost = ways.min(axis=0)
        k = int(cost.argmin())
        for i, back in zip(reversed(order), [*reversed(came), None], strict=True):
            self._set(i, k)
            k = int(back[k]) if back is not None else 0
        return order

    def _bettered(self, order: list[int]) -> list[int]:
        """One line moved, or a run of lines followed the other way round, as long as the way gets shorter.

        Of many lines those that follow each other are looked at together.
        """
        if len(order) <= _TOGETHER:
            return self._run_bettered(order, self._start, 40)
        for offset in (_TOGETHER // 2, 0):
            cuts = [0, *range(offset or _TOGETHER, len(order), _TOGETHER), len(order)]
            made: list[int] = []
            for low, high in pairwise(cuts):
                start = self._end[made[-1]] if made else self._start
                made += self._run_bettered(order[low:high], start, 4)
            order = made
        return order

    def _run_bettered(self, order: list[int], start: Floats, rounds: int) -> list[int]:
        for _ in range(rounds):
            length = self._length(order, start)
            order = self._turned(self._moved(order, start), start)
            if self._length(order, start) > length - 1e-6:
                break
        return order

    def _moved(self, order: list[int], start: Floats) -> list[int]:
        for i in list(order):
            at = order.index(i)
            rest = order[:at] + order[at + 1 :]
            if not rest:
                return order
            low, high = self._room(rest, i)
            begin, end = self._ends(rest)
            own_begin, own_end = self._begin[i], self._end[i]
            left = np.vstack([start, end])
            put = np.hypot(*(own_begin - left).T)
            put[:-1] += np.hypot(*(begin - own_end).T) - np.hypot(*(begin - left[:-1]).T)
            allowed = np.full(len(put), np.inf)
            allowed[low : high + 1] = put[low : high + 1]
            best = int(allowed.argmin())
            if allowed[best] < put[at] - 1e-9:
                order = [*rest[:best], i, *rest[best:]]
        return order

    def _turned(self, order: list[int], start: Floats) -> list[int]:
        count = len(order)
        i = 0
        while i < count - 1:
            begin, end = self._ends(order)
            before = start if i == 0 else end[i - 1]
            # A run that holds both a line and what goes round it cannot be turned.
            stop = i + 1
            held = {order[i]}
            while stop < count and not (self._before[order[stop]] & held):
                held.add(order[stop])
                stop += 1
            js = np.arange(i + 1, stop)
            if len(js):
                # Closed lines only: turned round they begin and end where they did.
                after = np.vstack([begin, end[-1:]])[js + 1]
                last = js == count - 1
                now = np.hypot(*(begin[i] - before)) + np.where(last, 0, np.hypot(*(after - end[js]).T))
                then = np.hypot(*(end[js] - before).T) + np.where(last, 0, np.hypot(*(after - begin[i]).T))
                gain = now - then
                k = int(gain.argmax())
                if gain[k] > 1e-9:
                    j = int(js[k])
                    run = order[i : j + 1][::-1]
                    for one in run:
                        if not self._lines[one].closed:
                            self._set(one, 1 - self._at[one])
                    order = order[:i] + run + order[j + 1 :]
            i += 1
        return order


def _places(contour: Contour) -> Floats:
    """Where a line may be begun, shape (n, 2): at some of its nodes, or at either end."""
    if not contour.closed:
        return np.array([contour.segments[0, 0], contour.segments[-1, 3]])
    nodes = contour.segments[:, 0]
    return nodes[_chosen(len(nodes))]


def _chosen(count: int) -> Ints:
    return np.unique(np.linspace(0, count, min(count, _BEGINNINGS), endpoint=False).astype(np.intp))


def _from(contour: Contour, place: int) -> Contour:
    """A line begun at one of its places."""
    if not contour.closed:
        return contour if place == 0 else contour.reversed()
    at = int(_chosen(len(contour.segments))[place])
    return Contour(np.roll(contour.segments, -at, axis=0), np.roll(contour.degree, -at))


def _within(lines: Sequence[Contour]) -> list[tuple[int, int]]:
    """Pairs of a line and a closed one that goes round it."""
    rings = [
        Outline.from_contours([one]).flattened(0.05)[0] if one.closed else one.segments[[0, -1], [0, 3]]
        for one in lines
    ]
    areas = [
        Polygon(ring) if line.closed and len(ring) >= 3 else Polygon() for ring, line in zip(rings, lines, strict=True)
    ]
    points = [shapely.Point(ring[0]) for ring in rings]
    inner, outer = shapely.STRtree(areas).query(points, predicate="within")
    size = [area.area for area in areas]
    return [(i, k) for i, k in zip(inner.tolist(), outer.tolist(), strict=True) if i != k and size[k] > size[i]]
