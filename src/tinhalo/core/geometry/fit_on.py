"""A short move after which an area lies on another one."""

from __future__ import annotations

import math

import numpy as np
import shapely
from shapely import MultiPolygon
from shapely.affinity import translate
from shapely.geometry.base import BaseGeometry

from tinhalo.core.geometry.apart import distances_to_edge, edge_tree
from tinhalo.core.geometry.outline import Floats
from tinhalo.core.geometry.patience import checkpoint
from tinhalo.core.geometry.region import plainer

#: A move is given up after so many pushes.
_PUSHES = 16
#: It is given up, too, where in so many pushes none was clearly smaller than all before: it goes to and fro.
_PATIENCE, _CLEARLY = 4, 0.9
#: What hangs over by more than this share of what does furthest pulls as hard; pulled from all sides, with no opening
#: as wide as this (radians), it cannot give way to any.
_FAR, _OPEN = 0.8, math.pi / 4
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
    moved, least, waited = np.zeros(2), math.inf, 0
    for number in range(_PUSHES):
        checkpoint()
        pushes = _pushes(outline + moved, floor, base)
        if not len(pushes):
            # All corners lie on it; what sticks into the area from below are corners of the ground.
            pushes = _gaps(edges - moved, coarse, lid)
        if not len(pushes):
            break
        size = math.hypot(*pushes[0])
        waited = 0 if size < _CLEARLY * least else waited + 1
        if waited > _PATIENCE or (number == 0 and _all_round(pushes)):
            return None
        moved, least = moved + _further(pushes[0]), min(size, least)
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


def _pushes(corners: Floats, floor: MultiPolygon, tree: shapely.STRtree) -> Floats:
    """What brings the corners onto the ground that are furthest off it, shape (n, 2); none when all are on it."""
    return _to_edge(corners[~np.asarray(shapely.contains_xy(floor, *corners.T), bool)], tree)


def _gaps(edges: Floats, area: MultiPolygon, tree: shapely.STRtree) -> Floats:
    """What brings the area off the corners of the ground's edge that are deepest inside it, shape (n, 2)."""
    return -_to_edge(edges[np.asarray(shapely.contains_xy(area, *edges.T), bool)], tree)


def _to_edge(points: Floats, tree: shapely.STRtree) -> Floats:
    """The ways to an edge from the points that are furthest from it, the furthest first, shape (n, 2)."""
    if not len(points):
        return points
    away = distances_to_edge(points, tree)
    if away.max() < _FURTHER / 4:
        return points[:0]
    far = shapely.points(points[np.flatnonzero(away > _FAR * away.max())])
    lines = shapely.shortest_line(far, tree.geometries.take(tree.nearest(far)))  # pyright: ignore[reportUnknownMemberType]
    ways = np.diff(shapely.get_coordinates(lines).reshape(-1, 2, 2), axis=1)[:, 0]
    return ways[np.argsort(-np.hypot(*ways.T), kind="stable")]


def _all_round(pushes: Floats) -> bool:
    """Whether pushes go all round, so that none helps but against another one."""
    towards = np.sort(np.arctan2(pushes[:, 1], pushes[:, 0]))
    return bool(np.diff(towards, append=towards[:1] + 2 * np.pi).max() < _OPEN)


def _further(push: Floats) -> Floats:
    size = math.hypot(*push)
    return push * (size + _FURTHER) / size
