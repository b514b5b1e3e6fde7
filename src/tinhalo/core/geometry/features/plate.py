"""Plates behind the art: rectangle, rounded rectangle, ellipse, arch."""

from __future__ import annotations

import math
from typing import Literal

import numpy as np
import shapely
from shapely import Polygon

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.precision import Precision
from tinhalo.core.geometry.regions.region import Region

PlateShape = Literal["rectangle", "rounded", "ellipse", "arch"]

#: How high the top of an arch rises, as a share of its width, where its height follows the art: our own setting.
_RISE = 0.25


def plate(
    region: Region,
    shape: PlateShape,
    margin: float,
    width: float | None,
    height: float | None,
    corner_radius: float,
    precision: Precision,
) -> Region:
    """A plate with its middle where the art has it, or, for an arch, with the art under the arch.

    Args:
        region: the art.
        shape: ``rectangle``, ``rounded`` (with ``corner_radius``), ``ellipse`` or ``arch`` (a round top).
        margin: distance between the art and the plate's edge in mm, where a side follows the art: of the art's box, or
            for an ellipse of the art itself.
        width: of the plate in mm; None to follow the art.
        height: the same.
        corner_radius: in mm; at most half the shorter side.
        precision: how finely arcs are drawn.
    """
    if region.bounds is None:
        return region
    x0, y0, x1, y1 = region.bounds
    middle, size = np.array([x0 + x1, y0 + y1]) / 2, np.array([x1 - x0, y1 - y0]) + 2 * margin
    if shape == "ellipse":
        size *= _around(region, middle, size, margin, precision)
    wide = size[0] if width is None else width
    if shape == "arch":
        rise = min(wide / 2, wide * _RISE)
        high = size[1] + rise if height is None else height
        foot = middle[1] - size[1] / 2 if height is None else middle[1] - high / 2
        return Region.of(_arch(middle[0], foot, wide, high, precision))
    high = size[1] if height is None else height
    if shape == "ellipse":
        turn = np.linspace(0, 2 * np.pi, 4 * precision.quarter_segments(max(wide, high) / 2), endpoint=False)
        return Region.of(Polygon(middle + np.stack([np.cos(turn) * wide, np.sin(turn) * high], axis=1) / 2))
    corner = min(corner_radius, wide / 2, high / 2) if shape == "rounded" else 0.0
    half = np.array([wide, high]) / 2 - corner
    (left, low), (right, top) = (middle - half).tolist(), (middle + half).tolist()
    box = Polygon([(left, low), (right, low), (right, top), (left, top)])
    return Region.of(shapely.buffer(box, corner, quad_segs=precision.quarter_segments(corner)) if corner else box)


def _around(region: Region, middle: Floats, size: Floats, margin: float, precision: Precision) -> float:
    """By how much an ellipse of that size has to grow to go round the art with its margin."""
    hull = shapely.convex_hull(region.area)
    if margin > 0:
        hull = shapely.buffer(hull, margin, quad_segs=precision.quarter_segments(margin))
    points = (shapely.get_coordinates(hull) - middle) / (size / 2)
    return float(np.hypot(*points.T).max())


def _arch(x: float, foot: float, width: float, height: float, precision: Precision) -> Polygon:
    """A rectangle with part of a circle on top: a half circle where there is room for no more than that."""
    rise = min(width * _RISE, height)
    radius = (width**2 / 4 + rise**2) / (2 * rise)
    half = math.asin(min(1.0, width / 2 / radius))
    count = max(2, math.ceil(precision.quarter_segments(radius) * 2 * half / (math.pi / 2)))
    angle = np.linspace(half, -half, count + 1)
    top = np.stack([x - radius * np.sin(angle), foot + height - radius + radius * np.cos(angle)], axis=1)
    return Polygon([(x + width / 2, foot), *top[::-1], (x - width / 2, foot)])
