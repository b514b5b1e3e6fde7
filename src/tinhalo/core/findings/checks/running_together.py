"""Lines around neighbouring letters, a gap away: some run together with the next one's and some do not."""

from __future__ import annotations

import shapely
from shapely import MultiPolygon, Point, Polygon
from shapely.ops import nearest_points

from tinhalo.core.findings.finding import Finding, outline_of, rounded
from tinhalo.core.findings.surveyed import SLACK, Surveyed
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.recipe.border_steps import OutlineRing


def check_running_together(one: Surveyed) -> list[Finding]:
    """Tell where lines run together while others keep apart: where all do, one line around a word is wanted."""
    found: list[Finding] = []
    for index, step in enumerate(one.layer.recipe.steps):
        if isinstance(step, OutlineRing) and step.gap >= 0 and not step.off:
            found += _told(one, step, one.stages[index])
    return found


def _told(one: Surveyed, step: OutlineRing, before: Region) -> list[Finding]:
    pieces: list[Polygon] = list(before.area.geoms)
    if len(pieces) < 2:
        return []
    tree = shapely.STRtree([Polygon(piece.exterior) for piece in pieces])
    reach = 2 * (step.gap + step.width)
    apart = 0
    close: list[tuple[float, int, int]] = []
    spread = None
    for pair in one.neighbours():
        first: list[int] = tree.query(Point(pair.first), predicate="intersects").tolist()
        second: list[int] = tree.query(Point(pair.second), predicate="intersects").tolist()
        if not first or not second or first[0] == second[0]:
            continue
        gap = float(pieces[first[0]].distance(pieces[second[0]]))
        if gap < reach - SLACK:
            close.append((gap, first[0], second[0]))
            spread = spread or pair.spread
        else:
            apart += 1
    if not close or not apart or spread is None:
        return []
    gap, a, b = min(close)
    here, there = nearest_points(pieces[a], pieces[b])
    at = rounded(((here.x + there.x) / 2, (here.y + there.y) / 2))
    wanted = reach + one.limits.opening
    mend = spread(wanted - gap)
    places = "in one place" if len(close) == 1 else f"in {len(close)} places"
    return [
        Finding(
            kind="running_together",
            severity="warning",
            layer=one.layer.id,
            sentence=(
                f"Lines of {one.title} around neighbouring letters run together {places}{one.at_letter(at)}, and keep "
                f"apart elsewhere: {one.length(wanted)} between the letters keep all apart."
            ),
            at=at,
            outline=outline_of(MultiPolygon([Point(at).buffer(reach / 2)])),
            measure=round(gap, 3),
            limit=round(wanted, 3),
            unit="mm",
            mends=(mend,) if mend else (),
        )
    ]
