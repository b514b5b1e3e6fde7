"""Edges that two layers of one material share, and that are cut twice when both come from one sheet."""

from __future__ import annotations

from dataclasses import dataclass

import shapely
from shapely import LineString, MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from tinhalo.core.design.design import Layer
from tinhalo.core.findings.finding import Finding, outline_of, rounded
from tinhalo.core.findings.mends.mend import Mend, SetProcess, SetStep, ShareCut
from tinhalo.core.findings.surveyed import Surveyed
from tinhalo.core.geometry.arrays import XY
from tinhalo.core.geometry.exact.shared_edges import SAME, beside
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.recipe.border_steps import CloseGaps, OpenGaps
from tinhalo.core.recipe.combine_steps import Subtract, Union
from tinhalo.core.recipe.offset_step import Offset
from tinhalo.core.recipe.recipe import Recipe

#: What is cut apart needs at least this, in mm: no knife or beam follows its own cut (common practice).
_KERF = 0.5
#: Shorter stretches (mm) are not worth telling.
_LEAST = 1.0
#: Edges of one layer nearer than this (mm) are one line on every machine.
AS_ONE = 0.005
#: Closing gaps this wide (mm) makes one of pieces that lie edge to edge.
_TOGETHER = 0.05


def check_doubled_lines(one: Surveyed) -> list[Finding]:
    """Each other layer of the same stock that lies beside this one, edge to edge."""
    found: list[Finding] = []
    area = one.region.area
    for other, region in one.under:
        # Where one cut serves both already there is nothing to tell.
        if other.stock != one.layer.stock or one.layer.shares_cuts(other) or not beside(one.region, region):
            continue
        if shared := _shared(area, region.area, SAME):
            told = (
                f"{one.title} and “{other.title}” share {one.length(round(shared.length))} of edge: "
                "from one sheet it is cut twice."
            )
            found.append(_told(one, shared, told, _mends(one, other)))
    return found


def check_own_doubled(one: Surveyed) -> list[Finding]:
    """Pieces of one layer that lie edge to edge: nothing joins them, and the line between is cut twice."""
    pieces = one.resting.pieces.tolist()
    first, second = shapely.STRtree(pieces).query(pieces, predicate="dwithin", distance=AS_ONE) if pieces else ((), ())
    found: list[Finding] = []
    join = CloseGaps(up_to=_TOGETHER)
    open_ = OpenGaps(to=one.limits.opening)
    for a, b in zip(first, second, strict=True):
        if a >= b:
            continue
        if shared := _shared(pieces[a], pieces[b], AS_ONE):
            told = (
                f"Two pieces of {one.title} lie edge to edge along {one.length(round(shared.length, 1))}"
                f"{one.at_letter(shared.at)}: the line is cut twice, and nothing joins them."
            )
            mends = (
                Mend.by_step("Make one piece of them", one.layer.id, join),
                Mend.by_step(f"Leave {one.length(open_.to)} between them", one.layer.id, open_),
            )
            found.append(_told(one, shared, told, mends))
    return found


@dataclass(frozen=True)
class _Shared:
    """What two areas have of their edges in common: a place in the middle of its longest stretch, and its length."""

    lines: BaseGeometry
    at: XY
    length: float


def _shared(one: Polygon | MultiPolygon, other: Polygon | MultiPolygon, within: float) -> _Shared | None:
    shared = one.boundary.intersection(other.boundary.buffer(within))
    lines = [line for line in shapely.get_parts(shared) if isinstance(line, LineString) and line.length > 0]
    length = sum(line.length for line in lines)
    if length < _LEAST:
        return None
    longest = max(lines, key=lambda line: line.length)
    return _Shared(shared, rounded(longest.interpolate(0.5, normalized=True)), length)


def _told(one: Surveyed, shared: _Shared, sentence: str, mends: tuple[Mend, ...]) -> Finding:
    return Finding(
        kind="doubled_line",
        severity="warning",
        layer=one.layer.id,
        sentence=sentence,
        at=shared.at,
        outline=outline_of(Region.of(shared.lines.buffer(0.15)).area),
        measure=round(shared.length, 3),
        limit=0,
        unit="mm",
        mends=mends,
    )


def _mends(one: Surveyed, other: Layer) -> tuple[Mend, ...]:
    this = one.layer.id
    once = Mend(title="Cut the shared edge once", changes=(ShareCut(layer=other.id, cut_with=this),))
    if not one.can_make(other):
        return (once,)
    apart = max(_KERF, one.limits.opening)
    away = Subtract(operand=Recipe(sources=(this,), steps=(Offset(by=apart),)))
    whole = SetStep(layer=other.id, step=Union(operand=Recipe(sources=(this,))))
    return (
        once,
        Mend.by_step(f"Leave {one.length(apart)} between them", other.id, away),
        Mend(title="Make one piece of them", changes=(whole, SetProcess(layer=this, process="guide"))),
    )
