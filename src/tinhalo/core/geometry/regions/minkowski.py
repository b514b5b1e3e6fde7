"""Shadows: a region moved aside, or swept along a straight line."""

from __future__ import annotations

import numpy as np
import shapely

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.precision import Precision
from tinhalo.core.geometry.regions.offset import offset
from tinhalo.core.geometry.regions.overlay import subtract
from tinhalo.core.geometry.regions.region import Region


def sweep(region: Region, dx: float, dy: float) -> Region:
    """The union of the region at every position between where it is and (dx, dy) mm further on.

    That is its Minkowski sum with a segment. On every line along the way the region's stretches only get longer, each
    from its far end: so it is the region, and what its edges that face forward pass over. Edges in a row that face
    forward pass over a simple polygon, because no line along the way meets them twice.
    """
    way = np.array([dx, dy])
    if region.is_empty or not way.any():
        return region
    runs: list[Floats] = []
    for piece in shapely.get_parts(shapely.orient_polygons(region.area)):
        for line in (piece.exterior, *piece.interiors):
            runs += [np.concatenate([run, run[::-1] + way, run[:1]]) for run in _facing(_vertices(line), way)]
    which = np.repeat(np.arange(len(runs)), [len(run) for run in runs])
    rings = np.asarray(shapely.linearrings(np.concatenate(runs), indices=which), object)
    passed = np.asarray(shapely.polygons(rings), object)
    # As exact numbers they are simple; rounded, an edge all but along the way may touch the next one.
    invalid = ~np.asarray(shapely.is_valid(passed), bool)
    passed[invalid] = np.asarray(shapely.make_valid(passed[invalid]), object)
    return Region.of(shapely.disjoint_subset_union_all([region.area, *passed.tolist()]), region.drawn)


def drop_shadow(region: Region, dx: float, dy: float, underlap: float | None, precision: Precision) -> Region:
    """The region moved by (dx, dy) mm; with an ``underlap``, only what is seen of it, and that much under its source.

    Args:
        region: what throws the shadow.
        dx: how far to the right, in mm.
        dy: how far up, in mm.
        underlap: how far the seen part reaches under its source, in mm; None for the whole shadow.
        precision: how finely arcs are drawn.
    """
    moved = region.moved(dx, dy)
    if underlap is None:
        return moved
    return subtract(moved, offset(region, -underlap, precision))


def _vertices(line: shapely.LinearRing) -> Floats:
    return np.asarray(line.coords)[:-1, :2]


def _facing(ring: Floats, way: Floats) -> list[Floats]:
    """The longest runs of edges with ``way`` on their outer side, as vertices; the region is on the ring's left."""
    edges = np.diff(np.concatenate([ring, ring[:1]]), axis=0)
    forward = edges[:, 1] * way[0] - edges[:, 0] * way[1] > 0
    if not forward.any():
        return []
    # Begin behind an edge that does not face forward: a closed ring always has one.
    begin = int(np.flatnonzero(~forward)[0]) + 1
    forward = np.concatenate([forward[begin:], forward[:begin]])
    steps = np.diff(np.concatenate([[0], forward.astype(np.int8), [0]]))
    closed = np.concatenate([ring[begin:], ring[: begin + 1]])
    return [closed[a : b + 1] for a, b in zip(np.flatnonzero(steps == 1), np.flatnonzero(steps == -1), strict=True)]
