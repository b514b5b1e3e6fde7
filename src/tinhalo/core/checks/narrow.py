"""Strokes too thin for the material, and gaps too tight for the cutter."""

from __future__ import annotations

import shapely
from shapely import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from tinhalo.core.checks.finding import Finding, Mend, mm, outline_of, rounded
from tinhalo.core.checks.surveyed import SLACK, Surveyed
from tinhalo.core.geometry.widths import Widths
from tinhalo.core.recipe.border_steps import CloseGaps
from tinhalo.core.recipe.thicken_step import Thicken


def check_thin_spots(one: Surveyed) -> list[Finding]:
    """Each stretch of a stroke that is narrower than the material's least width."""
    least = one.limits.least_width
    return [
        Finding(
            kind="thin_spot",
            severity="warning",
            layer=one.layer.id,
            sentence=f"{one.title} is only {mm(width)} wide here: {one.material.name} needs {mm(least)}, or it breaks.",
            at=at,
            outline=outline_of(around),
            measure=round(width, 3),
            limit=least,
            unit="mm",
            mends=(
                Mend(title=f"Thicken to {mm(least)} there", layer=one.layer.id, step=Thicken(to=least)),
                Mend(
                    title=f"Thicken all, to {mm(least)} at least",
                    layer=one.layer.id,
                    step=Thicken(to=least, where="everywhere"),
                ),
            ),
        )
        for width, at, around in _stretches(one.measure().strokes, least, one.region.area)
    ]


def check_tight_gaps(one: Surveyed) -> list[Finding]:
    """Each stretch of a gap that is narrower than can be cut."""
    least = one.limits.least_gap
    step = CloseGaps(up_to=least)
    return [
        Finding(
            kind="tight_gap",
            severity="warning",
            layer=one.layer.id,
            sentence=(
                f"The gap in {one.title} is only {mm(width)} wide here: in {one.material.name} it needs {mm(least)} "
                "to stay open."
            ),
            at=at,
            outline=outline_of(around),
            measure=round(width, 3),
            limit=least,
            unit="mm",
            mends=(Mend(title=f"Close gaps up to {mm(least)}", layer=one.layer.id, step=step),),
        )
        for width, at, around in _stretches(one.measure().gaps, least, None)
    ]


def _stretches(
    widths: Widths, least: float, within: MultiPolygon | None
) -> list[tuple[float, tuple[float, float], MultiPolygon]]:
    """Narrow stretches that lie apart: the least width, where that is, and the area around."""
    narrow = widths.width < least - SLACK
    if not narrow.any():
        return []
    areas = shapely.buffer(widths.thinner_than(least - SLACK), max(least, 0.5) / 2 + 0.1, quad_segs=4)
    parts = shapely.get_parts(shapely.disjoint_subset_union_all(areas))
    places = widths.place[narrow]
    inside, part_of = shapely.STRtree(parts).query(shapely.points(places), predicate="intersects")
    found: list[tuple[float, tuple[float, float], MultiPolygon]] = []
    for number, part in enumerate(parts):
        own = inside[part_of == number]
        if not len(own):
            continue
        width = widths.width[narrow][own]
        thinnest = own[width.argmin()]
        x, y = places[thinnest].tolist()
        shown: BaseGeometry = part if within is None else part.intersection(within)
        polygons = [p for p in shapely.get_parts(shown) if isinstance(p, Polygon)]
        found.append((float(width.min()), rounded((x, y)), MultiPolygon(polygons)))
    return found
