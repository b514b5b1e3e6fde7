"""Parts of a layer that hang over the one below."""

from __future__ import annotations

import shapely
from shapely import Point, Polygon

from tinhalo.core.checks.finding import Finding, Mend, beginning, mm, outline_of, rounded
from tinhalo.core.checks.surveyed import SLACK, Surveyed
from tinhalo.core.recipe.combine_steps import Union
from tinhalo.core.recipe.recipe import Recipe

#: Less than this (mm²) hangs over by the way curves are followed, not on purpose.
_LEAST = 0.05


def check_overhang(one: Surveyed) -> list[Finding]:
    """Each part of a layer of sheet material that is not on the layer below it."""
    if one.below is None or one.limits.weeded:
        return []
    below, ground = one.below
    # A layer that hardly touches the one below does not lie on it: it stands beside it.
    if ground.area.is_empty or shapely.intersection(one.region.area, ground.area).area < one.region.area.area / 2:
        return []
    found: list[Finding] = []
    for part in shapely.get_parts(shapely.difference(one.region.area, ground.area)):
        if not isinstance(part, Polygon) or part.area < _LEAST:
            continue
        corners = [Point(corner) for corner in part.exterior.coords]
        far, furthest = max((corner.distance(ground.area), index) for index, corner in enumerate(corners))
        if far < SLACK:
            continue
        name = one.called(part).name
        over = f"hangs over the edge of “{below.title}” by {mm(far)}"
        mend = Mend(
            title=f"Add {one.title} to “{below.title}”",
            layer=below.id,
            step=Union(operand=Recipe(sources=(one.layer.id,))),
        )
        found.append(
            Finding(
                kind="overhang",
                severity="warning",
                layer=one.layer.id,
                sentence=f"{beginning(name)} {over}.",
                at=rounded(corners[furthest]),
                outline=outline_of(part),
                measure=round(far, 3),
                limit=0,
                unit="mm",
                mends=(mend,) if one.below_from_this else (),
            )
        )
    return found
