"""Holes that a step closed without being asked to."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

from shapely import MultiPolygon, Polygon

from tinhalo.core.findings.finding import Finding, outline_of, rounded
from tinhalo.core.findings.mends.filling import filling_rest, is_backing
from tinhalo.core.findings.mends.mend import Mend, SetStep
from tinhalo.core.findings.surveyed import Surveyed
from tinhalo.core.geometry.regions.selection import holes_without, widest
from tinhalo.core.recipe.offset_step import Offset
from tinhalo.core.recipe.shape_steps import RoundOff
from tinhalo.core.recipe.step import Step
from tinhalo.core.recipe.thicken_step import Thicken

#: A stroke can be thickened by no more, in mm.
_MOST = 100


def check_closed_holes(one: Surveyed) -> list[Finding]:
    """Holes lost by growing, thickening or rounding, while others stay open; where all are lost, one note of it."""
    found: list[Finding] = []
    steps = one.layer.recipe.steps
    for index, step in enumerate(steps):
        if step.off or not isinstance(step, Offset | Thicken | RoundOff):
            continue
        if any(later.asks_for_holes_closed and not later.off for later in steps[index:]):
            continue
        closed = [
            hole
            for hole in holes_without(one.stages[index], one.stages[index + 1])
            if one.region.area.contains(hole.representative_point())
        ]
        if closed:
            found += _told(one, index, step, closed)
    return found


def _told(one: Surveyed, index: int, step: Step, closed: list[Polygon]) -> list[Finding]:
    wide = widest(closed).tolist()
    # Under a face nobody misses them: the rest of the holes is wanted closed, too.
    behind = is_backing(one)
    kept = tuple(_mends(one, index, step))
    mends = (*filling_rest(one), *kept) if behind else kept
    if not one.region.holes:
        many = "its only hole" if len(closed) == 1 else f"all {len(closed)} holes"
        sentence = f"Step {index + 1} of {one.title} closes {many}."
        return [_finding(one, "note", MultiPolygon(closed), max(wide), sentence, mends)]
    return [
        _finding(
            one,
            "note" if behind else "warning",
            hole,
            width,
            f"Step {index + 1} of {one.title} closes a hole {one.length(width)} wide"
            f"{one.at_letter(rounded(hole.representative_point()))}; others stay open.",
            (*mends, *(_only_this(one, index, kept, hole) if len(closed) > 1 else ())),
        )
        for hole, width in zip(closed, wide, strict=True)
    ]


def _finding(
    one: Surveyed, severity: str, area: Polygon | MultiPolygon, width: float, sentence: str, mends: tuple[Mend, ...]
) -> Finding:
    return Finding.model_validate(
        {
            "kind": "closed_hole",
            "severity": severity,
            "layer": one.layer.id,
            "sentence": sentence,
            "at": rounded(area.representative_point()),
            "outline": outline_of(area),
            "measure": round(width, 3),
            "unit": "mm",
            "mends": mends,
        }
    )


def _mends(one: Surveyed, index: int, step: Step) -> Iterator[Mend]:
    # A hole that is weeded has to be large enough to get hold of: a round one of the least area.
    round_one = math.ceil(20 * math.sqrt(one.limits.least_area / math.pi)) / 10
    least = max(one.limits.opening, round_one) if one.limits.weeded else one.limits.opening
    if isinstance(step, Offset) and 0 < step.by <= _MOST / 2:
        kept = Thicken(by=2 * step.by, keep_open=least)
    elif isinstance(step, Thicken):
        kept = step.model_copy(update={"keep_open": max(least, step.keep_open or 0), "keep_only": None})
    else:
        return
    title = f"Keep holes open, {one.length(least)} at least"
    yield Mend.by_step(title, one.layer.id, kept, index)


def _only_this(one: Surveyed, index: int, kept: Sequence[Mend], hole: Polygon) -> Iterator[Mend]:
    """The step that keeps holes open, for this one and those that it keeps open already."""
    spot = one.anchor(rounded(hole.representative_point()))
    step = one.layer.recipe.steps[index]
    known = (step.keep_only or ()) if isinstance(step, Thicken) else ()
    for mend in kept:
        for change in mend.changes:
            if not isinstance(change, SetStep) or not isinstance(change.step, Thicken) or spot is None:
                continue
            if change.step.to is None or change.step.where == "everywhere":
                alone = change.step.model_copy(update={"keep_only": (*known, spot)})
                yield Mend.by_step("Keep only this one open", one.layer.id, alone, index, here=True)
