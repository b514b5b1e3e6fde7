"""How far strokes have to grow all round so that none is too thin, and holes that are kept open meanwhile."""

from __future__ import annotations

import math
from bisect import bisect_left
from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
import shapely

from tinhalo.core.geometry.curves.precision import Precision
from tinhalo.core.geometry.regions.offset import offset
from tinhalo.core.geometry.regions.region import SIMPLER, Region
from tinhalo.core.geometry.strokes.narrow_places import NarrowPlace, narrow_stroke_at, some_narrow, window_at
from tinhalo.core.geometry.strokes.thicken import ENOUGH, Measure, cores
from tinhalo.core.geometry.strokes.widths import Measured

#: The amount of growth is looked for in steps of this, then halved down to the last one, in mm.
_STEP = 0.02
_COARSE = 0.1
_FINE = 0.0025
#: How many steps more are tried where holes are kept open.
_MORE = 8
#: A stroke whose middle is this near (widths) to where it was is still the same: it was inside all the time.
_SAME = 0.25
_LONGEST_PAUSE = 16


def keep_holes_open(
    before: Region, after: Region, measured: Measured, by: float, least: float, precision: Precision
) -> Region:
    """A grown region whose holes stay at least ``least`` mm wide, or as wide as they were.

    Args:
        before: the region before it was grown ``by`` mm, and ``measured`` its widths.
        after: the grown region.
        least: least width of holes in mm.
        precision: how finely the holes' new edges are drawn.
    """
    holes = before.hole_areas()
    lines = np.array(measured.gaps.between_tips(least + 2 * by), object)
    if not holes or not len(lines):
        return after
    width = measured.gaps.width[measured.gaps.width < least + 2 * by]
    inside = np.unique(shapely.STRtree(holes).query(lines, predicate="intersects")[0])
    open_ = cores(lines[inside], np.minimum(width[inside], least), least, precision)
    return Region.of(shapely.difference(after.area, open_))


def growth_for(region: Region, measure: Measure, to: float, precision: Precision, keep_open: float = 0.0) -> float:
    """The smallest growth all round, in mm, after which no stroke is thinner than ``to``.

    Strokes that newly touch make new necks, so more growth can be worse: amounts are tried in order, in steps, and the
    first that will do is made finer. Strokes with no narrow gap or notch beside them get wider by exactly twice the
    growth, so nothing below what these need is tried. With ``keep_open``, the least width of holes in mm, a little more
    is tried where these take some of it back; between two holes it may not be enough.
    """
    measured = measure(region)
    narrowest = measured.strokes.narrowest
    if narrowest is None or narrowest >= to - ENOUGH:
        return 0.0

    search = _Search(region, to - ENOUGH, precision)
    amounts = _amounts(max(0.0, (to - _narrowest_free(measured, to)) / 2 - 2 * ENOUGH), to)
    tried = 0
    while tried + 1 < len(amounts) and not search.is_enough(amounts[tried]):
        tried = search.last_narrow(amounts, tried) + 1
    low, high = amounts[max(0, tried - 1)], amounts[tried]
    while high - low > _FINE:
        middle = (low + high) / 2
        search.known = search.last[:]
        low, high = (low, middle) if search.is_enough(middle) else (middle, high)
    for more in range(_MORE if keep_open else 0):
        by = high + more * _STEP
        kept = keep_holes_open(region, offset(region, by, precision), measured, by, keep_open, precision)
        if not kept.is_empty and not search.narrow_in(kept):
            return round(by, 4)
    return round(high, 4)


