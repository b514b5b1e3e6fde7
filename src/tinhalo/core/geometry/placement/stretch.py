"""Stretch a shape along x until it overlaps the sides of an opening by a depth.

At every height the opening begins and ends somewhere, and so does the shape. Stretched by s and shifted by d, the shape
reaches over the opening's left side by max(o_left - s w_left) - d, and over the right by max(s w_right - o_right) + d.
Their sum does not depend on d, and is convex in s: it is twice the depth at one s beyond the least, found by bisection.
All profiles are piecewise linear between the heights of vertices, where the greatest differences lie.
"""

from __future__ import annotations

import numpy as np
from shapely import MultiPolygon

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.placement.approach import Profile, rightmost_at

#: Further than this nothing is stretched or squeezed.
_LEAST, _MOST = 0.02, 50.0
_ROUNDS = 60


def stretch_between(opening: MultiPolygon, shape: MultiPolygon, depth: float) -> tuple[float, float] | None:
    """The map x' = scale x + shift after which a shape overlaps both sides of an opening by ``depth`` mm.

    Pulled away from either side by any less, along x, it still touches it.

    Returns:
        (scale, shift); None when they share no height, or no scale between a fiftieth and fifty does it.
    """
    inner, outer = Profile.of(shape).edges, Profile.of(opening).edges
    if not len(inner) or not len(outer):
        return None
    low, high = max(e[:, 0, 1].min() for e in (inner, outer)), min(e[:, 1, 1].max() for e in (inner, outer))
    if low >= high:
        return None
    heights = np.unique(np.concatenate([inner[:, :, 1].ravel(), outer[:, :, 1].ravel(), [low, high]]).clip(low, high))
    w_left, w_right = _sides(inner, heights)
    o_left, o_right = _sides(outer, heights)
    both = np.isfinite(w_left) & np.isfinite(o_left)
    if not both.any():
        return None
    w_left, w_right, o_left, o_right = (side[both] for side in (w_left, w_right, o_left, o_right))
    middle = float(w_left.min() + w_right.max()) / 2
    w_left, w_right = w_left - middle, w_right - middle

    def over(scale: float) -> float:
        return float((o_left - scale * w_left).max() + (scale * w_right - o_right).max()) - 2 * depth

    if over(_LEAST) > 0 or over(_MOST) < 0:
        return None
    below, above = _LEAST, _MOST
    for _ in range(_ROUNDS):
        half = (below + above) / 2
        below, above = (half, above) if over(half) < 0 else (below, half)
    shift = depth - float((above * w_right - o_right).max())
    return above, shift - above * middle


def _sides(edges: Floats, heights: Floats) -> tuple[Floats, Floats]:
    """The leftmost and the rightmost x of edges at each height; infinite where there is none."""
    return -rightmost_at(edges * (-1.0, 1.0), heights), rightmost_at(edges, heights)
