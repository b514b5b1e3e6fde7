"""Slits between a layer and the one under it that should meet it: a white hairline shows there."""

from __future__ import annotations

from tinhalo.core.design.design import Layer
from tinhalo.core.findings.finding import Finding, outline_of, rounded
from tinhalo.core.findings.mends.mend import Mend
from tinhalo.core.findings.surveyed import Surveyed
from tinhalo.core.geometry.exact.shared_edges import beside
from tinhalo.core.geometry.stacking.underlap import seams
from tinhalo.core.recipe.combine_steps import SLIT, UNDERLAP, Underlap, Union
from tinhalo.core.recipe.recipe import Recipe
from tinhalo.core.recipe.shape_steps import DropShadow

#: Edges as near as this (mm) are one edge, drawn twice.
_MEETING = 0.005


def check_hairlines(one: Surveyed) -> list[Finding]:
    """Each stretch where the layer below ends at this one's edge, or just short of it, instead of under it."""
    if one.below is None or one.resting.whole.all():
        return []
    below, ground = one.below
    if one.layer.shares_cuts(below) and beside(one.region, ground):
        return []
    top = one.region.area
    found: list[Finding] = []
    for around, lines in seams(one.resting, SLIT):
        # At its ends a seam turns away from the edge: its middle tells how wide the slit is.
        middle = max(lines, key=lambda line: line.length).interpolate(0.5, normalized=True)
        slit = middle.distance(top)
        beside_it = slit > _MEETING
        at = rounded(middle)
        told = (f"is a slit of {one.length(slit)}" if beside_it else "is no overlap") + one.at_letter(at)
        found.append(
            Finding(
                kind="hairline",
                severity="warning",
                layer=one.layer.id,
                sentence=f"Between {one.title} and “{below.title}” {told}: let it reach {one.length(UNDERLAP)} under.",
                at=at,
                outline=outline_of(around),
                measure=round(slit, 3),
                limit=UNDERLAP,
                unit="mm",
                mends=_mends(one, below, beside_it),
            )
        )
    return found


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
