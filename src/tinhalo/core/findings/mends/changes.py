"""Mends are made: the design after each of their changes."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import singledispatch
from typing import Any, cast

from pydantic import TypeAdapter

from tinhalo.core.artwork.kinds import AnyArt
from tinhalo.core.artwork.library import Library
from tinhalo.core.design.design import Design, Layer
from tinhalo.core.design.hand_over import CUTS
from tinhalo.core.design.problem import DesignError, Problem
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.anchoring import anchor_place
from tinhalo.core.engine.build import build
from tinhalo.core.engine.knockout import scaled_in_place
from tinhalo.core.engine.resize import scaled
from tinhalo.core.findings.mends.mend import (
    Change,
    FillThrough,
    FindPlace,
    LaySheet,
    Mend,
    ScaleAll,
    ScaleArt,
    SetArt,
    SetProcess,
    SetSources,
    SetStep,
    ShareCut,
)
from tinhalo.core.findings.mends.placing import Placed, find_place
from tinhalo.core.geometry.regions.selection import holding
from tinhalo.core.recipe.fill_holes_step import FillHoles
from tinhalo.core.recipe.step import Step
from tinhalo.core.runtime.memo import Memo

_ART: TypeAdapter[AnyArt] = TypeAdapter(AnyArt)


def mended(design: Design, mend: Mend, library: Library, memo: Memo) -> Design:
    """The design with the changes of a mend.

    Args:
        design: the document.
        mend: what one of its findings offers.
        library: gives fonts by id, for a search.
        memo: results of earlier builds, the same.
    Raises:
        DesignError: when a layer or art of it is not there any more.
        CancelledError: once nobody waits for it, see ``runtime.cancellation``.
    """
    for change in mend.changes:
        if isinstance(change, FindPlace):
            for seen in find_place(design, change, library, memo):
                if isinstance(seen, Placed):
                    design = seen.design or design
        elif isinstance(change, FillThrough):
            design = _filled_through(design, change, library, memo)
        else:
            design = _changed(change, design)
    # One step more may be one too many.
    return parse_design(design.model_dump(mode="json", by_alias=True))


def _filled_through(design: Design, change: FillThrough, library: Library, memo: Memo) -> Design:
    """Only where there is a hole a step is added: a place without one would be told to be gone."""
    made = build(design, library, exact=False, memo=memo)
    art = {one.art.id: one for one in made.art}
    ids = [one.layer.id for one in made.layers]
    start = ids.index(change.layer) if change.layer in ids else len(ids)
    for one in made.layers[start:]:
        if one.layer.process not in CUTS or one.layer.hidden:
            continue
        holes = one.region.hole_areas()
        places = [(spot, anchor_place(art[spot.art], spot)) for spot in change.only if spot.art in art]
        here = tuple(spot for spot, at in places if at and holding(holes, [at]).any())
        if here:
            design = _changed(SetStep.of(one.layer.id, FillHoles(only=here)), design)
    return design


@singledispatch
def _changed(change: Change, design: Design) -> Design:
    """The design after a change that takes no search."""
    raise NotImplementedError(type(change).__name__)


@_changed.register
def _(change: SetStep, design: Design) -> Design:
    return _with_layer(design, change.layer, lambda layer: _with_step(layer, change))


@_changed.register
def _(change: SetProcess, design: Design) -> Design:
    return _with_layer(design, change.layer, lambda layer: layer.model_copy(update={"process": change.process}))


@_changed.register
def _(change: SetSources, design: Design) -> Design:
    return _with_layer(design, change.layer, lambda layer: _with_recipe(layer, {"sources": change.sources}))


@_changed.register
def _(change: ShareCut, design: Design) -> Design:
    return _with_layer(design, change.layer, lambda layer: _sharing(layer, change.cut_with))


@_changed.register
def _(change: SetArt, design: Design) -> Design:
    return _with_art(design, change.art, lambda art: _patched(art, change.patch))


@_changed.register
def _(change: ScaleArt, design: Design) -> Design:
    return _with_art(design, change.art, lambda art: scaled_in_place(art, change.factor))


@_changed.register
def _(change: LaySheet, design: Design) -> Design:
    return design.model_copy(update={"sheet": change.sheet})


@_changed.register
def _(change: ScaleAll, design: Design) -> Design:
    return scaled(design, change.factor, "scaled")


def _with_step(layer: Layer, change: SetStep) -> Layer:
    steps = [*layer.recipe.steps]
    if change.at is None and steps and (both := _at_more_places(steps[-1], change.step)):
        return _with_recipe(layer, {"steps": (*steps[:-1], both)})
    at = len(steps) if change.at is None else change.at
    steps[at : at + 1] = [change.step]
    return _with_recipe(layer, {"steps": tuple(steps)})


def _at_more_places(step: Step, other: Step) -> Step | None:
    """One step for what two alike do at some places each; None where they are not alike."""
    places, more = (getattr(one, "only", None) for one in (step, other))
    if not places or not more or step.model_copy(update={"only": None}) != other.model_copy(update={"only": None}):
        return None
    return step.model_copy(update={"only": tuple(dict.fromkeys((*places, *more)))})


def _with_recipe(layer: Layer, update: dict[str, Any]) -> Layer:
    return layer.model_copy(update={"recipe": layer.recipe.model_copy(update=update)})


def _sharing(layer: Layer, other: str) -> Layer:
    return layer.model_copy(update={"cut_with": tuple(dict.fromkeys((*layer.cut_with, other)))})


def _patched(art: AnyArt, patch: Mapping[str, Any]) -> AnyArt:
    return _ART.validate_python(merged(art.model_dump(mode="json", by_alias=True), patch))


def merged(target: Any, patch: Any) -> Any:
    """Plain data after a JSON merge patch (RFC 7396)."""
    if not isinstance(patch, Mapping):
        return patch
    made: dict[str, Any] = dict(cast("Mapping[str, Any]", target)) if isinstance(target, Mapping) else {}
    for name, value in cast("Mapping[str, Any]", patch).items():
        if value is None:
            made.pop(name, None)
        else:
            made[name] = merged(made.get(name), value)
    return made


def _with_layer(design: Design, id: str, change: Callable[[Layer], Layer]) -> Design:
    if not any(one.id == id for one in design.layers):
        raise DesignError([Problem("layers", f"The layer “{id}” is not there any more.")])
    layers = tuple(change(one) if one.id == id else one for one in design.layers)
    return design.model_copy(update={"layers": layers})


def _with_art(design: Design, id: str, change: Callable[[AnyArt], AnyArt]) -> Design:
    if not any(one.id == id for one in design.art):
        raise DesignError([Problem("art", f"“{id}” is not there any more.")])
    return design.model_copy(update={"art": tuple(change(one) if one.id == id else one for one in design.art)})
