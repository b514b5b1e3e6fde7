"""A recipe: sources, then steps in order. Add a new step's class to ``AnyStep``; nothing else lists them."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated

from pydantic import ConfigDict, Field

from tinhalo.core.lettering.art import Strict
from tinhalo.core.recipe import combine_steps
from tinhalo.core.recipe.combine_steps import Intersect, Subtract, Union
from tinhalo.core.recipe.fill_holes_step import FillHoles
from tinhalo.core.recipe.offset_step import Offset
from tinhalo.core.recipe.thicken_step import Thicken

AnyStep = Annotated[Offset | FillHoles | Thicken | Union | Subtract | Intersect, Field(discriminator="op")]


class Recipe(Strict):
    """Where a region comes from.

    ``from`` names art or other layers, which are united; ``steps`` are then applied one after the other.
    """

    model_config = ConfigDict(populate_by_name=True)

    sources: Annotated[tuple[str, ...], Field(alias="from", max_length=200)] = ()
    steps: Annotated[tuple[AnyStep, ...], Field(max_length=100)] = ()

    def named(self) -> Iterator[str]:
        """Every source named anywhere in the recipe, nested operands included."""
        yield from self.sources
        for step in self.steps:
            for operand in step.operands():
                yield from operand.named()


for _model in (combine_steps.Union, combine_steps.Subtract, combine_steps.Intersect, Recipe):
    _model.model_rebuild(_types_namespace={"Recipe": Recipe, "AnyStep": AnyStep, **vars(combine_steps), "Field": Field})
