"""Where the edges of two layers should meet: the places to look at for slits before anything is cut."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from shapely import LineString, MultiLineString, MultiPolygon
from shapely.ops import linemerge, substring

from tinhalo.core.geometry.arrays import XY

#: Edges as near each other as this (mm) are meant to meet.
MEANT = 0.6
#: Shorter stretches (mm) are where edges only cross.
_LEAST = 2.0
#: A longer stretch (mm) is looked at in several places.
_SEEN_AT_ONCE = 30.0


@dataclass(frozen=True)
class Meeting:
    """A stretch along which two edges run close by each other.

    Attributes:
        upper, lower: indices of the areas, from the top.
        at: its middle, in mm.
        length: how long it is, in mm.
        gap: the widest slit found along it, in mm; 0 where the lower area reaches under the upper one.
    """

    upper: int
    lower: int
    at: XY
    length: float
    gap: float


def meetings(areas: Sequence[MultiPolygon]) -> list[Meeting]:
    """All such places among areas listed from the top, those with the widest slits first, in mm."""
    found: list[Meeting] = []
    for upper, over in enumerate(areas):
        for lower in range(upper + 1, len(areas)):
            under = areas[lower]
            if over.is_empty or under.is_empty or over.envelope.distance(under.envelope) > MEANT:
                continue
            near = over.boundary.intersection(under.boundary.buffer(MEANT, quad_segs=4))
            merged = linemerge(near) if isinstance(near, MultiLineString) else near
            for line in map(_without_ends, shapely.get_parts(merged)):
                if line.length >= _LEAST:
                    found += _parts(line, upper, lower, under)
    return sorted(found, key=lambda one: (-one.gap, -one.length))


def _without_ends(line: LineString) -> LineString:
    """Where edges part, they are still near each other for a while."""
    if line.is_ring:
        return line
    kept = substring(line, MEANT, max(MEANT, line.length - MEANT))
    return kept if isinstance(kept, LineString) else LineString()


def _parts(line: LineString, upper: int, lower: int, under: MultiPolygon) -> list[Meeting]:
    count = int(np.ceil(line.length / _SEEN_AT_ONCE))
    made: list[Meeting] = []
    for k in range(count):
        along = np.linspace(k, k + 1, 21) / count
        points = [line.interpolate(float(share), normalized=True) for share in along]
        gaps = [point.distance(under) for point in points]
        gap = max(gaps)
        worst = points[gaps.index(gap)] if gap > 0 else points[len(points) // 2]
        at = (round(worst.x, 3), round(worst.y, 3))
        made.append(Meeting(upper, lower, at, round(line.length / count, 2), round(gap, 3)))
    return made
