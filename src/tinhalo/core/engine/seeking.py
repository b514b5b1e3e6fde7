"""A place for art that is knocked out of other art, looked for step by step."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass
from itertools import islice, product
from time import monotonic

from tinhalo.core.artwork.kinds import AnyArt
from tinhalo.core.artwork.library import Library
from tinhalo.core.design.design import Design
from tinhalo.core.engine.knockout import Knockout, with_art_at, with_art_scaled, with_step
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.placement.place_search import Letters, PlaceSearch, Pose
from tinhalo.core.geometry.placement.slivers import SliverLimits
from tinhalo.core.geometry.regions.region import CRUMB_AREA
from tinhalo.core.recipe.combine_steps import Subtract
from tinhalo.core.recipe.offset_step import Offset
from tinhalo.core.runtime.cancellation import checkpoint
from tinhalo.core.runtime.memo import Memo

#: Degrees between turns that are tried.
_TURN_STEP = 2.0
#: Each size that is tried is this share of the one before, down to the last.
_SMALLER, _SMALLEST = 0.94, 0.5
#: Channels that are tried where nothing is clean are so wide, as shares of how wide they are.
_WIDTHS = (0.8, 0.6, 0.4)
#: More faults than this are not told apart.
_MANY = 12
#: So many places of a batch are counted at the exact outlines, unless it is looked closely.
_FEW = 2


@dataclass(frozen=True)
class Wish:
    """What is asked of a place.

    Attributes:
        limits: what counts as a sliver.
        turn: how far the art may be turned, in degrees either way.
        smallest: how small it may be made, as a share of its size.
    """

    limits: SliverLimits
    turn: float = 0
    smallest: float = 1


@dataclass(frozen=True)
class Patience:
    """How long is looked: five seconds in all, with what the last batch takes.

    Attributes:
        seconds: for places.
        helping: seconds more for what would help where none is clean.
    """

    seconds: float = 3.8
    helping: float = 0.7


PATIENCE = Patience()


@dataclass(frozen=True)
class Answer:
    """One place.

    Attributes:
        size: share of its size that the art is made.
        pose: where that is moved to, about ``pivot``.
        pivot: middle of what is cut away, before it is moved, in mm.
        faults: how many slivers and necks are left there, at the exact outlines.
    """

    size: float
    pose: Pose
    pivot: tuple[float, float]
    faults: int


@dataclass(frozen=True)
class Help:
    """What would leave a clean place: the art made smaller, or less cut away around it.

    Attributes:
        factor: of the art's size, or None.
        step: the step with a narrower channel, or None.
        by: how much less tall the art or how much narrower the channel is on either side, in mm.
    """

    factor: float | None
    step: Subtract | None
    by: float


@dataclass(frozen=True)
class Sought:
    """What a search came to.

    Attributes:
        answer: the best place, None where no place is better than where the art is.
        now: faults where the art is.
        begin: how many batches of places were looked at; a search that goes on from there gives another place.
        ended: whether all were.
        covered: whether all ends of the words can lie on the letters.
        helps: what would help, where no place is clean.
    """

    answer: Answer | None
    now: int
    begin: int = 0
    ended: bool = False
    covered: bool = True
    helps: tuple[Help, ...] = ()

    @property
    def faults(self) -> int:
        """How many slivers and necks are left at the best place."""
        return self.now if self.answer is None else self.answer.faults


@dataclass(frozen=True)
class Glimpse:
    """How far a search is.

    Attributes:
        share: of the time for it, 0 to 1.
        shown: the map that shows the art at the place that is looked at, shape (2, 3).
        sought: what it has come to so far.
    """

    share: float
    shown: Floats
    sought: Sought


class Seeker:
    """Looks for a place for a name that one step of a layer cuts away."""

    def __init__(
        self,
        design: Design,
        library: Library,
        layer: str,
        step: int,
        wish: Wish,
        memo: Memo,
        name: Collection[str] = (),
        without: Collection[str] = (),
    ) -> None:
        """Prepare it, see ``Knockout``; what else is cut away stays where it is.

        Raises:
            DesignError: when that step cuts no art away that can be moved by itself.
        """
        self._design, self._library, self._layer, self._step = design, library, layer, step
        self._wish, self._memo, self._name, self._without = wish, memo, name, without
        self._cut = self._knockout(design)
        self._letters = [Letters(self._cut.block, self._cut.limits, closely=closely) for closely in (False, True)]
        self._ids = frozenset(one.id for one in self._cut.art)

    @property
    def art(self) -> tuple[AnyArt, ...]:
        """What is moved."""
        return self._cut.art

    def seek(
        self,
        begin: int = 0,
        avoid: Sequence[Pose] = (),
        fewest: int | None = None,
        patience: Patience = PATIENCE,
    ) -> Iterator[Glimpse | Sought]:
        """Look batch by batch until a place is clean or the time is over; ``Sought`` comes last.

        Args:
            begin: how many batches are left out, as ``Sought.begin`` of an earlier search of the same has it.
            avoid: poses that are not wanted any more, those of earlier answers.
            fewest: faults at the last of these: a place is better if it has fewer, or none like that.
            patience: how long.
        Raises:
            CancelledError: once nobody waits for it, see ``runtime.cancellation``.
        """
        start = monotonic()
        # Beside the letters nothing is cut, which is no place either.
        astray = self._cut.channel.area.intersection(self._cut.block.area).area < CRUMB_AREA
        now = _MANY if astray else self._cut.faults(Pose(), self._cut.pivot)
        if fewest is None and now == 0:
            yield Sought(None, 0)
            return
        best: Answer | None = None
        least = max(1, now if fewest is None else fewest)
        looked, ended, covered = 0, True, False
        for size, closely, cut, search in self._searches(avoid):
            covered = covered or search.covered
            for batch in range(len(search)):
                looked += 1
                if looked <= begin:
                    continue
                checkpoint()
                candidates = search.look(batch, min(least, _MANY) - 1)
                for candidate in islice(candidates, None if closely else _FEW):
                    faults = cut.faults(candidate.pose, cut.pivot, least - 1)
                    if faults < least:
                        least, best = faults, Answer(size, candidate.pose, cut.pivot, faults)
                    if faults == 0:
                        # There may be more in this batch.
                        yield Sought(best, now, looked - 1, False, covered)
                        return
                    if monotonic() - start > patience.seconds:
                        break
                so_far = Sought(best, now, looked, False, covered)
                share = (monotonic() - start) / max(patience.seconds, 1e-3)
                yield Glimpse(min(1.0, share), self.shown(size, search.pose_of(batch)), so_far)
                if share > 1:
                    ended = False
                    break
            if not ended:
                break
        until = start + patience.seconds + patience.helping
        helps = tuple(self._helps(until)) if least > 0 and fewest != 0 else ()
        yield Sought(best, now, looked, ended, covered, helps)

    def placed(self, answer: Answer | None) -> Design:
        """The design with the art at a place."""
        if answer is None:
            return self._design
        design = with_art_scaled(self._design, self._ids, answer.size)
        return with_art_at(design, self._ids, answer.pose, answer.pivot)

    def shown(self, size: float, pose: Pose) -> Floats:
        """The map that shows the art at a size and a pose, shape (2, 3)."""
        matrix = pose.matrix(self._cut.pivot)
        matrix[:, 2] += (1 - size) * (matrix[:, :2] @ self._cut.pivot)
        matrix[:, :2] *= size
        return matrix

    def _knockout(self, design: Design) -> Knockout:
        limits = self._wish.limits
        return Knockout(design, self._library, self._layer, self._step, limits, self._memo, self._name, self._without)

    def _sizes(self) -> list[float]:
        sizes = [1.0]
        while sizes[-1] * _SMALLER >= self._wish.smallest:
            sizes.append(sizes[-1] * _SMALLER)
        return sizes

    def _searches(self, avoid: Sequence[Pose]) -> Iterator[tuple[float, bool, Knockout, PlaceSearch]]:
        """Searches in the order in which a place is wanted, each with its size and whether to look closely.

        Straight ones come before turned ones, and a rough look at all before a close one. Where the ends of the words
        lie on letters nowhere, they are left out of account.
        """
        covered = False
        steps = range(1, int(self._wish.turn / _TURN_STEP) + 1)
        turned = [sign * _TURN_STEP * k for k in steps for sign in (1, -1)] if steps and self._cut.turns else []
        ways = [[0.0], turned] if turned else [[0.0]]
        for closely in (False, True):
            for turns, size in product(ways, self._sizes()):
                cut, search = self._search(size, turns, avoid, closely=closely)
                covered = covered or search.covered
                if search.covered:
                    yield size, closely, cut, search
        if not covered:
            yield 1, True, *self._search(1, [0.0, *turned], avoid, closely=True)

    def _search(
        self, size: float, turns: Sequence[float], avoid: Sequence[Pose] = (), *, closely: bool = False
    ) -> tuple[Knockout, PlaceSearch]:
        cut = self._cut if size == 1 else self._knockout(with_art_scaled(self._design, self._ids, size))
        letters = self._letters[closely]
        return cut, PlaceSearch(letters, cut.channel, cut.ends, cut.pivot, turns, avoid, cut.taken)

    def _helps(self, until: float) -> Iterator[Help]:
        """What leaves a clean place with the art as straight as it is: the least that does of either kind."""
        size = self._sizes()[-1] * _SMALLER
        while size > _SMALLEST and monotonic() < until:
            cut, search = self._search(size, [0.0])
            if search.covered and _any_clean(cut, search, until):
                yield Help(size, None, self._cut.height - cut.height)
                break
            size *= _SMALLER
        for share in _WIDTHS:
            narrower = self._narrower(share)
            if narrower is None or monotonic() > until:
                return
            step, by = narrower
            cut = self._knockout(with_step(self._design, self._layer, self._step, step))
            search = PlaceSearch(self._letters[False], cut.channel, cut.ends, cut.pivot, taken=cut.taken)
            if _any_clean(cut, search, until):
                yield Help(None, step, by)
                return

    def _narrower(self, share: float) -> tuple[Subtract, float] | None:
        """The step with its channel narrower by a share, and by how many mm on either side."""
        step = self._cut.step
        grown = next((one for one in step.operand.steps if isinstance(one, Offset) and one.by > 0), None)
        if grown is None:
            return None
        by = round(grown.by * share, 2)
        steps = tuple(one.model_copy(update={"by": by}) if one is grown else one for one in step.operand.steps)
        return step.model_copy(update={"operand": step.operand.model_copy(update={"steps": steps})}), grown.by - by


def _any_clean(cut: Knockout, search: PlaceSearch, until: float) -> bool:
    for batch in range(len(search)):
        checkpoint()
        if monotonic() > until:
            return False
        if any(cut.faults(one.pose, cut.pivot, 0) == 0 for one in search.look(batch, 0)):
            return True
    return False
