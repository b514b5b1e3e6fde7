"""A recipe: sources, then steps in order. Add a new step's class to ``AnyStep``; nothing else lists them."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, get_args

from pydantic import ConfigDict, Field

from tinhalo.core.document.anchor import Anchor
from tinhalo.core.document.base import Strict
from tinhalo.core.recipe.border_steps import CloseGaps, OpenGaps, OutlineRing, Outside, Wall
from tinhalo.core.recipe.bridge_step import Bridge, Stencil
from tinhalo.core.recipe.combine_steps import Bleed, Intersect, Subtract, Underlap, Union
from tinhalo.core.recipe.fill_holes_step import FillHoles
from tinhalo.core.recipe.hole_steps import Hole, Tab
from tinhalo.core.recipe.offset_step import Offset
from tinhalo.core.recipe.pick_steps import Drop, Keep, Tidy
from tinhalo.core.recipe.shape_steps import BlockShadow, DropShadow, PlaceStep, Plate, RoundOff
from tinhalo.core.recipe.step import Step
from tinhalo.core.recipe.stitch_step import Stitch
from tinhalo.core.recipe.thicken_step import Thicken

AnyStep = Annotated[
    Offset
    | Outside
    | OutlineRing
    | FillHoles
    | CloseGaps
    | OpenGaps
    | Bridge
    | Stencil
    | Thicken
    | RoundOff
    | Union
    | Subtract
    | Intersect
    | Bleed
    | Underlap
    | DropShadow
    | BlockShadow
    | Plate
    | Tab
    | Hole
    | Stitch
    | Wall
    | PlaceStep
    | Tidy
    | Keep
    | Drop,
    Field(discriminator="op"),
]


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

    def spots(self) -> Iterator[Anchor]:
        """Every place on a letter that the recipe refers to, nested operands included."""
        for step in self.steps:
            yield from step.spots()
            for operand in step.operands():
                yield from operand.spots()


# These name the recipe before there is one.
for _model in (Union, Subtract, Intersect, Bleed, Underlap, Tab, Recipe):
    _model.model_rebuild(_types_namespace={"Recipe": Recipe})

#: The class of every step there is, by its ``op``.
STEP_OPS: dict[str, type[Step]] = {
    get_args(step.model_fields["op"].annotation)[0]: step for step in get_args(get_args(AnyStep)[0])
}
