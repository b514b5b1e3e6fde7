"""Inner corners that are too sharp for a milling tool."""

from __future__ import annotations

from collections.abc import Iterator

from tinhalo.core.findings.finding import Finding, outline_of, rounded
from tinhalo.core.findings.mends.mend import Mend
from tinhalo.core.findings.surveyed import SLACK, Surveyed
from tinhalo.core.geometry.arrays import XY
from tinhalo.core.geometry.regions.inner_corners import WITHIN, inner_corners
from tinhalo.core.recipe.border_steps import CloseGaps
from tinhalo.core.recipe.shape_steps import RoundOff

#: Corners that are filled deeper than this, in radii, are too sharp to be rounded off: under 60 degrees.
_DEEP = 0.98


def check_inner_corners(one: Surveyed) -> list[Finding]:
    """Each inner corner that a round tool of the material's diameter cannot get into."""
    tool = one.limits.tool
    if tool is None:
        return []
    radius = tool / 2
    found: list[Finding] = []
    corners = inner_corners(one.region.area, radius, SLACK)
    sharp = any(corner.deep > _DEEP * radius for corner in corners)
    for corner in corners:
        at, own = rounded(corner.at), corner.radius
        found.append(
            Finding(
                kind="sharp_corner",
                severity="warning",
                layer=one.layer.id,
                sentence=(
                    f"An inner corner of {one.title}{one.at_letter(at)} has a radius of {one.length(own)}: "
                    f"a tool {one.length(tool)} wide leaves it at {one.length(radius)}."
                ),
                at=at,
                outline=outline_of(corner.left),
                measure=round(own, 3),
                limit=radius,
                unit="mm",
                mends=tuple(_rounding(one, own, radius, at if len(corners) > 1 else None, sharp=sharp)),
            )
        )
    return found


def _rounding(one: Surveyed, own: float, radius: float, at: XY | None, *, sharp: bool) -> Iterator[Mend]:
    """Corners are rounded; where one is round already, or a sharp crotch, what the tool leaves is filled.

    With ``at`` there are other corners, too: one of the mends is for that one only.
    """
    if own < 2 * WITHIN and not sharp:
        title, step = f"Round inner corners to {one.length(radius)}", RoundOff(outer=0, inner=radius)
    else:
        title, step = f"Fill what a tool {one.length(2 * radius)} wide leaves", CloseGaps(up_to=2 * radius)
    yield Mend.by_step(title, one.layer.id, step)
    if at and (spot := one.anchor(at)):
        alone = step.model_copy(update={"only": (spot,)})
        yield Mend.by_step(f"{title.split()[0]} only this one", one.layer.id, alone, here=True)
