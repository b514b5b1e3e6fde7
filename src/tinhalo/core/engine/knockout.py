"""Find a place for words that are knocked out of others."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import suppress
from dataclasses import dataclass

import numpy as np
import shapely

from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.artwork.lettering.typeset import graphemes
from tinhalo.core.artwork.place import place_matrix
from tinhalo.core.design.design import Design, Layer
from tinhalo.core.design.problems import DesignError, Problem
from tinhalo.core.engine.build import Library, build
from tinhalo.core.engine.built import Build, BuiltArt
from tinhalo.core.geometry.curves.outline import Floats
from tinhalo.core.geometry.curves.precision import EXACT
from tinhalo.core.geometry.placement.find_place import REACH, STEADY, PlaceFound, SliverLimits, find_place, slivers_of
from tinhalo.core.geometry.regions.overlay import subtract
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.recipe.combine_steps import Subtract
from tinhalo.core.recipe.recipe import Recipe
from tinhalo.core.runtime.cancellation import CancelledError
from tinhalo.core.runtime.memo import Memo
from tinhalo.core.units import Unit, length

_BLOCK, _CHANNEL = "block.sought", "channel.sought"


@dataclass(frozen=True)
class Sought:
    """What was found for words in a knockout.

    Attributes:
        art: id of the words.
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
    cancelled: Callable[[], bool] = lambda: False,
) -> Sought:
    """Find a place for the words that one step of a layer cuts away.

    What the layer's other steps cut away stays where it is.

    Args:
        design: the document.
        library: gives fonts by id.
        layer: id of the layer with the knockout.
        step: index of its step that cuts the words away.
        sliver: what counts as a sliver.
        memo: results of earlier builds.
        cancelled: asked now and then whether the result is still wanted.
    Raises:
        DesignError: when that step cuts no words away that can be moved by themselves.
        CancelledError: once ``cancelled`` says so.
    """
    cut = next((one for one in design.layers if one.id == layer), None)
    if cut is None or not 0 <= step < len(cut.recipe.steps):
        raise _refused(f"There is no step number {step + 1} in a layer “{layer}”.")
    away = cut.recipe.steps[step]
    if not isinstance(away, Subtract):
        raise _refused("A place can be found where words are cut away from others.")
    art = _words_of(design, away.operand, cut, step)
    probed = _probed(design, cut, step, away.operand)
    made = build(probed, library, exact=False, memo=memo, cancelled=cancelled)
    block, channel = _probes(made)

    def checkpoint() -> None:
        if cancelled():
            raise CancelledError

    exact: list[tuple[Region, Region]] = []

    def confirm(dx: float, dy: float) -> bool:
        # Only a place that is found is looked at as finely as it will be cut.
        if not exact:
            exact.append(_probes(build(probed, library, precision=EXACT, exact=False, memo=memo, cancelled=cancelled)))
        return _slivers(exact[0][0], exact[0][1].moved(dx, dy), sliver) == 0

    ends = _ends(next(one for one in made.art if one.art.id == art.id))
    found = find_place(block, channel, ends, sliver, checkpoint=checkpoint, confirm=confirm)
    now = _slivers(block, channel, sliver)
    return Sought(art.id, found, now, _sentence(art, found, now, design.unit))


def knockouts(design: Design, layer: Layer) -> tuple[int, ...]:
    """Indices of a layer's steps that cut words away for which a place can be found."""
    found: list[int] = []
    for index, step in enumerate(layer.recipe.steps):
        if isinstance(step, Subtract) and not step.off:
            with suppress(DesignError):
                _words_of(design, step.operand, layer, index)
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


def _words_of(design: Design, operand: Recipe, layer: Layer, step: int) -> Lettering:
    """The one block of words that an operand is made from and the rest of the layer is not."""
    arts = set(_arts(design, operand))
    if len(arts) != 1:
        many = "several blocks of words" if arts else "no words"
        raise _refused(f"This step cuts away {many} at once. Give each its own step, then each gets its own place.")
    others = [one for i, one in enumerate(layer.recipe.steps) if i != step]
    if arts & set(_arts(design, Recipe(sources=layer.recipe.sources, steps=tuple(others)))):
        raise _refused("The layer is made from the same words that it is cut by, so they cannot be moved apart.")
    art = next(one for one in design.art if one.id in arts)
    if art.against:
        raise _refused("These words are set against others. Let them stand by themselves to find a place for them.")
    return art


def _arts(design: Design, recipe: Recipe) -> Iterator[str]:
    """Ids of all words a recipe is made from, through other layers too."""
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


def _ends(words: BuiltArt) -> Floats:
    """The first and last point of every line, along it; shape (n, 2), in mm."""
    along = place_matrix(words.art.place)[:, 0]
    ends: list[Floats] = [np.zeros((0, 2))]
    index = 0
    for line in words.art.text.split("\n"):
        letters = range(index, index + len(graphemes(line)))
        index = letters.stop + 1
        pieces = [piece for i in letters if i in words.letters for piece in words.letters[i].pieces]
        if pieces:
            points = shapely.get_coordinates(pieces)
            far = points @ along
            ends.append(points[[far.argmin(), far.argmax()]])
    return np.concatenate(ends)


def _sentence(art: Lettering, found: PlaceFound, now: int, unit: Unit) -> str:
    name = " ".join(art.text.split()) or art.id
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
