"""Stretch a shape along x, or in proportion, until it overlaps the sides of an opening by a depth.

At every height the opening begins and ends somewhere, and so does the shape. Stretched by s and shifted by d, the shape
reaches over the opening's left side by max(o_left - s w_left) - d, and over the right by max(s w_right - o_right) + d.
Their sum does not depend on d, and is convex in s: it is twice the depth at one s beyond the least, found by bisection.
All profiles are piecewise linear between the heights of vertices, where the greatest differences lie.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from shapely import MultiPolygon

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.placement.approach import Profile, rightmost_at

#: Further than this nothing is stretched or squeezed.
_LEAST, _MOST = 0.02, 50.0
_ROUNDS = 60
#: Growths that are tried between those two, each 13 % more than the one before.
_GROWTHS = 65


def stretch_between(opening: MultiPolygon, shape: MultiPolygon, depth: float) -> tuple[float, float] | None:
    """The map x' = scale x + shift after which a shape overlaps both sides of an opening by ``depth`` mm.

    Pulled away from either side by any less, along x, it still touches it.

    Returns:
        (scale, shift); None when they share no height, or no scale between a fiftieth and fifty does it.
    """
    inner, outer = Profile.of(shape).edges, Profile.of(opening).edges
    profiles = _common(inner, outer)
    if profiles is None:
        return None
    w_left, w_right, o_left, o_right = profiles
    middle = float(w_left.min() + w_right.max()) / 2
    w_left, w_right = w_left - middle, w_right - middle

    def over(scale: float) -> float:
        return _reach(scale * w_left, scale * w_right, o_left, o_right) - 2 * depth

    if over(_LEAST) > 0 or over(_MOST) < 0:
        return None
    above = _first_over(over, _LEAST, _MOST)
    shift = depth - float((above * w_right - o_right).max())
    return above, shift - above * middle


def grow_between(opening: MultiPolygon, shape: MultiPolygon, depth: float) -> float | None:
    """The factor of growth, in proportion about the middle of its box, after which a shape holds in an opening.

    It holds where, moved along x, it overlaps both sides by ``depth`` mm.

    Returns:
        None when no factor between a fiftieth and fifty does it.
    """
    inner, outer = Profile.of(shape).edges, Profile.of(opening).edges
    x0, y0, x1, y1 = shape.bounds
    middle = np.array([x0 + x1, y0 + y1]) / 2

    def over(factor: float) -> float:
        profiles = _common((inner - middle) * factor + middle, outer)
        return _reach(*profiles) - 2 * depth if profiles else -np.inf

    factors = np.geomspace(_LEAST, _MOST, _GROWTHS)
    first = next((k for k, factor in enumerate(factors) if over(factor) >= 0), None)
    return _first_over(over, factors[first - 1], factors[first]) if first else None


def _reach(w_left: Floats, w_right: Floats, o_left: Floats, o_right: Floats) -> float:
    """How far a shape reaches over the left and the right side of an opening together, in mm."""
    return float((o_left - w_left).max() + (w_right - o_right).max())


def _first_over(over: Callable[[float], float], below: float, above: float) -> float:
    """Where a function that is below nought at one end and not at the other becomes nought, by bisection."""
    for _ in range(_ROUNDS):
        half = (below + above) / 2
        below, above = (half, above) if over(half) < 0 else (below, half)
    return above


def _common(inner: Floats, outer: Floats) -> tuple[Floats, Floats, Floats, Floats] | None:
    """The left and right sides of a shape, and of an opening, at the heights that they share; None without any."""
    if not len(inner) or not len(outer):
        return None
    low, high = max(e[:, 0, 1].min() for e in (inner, outer)), min(e[:, 1, 1].max() for e in (inner, outer))
    if low >= high:
        return None
    heights = np.unique(np.concatenate([inner[:, :, 1].ravel(), outer[:, :, 1].ravel(), [low, high]]).clip(low, high))
    w_left, w_right = _sides(inner, heights)
    o_left, o_right = _sides(outer, heights)
    both = np.isfinite(w_left) & np.isfinite(o_left)
    return (w_left[both], w_right[both], o_left[both], o_right[both]) if both.any() else None


def _sides(edges: Floats, heights: Floats) -> tuple[Floats, Floats]:
    """The leftmost and the rightmost x of edges at each height; infinite where there is none."""
    return -rightmost_at(edges * (-1.0, 1.0), heights), rightmost_at(edges, heights)
