"""A place is looked for, and what was found is said."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from time import monotonic

from tinhalo.core.artwork.library import Library
from tinhalo.core.design.design import Design
from tinhalo.core.engine.knockout import knockouts
from tinhalo.core.engine.seeking import PATIENCE, Answer, Glimpse, Help, Patience, Seeker, Sought, Wish
from tinhalo.core.findings.mends.mend import Change, FindPlace, Mend, ScaleArt, SetStep
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.placement.place_search import Pose
from tinhalo.core.runtime.memo import Memo
from tinhalo.core.units import Unit, length

#: The share of the time for each of several that are placed together, before the first one is tried elsewhere.
_EACH = 0.3


@dataclass(frozen=True)
class GoOn:
    """Where an earlier search of the same came to: the next one gives another place.

    Attributes:
        begin: how many batches of places it looked at.
        avoid: where it placed the art, and those before it.
        faults: slivers and necks at the last of these.
    """

    begin: int = 0
    avoid: tuple[Pose, ...] = ()
    faults: int | None = None


@dataclass(frozen=True)
class Placed:
    """What a search for a place came to.

    Attributes:
        design: with the art at the best place; None where that is no better than the one before.
        sentence: what was found, for the maker.
        offers: what would help, where no place is clean.
        faults: how many slivers and necks are left.
        go_on: where the next search goes on; None once every place was looked at.
    """

    design: Design | None
    sentence: str
    offers: tuple[Mend, ...]
    faults: int
    go_on: GoOn | None


@dataclass(frozen=True)
class Looking:
    """How far a search is.

    Attributes:
        share: of the time for it, 0 to 1.
        art: ids of what is looked for a place for.
        shown: the map that shows it at the place that is looked at, shape (2, 3).
        best: the best place so far, where it is another one than before.
    """

    share: float
    art: tuple[str, ...]
    shown: Floats
    best: Placed | None


def find_place(
    design: Design,
    change: FindPlace,
    library: Library,
    memo: Memo,
    go_on: GoOn | None = None,
    patience: Patience = PATIENCE,
) -> Iterator[Looking | Placed]:
    """Look for a place, batch by batch; ``Placed`` comes last.

    Args:
        design: the document, the one that an earlier search began with if this one goes on from it.
        change: what to look for.
        library: gives fonts by id.
        memo: results of earlier builds.
        go_on: of an earlier search.
        patience: how long.
    Raises:
        DesignError: when that step cuts no art away that can be moved by itself.
        CancelledError: once nobody waits for it, see ``runtime.cancellation``.
    """
    layer = next((one for one in design.layers if one.id == change.layer), None)
    cuts = knockouts(design, layer) if layer else {}
    steps = [change.step, *(step for step in cuts if change.together and step != change.step)]
    names = [(step, frozenset(one.id for one in art)) for step in steps for art in cuts.get(step, ())]
    if len(names) > 1:
        yield from _several(design, change, names, library, memo, go_on, patience)
    else:
        yield from _one(design, change, library, memo, go_on, patience)


def _one(
    design: Design, change: FindPlace, library: Library, memo: Memo, go_on: GoOn | None, patience: Patience
) -> Iterator[Looking | Placed]:
    began = monotonic()
    seeker = Seeker(design, library, change.layer, change.step, _wish(change), memo)
    # Getting ready is of the time that a person waits.
    left = replace(patience, seconds=max(0.0, patience.seconds - (monotonic() - began)))
    before = go_on or GoOn()

    def placed(sought: Sought) -> Placed:
        avoid = (*before.avoid, sought.answer.pose if sought.answer else Pose())
        # What went before stands if nothing better was found.
        faults = before.faults if sought.answer is None and before.faults is not None else sought.faults
        return Placed(
            design=seeker.placed(sought.answer) if sought.answer else None,
            sentence=_sentence(_names(seeker), sought, go_on, design.unit),
            offers=tuple(_offer(change, seeker, one, design.unit) for one in sought.helps),
            faults=faults,
            go_on=None if sought.ended else GoOn(sought.begin, avoid, faults),
        )

    ids = tuple(one.id for one in seeker.art)
    best: Answer | None = None
    for seen in seeker.seek(before.begin, before.avoid, before.faults, left):
        if isinstance(seen, Sought):
            yield placed(seen)
        else:
            better = seen.sought if seen.sought.answer != best else None
            best = seen.sought.answer
            yield Looking(seen.share, ids, seen.shown, placed(better) if better else None)


def _several(
    design: Design,
    change: FindPlace,
    names: Sequence[tuple[int, frozenset[str]]],
    library: Library,
    memo: Memo,
    go_on: GoOn | None,
    patience: Patience,
) -> Iterator[Looking | Placed]:
    """One name after the other, each clear of those that have their place; the first one elsewhere until all are clean.

    Args:
        design: the document.
        change: what to look for.
        names: each the step that cuts it away, and ids of its art.
        library: gives fonts by id.
        memo: results of earlier builds.
        go_on: of an earlier search.
        patience: how long.
    """
    until = monotonic() + patience.seconds
    avoid = go_on.avoid if go_on else ()
    best: tuple[int, Design] | None = None
    titles = ""
    while best is None or (best[0] and monotonic() < until):
        placed, left, called = design, 0, list[str]()
        again = avoid
        for index, (step, name) in enumerate(names):
            waiting = frozenset[str]().union(*(other for _, other in names[index + 1 :]))
            seeker = Seeker(placed, library, change.layer, step, _wish(change), memo, name, waiting)
            called.append(_names(seeker))
            share = min(_EACH * patience.seconds, max(0.0, until - monotonic()) / (len(names) - index))
            # Only the first one has to go elsewhere.
            elsewhere = again if index == 0 else ()
            for seen in seeker.seek(0, elsewhere, 0 if elsewhere else None, Patience(share, 0)):
                if isinstance(seen, Glimpse):
                    gone = min(1.0, max(0.0, 1 - (until - monotonic()) / patience.seconds))
                    yield Looking(gone, tuple(name), seen.shown, None)
                    continue
                left += seen.faults
                placed = seeker.placed(seen.answer)
                if index == 0:
                    avoid = (*avoid, seen.answer.pose if seen.answer else Pose())
        titles = ", ".join(called)
        if best is None or left < best[0]:
            best = left, placed
    left, placed = best
    sentence = f"{titles}: {_left(left)}." if left else f"{titles}: no slivers, no necks."
    yield Placed(None if placed == design else placed, sentence, (), left, GoOn(0, avoid, left))


def _wish(change: FindPlace) -> Wish:
    return Wish(change.limits, change.turn, change.smallest)


def _names(seeker: Seeker) -> str:
    return ", ".join(f"“{one.title or one.id}”" for one in seeker.art)


def _left(faults: int) -> str:
    return "one sliver or neck is left" if faults == 1 else f"{faults} slivers or necks are left"


def _sentence(name: str, sought: Sought, go_on: GoOn | None, unit: Unit) -> str:
    answer = sought.answer
    looked = "every place was looked at" if sought.ended else "there are more places to look at"
    if answer is None:
        if sought.now == 0 and go_on is None:
            return f"{name} stands well where it is: no slivers, no necks."
        if go_on and go_on.faults == 0:
            return f"No other clean place was found: {looked}."
        left = sought.now if go_on is None or go_on.faults is None else go_on.faults
        return f"No better place for {name} was found, {_left(left)}: {looked}."
    done = [f"moved by {length(answer.pose.far, unit)}"] if answer.pose.far else []
    done += [f"turned by {abs(answer.pose.turn):g}°"] if answer.pose.turn else []
    done += [f"made {100 * answer.size:.0f} % as large"] if answer.size != 1 else []
    moved = f"{name} is {' and '.join(done)}"
    if answer.faults == 0:
        return f"{moved}: no slivers, no necks."
    return f"{moved}: {_left(answer.faults)}, {looked}.{_why(sought)}"


def _why(sought: Sought) -> str:
    """What stands in the way, as far as what helps tells."""
    large = [one for one in sought.helps if one.factor is not None]
    wide = [one for one in sought.helps if one.step is not None]
    causes = ["it is too long" if not sought.covered else "it is too tall"] if large else []
    causes += ["the channel is too wide"] if wide else []
    return f" Maybe {' or '.join(causes)}." if causes else ""


def _offer(change: FindPlace, seeker: Seeker, help: Help, unit: Unit) -> Mend:
    """What helps, and a place found then."""
    find = change.model_copy(update={"smallest": 1.0})
    first: list[Change]
    if help.step is not None:
        first = [SetStep.of(change.layer, help.step, change.step)]
        title = f"Channel {length(round(help.by, 1), unit)} narrower"
    else:
        first = [ScaleArt(art=one.id, factor=help.factor or 1) for one in seeker.art]
        title = f"{length(round(help.by, 1), unit)} smaller"
    return Mend(title=title, changes=(*first, find))
