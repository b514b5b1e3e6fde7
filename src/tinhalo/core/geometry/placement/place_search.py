"""Where a channel may lie across letters, looked for over the whole word.

Every place on a grid is judged roughly on samples (``cut_pieces``), in batches: straight ones first, the nearest first,
then turned further and further. What promises well is looked at more finely around. That is an estimate: the last word
on a place has whoever asks, at the exact outlines.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from math import ceil, cos, floor, hypot, radians, sin

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import MultiPolygon, Polygon

from tinhalo.core.geometry.arrays import Floats, Ints
from tinhalo.core.geometry.placement.clearance import Clearance, clearance_inside, clearance_outside
from tinhalo.core.geometry.placement.cut_pieces import faults_at, parts_of
from tinhalo.core.geometry.placement.slivers import SliverLimits, slivers_of
from tinhalo.core.geometry.regions.region import Region, prepared

#: Distance of samples in mm, for words up to so many mm high; larger words are sampled as much more coarsely.
_STEP, _HEIGHT = 0.25, 80.0
#: Places on the grid are so many samples apart.
_COARSE = 4
#: The least width is so many looked at samples wide, at a fine look and at a rough one.
_FINE_SAMPLES, _ROUGH_SAMPLES = 3, 2
#: So many places are judged at a time, and so many of them looked at more finely.
_BATCH, _FINELY = 128, 6
#: So many points of the channel's edge say whether it lies over what is taken.
_EDGE_POINTS = 80
#: Limits are so much higher, by share, on samples: what just passes there may just not at the exact outlines.
_SAFE = 1.06
#: A place is another one if it is this far from every one before, in mm, or turned by this much more, in degrees.
_ELSEWHERE, _TURNED = 4.0, 3.0


_SIDE = np.arange(1 - _COARSE, _COARSE)
#: All places that are nearer to one of the grid than to the next, and some more.
_AROUND: Ints = np.array([(y, x) for y in _SIDE for x in _SIDE])


@dataclass(frozen=True)
class Pose:
    """Where a channel is moved to: turned about its middle by degrees, then moved by mm to the right and upwards."""

    dx: float = 0
    dy: float = 0
    turn: float = 0

    @property
    def far(self) -> float:
        """How far it is moved, in mm."""
        return hypot(self.dx, self.dy)

    def matrix(self, pivot: tuple[float, float]) -> Floats:
        """The map of what turns about that point, shape (2, 3)."""
        c, s = cos(radians(self.turn)), sin(radians(self.turn))
        x, y = pivot
        return np.array([[c, -s, x - c * x + s * y + self.dx], [s, c, y - s * x - c * y + self.dy]])

    def same_as(self, other: Pose) -> bool:
        """Whether nobody would call it another place."""
        near = hypot(self.dx - other.dx, self.dy - other.dy) < _ELSEWHERE
        return near and abs(self.turn - other.turn) < _TURNED


@dataclass(frozen=True)
class Candidate:
    """A pose, and about how many slivers and necks it leaves, as samples tell."""

    pose: Pose
    faults: int


@dataclass(frozen=True)
class _Batch:
    turn: float
    places: Ints


class Letters:
    """A block of letters, sampled."""

    def __init__(self, block: Region, limits: SliverLimits, *, closely: bool) -> None:
        """Take the letters of a block, and what counts as a sliver; a neck is narrower than its width.

        Looked at closely, more samples count, and places that promise less are looked at.
        """
        self.closely = closely
        self.bounds = block.area.bounds
        self.limits = limits
        _, y0, _, y1 = self.bounds
        self.step = _STEP * max(1.0, (y1 - y0) / _HEIGHT)
        #: Only each so-manieth sample is looked at, at a fine look and at a rough one.
        self.fine = max(1, int(limits.width / (_FINE_SAMPLES * self.step)) - closely)
        self.rough = max(self.fine + 1, int(limits.width / (_ROUGH_SAMPLES * self.step)) - closely)
        self._area = block.area

    @cached_property
    def area(self) -> MultiPolygon:
        """All of them, prepared for many questions."""
        return prepared(self._area)

    @cached_property
    def near(self) -> Clearance:
        """How far it is to them: an end may come to lie on them where that is nearer than the grid's places are."""
        return clearance_outside(self._area, self.step, _COARSE * self.step, roughly=True)

    def sampled(self, stride: int) -> tuple[NDArray[np.float32], Ints]:
        """Clearances inside, one letter after the other, and what ``faults_at`` has to know of each letter."""
        return self._sampled[stride]

    @cached_property
    def _sampled(self) -> dict[int, tuple[NDArray[np.float32], Ints]]:
        whole = np.array(list(self._area.geoms), object)
        # A piece that is a sliver by itself is not of the channel's making.
        pieces: list[Polygon] = list(whole[~slivers_of(whole, self.limits)])
        fields = [clearance_inside(piece, self.step) for piece in pieces]
        samples = np.concatenate([one.values.ravel() for one in fields]) if fields else np.zeros(0, np.float32)
        begins = np.cumsum([0, *(one.values.size for one in fields)])[:-1]
        found: dict[int, tuple[NDArray[np.float32], Ints]] = {}
        for stride, safe in ((self.fine, _SAFE), (self.rough, 1.0)):
            half = self.limits.width * safe / 2
            frames = [
                (int(begin), *one.values.shape, one.row, one.column, parts_of(one.values, stride, half))
                for begin, one in zip(begins, fields, strict=True)
            ]
            found[stride] = samples, np.array(frames, np.int64).reshape(-1, 6)
        return found


