"""Openings in what lies behind a face: nobody misses them, so they are offered to be filled first."""

from __future__ import annotations

from collections.abc import Iterator

from tinhalo.core.design.design import Layer
from tinhalo.core.findings.mends.mend import Mend, SetStep
from tinhalo.core.findings.surveyed import Surveyed
from tinhalo.core.geometry.arrays import XY
from tinhalo.core.recipe.border_steps import OutlineRing, Wall
from tinhalo.core.recipe.bridge_step import Stencil
from tinhalo.core.recipe.combine_steps import Subtract
from tinhalo.core.recipe.fill_holes_step import FillHoles
from tinhalo.core.recipe.hole_steps import Hole, Tab
from tinhalo.core.recipe.shape_steps import DropShadow

#: After these a layer has openings that are wanted.
_OPENING = OutlineRing | Wall | Stencil | Subtract | Hole | Tab | DropShadow


def is_backing(one: Surveyed) -> bool:
    """Whether a layer lies under a face, as a border, a backer or a shadow, and has no openings on purpose."""
    return bool(one.over) and not _opened(one.layer)


def filling_one(one: Surveyed, at: XY) -> Iterator[Mend]:
    """All openings of a layer filled, or the one at a place."""
    yield Mend.by_step("Fill the holes", one.layer.id, FillHoles())
    if spot := one.anchor(at):
        yield Mend.by_step("Fill only this one", one.layer.id, FillHoles(only=(spot,)), here=True)


def filling_rest(one: Surveyed) -> Iterator[Mend]:
    """The openings that are left filled, in a layer or in all that lie under the face."""
    if one.region.holes:
        yield Mend.by_step("Fill the other holes, too", one.layer.id, FillHoles())
    behind = [one.layer.id, *(layer.id for layer, region in one.under if region.holes and not _opened(layer))]
    if len(behind) > 1:
        changes = tuple(SetStep.of(id, FillHoles()) for id in behind)
        yield Mend(title=f"Fill the holes of all {len(behind)} layers from here down", changes=changes)


def _opened(layer: Layer) -> bool:
    return any(isinstance(step, _OPENING) and not step.off for step in layer.recipe.steps)
