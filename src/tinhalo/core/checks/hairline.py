"""Slits between a layer and the one under it that should meet it: a white hairline shows there."""

from __future__ import annotations

import shapely
from shapely import LineString, Polygon
from shapely.geometry.base import BaseGeometry

from tinhalo.core.checks.finding import Finding, mm, outline_of, rounded
from tinhalo.core.checks.mend import Mend
from tinhalo.core.checks.surveyed import Surveyed
from tinhalo.core.design import Layer
from tinhalo.core.recipe.combine_steps import Union
from tinhalo.core.recipe.recipe import Recipe
from tinhalo.core.recipe.shape_steps import DropShadow

#: Wider than this (mm) a slit is meant to be seen; where edges meet within it, nobody lays them down so exactly.
_SLIT = 0.2
#: What is laid over an edge by hand covers it if it reaches this far under, in mm (common practice).
UNDERLAP = 0.3
#: Shorter seams (mm) are only where edges cross.
_LEAST = 1.0


def check_hairlines(one: Surveyed) -> list[Finding]:
    """Each stretch where the layer below ends at this one's edge, or just short of it, instead of under it."""
    if one.below is None:
        return []
    below, ground = one.below
    top = one.region.area
    close = ground.area.boundary.intersection(top.buffer(_SLIT))
    # Where it reaches under the edge it may come out again beside it.
    under = one.lying.area.buffer(_SLIT + 0.01)
    seam: BaseGeometry = close.difference(under)
    found: list[Finding] = []
    for around in shapely.get_parts(seam.buffer(_SLIT, quad_segs=4)):
        if not isinstance(around, Polygon):
            continue
        parts = shapely.get_parts(seam.intersection(around))
        lines = [line for line in parts if isinstance(line, LineString) and line.length > 0]
        if sum(line.length for line in lines) < _LEAST:
            continue
        # At its ends a seam turns away from the edge: its middle tells how wide the slit is.
        middle = max(lines, key=lambda line: line.length).interpolate(0.5, normalized=True)
        slit = middle.distance(top)
        told = f"is a slit of {mm(slit)}" if slit > 0.005 else "is no overlap at all"
        found.append(
            Finding(
                kind="hairline",
                severity="warning",
                layer=one.layer.id,
                sentence=f"Between {one.title} and “{below.title}” {told}: let it reach {mm(UNDERLAP)} under.",
                at=rounded(middle),
                outline=outline_of(around),
                measure=round(slit, 3),
                limit=UNDERLAP,
                unit="mm",
                mends=_mends(one, below),
            )
        )
    return found


def _mends(one: Surveyed, below: Layer) -> tuple[Mend, ...]:
    for index, step in enumerate(below.recipe.steps):
        if isinstance(step, DropShadow) and step.visible_only and step.underlap < UNDERLAP:
            under = step.model_copy(update={"underlap": UNDERLAP})
            return (Mend.by_step(f"Underlap of {mm(UNDERLAP)}", below.id, under, index),)
    if not one.can_make(below):
        return ()
    whole = Union(operand=Recipe(sources=(one.layer.id,)))
    return (Mend.by_step(f"Let “{below.title}” lie under all of {one.title}", below.id, whole),)
