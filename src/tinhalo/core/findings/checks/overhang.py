"""Parts of a layer that hang over the one below."""

from __future__ import annotations

import shapely
from shapely import MultiPolygon, Polygon
from shapely.ops import nearest_points

from tinhalo.core.design.design import Layer
from tinhalo.core.design.hand_over import CUTS
from tinhalo.core.findings.finding import Finding, outline_of, rounded
from tinhalo.core.findings.mends.mend import Mend
from tinhalo.core.findings.surveyed import SLACK, Surveyed
from tinhalo.core.geometry.arrays import XY
from tinhalo.core.geometry.placement.fit_on import move_onto
from tinhalo.core.geometry.regions.region import Region, plainer
from tinhalo.core.geometry.regions.robust import overlaid
from tinhalo.core.geometry.stacking.reach import Ground
from tinhalo.core.recipe.combine_steps import Intersect, Union
from tinhalo.core.recipe.offset_step import Offset
from tinhalo.core.recipe.recipe import Recipe
from tinhalo.core.recipe.shape_steps import PlaceStep

#: Less than this (mm²) hangs over by the way curves are followed, not on purpose.
_LEAST = 0.025
#: So far (mm) anything may hang over unseen.
_LET = SLACK / 2
#: A slot up to this width (mm), or up to the thickness of what lies on it, is spanned (common practice).
_SPANNED = 1.0


def check_overhang(one: Surveyed) -> list[Finding]:
    """Each part of a layer that is not on the layer below it, or nearer to its edge than the material's margin."""
    marked = one.layer.process not in CUTS
    if one.below is None or (one.limits.weeded and not marked):
        return []
    below, ground = one.below
    margin = 0.0 if marked else one.limits.margin
    # A layer that hardly touches the one below does not lie on it: it stands beside it.
    if (one.resting.whole.all() and not margin) or one.resting.lying.area.area < one.region.area.area / 2:
        return []
    inside = Region.of(ground.area.buffer(-margin)) if margin else ground
    # Edges that run along each other are dear to overlay: without a margin, half of what counts is let hang over.
    off, kept = (one.region.area, inside.area) if margin else (one.resting.off.simple, ground.simple.buffer(_LET, 2))
    beyond = shapely.get_parts(overlaid(shapely.difference, off, kept))
    parts = [part for part in beyond if isinstance(part, Polygon) and part.area >= _LEAST]
    if not parts:
        return []
    # A narrow slot is spanned: what goes over it is held on both sides. What is burnt in goes through it.
    width = 0.0 if marked else max(_SPANNED, one.material.thickness)
    floor = Ground(plainer(ground.area, SLACK / 10))
    found: list[Finding] = []
    for part in parts:
        plain = _plain(part)
        most, at = floor.furthest(plain)
        # An edge that lies on it all round only covers a hole; but what is burnt in goes right through that.
        if most >= SLACK or one.layer.process == "engrave":
            most, at = floor.furthest_inside(plain, most, at)
        if most >= SLACK and floor.spans(plain, width):
            continue
        where = one.at_letter(rounded(at))
        if most >= SLACK and marked:
            sentence = (
                f"{one.title} goes {one.length(most)} over the edge of “{below.title}”{where}, onto the machine's bed."
            )
            found.append(_finding(one, part, at, sentence, most, 0))
        elif most >= SLACK:
            sentence = f"{one.title} hangs {one.length(most)} over the edge of “{below.title}”{where}."
            found.append(_finding(one, part, at, sentence, most, 0))
        elif margin and (near := part.distance(ground.area.boundary)) < margin - SLACK:
            here = nearest_points(part.boundary, ground.area.boundary)[0]
            sentence = (
                f"{one.title} is only {one.length(near)} from the edge of “{below.title}”"
                f"{one.at_letter(rounded(here))}: {one.length(margin)} is wanted."
            )
            found.append(_finding(one, part, (here.x, here.y), sentence, near, margin))
    mends = _mends(one, below, inside) if found else ()
    if mends:
        return [finding.model_copy(update={"mends": mends}) for finding in found]
    helps = f" Make “{below.title}” larger, or move {one.title}."
    return [finding.model_copy(update={"sentence": finding.sentence + helps}) for finding in found]


def _plain(part: Polygon) -> Polygon:
    """A part with fewer vertices; as it is where it is too slim for that."""
    parts = plainer(MultiPolygon([part]), SLACK / 10).geoms
    return parts[0] if len(parts) == 1 else part


def _finding(one: Surveyed, part: Polygon, at: XY, sentence: str, measure: float, limit: float) -> Finding:
    return Finding(
        kind="overhang",
        severity="warning",
        layer=one.layer.id,
        sentence=sentence,
        at=rounded(at),
        outline=outline_of(part),
        measure=round(measure, 3),
        limit=limit,
        unit="mm",
    )


def _mends(one: Surveyed, below: Layer, inside: Region) -> tuple[Mend, ...]:
    """Whatever hangs over, they are the same: where one part is moved, all are."""
    mends: list[Mend] = []
    marked = one.layer.process not in CUTS
    if not marked and one.can_make(below):
        margin = one.limits.margin
        grown = (Offset(by=margin),) if margin else ()
        title = f"Add {one.title} to “{below.title}”" + (f", {one.length(margin)} around it" if margin else "")
        mends.append(Mend.by_step(title, below.id, Union(operand=Recipe(sources=(one.layer.id,), steps=grown))))
    if one.can_use(below):
        # A layer below that is made from this one would go along.
        if move := move_onto(one.region, inside):
            dx, dy = move
            step = PlaceStep(dx=dx, dy=dy)
            mends.append(Mend.by_step(f"Move {one.title} {_way(one, dx, dy)}", one.layer.id, step))
        if marked:
            kept = Intersect(operand=Recipe(sources=(below.id,)))
            mends.append(Mend.by_step(f"Keep it inside “{below.title}”", one.layer.id, kept))
    return tuple(mends)


def _way(one: Surveyed, dx: float, dy: float) -> str:
    across = f"{one.length(abs(dx))} to the {'right' if dx > 0 else 'left'}" if dx else ""
    up = f"{one.length(abs(dy))} {'up' if dy > 0 else 'down'}" if dy else ""
    return " and ".join(part for part in (across, up) if part)
