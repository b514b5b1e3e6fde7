"""The frame that words are set into, as the recipe makes it that uses both."""

from __future__ import annotations

from dataclasses import dataclass

from tinhalo.core.artwork.art import Art
from tinhalo.core.design.design import Design, Layer
from tinhalo.core.document import graph
from tinhalo.core.engine.less import arts_of
from tinhalo.core.recipe.recipe import Recipe
from tinhalo.core.recipe.step import Step


@dataclass(frozen=True)
class Frame:
    """How a frame is made.

    Attributes:
        recipe: of the frame without the words.
        layers: those that the recipe is made from, each after what it is made from.
    """

    recipe: Recipe
    layers: tuple[Layer, ...]


def frame_of(design: Design, art: Art) -> Frame | None:
    """What makes the frame that words are set into: the steps of a layer before the one that adds them.

    Returns:
        None where the art is set into nothing, or no layer makes a frame of that shape alone.
    """
    shape = art.set_into
    if shape is None:
        return None
    for layer in design.layers:
        steps = layer.recipe.steps
        adds = next((k for k, step in enumerate(steps) if not step.off and _uses(step, art.id)), None)
        if not adds or art.id in layer.recipe.sources:
            continue
        recipe = Recipe(sources=layer.recipe.sources, steps=steps[:adds])
        if set(arts_of(design, recipe)) == {shape}:
            needed = graph.ancestors({**design.made_from, layer.id: list(recipe.named())}, layer.id)
            return Frame(recipe, tuple(one for one in design.layer_order() if one.id in needed))
    return None


def _uses(step: Step, art: str) -> bool:
    return any(art in operand.named() for operand in step.operands())
