"""What a mend brings along is mended with it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from math import dist

from tinhalo.core.artwork.library import Library
from tinhalo.core.design.design import Design
from tinhalo.core.findings.finding import Finding, Kind
from tinhalo.core.findings.mends.changes import mended
from tinhalo.core.findings.mends.mend import Change, Mend, SetStep
from tinhalo.core.findings.survey import findings_of
from tinhalo.core.recipe.bridge_step import Bridge
from tinhalo.core.runtime.cancellation import checkpoint
from tinhalo.core.runtime.memo import Memo

#: Findings whose places come this near each other are of the same thing, in mm.
_NEAR = 0.5
#: So near each other beside the same part, in sizes of the art, they are of the same thing wherever that is moved.
_NEAR_PART = 0.02
#: A piece that gets lost one way or the other.
_LOST: frozenset[Kind] = frozenset({"loose_piece", "drop_out", "sliver"})
#: So many further mends are made at most, and so many tried for each.
_MOST_FURTHER, _MOST_TRIED = 4, 6


@dataclass(frozen=True)
class Followed:
    """What a change brought along.

    Attributes:
        design: the design with that mended where it can be.
        also: titles of the mends that this took.
        brought: open findings that are still new.
        left: findings that the change was to end, and that are still there.
    """

    design: Design
    also: tuple[str, ...]
    brought: tuple[Finding, ...]
    left: tuple[Finding, ...] = ()


def follow_up(
    before: Design,
    after: Design,
    library: Library,
    memo: Memo,
    enough: Callable[[], bool] = lambda: False,
    cause: str | None = None,
) -> Followed:
    """Mend what a change brought along: findings that were not there before, and what it was to end and did not.

    Steps only are added, each the first offered for one of these findings that leaves fewer of them.

    Args:
        before: the design before the change.
        after: the same after it.
        library: gives fonts by id.
        memo: results of earlier builds and checks, to use and add to.
        enough: asked before each further try: once it is true, what is left is told only.
        cause: of the findings that the change was to end.
    Raises:
        CancelledError: once nobody waits for it, see ``runtime.cancellation``.
    """

    def found(design: Design) -> list[Finding]:
        return [one for one in findings_of(design, library, memo) if one.open]

    first, now = found(before), found(after)
    meant = [one for one in first if one.cause == cause]
    kept = [one for one in first if any(alike(one, other) for other in now)]
    ended = [one for one in first if not any(_at_one_place(one, other) for other in now)]
    also: list[str] = []
    new, left = _new(now, kept, first), _still(now, meant)
    while (new or left) and len(also) < _MOST_FURTHER:
        for mend in _further([*left, *new]):
            checkpoint()
            if enough():
                return Followed(after, tuple(also), tuple(new), tuple(left))
            tried = mended(after, mend, library, memo)
            then = found(tried)
            fewer, lefter = _new(then, kept, first), _still(then, meant)
            # What the change ended has to stay away.
            back = any(_at_one_place(one, other) for one in ended for other in then)
            better = (len(lefter) + len(fewer), len(lefter)) < (len(left) + len(new), len(left))
            if better and len(lefter) <= len(left) and not back:
                after, new, left = tried, fewer, lefter
                also.append(mend.title)
                break
        else:
            break
    return Followed(after, tuple(also), tuple(new), tuple(left))


def _still(found: Sequence[Finding], meant: Sequence[Finding]) -> list[Finding]:
    """Findings of the kind that was to end, where one of these was."""
    return [one for one in found if any(one.kind == other.kind and alike(one, other) for other in meant)]


def alike(one: Finding, other: Finding) -> bool:
    """Whether two findings are of the same thing, though it may have moved or grown a little."""
    if one.layer != other.layer or (one.kind != other.kind and not {one.kind, other.kind} <= _LOST):
        return False
    if one.at is None or other.at is None:
        return (one.at, one.art) == (other.at, other.art)
    if _beside_one_part(one, other):
        return True
    a, b = _box(one), _box(other)
    return all(a[k] <= b[k + 2] + _NEAR and b[k] <= a[k + 2] + _NEAR for k in (0, 1))


def _beside_one_part(one: Finding, other: Finding) -> bool:
    a, b = one.spot, other.spot
    if a is None or b is None or (a.art, a.part) != (b.art, b.part):
        return False
    return dist((a.x, a.y), (b.x, b.y)) < _NEAR_PART


def _at_one_place(one: Finding, other: Finding) -> bool:
    """Whether two findings are of the same kind, and at exactly the same place."""
    if (one.kind, one.layer) != (other.kind, other.layer) or one.at is None or other.at is None:
        return (one.kind, one.layer, one.at) == (other.kind, other.layer, other.at)
    return dist(one.at, other.at) < _NEAR


def _box(finding: Finding) -> tuple[float, float, float, float]:
    points = [point for ring in finding.outline for point in ring] + ([finding.at] if finding.at else [])
    x, y = zip(*points, strict=True)
    return (min(x), min(y), max(x), max(y))


def _new(found: Sequence[Finding], known: Sequence[Finding], first: Sequence[Finding]) -> list[Finding]:
    new = [one for one in found if not any(alike(one, other) for other in known)]
    # Which of two pieces is told to be loose depends on which is the larger one, and which way on how it lies.
    lost, were = (Counter(one.layer for one in some if one.kind in _LOST) for some in (found, first))
    return [one for one in new if one.kind not in _LOST or lost[one.layer] > were[one.layer]]


def _further(findings: Sequence[Finding]) -> Iterator[Mend]:
    """Mends of findings that only change steps, each once, those offered first before others."""
    offered = [[mend for mend in one.mends if all(map(_modest, mend.changes))] for one in findings]
    ranked = [mends[rank] for rank in range(max(map(len, offered))) for mends in offered if rank < len(mends)]
    distinct = list({mend.model_dump_json(): mend for mend in ranked}.values())
    yield from distinct[:_MOST_TRIED]


def _modest(change: Change) -> bool:
    """Whether a change may be made unasked: art stays as it is, and pieces are not all joined to one another."""
    if not isinstance(change, SetStep):
        return False
    return not isinstance(change.step, Bridge) or change.step.only is not None
