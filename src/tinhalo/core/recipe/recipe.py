"""A recipe: sources, then steps in order."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import TYPE_CHECKING, Annotated, Any, ClassVar, cast

from pydantic import ConfigDict, Field, field_validator

from tinhalo.core.document.anchor import Anchor
from tinhalo.core.document.base import Strict
from tinhalo.core.recipe.step import Step

if TYPE_CHECKING:
    # All that are listed in ``kinds``, which need recipes themselves.
    AnyStep = Step


class Recipe(Strict):
    """Where a region comes from.

    ``from`` names art or other layers, which are united; ``steps`` are then applied one after the other.
    """

    model_config = ConfigDict(populate_by_name=True)
    #: Tells steps which of their fields hold recipes.
    holds_sources: ClassVar[bool] = True

    sources: Annotated[tuple[str, ...], Field(alias="from", max_length=200)] = ()
    steps: Annotated[tuple[AnyStep, ...], Field(max_length=100)] = ()

    def named(self) -> Iterator[str]:
        """Every source named anywhere in the recipe, nested operands included."""
        yield from self.sources
        for step in self.steps:
            for operand in step.operands():
                yield from operand.named()

    @property
    def depth(self) -> int:
        """How many recipes stand inside one another: 1 of one without operands."""
        return 1 + max((operand.depth for step in self.steps for operand in step.operands()), default=0)

    @property
    def count(self) -> int:
        """Steps of all recipes in it."""
        return len(self.steps) + sum(operand.count for step in self.steps for operand in step.operands())

    @field_validator("steps", mode="before")
    @classmethod
    def _as_now(cls, steps: Any) -> Any:
        """Steps of before: “outside” is “fill_holes” without a limit."""
        if not isinstance(steps, list | tuple):
            return steps
        return [_renamed(step) for step in cast("Sequence[Any]", steps)]

    def anchors(self) -> Iterator[Anchor]:
        """Every place on a part of some art that the recipe refers to, nested operands included."""
        for step in self.steps:
            yield from step.anchors()
            for operand in step.operands():
                yield from operand.anchors()


def _renamed(step: Any) -> Any:
    if not isinstance(step, dict):
        return step
    given = cast("dict[str, Any]", step)
    return {**given, "op": "fill_holes"} if given.get("op") == "outside" else given
