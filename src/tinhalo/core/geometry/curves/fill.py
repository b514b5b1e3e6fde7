"""Areas of rings that cross themselves or each other."""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import Polygon

from tinhalo.core.geometry.arrays import Floats


def filled_nonzero(rings: Sequence[Floats]) -> list[Polygon]:
    """Fill rings by the non-zero winding rule, the way fonts are filled; see ``_filled``."""
    return _filled(rings, lambda winding: winding != 0)


def filled_positive(rings: Sequence[Floats]) -> list[Polygon]:
    """Fill what rings go round counter-clockwise: a hole that reaches over an edge is a notch; see ``_filled``."""
    return _filled(rings, lambda winding: winding > 0)


def _filled(rings: Sequence[Floats], rule: Callable[[Floats], NDArray[np.bool_]]) -> list[Polygon]:
    """Faces between rings whose winding number a rule takes.

    Args:
        rings: vertex arrays, shape (k, 2), closing point left out; direction matters.
    Returns:
        valid polygons that do not overlap (they may share edges).
    """
    usable = [ring for ring in rings if len(ring) >= 3]
    if not usable:
        return []
    start = np.concatenate(usable)
    end = np.concatenate([np.roll(ring, -1, axis=0) for ring in usable])
    noded = shapely.union_all(
        shapely.linearrings(start, indices=np.repeat(np.arange(len(usable)), [len(ring) for ring in usable]))
    )
    faces = np.asarray(shapely.get_parts(shapely.polygonize(shapely.get_parts(noded))), object)
    inside = shapely.get_coordinates(shapely.point_on_surface(faces))
    return faces[rule(_winding(start, end, inside))].tolist()


def _winding(a: Floats, b: Floats, points: Floats) -> Floats:
    """Winding number of closed rings with edges from ``a`` to ``b`` about each point.

    Upward crossings to the right less downward ones.
    """
    x, y = points[:, :1], points[:, 1:]
    side = (b[:, 0] - a[:, 0]) * (y - a[:, 1]) - (x - a[:, 0]) * (b[:, 1] - a[:, 1])
    up = (a[:, 1] <= y) & (b[:, 1] > y) & (side > 0)
    down = (a[:, 1] > y) & (b[:, 1] <= y) & (side < 0)
    return up.sum(axis=1).astype(float) - down.sum(axis=1)
