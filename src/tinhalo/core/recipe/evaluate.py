"""Work out a recipe's region, step by step, each result kept by its content."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import cast

import numpy as np

from tinhalo.core.document.anchor import Anchor
from tinhalo.core.geometry.arrays import XY
from tinhalo.core.geometry.curves.precision import Precision
from tinhalo.core.geometry.regions.overlay import union
from tinhalo.core.geometry.regions.region import NO_MARKS, Region
from tinhalo.core.geometry.regions.selection import without_specks
from tinhalo.core.geometry.strokes.widths import Measured, measure
from tinhalo.core.recipe.apart import run
from tinhalo.core.recipe.failure import PATIENCE, Failure, Why, attempted
from tinhalo.core.recipe.recipe import Recipe
from tinhalo.core.recipe.step import Nested, Step, StepError, StepNote, holding
from tinhalo.core.runtime.cancellation import checkpoint
from tinhalo.core.runtime.memo import Memo, digest


@dataclass(frozen=True)
class Named:
    """A source's region with the key of its content."""

    key: str
    region: Region


@dataclass(frozen=True)
class Cooked:
    """What a recipe gave.

    Attributes:
        key: key of the content: equal keys mean equal regions.
        region: the result.
        emptied_by: index of the step after which nothing was left of a region that was there, if any.
        stages: the region before the first step and after each.
        failures: steps that could not be worked out: the region after them is the one before.
    """

    key: str
    region: Region
    emptied_by: int | None
    stages: tuple[Named, ...]
    failures: tuple[Failure, ...] = ()


class Evaluator:
    """Evaluates recipes; a step runs again only when it or what goes into it has changed.

    Args:
        source: gives the region of an art block or layer by its id.
        precision: how finely curves are drawn; part of every key.
        memo: where results are kept between evaluations.
        place: gives the place of an anchor in mm.
        middle: gives the middle of all art in mm.
        patience: seconds that a step may take before it is given up.
    """

    def __init__(
        self,
        source: Callable[[str], Named],
        precision: Precision,
        memo: Memo,
        place: Callable[[Anchor], XY | None] = lambda anchor: None,
        middle: Callable[[], XY] = lambda: (0.0, 0.0),
        patience: float = PATIENCE,
    ) -> None:
        self._source = source
        self._place = place
        self._middle = middle
        self.precision = precision
        self._memo = memo
        self._patience = patience

    def cook(self, recipe: Recipe) -> Region:
        """The region of a (nested) recipe.

        Raises:
            StepError: when one of its steps could not be worked out.
        """
        cooked = self.evaluate(recipe)
        for failure in cooked.failures:
            raise StepError(f"takes from what could not be made: its own step {failure.step + 1} {failure.why}")
        return cooked.region

    def evaluate(self, recipe: Recipe) -> Cooked:
        """The region of a recipe, with its key and where it became empty."""
        named = [self._source(name) for name in recipe.sources]
        if len(named) == 1:
            key, region = named[0].key, named[0].region
        else:
            key = digest("union", *[n.key for n in named])
            region = self._memo.get(key, Region, lambda: union([n.region for n in named]))
        emptied_by: int | None = None
        stages = [Named(key, region)]
        failures: list[Failure] = []
        for index, step in enumerate(recipe.steps):
            checkpoint()
            before = region
            if not step.off:
                made = digest(key, *self._step_parts(step))
                worker = _Worker(self, stages[-1])
                why = self._memo.peek(("failed", made), Why)
                if why is None:
                    try:
                        region = self._memo.get(
                            made, Region, lambda s=step, b=before, w=worker: _applied(s, b, w, self._patience)
                        )
                        key = made
                    except StepError as error:
                        why = self._memo.get(("failed", made), Why, lambda e=error: Why(str(e)))
                if why is not None:
                    failures.append(Failure(index, why.sentence))
            stages.append(Named(key, region))
            if region.is_empty and not before.is_empty:
                emptied_by = index
        return Cooked(key, region, emptied_by if region.is_empty else None, tuple(stages), tuple(failures))

    def measured(self, named: Named) -> Measured:
        """Widths of a region, kept by its key."""
        return measured(named.key, named.region, self._memo)

    def growth(self, step: Step, before: Named) -> float | None:
        """How much a step grows a region all round, where it finds that out by itself; kept."""
        key = digest("growth", before.key, *self._step_parts(step))
        worker = _Worker(self, before)
        return self._memo.get(key, _Growth, lambda: _Growth(run(step, "find_growth", before.region, worker))).by

    def note(self, step: Step, before: Named, after: Named) -> StepNote | None:
        """What a step did; kept."""
        if step.off or type(step).note is Step.note:
            return None
        # The key of what came after already says what went in and which step it was.
        key = ("note", after.key)
        worker = _Worker(self, before)
        return self._memo.get(key, _Told, lambda: _Told(step.note(before.region, after.region, worker))).note

    def place(self, anchor: Anchor) -> XY | None:
        """Where an anchor is, in mm; None when its part is not there any more."""
        return self._place(anchor)

    @property
    def middle(self) -> XY:
        """The middle of all art, in mm."""
        return self._middle()

    def _step_parts(self, step: Step) -> list[str]:
        """A step's own fields, and what its recipes and anchors come to: not what these are called."""
        held = holding(type(step))
        parts = [step.model_dump_json(exclude={"off", *held})]
        for name, holds in held.items():
            value = getattr(step, name)
            # Nothing picked is not the same as nothing said about it.
            if value is not None:
                told = self.evaluate(value).key if holds == "recipe" else str([self.place(one) for one in value])
                parts += [name, told]
        return [*parts, str(self.middle)] if step.goes_by_middle else parts


def _applied(step: Step, region: Region, worker: _Worker, patience: float) -> Region:
    """The region after a step, without specks; marks that the step does not change are carried on."""
    if step.handles_marks or not len(region.marks):
        return without_specks(attempted(step, region, worker, patience))
    made = without_specks(attempted(step, region.with_marks(NO_MARKS), worker, patience))
    return made.with_marks(np.concatenate([region.marks, made.marks]))


@dataclass(frozen=True)
class _Told:
    note: StepNote | None
    nbytes: int = 300


@dataclass(frozen=True)
class _Growth:
    by: float | None
    nbytes: int = 100


class _Worker:
    """What one step may ask for: the evaluator's help, with the widths of its own region kept."""

    def __init__(self, evaluator: Evaluator, before: Named) -> None:
        self._evaluator = evaluator
        self._before = before

    @property
    def precision(self) -> Precision:
        return self._evaluator.precision

    def cook(self, recipe: Nested) -> Region:
        return self._evaluator.cook(cast(Recipe, recipe))

    def growth(self, step: Step) -> float | None:
        return self._evaluator.growth(step, self._before)

    def place(self, anchor: Anchor) -> XY | None:
        return self._evaluator.place(anchor)

    @property
    def middle(self) -> XY:
        return self._evaluator.middle

    def measure(self, region: Region) -> Measured:
        checkpoint()
        if region is self._before.region:
            return self._evaluator.measured(self._before)
        return measure(region)


def measured(key: str, region: Region, memo: Memo) -> Measured:
    """Widths of a region, kept in the memo by the key of its content."""
    return memo.get(("widths", key), Measured, lambda: measure(region))
