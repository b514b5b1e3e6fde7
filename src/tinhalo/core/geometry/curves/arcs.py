"""Circular arcs among the segments of a contour, for files that know them."""

from __future__ import annotations

import math

import numpy as np

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.bezier import points_at

#: A cubic is an arc where it is nowhere further (mm) from a circle than this.
_WITHIN = 0.002
#: Radii beyond this (mm) are drawn as curves: their middles would be nowhere near the drawing.
_LARGEST = 5_000.0
_PLACES = np.linspace(0, 1, 9)


def bulges(segments: Floats) -> Floats:
    """Of each segment, shape (n, 4, 2), the tangent of a quarter of the arc that it is, counter-clockwise positive.

    0 where it is straight; not a number where it is no arc of a circle. That is DXF's *bulge*.
    """
    n = len(segments)
    every = points_at(np.repeat(segments, len(_PLACES), axis=0), np.tile(_PLACES, n)[:, None]).reshape(n, -1, 2)
    found = np.full(n, np.nan)
    for index, points in enumerate(every):
        found[index] = _bulge(points)
    return found


def _bulge(points: Floats) -> float:
    start, middle, end = points[0], points[len(points) // 2], points[-1]
    chord = end - start
    length = math.hypot(*chord)
    if length < 1e-9:
        return math.nan
    # How far the middle is from the chord, to its right: there an arc that turns left bulges out.
    height = float(chord[1] * (middle[0] - start[0]) - chord[0] * (middle[1] - start[1])) / length
    if np.abs((points - start) @ np.array([-chord[1], chord[0]])).max() / length < _WITHIN / 20:
        return 0.0
    bulge = 2 * height / length
    radius = length * (1 + bulge**2) / (4 * abs(bulge)) if bulge else math.inf
    if not radius < _LARGEST:
        return math.nan
    # Seen from the chord's middle, the circle's middle is to the left where the arc is less than half a circle.
    across = np.array([-chord[1], chord[0]]) / length
    centre = (start + end) / 2 + across * math.copysign(radius * (1 - bulge**2) / (1 + bulge**2), bulge)
    off = np.abs(np.hypot(*(points - centre).T) - radius).max()
    return bulge if off < _WITHIN else math.nan