class PlaceSearch:
    """Poses of a channel across a block of letters, in batches.

    Attributes:
        covered: whether there are poses with all ends on the letters; if so, only they are looked at.
    """

    def __init__(
        self,
        letters: Letters,
        channel: Region,
        ends: Floats,
        pivot: tuple[float, float],
        turns: Sequence[float] = (0.0,),
        avoid: Sequence[Pose] = (),
        taken: Region | None = None,
    ) -> None:
        """Prepare a search.

        Args:
            letters: what is cut.
            channel: what is cut out of them, where it is now.
            ends: points that should lie on the letters, shape (n, 2), moved with the channel.
            pivot: the point that the channel turns about.
            turns: degrees that the channel may be turned by, in the order in which they are tried.
            avoid: poses that are not wanted.
            taken: what the channel must not lie over.
        """
        self._letters, self._channel, self._ends = letters, channel, ends
        self._step, self._pivot, self._avoid = letters.step, pivot, avoid
        self._taken = None if taken is None or taken.area.is_empty else prepared(taken.area)
        self._turned: dict[float, Clearance] = {}
        grids = {turn: self._grid(turn) for turn in turns}
        self.covered = any(covered.any() for _, covered, _ in grids.values())
        self._batches: list[_Batch] = []
        for within in (True, False):
            for turn, (places, covered, inside) in grids.items():
                left = places[(covered == self.covered) & (inside == within)]
                self._batches += [_Batch(turn, left[k : k + _BATCH]) for k in range(0, len(left), _BATCH)]

    def __len__(self) -> int:
        """How many batches there are."""
        return len(self._batches)

    def look(self, batch: int, most: int) -> Iterator[Candidate]:
        """The most promising poses of a batch with ``most`` faults or fewer, each with fewer than the one before.

        Those without any all come, the nearest first. Only around places that are clean at a rough look it is looked
        more finely; closely, around those with up to one fault more than asked for, too.
        """
        turn, places = self._batches[batch].turn, self._batches[batch].places
        places = places[self._free(turn, self._in_mm(places))]
        closely = self._letters.closely
        allowed = most + 1 if closely else 0
        rough = self._judged(turn, places, self._letters.rough, allowed)
        # Nearer ones come first of those that promise as much.
        for k in np.argsort(rough[:, 1], kind="stable")[:_FINELY].tolist():
            count = int(rough[k, 0])
            if count > allowed:
                continue
            candidate = self._finely(turn, places[k : k + 1] + _AROUND, min(most, count) if closely else 0)
            if candidate is None and most:
                candidate = self._finely(turn, places[k : k + 1], most)
            if candidate:
                most = max(0, candidate.faults - 1)
                yield candidate

    def pose_of(self, batch: int) -> Pose:
        """The first pose of a batch, to show what is looked at."""
        one = self._batches[batch]
        return self._pose(one.turn, one.places[0])

    def _finely(self, turn: float, places: Ints, most: int) -> Candidate | None:
        """The place with the fewest faults, if it has no more than ``most``, well among its like."""
        counts = self._judged(turn, places, self._letters.fine, most)[:, 0].astype(int)
        usable = (counts <= most) & self._usable(turn, places)
        if not usable.any():
            return None
        least = counts[usable].min()
        good = places[usable & (counts == least)]
        # With such places all round it, it bears being laid a little beside.
        apart = np.abs(good[:, None] - good).max(axis=2)
        best = np.lexsort((np.abs(good - places[len(places) // 2]).sum(axis=1), -(apart <= 1).sum(axis=1)))[0]
        return Candidate(self._pose(turn, good[best]), int(least))

    def _usable(self, turn: float, places: Ints) -> NDArray[np.bool_]:
        """Which places have all ends on the letters, if any has, are free, and are not to be avoided."""
        moved = self._in_mm(places)
        wanted = self._free(turn, moved)
        if self._avoid:
            poses = [self._pose(turn, one) for one in places]
            wanted &= np.array([not any(one.same_as(other) for other in self._avoid) for one in poses])
        if not self.covered:
            return wanted
        inside = _inside(self._letters.area, moved, self._turned_by(turn, self._ends))
        return wanted & np.asarray(inside.all(axis=1), bool)

    def _free(self, turn: float, moved: Floats) -> NDArray[np.bool_]:
        """Whether the channel's edge keeps off what is taken, moved by so many mm each, shape (n, 2)."""
        if self._taken is None:
            return np.ones(len(moved), bool)
        edge = shapely.get_coordinates(self._channel.area)
        some = edge[:: max(1, len(edge) // _EDGE_POINTS)]
        return np.asarray(~_inside(self._taken, moved, self._turned_by(turn, some)).any(axis=1), bool)

    def _in_mm(self, places: Ints) -> Floats:
        """How far places move, to the right and upwards."""
        return np.asarray(places[:, ::-1] * self._step, np.float64)

    def _pose(self, turn: float, place: Ints) -> Pose:
        return Pose(float(place[1]) * self._step, float(place[0]) * self._step, turn)

    def _judged(self, turn: float, places: Ints, stride: int, most: int) -> Floats:
        away = self._away(turn)
        samples, frames = self._letters.sampled(stride)
        limits, safe = self._letters.limits, _SAFE if stride == self._letters.fine else 1.0
        return faults_at(
            samples,
            frames,
            away.values,
            np.array([away.row, away.column]),
            places,
            stride,
            limits.width * safe / 2,
            limits.area * safe / (self._step * stride) ** 2,
            most,
        )

    def _away(self, turn: float) -> Clearance:
        if turn not in self._turned:
            area = self._channel.transformed(Pose(turn=turn).matrix(self._pivot)).area
            self._turned[turn] = clearance_outside(area, self._step, _SAFE * self._letters.limits.width / 2)
        return self._turned[turn]

    def _turned_by(self, turn: float, points: Floats) -> Floats:
        matrix = Pose(turn=turn).matrix(self._pivot)
        return points @ matrix[:, :2].T + matrix[:, 2]

    def _grid(self, turn: float) -> tuple[Ints, NDArray[np.bool_], NDArray[np.bool_]]:
        """Places in samples, shape (n, 2), rows first; whether ends lie on letters, whether it is between top and foot.

        The nearest come first.
        """
        x0, y0, x1, y1 = self._letters.bounds
        a0, b0, a1, b1 = self._channel.transformed(Pose(turn=turn).matrix(self._pivot)).area.bounds
        spacing = _COARSE * self._step
        middle_x, middle_y = (a0 + a1) / 2, (b0 + b1) / 2
        columns = np.arange(ceil((x0 - middle_x) / spacing), floor((x1 - middle_x) / spacing) + 1)
        rows = np.arange(ceil((y0 - middle_y) / spacing), floor((y1 - middle_y) / spacing) + 1)
        places: Ints = np.stack([one.ravel() for one in np.meshgrid(rows, columns, indexing="ij")], axis=1)
        places = places[np.lexsort((places[:, 1], places[:, 0], (places**2).sum(axis=1)))] * _COARSE
        moved = self._in_mm(places)
        ends = moved[:, None] + self._turned_by(turn, self._ends)
        near = self._letters.near
        at = np.round(ends[..., ::-1] / self._step).astype(int) - (near.row, near.column)
        within = np.asarray(((at >= 0) & (at < near.values.shape)).all(axis=-1), bool)
        at = np.where(within[..., None], at, 0)
        close = near.values[at[..., 0], at[..., 1]] <= (_COARSE - 1) * self._step
        covered = np.asarray((within & close).all(axis=-1), bool)
        inside = (b0 + moved[:, 1] >= y0) & (b1 + moved[:, 1] <= y1)
        return places, covered, inside


def _inside(area: MultiPolygon, moved: Floats, points: Floats) -> NDArray[np.bool_]:
    """Whether each point lies in an area after each move, shape (moves, points)."""
    at = moved[:, None] + points
    return np.asarray(shapely.contains_xy(area, at[..., 0], at[..., 1]), bool)
