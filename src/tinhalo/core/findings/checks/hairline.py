"""Slits between a layer and the one under it that should meet it: a white hairline shows there."""

from __future__ import annotations

import numpy as np

from tinhalo.core.design.design import Layer
from tinhalo.core.findings.finding import Finding, outline_of, rounded
from tinhalo.core.findings.mends.mend import Mend
from tinhalo.core.findings.surveyed import Surveyed
from tinhalo.core.geometry.exact.shared_edges import beside
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.stacking.underlap import seams
from tinhalo.core.recipe.border_steps import OutlineRing
from tinhalo.core.recipe.combine_steps import SLIT, UNDERLAP, Subtract, Underlap, Union
from tinhalo.core.recipe.offset_step import Offset
from tinhalo.core.recipe.recipe import Recipe
from tinhalo.core.recipe.shape_steps import DropShadow
from tinhalo.core.recipe.step import Step

#: Edges as near as this (mm) are one edge, drawn twice.
_MEETING = 0.005
#: A gap that a step makes is as wide as its slit to within this, in mm.
_ALIKE = 0.03
#: A gap between two layers that is meant to be seen (mm), wider than hands lay them down (common practice).
_SEEN = 0.5


def check_hairlines(one: Surveyed) -> list[Finding]:
    """Where the layer below ends at this one's edge, or just short of it, instead of under it, told as one."""
    if one.below is None or one.resting.whole.all():
        return []
    below, ground = one.below
    if one.layer.shares_cuts(below) and beside(one.region, ground):
        return []
    stretches = list(seams(one.resting, SLIT))
    if not stretches:
        return []
    # At its ends a seam turns away from the edge: the middles of its stretches tell how wide the slit is.
    middles = [max(lines, key=lambda line: line.length).interpolate(0.5, normalized=True) for _, lines in stretches]
    slits = [middle.distance(one.region.area) for middle in middles]
    widest = max(range(len(slits)), key=slits.__getitem__)
    slit, at = slits[widest], rounded(middles[widest])
    along = one.length(round(sum(line.length for _, lines in stretches for line in lines), 1))
    beside_it = slit > _MEETING
    told = f"is a slit of {one.length(slit)}" if beside_it else "is no overlap"
    wanted = _asked_for(one, below, slit) if beside_it else None
    helps = "it closes when they are laid down" if wanted else f"let it reach {one.length(UNDERLAP)} under"
    return [
        Finding(
            kind="hairline",
            severity="warning",
            layer=one.layer.id,
            sentence=(
                f"Between {one.title} and “{below.title}” {told} along {along} of edge{one.at_letter(at)}: {helps}."
            ),
            at=at,
            outline=outline_of(Region.of(np.array([around for around, _ in stretches], object)).area),
            measure=round(slit, 3),
            limit=UNDERLAP,
            unit="mm",
            mends=wanted or _mends(one, below, beside_it),
        )
    ]


def _asked_for(one: Surveyed, below: Layer, slit: float) -> tuple[Mend, ...] | None:
    """What widens a gap that a step of either layer makes on purpose; None where none does."""
    for layer in (one.layer, below):
        for index, step in enumerate(layer.recipe.steps):
            wider = None if step.off else _wider(step, slit)
            if wider is not None:
                title = f"Make the gap {one.length(_SEEN)} wide"
                return (Mend.by_step(title, layer.id, wider, index),)
    return None


def _wider(step: Step, slit: float) -> Step | None:
    """The step with its gap wide enough to be seen; None where it makes no gap of that width."""
    if isinstance(step, OutlineRing) and abs(step.gap - slit) < _ALIKE:
        return step.model_copy(update={"gap": _SEEN})
    if isinstance(step, Subtract) and step.operand.steps:
        *before, last = step.operand.steps
        if isinstance(last, Offset) and abs(last.by - slit) < _ALIKE:
            grown = (*before, last.model_copy(update={"by": _SEEN}))
            return step.model_copy(update={"operand": step.operand.model_copy(update={"steps": grown})})
    return None


def _mends(one: Surveyed, below: Layer, beside_it: bool) -> tuple[Mend, ...]:
    for index, step in enumerate(below.recipe.steps):
        # Where a shadow passes another letter, it is not that letter's shadow that has to reach further under.
        if not beside_it and isinstance(step, DropShadow) and step.visible_only and step.underlap < UNDERLAP:
            under = step.model_copy(update={"underlap": UNDERLAP})
            return (Mend.by_step(f"Underlap of {one.length(UNDERLAP)}", below.id, under, index),)
    if not one.can_make(below):
        return ()
    this = Recipe(sources=(one.layer.id,))
    reach = Underlap(operand=this, by=UNDERLAP, within=SLIT)
    mends = (Mend.by_step(f"Let it reach {one.length(UNDERLAP)} under", below.id, reach),)
    if any(isinstance(step, DropShadow) and step.visible_only for step in below.recipe.steps):
        # Only what is seen of it was wanted.
        return mends
    return (*mends, Mend.by_step(f"Let “{below.title}” lie under all of {one.title}", below.id, Union(operand=this)))
