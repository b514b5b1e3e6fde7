"""Recipes without some of the art that they are made from."""

from __future__ import annotations

from collections.abc import Collection, Iterator

from tinhalo.core.design.design import Design, Layer
from tinhalo.core.recipe.recipe import Recipe
from tinhalo.core.recipe.step import Step, holding


def arts_of(design: Design, recipe: Recipe) -> Iterator[str]:
    """Ids of all art a recipe is made from, through other layers too."""
    layers = {one.id: one for one in design.layers}
    for name in recipe.named():
        if name in layers:
            yield from arts_of(design, layers[name].recipe)
        else:
            yield name


class Without:
    """Recipes of a design without some art; where they are made from layers, from such layers without it.

    Attributes:
        layers: those layers, by the ids of the layers that they stand for.
    """

    def __init__(self, design: Design, art: Collection[str]) -> None:
        """Leave out art with these ids."""
        self._design, self._art = design, frozenset(art)
        self._known = {one.id: one for one in design.layers}
        self.layers: dict[str, Layer] = {}

    def of(self, recipe: Recipe) -> Recipe:
        """The recipe without it; itself where it is made from none of it."""
        if not self._art.intersection(arts_of(self._design, recipe)):
            return recipe
        sources = tuple(self._source(one) for one in recipe.sources if one not in self._art)
        return Recipe(sources=sources, steps=tuple(self._step(one) for one in recipe.steps))

    def _step(self, step: Step) -> Step:
        held = [name for name, holds in holding(type(step)).items() if holds == "recipe"]
        return step.model_copy(update={name: self.of(found) for name in held if (found := getattr(step, name))})

    def _source(self, name: str) -> str:
        layer = self._known.get(name)
        if layer is None or not self._art.intersection(arts_of(self._design, layer.recipe)):
            return name
        if name not in self.layers:
            id = "-".join([name, "without", *sorted(self._art)])
            self.layers[name] = layer.model_copy(update={"id": id, "recipe": self.of(layer.recipe)})
        return self.layers[name].id
