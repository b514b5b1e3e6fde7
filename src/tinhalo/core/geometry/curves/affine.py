"""Affine maps of the plane, shape (2, 3): x' = m00 x + m01 y + m02, and y' alike."""

from __future__ import annotations

import math

import numpy as np
import shapely
from shapely import MultiPolygon

from tinhalo.core.geometry.arrays import Floats


def shift(dx: float, dy: float, scale: float = 1.0) -> Floats:
    """The affine map that scales, then moves by (dx, dy) mm, shape (2, 3)."""
    return np.array([[scale, 0, dx], [0, scale, dy]], float)


def turn(degrees: float, scale_x: float, scale_y: float) -> Floats:
    """The affine map that scales, then turns counter-clockwise about the origin, shape (2, 3)."""
    angle = math.radians(degrees)
    c, s = math.cos(angle), math.sin(angle)
    return np.array([[c * scale_x, -s * scale_y, 0], [s * scale_x, c * scale_y, 0]], float)


def after(outer: Floats, inner: Floats) -> Floats:
    """The affine map that applies ``inner`` first, then ``outer``, shape (2, 3); ``inner`` may be (n, 2, 3)."""
    linear = outer[..., :2] @ inner
    linear[..., 2] += outer[..., 2]
    return linear


def applied(matrix: Floats, area: MultiPolygon) -> MultiPolygon:
    """An area after an affine map, shape (2, 3)."""
    return shapely.transform(area, lambda points: points @ matrix[:, :2].T + matrix[:, 2])
