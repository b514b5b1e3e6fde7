"""Edges that two layers of one material share, and that are cut twice when both come from one sheet."""

from __future__ import annotations

import shapely
from shapely import LineString

from tinhalo.core.checks.finding import Finding, outline_of, rounded
from tinhalo.core.checks.surveyed import Surveyed
from tinhalo.core.geometry.region import Region

#: Edges this close (mm) are one cut.
_SAME = 0.02
#: Layers that overlap by more than this (mm²) lie on each other, so they come from different sheets.
_APART = 0.5
#: Shorter stretches (mm) are not worth telling.
_LEAST = 1.0


def check_doubled_lines(one: Surveyed) -> list[Finding]:
    """Each other layer of the same material that lies beside this one, edge to edge."""
    found: list[Finding] = []
    area = one.region.area
    for other, region in one.under:
        if other.material != one.layer.material or area.intersection(region.area).area > _APART:
            continue
        shared = area.boundary.intersection(region.area.boundary.buffer(_SAME))
        lines = [line for line in shapely.get_parts(shared) if isinstance(line, LineString) and line.length > 0]
        length = sum(line.length for line in lines)
        if length < _LEAST:
            continue
        longest = max(lines, key=lambda line: line.length)
        found.append(
            Finding(
                kind="doubled_line",
                severity="warning",
                layer=one.layer.id,
                sentence=(
                    f"{one.title} and “{other.title}” share {length:.0f} mm of edge: from one sheet it is cut twice. "
                    "Make one layer of them, or cut them apart."
                ),
                at=rounded(longest.interpolate(0.5, normalized=True)),
                outline=outline_of(Region.of(shared.buffer(0.15)).area),
                measure=round(length, 3),
                limit=0,
                unit="mm",
            )
        )
    return found
