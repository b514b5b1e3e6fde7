"""Where a channel may lie across letters without cutting slivers off them.

A sliver is a piece that is too small or nowhere wide enough to be weeded. Places are tried from the nearest on, a batch
at a time; every letter of the block is cut by what of the channel can come near it, those that failed last first. A
place is given up as soon as it has more slivers than the best one so far.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import Polygon

from tinhalo.core.geometry.arrays import Floats, Ints
from tinhalo.core.geometry.regions.region import CRUMB_AREA, Region, prepared
from tinhalo.core.geometry.regions.robust import clipped
from tinhalo.core.runtime.cancellation import checkpoint

_BATCH = 64
#: How far away a place is sought, in mm.
REACH = 6.0
#: A place should stay clean when it is moved by this in any of eight directions, in mm.
STEADY = 0.1


@dataclass(frozen=True)
class SliverLimits:
    """What is a sliver: a piece under ``area`` mm², or nowhere as wide as ``width`` mm."""

    area: float = 15
    width: float = 1.5


@dataclass(frozen=True)
class PlaceFound:
    """Where to move the channel by (dx, dy) mm.

    Attributes:
        dx: to the right.
        dy: upwards.
        slivers: how many slivers, or necks that they hang by, there are there.
        steady: whether there are none either when it is moved a little.
        covered: whether all ends lie on the letters there.
    """

    dx: float
    dy: float
    slivers: int
    steady: bool
    covered: bool

    @property
    def clean(self) -> bool:
        """Whether there is nothing to mind there."""
        return self.slivers == 0


def find_place(
    block: Region,
    channel: Region,
    ends: Floats,
    sliver: SliverLimits,
    reach: float = REACH,
    step: float = 0.25,
    faults: Callable[[float, float, int], int] = lambda x, y, most: 0,
) -> PlaceFound:
    """The nearest place without slivers and with all ends on the letters; a steady one before one that is not.

    If there is none, the place with the fewest slivers; the nearest of these. Where no place has all ends on the
    letters, ends are left out of account.

    Args:
        block: the letters that are cut.
        channel: what is cut out of them, where it is now.
        ends: points that should lie on the letters, shape (n, 2), moved with the channel.
        sliver: what counts as a sliver.
        reach: how far to look, up, down and to the sides, in mm.
        step: of the grid of places, in mm.
        faults: has the last word on a place without slivers, given as (dx, dy): how many faults it has nevertheless;
            once there are more than the third argument it may stop counting.
    """
    cut = _Cut(block, channel, sliver, reach + STEADY)
    places = _grid(reach, step)
    inside = _covered(block, ends, places)
    covered = bool(inside.any())
    if covered:
        places = places[inside]
    best, best_at, clean = np.iinfo(np.intp).max, places[0], None
    for first in range(0, len(places), _BATCH):
        checkpoint()
        batch = places[first : first + _BATCH]
        counts = cut.slivers(batch, most=0 if clean is not None else best - 1)
        for place, count in zip(batch, counts.tolist(), strict=True):
            if count == 0:
                checkpoint()
                count = faults(float(place[0]), float(place[1]), 0 if clean is not None else int(best) - 1)
            if count == 0:
                clean = place if clean is None else clean
                if not cut.slivers(place + _AROUND, most=0).any():
                    return PlaceFound(float(place[0]), float(place[1]), 0, True, covered)
            elif count < best and clean is None:
                best, best_at = count, place
    at, left = (best_at, int(best)) if clean is None else (clean, 0)
    return PlaceFound(float(at[0]), float(at[1]), left, False, covered)


def covers(block: Region, ends: Floats, reach: float, step: float = 0.25) -> bool:
    """Whether all ends, shape (n, 2), lie on the letters at some place within reach, see ``find_place``."""
    return bool(_covered(block, ends, _grid(reach, step)).any())


def slivers_of(pieces: NDArray[np.object_], sliver: SliverLimits) -> NDArray[np.bool_]:
    """Which pieces are slivers; crumbs that no outline keeps are none."""
    area: Floats = np.array([piece.area for piece in pieces], float)
    edge: Floats = np.array([piece.length for piece in pieces], float)
    small = (area < sliver.area) & (area >= CRUMB_AREA)
    # An area A with an edge P holds a circle of radius A / P: only what may be narrower is looked at closely.
    unsure = np.flatnonzero(~small & (area >= CRUMB_AREA) & (area < edge * sliver.width / 2))
    shrunk = np.asarray(shapely.buffer(pieces[unsure], -sliver.width / 2, quad_segs=8), object)
    small[unsure] = shapely.is_empty(shrunk)
    return small


def hanging_bits(pieces: NDArray[np.object_], area: float, width: float) -> list[Polygon]:
    """Parts of pieces that hang on the rest by necks under ``width`` mm, and are under ``area`` mm² themselves."""
    shrunk = np.asarray(shapely.buffer(pieces, -width / 2, quad_segs=8), object)
    found: list[Polygon] = []
    for cores in shrunk[np.asarray(shapely.get_num_geometries(shrunk)) > 1]:  # pyright: ignore[reportUnknownMemberType]
        parts = [part for part in shapely.get_parts(cores) if part.area >= CRUMB_AREA]
        whole = [part.buffer(width / 2, quad_segs=8) for part in parts]
        largest = max(range(len(whole)), key=lambda k: whole[k].area, default=None)
        found += [one for k, one in enumerate(whole) if k != largest and one.area < area]
    return found


_AROUND = STEADY * np.array([(x, y) for x in (-1, 0, 1) for y in (-1, 0, 1) if x or y], float)


def _grid(reach: float, step: float) -> Floats:
    """All places, the nearest first; of equally near ones in a fixed order."""
    count = round(reach / step)
    side = np.arange(-count, count + 1)
    x, y = (one.ravel() for one in np.meshgrid(side, side))
    order = np.lexsort((y, x, x * x + y * y))
    return np.array(np.stack([x, y], axis=1)[order] * step, np.float64)


def _covered(block: Region, ends: Floats, places: Floats) -> NDArray[np.bool_]:
    area = prepared(block.area)
    at = places[:, None] + ends
    inside: NDArray[np.bool_] = np.asarray(shapely.contains_xy(area, at[..., 0], at[..., 1]), bool)
    return np.array([one.all() for one in inside], bool)


class _Cut:
    """The block's letters, each with the part of the channel that can come near it."""

    def __init__(self, block: Region, channel: Region, sliver: SliverLimits, reach: float) -> None:
        self._sliver = sliver
        whole = np.array(list(block.area.geoms), object)
        # A piece that is a sliver by itself is not of the channel's making.
        self._letters: list[Polygon] = list(whole[~slivers_of(whole, sliver)]) if len(whole) else []
        self._channels: list[shapely.Geometry] = []
        for letter in self._letters:
            x0, y0, x1, y1 = letter.bounds
            room = 2 * reach
            near = clipped(channel.area, (x0 - room, y0 - room, x1 + room, y1 + room))
            shapely.prepare(near)
            self._channels.append(near)
        self._order = list(range(len(self._letters)))

    def slivers(self, places: Floats, most: int) -> Ints:
        """How many slivers there are at each place; counting stops once there are more than ``most``."""
        counts = np.zeros(len(places), np.intp)
        failed: dict[int, int] = {}
        for letter in self._order:
            left = np.flatnonzero(counts <= most)
            if not len(left):
                break
            found = self._of_letter(letter, places[left])
            failed[letter] = int(found.sum())
            counts[left] += found
        self._order.sort(key=lambda one: -failed.get(one, 0))
        return counts

    def _of_letter(self, letter: int, places: Floats) -> Ints:
        # Moving the letter the other way comes to the same, and the channel stays prepared.
        points = shapely.get_coordinates(self._letters[letter])
        moved = np.full(len(places), self._letters[letter], object)
        moved = shapely.set_coordinates(moved.copy(), (points - places[:, None]).reshape(-1, 2))
        touched = np.flatnonzero(shapely.intersects(self._channels[letter], moved))
        counts = np.zeros(len(places), np.intp)
        if len(touched):
            parts, owner = shapely.get_parts(
                shapely.difference(moved[touched], self._channels[letter]), return_index=True
            )
            counts[touched] = np.bincount(owner[slivers_of(parts, self._sliver)], minlength=len(touched))
        return counts
