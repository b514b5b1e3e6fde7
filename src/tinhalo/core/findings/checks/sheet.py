"""Layers that are larger than the sheets their material is sold in."""

from __future__ import annotations

from tinhalo.core.findings.finding import Finding, rounded
from tinhalo.core.findings.mends.mend import Mend, fitting
from tinhalo.core.findings.surveyed import Surveyed


def check_sheet(one: Surveyed) -> list[Finding]:
    """Tell that a layer fits on no sheet, lying or turned by a quarter."""
    x0, y0, x1, y1 = one.region.area.bounds
    short, long = sorted((x1 - x0, y1 - y0))
    least, most = sorted((one.limits.sheet_width, one.limits.sheet_height))
    if short <= least and long <= most:
        return []
    # The side that is further over tells by how much the work has to be smaller.
    measure, limit = (long, most) if long / most >= short / least else (short, least)
    sentence = (
        f"{one.title} is {one.length(x1 - x0)} by {one.length(y1 - y0)}: too big for a sheet of {one.material.name}, "
        f"{one.length(most)} by {one.length(least)}. Make it smaller, or set a larger sheet."
    )
    return [
        Finding(
            kind="too_big",
            severity="warning",
            layer=one.layer.id,
            sentence=sentence,
            at=rounded(((x0 + x1) / 2, (y0 + y1) / 2)),
            outline=(((x0, y0), (x1, y0), (x1, y1), (x0, y1)),),
            measure=round(measure, 3),
            limit=limit,
            unit="mm",
            mends=(Mend.smaller(fitting(least / short, most / long)),),
        )
    ]
