"""Mends are made, and what they bring along is mended with them."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from functools import singledispatch
from math import dist
from typing import Any

from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.design.design import Design, Layer
from tinhalo.core.design.problems import DesignError, Problem, parse_design
from tinhalo.core.engine.build import Library
from tinhalo.core.engine.knockout import seek_place
from tinhalo.core.engine.resize import scaled
from tinhalo.core.findings.finding import Finding, Kind
from tinhalo.core.findings.mends.mend import (
    Change,
    CloseUp,
    FindPlace,
    LaySheet,
    LowerMarks,
    Mend,
    ScaleAll,
    SetFont,
    SetProcess,
    SetSources,
    SetStep,
    ShareCut,
)
from tinhalo.core.findings.survey import findings_of
from tinhalo.core.geometry.placement.find_place import SliverLimits
from tinhalo.core.recipe.bridge_step import Bridge
from tinhalo.core.runtime.cancellation import checkpoint, given_up
from tinhalo.core.runtime.memo import Memo

#: Findings whose places come this near each other are of the same thing, in mm.
_NEAR = 0.5
#: So near each other beside the same letter, in sizes of the words, they are of the same thing wherever that is moved.
_NEAR_LETTER = 0.02
#: A piece that gets lost one way or the other.
_LOST: frozenset[Kind] = frozenset({"loose_piece", "drop_out", "sliver"})
#: So many further mends are made at most, and so many tried for each.
_MOST_FURTHER, _MOST_TRIED = 4, 6


@dataclass(frozen=True)
class Mended:
    """A design after a mend.

    Attributes:
        design: it.
        told: what a search found, for the maker, if the mend was one.
    """

    design: Design
    told: str | None = None


@dataclass(frozen=True)
class Followed:
    """What a change brought along.

    Attributes:
        design: the design with that mended where it can be.
        also: titles of the mends that this took.
        brought: open findings that are still new.
    """

    design: Design
    also: tuple[str, ...]
    brought: tuple[Finding, ...]


def mended(
    design: Design, mend: Mend, library: Library, memo: Memo, cancelled: Callable[[], bool] = lambda: False
) -> Mended:
    """The design with the changes of a mend.

    Args:
        design: the document.
        mend: what one of its findings offers.
        library: gives fonts by id, for a search.
        memo: results of earlier builds, the same.
        cancelled: asked now and then whether the result is still wanted.
    Raises:
        DesignError: when a layer or words of it are not there any more.
        CancelledError: once ``cancelled`` says so.
    """
    told: str | None = None
    for change in mend.changes:
        if isinstance(change, FindPlace):
            sliver = SliverLimits(change.least_area, change.least_width)
            sought = seek_place(design, library, change.layer, change.step, sliver, memo, cancelled)
            told = sought.sentence
            dx, dy = sought.found.dx, sought.found.dy
            if dx or dy:
                design = _with_art(design, sought.art, lambda art, dx=dx, dy=dy: _moved(art, dx, dy))
        else:
            design = _changed(change, design)
    # One step more may be one too many.
    return Mended(parse_design(design.model_dump(mode="json", by_alias=True)), told)


def follow_up(
    before: Design, after: Design, library: Library, memo: Memo, enough: Callable[[], bool] = lambda: False
) -> Followed:
    """Mend what a change brought along: findings that were not there before.

    Steps only are added, each the first offered for a new finding that leaves fewer of them.

    Args:
        before: the design before the change.
        after: the same after it.
        library: gives fonts by id.
        memo: results of earlier builds and checks, to use and add to.
        enough: asked before each further try: once it is true, what is left is told only.
    Raises:
        CancelledError: once nobody waits for it, see ``runtime.cancellation``.
    """

    def found(design: Design) -> list[Finding]:
        return [one for one in findings_of(design, library, memo, given_up.get()) if one.open]

    first, now = found(before), found(after)
    kept = [one for one in first if any(alike(one, other) for other in now)]
    ended = [one for one in first if not any(_at_one_place(one, other) for other in now)]
    also: list[str] = []
    new = _new(now, kept)
    while new and len(also) < _MOST_FURTHER:
        for mend in _further(new):
            checkpoint()
            if enough():
                return Followed(after, tuple(also), tuple(new))
            tried = mended(after, mend, library, memo).design
            then = found(tried)
            left = _new(then, kept)
            # What the change ended has to stay away.
            back = any(_at_one_place(one, other) for one in ended for other in then)
            if len(left) < len(new) and not back:
                after, new = tried, left
                also.append(mend.title)
                break
        else:
            break
    return Followed(after, tuple(also), tuple(new))


def alike(one: Finding, other: Finding) -> bool:
    """Whether two findings are of the same thing, though it may have moved or grown a little."""
    if one.layer != other.layer or (one.kind != other.kind and not {one.kind, other.kind} <= _LOST):
        return False
    if one.at is None or other.at is None:
        return one.at == other.at
    if _beside_one_letter(one, other):
        return True
    a, b = _box(one), _box(other)
    return all(a[k] <= b[k + 2] + _NEAR and b[k] <= a[k + 2] + _NEAR for k in (0, 1))


def _beside_one_letter(one: Finding, other: Finding) -> bool:
    a, b = one.spot, other.spot
    if a is None or b is None or (a.art, a.letter) != (b.art, b.letter):
        return False
    return dist((a.x, a.y), (b.x, b.y)) < _NEAR_LETTER


def _at_one_place(one: Finding, other: Finding) -> bool:
    """Whether two findings are of the same kind, and at the same place to the letter."""
    if (one.kind, one.layer) != (other.kind, other.layer) or one.at is None or other.at is None:
        return (one.kind, one.layer, one.at) == (other.kind, other.layer, other.at)
    return dist(one.at, other.at) < _NEAR


def _box(finding: Finding) -> tuple[float, float, float, float]:
    points = [point for ring in finding.outline for point in ring] + ([finding.at] if finding.at else [])
    x, y = zip(*points, strict=True)
    return (min(x), min(y), max(x), max(y))


def _new(found: Sequence[Finding], known: Sequence[Finding]) -> list[Finding]:
    new = [one for one in found if not any(alike(one, other) for other in known)]
    # Which of two pieces is told to be loose only depends on which is the larger one.
    loose, were = (Counter(one.layer for one in some if one.kind == "loose_piece") for some in (found, known))
    return [one for one in new if one.kind != "loose_piece" or loose[one.layer] > were[one.layer]]


def _further(findings: Sequence[Finding]) -> Iterator[Mend]:
    """Mends of findings that only change steps, each once, those offered first before others."""
    offered = [[mend for mend in one.mends if all(map(_modest, mend.changes))] for one in findings]
    ranked = [mends[rank] for rank in range(max(map(len, offered))) for mends in offered if rank < len(mends)]
    distinct = list({mend.model_dump_json(): mend for mend in ranked}.values())
    yield from distinct[:_MOST_TRIED]


def _modest(change: Change) -> bool:
    """Whether a change may be made unasked: words stay as they are, and pieces are not all joined to one another."""
    if not isinstance(change, SetStep):
        return False
    return not isinstance(change.step, Bridge) or change.step.only is not None


@singledispatch
def _changed(change: Change, design: Design) -> Design:
    """The design after a change that takes no search."""
    raise NotImplementedError(type(change).__name__)


@_changed.register
def _(change: SetStep, design: Design) -> Design:
    return _with_layer(design, change.layer, lambda layer: _with_step(layer, change))


@_changed.register
def _(change: SetProcess, design: Design) -> Design:
    return _with_layer(design, change.layer, lambda layer: layer.model_copy(update={"process": change.process}))


@_changed.register
def _(change: SetSources, design: Design) -> Design:
    return _with_layer(design, change.layer, lambda layer: _with_recipe(layer, {"sources": change.sources}))


@_changed.register
def _(change: ShareCut, design: Design) -> Design:
    return _with_layer(design, change.layer, lambda layer: _sharing(layer, change.cut_with))


@_changed.register
def _(change: CloseUp, design: Design) -> Design:
    return _with_art(design, change.art, lambda art: art.model_copy(update={"join": change.join}))


@_changed.register
def _(change: LowerMarks, design: Design) -> Design:
    return _with_art(design, change.art, lambda art: _lowered(art, change.letter, change.overlap))


@_changed.register
def _(change: SetFont, design: Design) -> Design:
    # Another font's axes and features are others.
    font: dict[str, Any] = {"font": change.font, "axes": {}, "features": {}}
    return _with_art(design, change.art, lambda art: art.model_copy(update=font))


@_changed.register
def _(change: LaySheet, design: Design) -> Design:
    return design.model_copy(update={"sheet": change.sheet})


@_changed.register
def _(change: ScaleAll, design: Design) -> Design:
    return scaled(design, change.factor, "scaled")


def _with_step(layer: Layer, change: SetStep) -> Layer:
    steps = [*layer.recipe.steps]
    at = len(steps) if change.at is None else change.at
    steps[at : at + 1] = [change.step]
    return _with_recipe(layer, {"steps": tuple(steps)})


def _with_recipe(layer: Layer, update: dict[str, Any]) -> Layer:
    return layer.model_copy(update={"recipe": layer.recipe.model_copy(update=update)})


def _sharing(layer: Layer, other: str) -> Layer:
    return layer.model_copy(update={"cut_with": tuple(dict.fromkeys((*layer.cut_with, other)))})


def _lowered(art: Lettering, letter: int, overlap: float) -> Lettering:
    return art.model_copy(update={"lowered": art.lowered | {str(letter): overlap}})


def _moved(art: Lettering, dx: float, dy: float) -> Lettering:
    place = art.place.model_copy(update={"x": art.place.x + dx, "y": art.place.y + dy})
    return art.model_copy(update={"place": place})


def _with_layer(design: Design, id: str, change: Callable[[Layer], Layer]) -> Design:
    if not any(one.id == id for one in design.layers):
        raise DesignError([Problem("layers", f"The layer “{id}” is not there any more.")])
    layers = tuple(change(one) if one.id == id else one for one in design.layers)
    return design.model_copy(update={"layers": layers})


def _with_art(design: Design, id: str, change: Callable[[Lettering], Lettering]) -> Design:
    if not any(one.id == id for one in design.art):
        raise DesignError([Problem("art", f"The words “{id}” are not there any more.")])
    return design.model_copy(update={"art": tuple(change(one) if one.id == id else one for one in design.art)})
