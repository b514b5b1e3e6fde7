"""A short move after which an area lies on another one."""

from __future__ import annotations

import math
from functools import cached_property

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import MultiPolygon
from shapely.affinity import translate

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.regions.proximity import edge_tree, nearest_edges
from tinhalo.core.geometry.regions.region import SIMPLER, Region, prepared
from tinhalo.core.runtime.cancellation import checkpoint

#: A move is given up after so many pushes.
_PUSHES = 16
#: It is given up, too, where in so many pushes none was clearly smaller than all before.
_PATIENCE, _CLEARLY = 4, 0.9
#: And where two pushes go to and fro: the cosine between their directions is below this.
_BACK = -0.9
#: What hangs over by more than this share of what does furthest pulls as hard; pulled from all sides, with no opening
#: as wide as this (radians), it cannot give way to any.
_FAR, _OPEN = 0.8, math.pi / 4
#: Pushed this much further than it takes, in mm: so that rounded moves do, too.
_FURTHER = 4 * SIMPLER
#: What still hangs over by less (mm²) is from following curves.
_LEAST = 1e-3


def move_onto(region: Region, ground: Region) -> tuple[float, float] | None:
    """The move (dx, dy) in mm after which an area lies on the ground, to a hundredth of a millimetre.

    What hangs over furthest is pushed back the shortest way, then what does now (alternating projections onto convex
    sets; where the ground is not convex they may fail). Among all moves it is a short one, not always the shortest.

    Args:
        region: what moves.
        ground: what it is to lie on.
    Returns:
        the move; None where none is found.
    """
    if region.simple.is_empty or ground.simple.is_empty or _too_large(region.area, ground.area):
        return None
    # Looked for with coarse outlines, and checked with the true ones.
    coarse, floor = _Shape(region.simple), _Shape(ground.simple)
    outline = shapely.get_coordinates([piece.exterior for piece in coarse.area.geoms])
    edges = shapely.get_coordinates(floor.area)
    moved, least, waited = np.zeros(2), math.inf, 0
    before = np.zeros(2)
    for number in range(_PUSHES):
        checkpoint()
        pushes = _pushes(outline + moved, floor)
        if not len(pushes):
            # All corners lie on it; what sticks into the area from below are corners of the ground.
            pushes = _gaps(edges - moved, coarse)
        if not len(pushes):
            break
        size = math.hypot(*pushes[0])
        waited = 0 if size < _CLEARLY * least else waited + 1
        if waited > _PATIENCE or _to_and_fro(before, pushes[0]) or (number == 0 and _all_round(pushes)):
            return None
        moved, least, before = moved + _further(pushes[0]), min(size, least), pushes[0]
    else:
        return None
    move = np.round(moved, 2) + 0.0
    if not move.any() or shapely.difference(translate(region.area, *move), ground.area).area >= _LEAST:
        return None
    return (float(move[0]), float(move[1]))


def _too_large(area: MultiPolygon, ground: MultiPolygon) -> bool:
    left, low, right, top = area.bounds
    x0, y0, x1, y1 = ground.bounds
    return right - left > x1 - x0 or top - low > y1 - y0


class _Shape:
    """An area that is asked again and again what is inside it, and how far that is from its edge."""

    def __init__(self, area: MultiPolygon) -> None:
        self.area = prepared(area)

    @cached_property
    def edges(self) -> shapely.STRtree:
        """All its edges; often nobody asks."""
        return edge_tree(self.area)

    def holds(self, points: Floats) -> NDArray[np.bool_]:
        """Of points, shape (n, 2), whether each is inside."""
        return np.asarray(shapely.contains_xy(self.area, *points.T), bool)


def _pushes(corners: Floats, floor: _Shape) -> Floats:
    """What brings the corners onto the ground that are furthest off it, shape (n, 2); none when all are on it."""
    return _to_edge(corners[~floor.holds(corners)], floor)


def _gaps(edges: Floats, area: _Shape) -> Floats:
    """What brings the area off the corners of the ground's edge that are deepest inside it, shape (n, 2)."""
    return -_to_edge(edges[area.holds(edges)], area)


def _to_edge(points: Floats, shape: _Shape) -> Floats:
    """The ways to an edge from the points that are furthest from it, the furthest first, shape (n, 2)."""
    if not len(points):
        return points
    away, edge = nearest_edges(points, shape.edges)
    if away.max() < SIMPLER:
        return points[:0]
    far = np.flatnonzero(away > _FAR * away.max())
    lines = shapely.shortest_line(shapely.points(points[far]), shape.edges.geometries.take(edge[far]))  # pyright: ignore[reportUnknownMemberType]
    ways = np.diff(shapely.get_coordinates(lines).reshape(-1, 2, 2), axis=1)[:, 0]
    return ways[np.argsort(-np.hypot(*ways.T), kind="stable")]


def _to_and_fro(there: Floats, back: Floats) -> bool:
    """Whether a push undoes the one before; none does where that was nothing."""
    one, other = math.hypot(*there), math.hypot(*back)
    return bool(there @ back < _BACK * one * other and other > _CLEARLY * one)


def _all_round(pushes: Floats) -> bool:
    """Whether pushes go all round, so that none helps but against another one."""
    towards = np.sort(np.arctan2(pushes[:, 1], pushes[:, 0]))
    return bool(np.diff(towards, append=towards[:1] + 2 * np.pi).max() < _OPEN)


def _further(push: Floats) -> Floats:
    size = math.hypot(*push)
    return push * (size + _FURTHER) / size
