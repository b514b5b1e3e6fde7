"""Areas of rings that cross themselves or each other."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import shapely
from shapely import LinearRing, Polygon

from tinhalo.core.geometry.outline import Floats


def filled_nonzero(rings: Sequence[Floats]) -> list[Polygon]:
    """Fill rings by the non-zero winding rule, the way fonts are filled.

    Args:
        rings: vertex arrays, shape (k, 2), closing point left out; direction matters.
    Returns:
        valid polygons that do not overlap (they may share edges).
    """
    usable = [ring for ring in rings if len(ring) >= 3]
    if not usable:
        return []
    noded = shapely.union_all([LinearRing(ring) for ring in usable])
    faces = shapely.get_parts(shapely.polygonize(shapely.get_parts(noded)))
    inside = shapely.get_coordinates(shapely.point_on_surface(faces))
    winding = sum(_winding(ring, inside) for ring in usable)
    return [face for face, number in zip(faces, np.atleast_1d(winding), strict=True) if number != 0]


def _winding(ring: Floats, points: Floats) -> Floats:
    """Winding number of a closed ring about each point (upward crossings to the right less downward ones)."""
    a, b = ring, np.roll(ring, -1, axis=0)
    x, y = points[:, :1], points[:, 1:]
    side = (b[:, 0] - a[:, 0]) * (y - a[:, 1]) - (x - a[:, 0]) * (b[:, 1] - a[:, 1])
    up = (a[:, 1] <= y) & (b[:, 1] > y) & (side > 0)
    down = (a[:, 1] > y) & (b[:, 1] <= y) & (side < 0)
    return up.sum(axis=1).astype(float) - down.sum(axis=1)