@dataclass
class _Search:
    """Amounts of growth that are tried one after the other.

    Attributes:
        region: what is grown.
        limit: how wide in mm every stroke should be.
        precision: how finely arcs are drawn.
        known: where it may still be too narrow, as it was so before: there it is looked first, and only there it is
            grown for that.
        last: where it was too narrow last, if anywhere.
        rest: so many amounts are tried one after the other before it is looked further ahead again.
        pause: and so many after the next time that this was in vain.
    """

    region: Region
    limit: float
    precision: Precision
    known: list[NarrowPlace] = field(default_factory=list[NarrowPlace])
    last: list[NarrowPlace] = field(default_factory=list[NarrowPlace])
    rest: int = 0
    pause: int = 1

    def is_enough(self, by: float) -> bool:
        """Whether no stroke is too narrow any more."""
        while self.known:
            if still := self._still_narrow(by, self.known[0]):
                self.known[0] = still
                self.last = [still]
                return False
            self.known.pop(0)
        grown = offset(self.region, by, self.precision)
        self.known = self.narrow_in(grown)
        self.last = self.known[:1] or self.last
        return not self.known and not grown.is_empty

    def narrow_in(self, grown: Region) -> list[NarrowPlace]:
        """Where a grown region is too narrow, if anywhere."""
        # Only where strokes may be thinner are they measured.
        return some_narrow(grown.simple, self.limit)

    def last_narrow(self, amounts: Sequence[float], tried: int) -> int:
        """The last amount up to which the stroke stays too narrow that was so for the one that was tried."""
        place = self.known[0] if self.known else None
        if place is None or place.around is None:
            return tried
        if self.rest:
            self.rest -= 1
            return tried
        # With nothing beside it, it will do as soon as it has grown by half of what is wanting.
        wanting = amounts[tried] + (self.limit - place.width) / 2
        most = min(bisect_left(amounts, wanting), len(amounts) - 1) - 1
        step = 2
        while (ahead := min(tried + step, most)) > tried:
            still = self._still_narrow(amounts[ahead], place)
            if still is None or not _is_same(place, still, amounts[ahead] - amounts[tried]):
                # Where strokes move or touch all the time, looking ahead would only cost.
                self.pause = min(2 * self.pause, _LONGEST_PAUSE)
                self.rest = self.pause
                break
            tried, place, step, self.pause = ahead, still, 2 * step, 1
        self.known[0] = place
        return tried

    def _still_narrow(self, by: float, known: NarrowPlace) -> NarrowPlace | None:
        """Where it is too narrow once grown, at a place or near it, if it is.

        The same is found when all of it is grown, as nothing reaches the window from further away; the outline may be
        simplified in another way, so what is only just too narrow is left to whoever looks at all of it.
        """
        least = self.limit - 2 * SIMPLER
        window = shapely.buffer(window_at(known.at, least), by + SIMPLER, join_style="mitre")
        near = Region.of(shapely.intersection(self.region.area, window))
        if near.is_empty:
            return None
        return narrow_stroke_at(offset(near, by, self.precision).simple, least, known.at)


def _amounts(least: float, to: float) -> list[float]:
    """What is tried: half the width is enough for every stroke there is, but not for necks where two newly touch."""
    amounts = [least]
    while amounts[-1] < to:
        amounts.append(min(to, amounts[-1] + (_STEP if amounts[-1] < to / 2 else _COARSE)))
    return amounts


def _is_same(before: NarrowPlace, after: NarrowPlace, by: float) -> bool:
    """Whether a stroke stayed a narrow stroke all the time that it was grown by so much.

    Its middle was inside it, and it was no wider than it is now less what it has grown by. Where nothing came to touch
    and no hole closed around it, it has not been a mere tip meanwhile either.
    """
    moved = math.dist(after.at, before.at)
    wider = after.width - before.width - 2 * by
    return moved < before.width * _SAME and wider > -4 * SIMPLER and after.around == before.around


def _narrowest_free(measured: Measured, to: float) -> float:
    """Width of the thinnest stroke that has no gap or notch beside it that could fill up before it is ``to`` wide."""
    strokes, gaps = measured.strokes, measured.gaps
    thin = np.flatnonzero(strokes.width < to)
    narrow = gaps.bays_under(to)
    if narrow:
        beside = shapely.STRtree(narrow).query(
            shapely.points(strokes.place[thin]), predicate="dwithin", distance=strokes.width[thin] / 2 + to / 2
        )
        thin = np.delete(thin, np.unique(beside[0]))
    return float(strokes.width[thin].min()) if len(thin) else to
