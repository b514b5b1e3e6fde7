"""A short move after which an area lies on another one."""

from __future__ import annotations

import math

import numpy as np
import shapely
from shapely import MultiPolygon, Point
from shapely.affinity import translate
from shapely.geometry.base import BaseGeometry

from tinhalo.core.geometry.apart import distances_to_edge, edge_tree
from tinhalo.core.geometry.outline import Floats
from tinhalo.core.geometry.patience import checkpoint
from tinhalo.core.geometry.region import plainer

#: A move is given up after so many pushes.
_PUSHES = 16
#: It is given up, too, where in so many pushes none was smaller than all before: it goes to and fro.
_PATIENCE = 5
#: Pushed this much further than it takes, in mm: so that rounded moves do, too.
_FURTHER = 0.02
#: What still hangs over by less (mm²) is from following curves.
_LEAST = 1e-3


def move_onto(area: MultiPolygon, ground: BaseGeometry) -> tuple[float, float] | None:
    """The move (dx, dy) in mm after which an area lies on the ground, to a hundredth of a millimetre.

    What hangs over furthest is pushed back the shortest way, then what does now (alternating projections onto convex
    sets; where the ground is not convex they may fail). Among all moves it is a short one, not always the shortest.

    Args:
        area: what moves.
        ground: what it is to lie on.
    Returns:
        the move; None where none is found.
    """
    if area.is_empty or ground.is_empty or _too_large(area, ground):
        return None
    # Looked for with coarse outlines, and checked with the true ones.
    coarse, floor = plainer(area, _FURTHER / 4), plainer(ground, _FURTHER / 4)
    if coarse.is_empty or floor.is_empty:
        return None
    outline = shapely.get_coordinates([piece.exterior for piece in coarse.geoms])
    edges = shapely.get_coordinates(floor)
    lid, base = edge_tree(coarse), edge_tree(floor)
    moved, sizes = np.zeros(2), [math.inf]
    while len(sizes) <= _PUSHES and len(sizes) - 1 - int(np.argmin(sizes)) <= _PATIENCE:
        checkpoint()
        push = _push(outline + moved, floor, base)
        if push is None:
            # All corners lie on it; what sticks into the area from below are corners of the ground.
            push = _gap(edges - moved, coarse, lid)
        if push is None:
            break
        moved = moved + push
        sizes.append(math.hypot(*push))
    else:
        return None
    move = np.round(moved, 2) + 0.0
    if not move.any() or shapely.difference(translate(area, *move), ground).area >= _LEAST:
        return None
    return (float(move[0]), float(move[1]))


def _too_large(area: MultiPolygon, ground: BaseGeometry) -> bool:
    left, low, right, top = area.bounds
    x0, y0, x1, y1 = ground.bounds
    return right - left > x1 - x0 or top - low > y1 - y0


def _push(corners: Floats, floor: MultiPolygon, tree: shapely.STRtree) -> Floats | None:
    """What brings the corner onto the ground that is furthest off it; None when all are on it."""
    off = corners[~np.asarray(shapely.contains_xy(floor, *corners.T), bool)]
    way = _to_edge(off, floor, tree)
    return None if way is None else _further(way)


def _gap(edges: Floats, area: MultiPolygon, tree: shapely.STRtree) -> Floats | None:
    """What brings the area off the corner of the ground's edge that is deepest inside it; None when none is."""
    inside = edges[np.asarray(shapely.contains_xy(area, *edges.T), bool)]
    way = _to_edge(inside, area, tree)
    return None if way is None else _further(-way)


def _to_edge(points: Floats, area: MultiPolygon, tree: shapely.STRtree) -> Floats | None:
    """The way to an area's edge from the point that is furthest from it; None when none is off it."""
    if not len(points):
        return None
    away = distances_to_edge(points, tree)
    if away.max() < _FURTHER / 4:
        return None
    far = points[away.argmax()]
    return shapely.get_coordinates(shapely.shortest_line(Point(far), area.boundary))[1] - far  # pyright: ignore[reportUnknownMemberType]


def _further(push: Floats) -> Floats:
    size = math.hypot(*push)
    return push * (size + _FURTHER) / size
