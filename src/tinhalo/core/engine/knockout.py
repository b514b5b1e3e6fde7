"""What of a layer is knocked out, and by which art: what a place can be found for."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator
from contextlib import suppress
from functools import cached_property

import numpy as np

from tinhalo.core.artwork.kinds import AnyArt
from tinhalo.core.artwork.library import Library
from tinhalo.core.design.design import Design, Layer
from tinhalo.core.design.problem import DesignError, Problem
from tinhalo.core.engine.build import build
from tinhalo.core.engine.built import Build
from tinhalo.core.engine.less import Without, arts_of
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.precision import EXACT, SCREEN, Precision
from tinhalo.core.geometry.placement.necks import Necks
from tinhalo.core.geometry.placement.place_search import Pose
from tinhalo.core.geometry.placement.slivers import SliverLimits, slivers_of
from tinhalo.core.geometry.regions.overlay import subtract
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.strokes.widths import MEASURED_WITHIN
from tinhalo.core.recipe.combine_steps import Subtract, Union
from tinhalo.core.recipe.recipe import Recipe
from tinhalo.core.recipe.step import Step
from tinhalo.core.runtime.memo import Memo

#: Whether what is cut away turns is seen at so many degrees, within this share of its area.
_ASKEW, _SAME = 20.0, 0.01
_BLOCK, _CHANNEL, _TAKEN = "block.sought", "channel.sought", "taken.sought"


class Knockout:
    """A name that a step of a layer cuts away, and that nothing else of the layer is made from.

    Attributes:
        step: that step.
        name: ids of the art that it consists of.
        art: what of it is moved; art that stands by it follows.
        limits: what is a sliver, never less than what the layer's material needs.
        channel: what is cut away, where it stands now.
        block: what it is cut from.
        taken: what else is cut away: two names do not lie over each other.
    """

    def __init__(
        self,
        design: Design,
        library: Library,
        layer: str,
        step: int,
        limits: SliverLimits,
        memo: Memo,
        name: Collection[str] = (),
        without: Collection[str] = (),
    ) -> None:
        """Find out what is cut by what.

        Args:
            design: the document.
            library: gives fonts by id.
            layer: id of the layer with the knockout.
            step: index of its step that cuts the name away.
            limits: what counts as a sliver.
            memo: results of earlier builds.
            name: ids of the art that it consists of; if there are none, all that the step cuts away.
            without: ids of art that is left out of what is cut away.
        Raises:
            DesignError: when that step cuts no art away that can be moved by itself.
        """
        cut, self.step = _knockout(design, layer, step)
        every = [one for each in _names(design, cut, step) for one in each]
        self.name = frozenset(name or (one.id for one in every))
        self.art = tuple(one for one in every if one.id in self.name and not one.named())
        material = design.material_of(cut).limits
        self.limits = SliverLimits(max(limits.area, material.least_area), max(limits.width, material.least_width))
        self._library, self._memo = library, memo
        others = {one.id for one in every} - self.name
        self._probed = _probed(design, cut, step, self.name | set(without), others)
        self._built = self._build(SCREEN)
        self.block, self.channel, self.taken = _probes(self._built)
        if self.block.area.is_empty or self.channel.area.is_empty:
            raise _refused("There is nothing to cut, or nothing to cut it with.")

    @property
    def ends(self) -> Floats:
        """The far ends of its words, shape (n, 2), in mm."""
        ids = {one.id for one in self.art}
        return np.concatenate([one.drawn.ends for one in self._built.art if one.art.id in ids])

    @property
    def pivot(self) -> tuple[float, float]:
        """The middle of what is cut away, in mm."""
        x0, y0, x1, y1 = self.channel.area.bounds
        return (x0 + x1) / 2, (y0 + y1) / 2

    @property
    def height(self) -> float:
        """How tall what is cut away is, in mm."""
        _, y0, _, y1 = self.channel.area.bounds
        return y1 - y0

    @cached_property
    def turns(self) -> bool:
        """Whether what is cut away turns with the art: a plate around it does not, nor does art that stands by it."""
        turn = Pose(turn=_ASKEW)
        turned = with_art_at(self._probed, {one.id for one in self.art}, turn, self.pivot)
        there = _probes(self._build(SCREEN, turned))[1].area
        expected = self.channel.transformed(turn.matrix(self.pivot)).area
        return there.symmetric_difference(expected).area < _SAME * expected.area

    def faults(self, pose: Pose, pivot: tuple[float, float], most: int = 1_000) -> int:
        """How many slivers and necks are left with what is cut away at a pose, at the exact outlines.

        Once there are more than ``most`` it may stop counting; where it lies over ``taken`` there are.
        """
        block, channel, necks = self._exact
        there = channel.transformed(pose.matrix(pivot))
        if there.area.intersects(self.taken.area):
            return most + 1
        slivers = _slivers(block, there, self.limits)
        falling = slivers + necks.at_least(there, max(0, most - slivers)) if slivers <= most else slivers
        return falling if falling > most else max(falling, slivers + necks.count(there))

    @cached_property
    def _exact(self) -> tuple[Region, Region, Necks]:
        block, channel, _ = _probes(self._build(EXACT))
        return block, channel, Necks(block, self.limits.width - MEASURED_WITHIN)

    def _build(self, precision: Precision, design: Design | None = None) -> Build:
        return build(design or self._probed, self._library, precision=precision, exact=False, memo=self._memo)


def knockouts(design: Design, layer: Layer) -> dict[int, list[tuple[AnyArt, ...]]]:
    """Indices of a layer's steps that cut names away for which a place can be found, and these names' art.

    Each block of words is a name; what else a step cuts away goes with the first one.
    """
    found: dict[int, list[tuple[AnyArt, ...]]] = {}
    for index, step in enumerate(layer.recipe.steps):
        if isinstance(step, Subtract) and not step.off:
            with suppress(DesignError):
                found[index] = _names(design, layer, index)
    return found


def with_art_at(design: Design, ids: Collection[str], pose: Pose, pivot: tuple[float, float]) -> Design:
    """The design with pieces of art at a pose, turned about that point together."""
    matrix = pose.matrix(pivot)
    art = tuple(_at(one, matrix, pose.turn) if one.id in ids else one for one in design.art)
    return design.model_copy(update={"art": art})


def _at(art: AnyArt, matrix: Floats, turn: float) -> AnyArt:
    x, y = (matrix[:, :2] @ (art.place.x, art.place.y) + matrix[:, 2]).tolist()
    place = {"x": round(x, 4), "y": round(y, 4), "rotate": (art.place.rotate + turn + 180) % 360 - 180}
    return art.model_copy(update={"place": art.place.model_copy(update=place)})


def with_step(design: Design, layer: str, index: int, step: Step) -> Design:
    """The design with another step in place of one of a layer."""

    def other(one: Layer) -> Layer:
        steps = tuple(step if i == index else kept for i, kept in enumerate(one.recipe.steps))
        return one.model_copy(update={"recipe": one.recipe.model_copy(update={"steps": steps})})

    layers = tuple(other(one) if one.id == layer else one for one in design.layers)
    return design.model_copy(update={"layers": layers})


def with_art_scaled(design: Design, ids: Collection[str], factor: float) -> Design:
    """The design with pieces of art ``scaled_in_place``."""
    art = tuple(scaled_in_place(one, factor) if one.id in ids else one for one in design.art)
    return design.model_copy(update={"art": art})


def scaled_in_place(art: AnyArt, factor: float) -> AnyArt:
    """Art made larger or smaller where it stands; distances stay."""
    return art.scaled(factor, "kept").model_copy(update={"place": art.place})


def _probes(made: Build) -> tuple[Region, Region, Region]:
    regions = {one.layer.id: one.region for one in made.layers}
    return regions[_BLOCK], regions[_CHANNEL], regions[_TAKEN]


def _slivers(block: Region, channel: Region, limits: SliverLimits) -> int:
    left = np.array(list(subtract(block, channel).area.geoms), object)
    return int(slivers_of(left, limits).sum()) if len(left) else 0


def _refused(sentence: str) -> DesignError:
    return DesignError([Problem("", sentence)])


def _knockout(design: Design, layer: str, step: int) -> tuple[Layer, Subtract]:
    cut = next((one for one in design.layers if one.id == layer), None)
    if cut is None or not 0 <= step < len(cut.recipe.steps):
        raise _refused(f"There is no step number {step + 1} in a layer “{layer}”.")
    away = cut.recipe.steps[step]
    if not isinstance(away, Subtract):
        raise _refused("A place can be found where something is cut away from something else.")
    return cut, away


def _names(design: Design, layer: Layer, index: int) -> list[tuple[AnyArt, ...]]:
    """The names that a step cuts away, which the rest of the layer is not made from."""
    step = layer.recipe.steps[index]
    arts = set(arts_of(design, Recipe(steps=(step,))))
    if not arts:
        raise _refused("This step cuts away no art.")
    others = [one for i, one in enumerate(layer.recipe.steps) if i != index]
    if arts & set(arts_of(design, Recipe(sources=layer.recipe.sources, steps=tuple(others)))):
        raise _refused("The layer is made from the same art that it is cut by, so they cannot be moved apart.")
    art: list[AnyArt] = [one for one in design.art if one.id in arts]
    if any(not arts.issuperset(one.named()) for one in art):
        raise _refused("What is cut away is set by other art. Let it stand by itself to find a place for it.")
    leaders = [one for one in art if not one.named()]
    words = [one for one in leaders if one.is_words] or leaders[:1]
    names = {one.id: [one] for one in words}
    for one in art:
        if one.id not in names:
            leader = next((by for by in one.named() if by in names), words[0].id)
            names[leader].append(one)
    return [tuple(one) for one in names.values()]


def _probed(design: Design, layer: Layer, step: int, left_out: Collection[str], others: Collection[str]) -> Design:
    """The design with three more layers: what is cut, less all that else is cut away; what cuts it; and all that else.

    Art that is left out cuts nothing there; the step's other art is no part of what cuts.
    """
    steps = layer.recipe.steps
    less, alone = Without(design, left_out), Without(design, others)
    away = [(i, one) for i, one in enumerate(steps) if isinstance(one, Subtract) and (i == step or not one.off)]
    cuts = {i: one.model_copy(update={"operand": less.of(one.operand)}) for i, one in away}
    kept = tuple(cuts.get(i, one) for i, one in enumerate(steps) if i <= step or i in cuts)
    operand = dict(away)[step].operand
    probes = (
        Layer(id=_BLOCK, recipe=Recipe(sources=layer.recipe.sources, steps=kept)),
        Layer(id=_CHANNEL, recipe=alone.of(operand)),
        Layer(id=_TAKEN, recipe=Recipe(steps=tuple(Union(operand=one.operand) for one in cuts.values()))),
    )
    every = design.model_copy(update={"layers": (*design.layers, *less.layers.values(), *alone.layers.values())})
    named = set(_layers(every, [name for probe in probes for name in probe.recipe.named()]))
    return every.model_copy(update={"layers": (*(one for one in every.layers if one.id in named), *probes)})


def _layers(design: Design, names: Iterable[str]) -> Iterator[str]:
    """Of these names those of layers, and of all layers that those are made from."""
    layers = {one.id: one for one in design.layers}
    for name in names:
        if name in layers:
            yield name
            yield from _layers(design, layers[name].recipe.named())
