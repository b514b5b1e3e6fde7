"""Find a place for art that is knocked out of other art."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import suppress
from dataclasses import dataclass, replace
from functools import cache

import numpy as np

from tinhalo.core.artwork.art import Art
from tinhalo.core.artwork.kinds import AnyArt
from tinhalo.core.artwork.library import Library
from tinhalo.core.design.design import Design, Layer
from tinhalo.core.design.problem import DesignError, Problem
from tinhalo.core.engine.build import build
from tinhalo.core.engine.built import Build
from tinhalo.core.geometry.arrays import XY, Floats
from tinhalo.core.geometry.curves.precision import EXACT
from tinhalo.core.geometry.placement.find_place import (
    REACH,
    STEADY,
    PlaceFound,
    SliverLimits,
    covers,
    find_place,
    slivers_of,
)
from tinhalo.core.geometry.placement.necks import Necks
from tinhalo.core.geometry.regions.overlay import subtract
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.strokes.widths import MEASURED_WITHIN
from tinhalo.core.recipe.combine_steps import Subtract
from tinhalo.core.recipe.recipe import Recipe
from tinhalo.core.runtime.cancellation import checkpoint
from tinhalo.core.runtime.memo import Memo
from tinhalo.core.units import Unit, length

#: Where no place is clean, so many are counted exactly.
_LOOKED_AT = 12
#: Sizes are tried in steps of this share, then to within that.
_FINER, _FINEST, _SIZES = 0.015, 0.004, 160

_BLOCK, _CHANNEL = "block.sought", "channel.sought"


@dataclass(frozen=True)
class Sought:
    """What was found for art in a knockout.

    Attributes:
        art: id of the art.
        found: where to move them by, and what is there.
        now: number of slivers and necks where they are now.
        smaller: the largest factor at which all its ends can lie on the letters, where they cannot as it is.
        sentence: the same for the maker.
    """

    art: str
    found: PlaceFound
    now: int
    smaller: float | None
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
        sliver: what counts as a sliver; never less than what the layer's material needs.
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
    sliver = _with_material(sliver, design, cut)
    probed = _probed(design, cut, step, away.operand)
    made = build(probed, library, exact=False, memo=memo)
    block, channel = _probes(made)
    width = sliver.width - MEASURED_WITHIN
    glance = Necks(block, width)

    @cache
    def exact() -> tuple[Region, Region, Necks]:
        # Only a place that is found is looked at as finely as it will be cut.
        fine = _probes(build(probed, library, precision=EXACT, exact=False, memo=memo))
        return (*fine, Necks(fine[0], width))

    glanced: dict[tuple[float, float], int] = {}

    def faults(dx: float, dy: float, most: int) -> int:
        found = glance.at_least(channel.moved(dx, dy), most) or left(dx, dy)
        glanced[dx, dy] = found
        return found

    def left(dx: float, dy: float) -> int:
        letters, away, necks = exact()
        there = away.moved(dx, dy)
        return _slivers(letters, there, sliver) + necks.count(there)

    ends = _ends(made, art.id)
    found = find_place(block, channel, ends, sliver, faults=faults)
    now = left(0, 0)
    if not found.clean:
        # What was only counted at a glance is counted as it will be found, where that promised most; and nothing is
        # moved to where it is no better.
        likely = sorted(glanced, key=lambda place: (glanced[place], np.hypot(*place)))[:_LOOKED_AT]
        counted = {place: left(*place) for place in [(0.0, 0.0), *likely, (found.dx, found.dy)]}
        dx, dy = min(counted, key=lambda place: (counted[place], np.hypot(*place)))
        found = replace(found, slivers=counted[dx, dy], dx=dx, dy=dy)
    smaller = None
    if not found.covered:
        # From where it will stand then.
        smaller = _largest(design, library, art, block, (found.dx, found.dy), memo)
    return Sought(art.id, found, now, smaller, _sentence(art, found, now, smaller, design.unit))


def _with_material(sliver: SliverLimits, design: Design, layer: Layer) -> SliverLimits:
    """What is promised has to hold for the findings, too."""
    material = design.material_of(layer)
    limits = material.limits
    return SliverLimits(max(sliver.area, limits.least_area), max(sliver.width, limits.least_width))


def _ends(made: Build, art: str) -> Floats:
    return next(one.drawn.ends for one in made.art if one.art.id == art)


def _largest(design: Design, library: Library, art: AnyArt, block: Region, moved: XY, memo: Memo) -> float | None:
    """The largest factor of the art, moved, at which all its ends can lie on the letters; None if none does."""

    alone = design.model_copy(update={"layers": ()})

    def fits(factor: float) -> bool:
        made = build(with_art_scaled(alone, art.id, factor), library, exact=False, memo=memo)
        return covers(block, _ends(made, art.id) + moved, REACH)

    # Whether ends are covered comes and goes, as letters and gaps take turns: the first step that does is made finer.
    high = 1.0
    for low in ((1 - _FINER) ** k for k in range(1, _SIZES)):
        checkpoint()
        if fits(low):
            while high - low > _FINEST * high:
                middle = (low + high) / 2
                low, high = (middle, high) if fits(middle) else (low, middle)
            return low
        high = low
    return None


def with_art_scaled(design: Design, id: str, factor: float) -> Design:
    """The design with one piece of art ``scaled_in_place``."""
    art = tuple(scaled_in_place(one, factor) if one.id == id else one for one in design.art)
    return design.model_copy(update={"art": art})


def scaled_in_place(art: AnyArt, factor: float) -> AnyArt:
    """Art made larger or smaller where it stands; distances stay."""
    return art.scaled(factor, "kept").model_copy(update={"place": art.place})


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


def _art_of(design: Design, operand: Recipe, layer: Layer, step: int) -> AnyArt:
    """The one piece of art that an operand is made from and the rest of the layer is not."""
    arts = set(_arts(design, operand))
    if len(arts) != 1:
        many = "several pieces of art" if arts else "no art"
        raise _refused(f"This step cuts away {many} at once. Give each its own step, then each gets its own place.")
    others = [one for i, one in enumerate(layer.recipe.steps) if i != step]
    if arts & set(_arts(design, Recipe(sources=layer.recipe.sources, steps=tuple(others)))):
        raise _refused("The layer is made from the same art that it is cut by, so they cannot be moved apart.")
    art: AnyArt = next(one for one in design.art if one.id in arts)
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


def _sentence(art: Art, found: PlaceFound, now: int, smaller: float | None, unit: Unit) -> str:
    name = art.title or art.id
    moved = float(np.hypot(found.dx, found.dy))
    ends = ""
    if not found.covered:
        ends = " Its ends cannot all lie on the letters: it is too long, or too far aside."
        if smaller:
            ends = f" It is too long for its ends to lie on the letters: they do at {100 * smaller:.3g} % of its size."
    if found.slivers:
        count = "one sliver or neck" if found.slivers == 1 else f"{found.slivers} slivers or necks"
        where = "The best place" if moved else "Where it is it"
        better = f"{where} leaves {count}" + (f", now there are {now}" if moved else ", and no better place was found")
        return (
            f"Nowhere within {length(REACH, unit)} does “{name}” leave no sliver and no neck. {better}. "
            f"Tidy them away, or try another size or a wider channel.{ends}"
        )
    if moved == 0:
        return f"“{name}” stands well where it is: no slivers, no necks.{ends}"
    steady = "" if found.steady else f" Mind that {length(STEADY, unit)} further there would be some."
    return f"“{name}” moved by {length(moved, unit)}: no slivers and no necks there.{steady}{ends}"
