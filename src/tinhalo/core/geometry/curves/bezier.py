"""Cubic Bézier segments, shape (n, 4, 2): points on them, and parts of them."""

from __future__ import annotations

import numpy as np

from tinhalo.core.geometry.arrays import XY, Floats


def points_at(segments: Floats, t: Floats) -> Floats:
    """Points of cubics, shape (n, 4, 2), at parameters of shape (n, 1), or (n, 2) for another one in x than in y."""
    u = 1 - t
    p = segments
    return u * u * u * p[:, 0] + 3 * u * u * t * p[:, 1] + 3 * u * t * t * p[:, 2] + t * t * t * p[:, 3]


def part_between(segment: Floats, t0: float, t1: float) -> Floats:
    """The part of one cubic, shape (4, 2), between two parameters: its blossom at these."""
    made = np.empty((4, 2))
    for k, (a, b, c) in enumerate(((t0, t0, t0), (t0, t0, t1), (t0, t1, t1), (t1, t1, t1))):
        points = segment
        for t in (a, b, c):
            points = (1 - t) * points[:-1] + t * points[1:]
        made[k] = points[0]
    return made


def straight(starts: Floats, ends: Floats) -> Floats:
    """Straight lines, shape (n, 2) each, as cubics."""
    step = (ends - starts) / 3
    return np.stack([starts, starts + step, ends - step, ends], axis=1)


def quadratic_handles(segments: Floats) -> Floats:
    """The one handle, shape (n, 2), of quadratics that were raised to cubics."""
    return 1.5 * segments[:, 1] - 0.5 * segments[:, 0]


def raised(start: XY, handle: XY, end: XY) -> tuple[XY, XY]:
    """The two handles of the cubic that a quadratic is."""
    first, second = ((a[0] + (handle[0] - a[0]) * 2 / 3, a[1] + (handle[1] - a[1]) * 2 / 3) for a in (start, end))
    return first, second
