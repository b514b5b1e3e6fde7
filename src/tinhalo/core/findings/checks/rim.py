"""Ring and screw holes with too little material around them: to an edge, or to another hole."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

import shapely
from shapely import LinearRing, LineString, Polygon
from shapely.ops import nearest_points

from tinhalo.core.findings.finding import Finding, outline_of, rounded
from tinhalo.core.findings.mends.mend import Mend
from tinhalo.core.findings.surveyed import SLACK, Surveyed
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.recipe.hole_steps import Hole, Tab
from tinhalo.core.recipe.kinds import AnyStep

#: A hole is one that a step made where it is as round (4 pi area / edge²) and as wide as that.
_ROUND, _AS_WIDE = 0.99, 0.02
#: A hole is not made smaller than this, in mm: no ring or screw goes through.
_LEAST_HOLE = 1.0


@dataclass(frozen=True)
class _Made:
    """A hole that a step made, and the piece that it is in."""

    index: int
    step: Tab | Hole
    ring: LinearRing
    piece: Polygon

    @property
    def area(self) -> Polygon:
        return Polygon(self.ring)


@dataclass(frozen=True)
class _Narrow:
    """The least material between a hole and something else: a web, if that is a hole, too."""

    hole: _Made
    other: _Made | None
    is_hole: bool
    web: LineString

    @property
    def cause(self) -> tuple[int, int]:
        """The steps that it is between; -1 for the outer edge, -2 for a hole that no such step made."""
        beside = self.other.index if self.other else (-2 if self.is_hole else -1)
        return (self.hole.index, beside)


def check_rims(one: Surveyed) -> list[Finding]:
    """Holes that a tab or hole step made too near to an edge or to another hole: one finding for each two causes."""
    least = one.limits.least_width
    narrow = [found for found in _narrow(one) if found.web.length < least - SLACK]
    causes: dict[tuple[int, int], list[_Narrow]] = {}
    for found in sorted(narrow, key=lambda found: found.web.length):
        causes.setdefault(found.cause, []).append(found)
    return [_told(one, found) for _, found in sorted(causes.items())]


def _narrow(one: Surveyed) -> Iterator[_Narrow]:
    """Of each made hole the least material to the outer edge, to each other made hole, and to holes of any kind."""
    made = list(_made(one))
    for k, hole in enumerate(made):
        yield _Narrow(hole, None, False, _between(hole.ring, hole.piece.exterior))
        for other in made[k + 1 :]:
            if other.piece is hole.piece:
                yield _Narrow(hole, other, True, _between(hole.ring, other.ring))
        for ring in hole.piece.interiors:
            if not any(ring.equals(other.ring) for other in made):
                yield _Narrow(hole, None, True, _between(hole.ring, ring))


def _made(one: Surveyed) -> Iterator[_Made]:
    seen: list[LinearRing] = []
    pieces = list(one.region.area.geoms)
    for index, step in enumerate(one.layer.recipe.steps):
        if step.off or not isinstance(step, Tab | Hole):
            continue
        diameter = step.hole if isinstance(step, Tab) else step.diameter
        before, after = one.stages[index].area, one.stages[index + 1].area
        for piece in pieces:
            for ring in piece.interiors:
                middle = Polygon(ring).representative_point()
                # Made by this step: there was material, or nothing yet where a tab was added, and now there is none.
                is_new = not after.contains(middle) and (isinstance(step, Tab) or before.contains(middle))
                if is_new and _is_round(ring, diameter) and not any(ring.equals(other) for other in seen):
                    seen.append(ring)
                    yield _Made(index, step, ring, piece)


def _is_round(ring: LinearRing, diameter: float) -> bool:
    area = Polygon(ring).area
    wide = math.sqrt(4 * area / math.pi)
    return 4 * math.pi * area / ring.length**2 > _ROUND and abs(wide / diameter - 1) < _AS_WIDE


def _between(one: LinearRing, other: LinearRing) -> LineString:
    return LineString(nearest_points(one, other))


def _told(one: Surveyed, found: list[_Narrow]) -> Finding:
    worst, least = found[0], one.limits.least_width
    web = worst.web.length
    holes = {ring.area.wkb: ring.area for narrow in found for ring in (narrow.hole, narrow.other) if ring is not None}
    if worst.other:
        told = f"Only {one.length(web)} stays between two holes of {one.title}"
    elif worst.is_hole:
        told = f"Only {one.length(web)} stays between a hole of {one.title} and the hole beside it"
    else:
        told = f"{f'{len(found)} holes' if len(found) > 1 else 'A hole'} in {one.title}"
        told += f" {'leave' if len(found) > 1 else 'leaves'} only {one.length(web)} to the edge"
    middle = worst.web.interpolate(0.5, normalized=True)
    mends = _apart(one, worst, least - web) if worst.is_hole else _further_in(one, worst, least - web)
    return Finding(
        kind="hole_near_edge",
        severity="warning",
        layer=one.layer.id,
        sentence=f"{told}: {one.material.name} needs {one.length(least)}.",
        at=rounded(middle),
        outline=outline_of(Region.of(shapely.union_all(list(holes.values()))).area),
        measure=round(web, 3),
        limit=least,
        unit="mm",
        mends=mends,
    )


def _more(short: float) -> float:
    # A little more than is missing: the hole's polygon lies inside its circle.
    return math.ceil(short * 20 + 0.2) / 20


def _further_in(one: Surveyed, narrow: _Narrow, short: float) -> tuple[Mend, ...]:
    """What puts more material between a hole and the outer edge."""
    step, index, more = narrow.hole.step, narrow.hole.index, _more(short)
    if isinstance(step, Tab):
        wider = step.model_copy(update={"rim": round(step.rim + more, 3)})
        return (Mend.by_step(f"Make the tab's rim {one.length(wider.rim)}", one.layer.id, wider, index),)
    at = step.at.model_copy(update={"inset": round(step.at.inset + more, 3)})
    moved = step.model_copy(update={"at": at})
    return (
        Mend.by_step(f"Move it {one.length(more)} inwards", one.layer.id, moved, index),
        *_smaller(one, step, index, 2 * more),
    )


def _apart(one: Surveyed, narrow: _Narrow, short: float) -> tuple[Mend, ...]:
    """What puts more material between two holes: a row's spacing, or smaller holes."""
    hole = narrow.other or narrow.hole
    step, index, more = hole.step, hole.index, _more(short)
    if narrow.other and narrow.hole.index == index and isinstance(step, Hole) and step.row:
        return (*_wider_row(one, step, index, more), *_smaller(one, step, index, more))
    return _smaller(one, step, index, 2 * more)


def _wider_row(one: Surveyed, step: Hole, index: int, more: float) -> tuple[Mend, ...]:
    if step.row is None or not (far := math.hypot(step.row.dx, step.row.dy)):
        return ()
    factor = (far + more) / far
    row = step.row.model_copy(update={"dx": round(step.row.dx * factor, 3), "dy": round(step.row.dy * factor, 3)})
    title = f"Set them {one.length(round(far + more, 2))} apart"
    return (Mend.by_step(title, one.layer.id, step.model_copy(update={"row": row}), index),)


def _smaller(one: Surveyed, step: AnyStep, index: int, by: float) -> tuple[Mend, ...]:
    name = "hole" if isinstance(step, Tab) else "diameter"
    wide = round(getattr(step, name) - by, 3)
    if wide < _LEAST_HOLE:
        return ()
    title = f"Make the hole {one.length(wide)} wide"
    return (Mend.by_step(title, one.layer.id, step.model_copy(update={name: wide}), index),)
