"""All steps. Add a new step's class to ``AnyStep``; nothing else lists them."""

from __future__ import annotations

from typing import Annotated, get_args

from pydantic import Field

from tinhalo.core.recipe.border_steps import CloseGaps, OpenGaps, OutlineRing, Wall
from tinhalo.core.recipe.bridge_step import Bridge, Stencil
from tinhalo.core.recipe.combine_steps import Bleed, Intersect, Subtract, Underlap, Union
from tinhalo.core.recipe.fill_holes_step import FillHoles
from tinhalo.core.recipe.hole_steps import Hole, Tab
from tinhalo.core.recipe.offset_step import Offset
from tinhalo.core.recipe.pick_steps import Drop, Keep, Tidy
from tinhalo.core.recipe.recipe import Recipe
from tinhalo.core.recipe.shape_steps import BlockShadow, DropShadow, PlaceStep, Plate, RoundOff
from tinhalo.core.recipe.step import Step
from tinhalo.core.recipe.stitch_step import Stitch
from tinhalo.core.recipe.thicken_step import Thicken

AnyStep = Annotated[
    Offset
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

# Recipes hold steps, and some steps hold recipes: only here is all of them known.
for _model in (Recipe, Union, Subtract, Intersect, Bleed, Underlap, Tab):
    _model.model_rebuild(force=True, _types_namespace={"AnyStep": AnyStep, "Recipe": Recipe})

#: The class of every step there is, by its ``op``.
STEP_OPS: dict[str, type[Step]] = {
    get_args(step.model_fields["op"].annotation)[0]: step for step in get_args(get_args(AnyStep)[0])
}
