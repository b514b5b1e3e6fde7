"""Ring and screw holes with too little material around them."""

from __future__ import annotations

import math

from shapely import LinearRing, Polygon
from shapely.ops import nearest_points

from tinhalo.core.findings.finding import Finding, outline_of, rounded
from tinhalo.core.findings.mends.mend import Mend
from tinhalo.core.findings.surveyed import SLACK, Surveyed
from tinhalo.core.recipe.hole_steps import Hole, Tab
from tinhalo.core.recipe.kinds import AnyStep

#: A hole is one that a step made where it is as round (4 pi area / edge²) and as wide as that.
_ROUND, _AS_WIDE = 0.99, 0.02


def check_rims(one: Surveyed) -> list[Finding]:
    """Holes that a tab or hole step made nearer to the edge, or to another hole, than the material's least width."""
    found: list[Finding] = []
    for index, step in enumerate(one.layer.recipe.steps):
        if step.off or not isinstance(step, Tab | Hole):
            continue
        diameter = step.hole if isinstance(step, Tab) else step.diameter
        for piece in one.region.area.geoms:
            for ring in piece.interiors:
                if _is_round(ring, diameter):
                    found += _near(one, index, step, piece, ring)
    return found


def _is_round(ring: LinearRing, diameter: float) -> bool:
    area = Polygon(ring).area
    wide = math.sqrt(4 * area / math.pi)
    return 4 * math.pi * area / ring.length**2 > _ROUND and abs(wide / diameter - 1) < _AS_WIDE


def _near(one: Surveyed, index: int, step: AnyStep, piece: Polygon, ring: LinearRing) -> list[Finding]:
    least = one.limits.least_width
    others = [other for other in (piece.exterior, *piece.interiors) if other is not ring and not other.equals(ring)]
    rim, edge = min(((ring.distance(other), other) for other in others), key=lambda found: found[0])
    if rim >= least - SLACK:
        return []
    a, b = nearest_points(ring, edge)
    return [
        Finding(
            kind="hole_near_edge",
            severity="warning",
            layer=one.layer.id,
            sentence=(
                f"A hole in {one.title} leaves only {one.length(rim)} to the edge: {one.material.name} needs "
                f"{one.length(least)}."
            ),
            at=rounded(((a.x + b.x) / 2, (a.y + b.y) / 2)),
            outline=outline_of(Polygon(ring)),
            measure=round(rim, 3),
            limit=least,
            unit="mm",
            mends=_mends(one, index, step, least - rim),
        )
    ]


def _mends(one: Surveyed, index: int, step: AnyStep, short: float) -> tuple[Mend, ...]:
    # A little more than is missing: the hole's polygon lies inside its circle.
    more = math.ceil(short * 20 + 0.2) / 20
    if isinstance(step, Tab):
        wider = step.model_copy(update={"rim": round(step.rim + more, 3)})
        return (Mend.by_step(f"Make the tab's rim {one.length(wider.rim)}", one.layer.id, wider, index),)
    if isinstance(step, Hole):
        at = step.at.model_copy(update={"inset": round(step.at.inset + more, 3)})
        moved = step.model_copy(update={"at": at})
        return (Mend.by_step(f"Move it {one.length(more)} inwards", one.layer.id, moved, index),)
    return ()
