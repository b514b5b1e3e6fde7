"""How far one shape can be pulled away from another before they lose touch, along one direction.

Two shapes at the same heights touch when pulled apart along x by no more than the greatest, over all heights, of
(rightmost point of the left one) minus (leftmost point of the right one). Both profiles are piecewise linear between
the heights of vertices, and the greatest difference lies at one of those heights.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon
from shapely.affinity import translate

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.regions.region import prepared
from tinhalo.core.runtime.compilation import njit

_STEP = 0.05
_FINE = 0.001


@dataclass(frozen=True)
class Profile:
    """An area with the edges of its shells, shape (n, 2, 2), each edge with its lower end first."""

    area: Polygon | MultiPolygon
    edges: Floats

    @staticmethod
    def of(area: Polygon | MultiPolygon) -> Profile:
        """Prepare an area for measuring."""
        rings = [np.asarray(part.exterior.coords)[:, :2] for part in _parts(area)]
        if not rings:
            return Profile(area, np.zeros((0, 2, 2)))
        return Profile(area, _upwards(np.concatenate([np.stack([r[:-1], r[1:]], axis=1) for r in rings])))

    @property
    def middle(self) -> float:
        """Middle of its extent along x, in mm."""
        x = self.edges[:, :, 0]
        return float(x.min() + x.max()) / 2 if len(x) else 0.0


def _parts(area: Polygon | MultiPolygon) -> list[Polygon]:
    return [part for part in shapely.get_parts(area) if isinstance(part, Polygon) and not part.is_empty]


def _upwards(edges: Floats) -> Floats:
    down = edges[:, 0, 1] > edges[:, 1, 1]
    edges[down] = edges[down][:, ::-1]
    return edges


def reach(left: Profile, right: Profile) -> float:
    """Greatest shift of ``right`` along x at which the two still touch.

    Returns:
        the shift in mm, negative where it has to come closer; minus infinity when no height has both.
    """
    a, b = left.edges, right.edges
    if not len(a) or not len(b):
        return -math.inf
    low, high = max(a[:, 0, 1].min(), b[:, 0, 1].min()), min(a[:, 1, 1].max(), b[:, 1, 1].max())
    if low > high:
        return -math.inf
    a, b = (e[(e[:, 1, 1] >= low) & (e[:, 0, 1] <= high)] for e in (a, b))
    heights = np.unique(np.concatenate([a[:, :, 1].ravel(), b[:, :, 1].ravel(), [low, high]]).clip(low, high))
    apart: Floats = rightmost_at(a, heights) + rightmost_at(b * (-1.0, 1.0), heights)
    return float(apart.max())


def rightmost_at(edges: Floats, heights: Floats) -> Floats:
    """Greatest x of any edge at each height, minus infinity where there is none; edges with their lower ends first."""
    kept = edges[(edges[:, 1, 1] >= heights[0]) & (edges[:, 0, 1] <= heights[-1])]
    return _rightmost(kept, heights, np.searchsorted(heights, kept[:, 0, 1].clip(heights[0])))


@njit(cache=True, nogil=True)
def _rightmost(edges: Any, heights: Any, first: Any) -> Any:
    """Greatest x of any edge at each height, minus infinity where there is none; edge i begins at height first[i]."""
    found = np.full(len(heights), -np.inf)
    for i in range(len(edges)):
        (x0, y0), (x1, y1) = edges[i]
        for k in range(first[i], len(heights)):
            y = heights[k]
            if y > y1:
                break
            x = x0 + (x1 - x0) * (y - y0) / (y1 - y0) if y1 > y0 else max(x0, x1)
            found[k] = max(found[k], x)
    return found


def warm() -> None:
    """Compile, or load the compiled code, ahead of the first use."""
    _rightmost(np.array([[[0.0, 0.0], [1.0, 1.0]]]), np.array([0.0, 0.5]), np.array([0]))


def closing_shift(left: Profile, right: Profile, depth: float) -> float | None:
    """The smallest move of ``right`` to the left after which the two overlap ``depth`` deep.

    Deep is meant along x: pulled apart again by any less than ``depth``, they still touch.

    Returns:
        the shift in mm, zero or negative; None when they have no height in common, or no such place was found
        before the middle of one is on the middle of the other.
    """
    touching = reach(left, right)
    if not math.isfinite(touching):
        return None
    first = min(0.0, touching - depth)
    left = Profile(prepared(left.area), left.edges)
    if overlaps_by(left, right, first, depth):
        return first
    # One stands in a bay of the other, so that there is room left before the last contact: look step by step.
    middles = left.middle - right.middle
    for step in range(1, math.ceil((first - middles) / _STEP)):
        shift = first - step * _STEP
        if overlaps_by(left, right, shift, depth):
            return _refined(left, right, shift, depth)
    return None


def overlaps_by(left: Profile, right: Profile, shift: float, depth: float) -> bool:
    """Whether the two touch when ``right`` is shifted along x, and still do when pulled back by ``depth``."""
    return all(left.area.intersects(translate(right.area, shift + back)) for back in (depth * (1 - 1e-6), 0.0))


def _refined(left: Profile, right: Profile, shift: float, depth: float) -> float:
    """Between a place that is deep enough and one a step to the right that is not."""
    low, high = shift, shift + _STEP
    while high - low > _FINE:
        middle = (low + high) / 2
        if overlaps_by(left, right, middle, depth):
            low = middle
        else:
            high = middle
    return low
