"""Open lines that meet end to end become closed ones: many drawing programs write an outline as single lines."""

from __future__ import annotations

from collections import defaultdict

import numpy as np
import shapely

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.regions.proximity import components


def chained(contours: list[Contour], within: float) -> list[Contour]:
    """Contours with open ones joined where their ends are within a distance, and closed where they come round.

    Two ends are joined where no third is near: at a fork nobody can tell how it goes on.
    """
    done = [one for one in contours if one.closed]
    left = [one for one in contours if not one.closed]
    ends = np.array([[one.segments[0, 0], one.segments[-1, 3]] for one in left]).reshape(-1, 2)
    label = _gathered(ends, within)
    at: dict[int, list[int]] = defaultdict(list)
    for end, place in enumerate(label):
        at[place].append(end)
    partner = {a: b for two in at.values() if len(two) == 2 for a, b in (two, two[::-1])}
    used: set[int] = set()
    # Chains with loose ends first, so that none is begun in the middle; what is left then are rings.
    firsts = [end for end in range(len(ends)) if end not in partner]
    for start in [*firsts, *range(0, len(ends), 2)]:
        if start // 2 in used:
            continue
        chain: list[Contour] = []
        onward: int | None = start
        while onward is not None and onward // 2 not in used:
            used.add(onward // 2)
            one = left[onward // 2]
            chain.append(one if onward % 2 == 0 else one.reversed())
            onward = partner.get(onward ^ 1)
        closes = onward == start
        done.append(_joined(chain, closes=closes))
    return done


def _joined(chain: list[Contour], *, closes: bool) -> Contour:
    segments = np.concatenate([one.segments for one in chain])
    degree = np.concatenate([one.degree for one in chain])
    # The ends meet halfway, and the handles there go along.
    for i in range(len(segments) - (0 if closes else 1)):
        j = (i + 1) % len(segments)
        middle = (segments[i, 3] + segments[j, 0]) / 2
        segments[i, 2:] += middle - segments[i, 3]
        segments[j, :2] += middle - segments[j, 0]
    return Contour(segments, degree, closes)


def _gathered(points: Floats, within: float) -> list[int]:
    """For each point the number of the place that it shares with those near it."""
    if not len(points):
        return []
    at = np.asarray(shapely.points(points), object)
    pairs = shapely.STRtree(at).query(at, predicate="dwithin", distance=within)
    return components(np.asarray(pairs, np.intp), len(points)).tolist()
