"""Find a place for art that is knocked out of other art."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import suppress
from dataclasses import dataclass

import numpy as np

from tinhalo.core.artwork.art import Art
from tinhalo.core.artwork.library import Library
from tinhalo.core.design.design import Design, Layer
from tinhalo.core.design.problem import DesignError, Problem
from tinhalo.core.engine.build import build
from tinhalo.core.engine.built import Build
from tinhalo.core.geometry.curves.precision import EXACT
from tinhalo.core.geometry.placement.find_place import REACH, STEADY, PlaceFound, SliverLimits, find_place, slivers_of
from tinhalo.core.geometry.regions.overlay import subtract
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.recipe.combine_steps import Subtract
from tinhalo.core.recipe.recipe import Recipe
from tinhalo.core.runtime.memo import Memo
from tinhalo.core.units import Unit, length

_BLOCK, _CHANNEL = "block.sought", "channel.sought"


@dataclass(frozen=True)
class Sought:
    """What was found for art in a knockout.

    Attributes:
        art: id of the art.
        found: where to move them by, and what is there.
        now: number of slivers where they are now.
        sentence: the same for the maker.
    """

    art: str
    found: PlaceFound
    now: int
    sentence: str


def seek_place(
    design: Design,
    library: Library,
    layer: str,
    step: int,
    sliver: SliverLimits,
    memo: Memo,
) -> Sought:
    """Find a place for the art that one step of a layer cuts away.

    What the layer's other steps cut away stays where it is.

    Args:
        design: the document.
        library: gives fonts by id.
        layer: id of the layer with the knockout.
        step: index of its step that cuts the art away.
        sliver: what counts as a sliver.
        memo: results of earlier builds.
    Raises:
        DesignError: when that step cuts no art away that can be moved by itself.
        CancelledError: once nobody waits for it, see ``runtime.cancellation``.
    """
    cut = next((one for one in design.layers if one.id == layer), None)
    if cut is None or not 0 <= step < len(cut.recipe.steps):
        raise _refused(f"There is no step number {step + 1} in a layer “{layer}”.")
    away = cut.recipe.steps[step]
    if not isinstance(away, Subtract):
        raise _refused("A place can be found where something is cut away from something else.")
    art = _art_of(design, away.operand, cut, step)
    probed = _probed(design, cut, step, away.operand)
    made = build(probed, library, exact=False, memo=memo)
    block, channel = _probes(made)

    exact: list[tuple[Region, Region]] = []

    def confirm(dx: float, dy: float) -> bool:
        # Only a place that is found is looked at as finely as it will be cut.
        if not exact:
            exact.append(_probes(build(probed, library, precision=EXACT, exact=False, memo=memo)))
        return _slivers(exact[0][0], exact[0][1].moved(dx, dy), sliver) == 0

    ends = next(one.drawn.ends for one in made.art if one.art.id == art.id)
    found = find_place(block, channel, ends, sliver, confirm=confirm)
    now = _slivers(block, channel, sliver)
    return Sought(art.id, found, now, _sentence(art, found, now, design.unit))


def knockouts(design: Design, layer: Layer) -> tuple[int, ...]:
    """Indices of a layer's steps that cut art away for which a place can be found."""
    found: list[int] = []
    for index, step in enumerate(layer.recipe.steps):
        if isinstance(step, Subtract) and not step.off:
            with suppress(DesignError):
                _art_of(design, step.operand, layer, index)
                found.append(index)
    return tuple(found)


def _probes(made: Build) -> tuple[Region, Region]:
    regions = {one.layer.id: one.region for one in made.layers}
    return regions[_BLOCK], regions[_CHANNEL]


def _slivers(block: Region, channel: Region, sliver: SliverLimits) -> int:
    left = np.array(list(subtract(block, channel).area.geoms), object)
    return int(slivers_of(left, sliver).sum()) if len(left) else 0


def _refused(sentence: str) -> DesignError:
    return DesignError([Problem("", sentence)])


def _art_of(design: Design, operand: Recipe, layer: Layer, step: int) -> Art:
    """The one piece of art that an operand is made from and the rest of the layer is not."""
    arts = set(_arts(design, operand))
    if len(arts) != 1:
        many = "several pieces of art" if arts else "no art"
        raise _refused(f"This step cuts away {many} at once. Give each its own step, then each gets its own place.")
    others = [one for i, one in enumerate(layer.recipe.steps) if i != step]
    if arts & set(_arts(design, Recipe(sources=layer.recipe.sources, steps=tuple(others)))):
        raise _refused("The layer is made from the same art that it is cut by, so they cannot be moved apart.")
    art: Art = next(one for one in design.art if one.id in arts)
    if art.named():
        raise _refused("What is cut away is set by other art. Let it stand by itself to find a place for it.")
    return art


def _arts(design: Design, recipe: Recipe) -> Iterator[str]:
    """Ids of all art a recipe is made from, through other layers too."""
    layers = {one.id: one for one in design.layers}
    for name in recipe.named():
        if name in layers:
            yield from _arts(design, layers[name].recipe)
        else:
            yield name


def _probed(design: Design, layer: Layer, step: int, operand: Recipe) -> Design:
    """The design with two more layers: what is cut, less all that other steps cut away; and what cuts it."""
    steps = layer.recipe.steps
    later = tuple(one for one in steps[step + 1 :] if isinstance(one, Subtract))
    before = Recipe(sources=layer.recipe.sources, steps=steps[:step] + later)
    probes = (Layer(id=_BLOCK, recipe=before), Layer(id=_CHANNEL, recipe=operand))
    return design.model_copy(update={"layers": design.layers + probes})


def _sentence(art: Art, found: PlaceFound, now: int, unit: Unit) -> str:
    name = art.title or art.id
    moved = float(np.hypot(found.dx, found.dy))
    ends = "" if found.covered else " Its ends cannot all lie on the letters: it is too long, or too far aside."
    if found.slivers:
        count = "one sliver" if found.slivers == 1 else f"{found.slivers} slivers"
        better = f"The best place leaves {count}" + (f", now there are {now}" if now > found.slivers else "")
        return (
            f"Nowhere within {length(REACH, unit)} does “{name}” leave no sliver. {better}. "
            f"Tidy them away, or try another size or a wider channel.{ends}"
        )
    if moved == 0:
        return f"“{name}” stands well where it is: no slivers.{ends}"
    steady = "" if found.steady else f" Mind that {length(STEADY, unit)} further there would be some."
    return f"“{name}” moved by {length(moved, unit)}: no slivers there.{steady}{ends}"
