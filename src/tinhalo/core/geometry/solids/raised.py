"""Areas raised to a height, with an upper edge that is sharp, chamfered or rounded.

The caps and the bands between an outline and its insets are triangulated by manifold3d with the outlines' own vertices:
no point is added or lost, so that neighbouring faces share their edges exactly.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any, Literal

import manifold3d
import numpy as np
import shapely
from shapely import MultiPolygon, Polygon

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.solids.mesh import Mesh, Triangles

Edge = Literal["sharp", "chamfer", "round"]

#: Steps of a rounded edge: each turns by this many degrees.
_TURN = 15.0
#: Mitred insets keep the corners of what is inset; longer tips than this, in insets, are cut off.
_MITRE = 4.0


def raised(area: MultiPolygon, bottom: float, top: float, edge: Edge = "sharp", size: float = 0.0) -> Mesh:
    """A solid over an area.

    Args:
        area: in mm; its rings may touch each other in points, but do not cross.
        bottom: height of its flat underside, in mm.
        top: height of its upper side, in mm, above ``bottom``.
        edge: how its upper edge is made.
        size: width and height of that, in mm; less where the solid is lower than twice that.
    Raises:
        ValueError: where top is not above bottom.
    """
    if top <= bottom:
        raise ValueError("a solid is higher than its underside")
    size = min(size, (top - bottom) / 2)
    levels = [(0.0, bottom), *(_profile(edge, size, top) if edge != "sharp" and size > 0 else [(0.0, top)])]
    rings = [_rings(area)]
    for inset, _ in levels[1:]:
        rings.append(rings[0] if inset == 0 else _rings(_inset(area, inset)))
    points, firsts = _points(rings, [height for _, height in levels])
    faces = [_cap(rings[0], firsts[0])[:, ::-1]]
    for k in range(len(levels) - 1):
        lower, upper = rings[k], rings[k + 1]
        faces.append(_wall(lower, firsts[k], firsts[k + 1]) if upper is lower else _band(lower, upper, firsts[k]))
    faces.append(_cap(rings[-1], firsts[-1]))
    return Mesh(points, np.concatenate(faces))


def flat(area: MultiPolygon, height: float) -> Mesh:
    """The upper side alone of an area: what is printed or marked on a face. It is not closed."""
    rings = _rings(area)
    points, _ = _points([rings], [height])
    return Mesh(points, _cap(rings, 0))


def _profile(edge: Edge, size: float, top: float) -> list[tuple[float, float]]:
    """How far in the upper edge is at what heights, from its foot on."""
    if edge == "chamfer":
        return [(0.0, top - size), (size, top)]
    angles = np.radians(np.linspace(0, 90, round(90 / _TURN) + 1)).tolist()
    return [(size * (1 - math.cos(angle)), top - size * (1 - math.sin(angle))) for angle in angles]


def _inset(area: MultiPolygon, by: float) -> MultiPolygon:
    return Region.of(shapely.buffer(area, -by, join_style="mitre", mitre_limit=_MITRE)).area


def _rings(area: MultiPolygon) -> list[Floats]:
    """Rings without their closing point: shells counter-clockwise, holes clockwise."""
    pieces: list[Polygon] = [shapely.orient_polygons(one) for one in area.geoms]
    return [np.asarray(ring.coords)[:-1, :2] for one in pieces for ring in (one.exterior, *one.interiors)]


def _points(rings: Sequence[Sequence[Floats]], heights: Sequence[float]) -> tuple[Floats, list[int]]:
    """All points, and the index of each level's first."""
    counts = [sum(map(len, level)) for level in rings]
    levels = [
        np.column_stack([np.concatenate(level), np.full(count, height)]) if count else np.zeros((0, 3))
        for level, count, height in zip(rings, counts, heights, strict=True)
    ]
    return np.concatenate(levels), [0, *np.cumsum(counts)[:-1].tolist()]


def _cap(rings: Sequence[Floats], first: int) -> Triangles:
    return _triangles(rings) + first


def _band(lower: Sequence[Floats], upper: Sequence[Floats], first: int) -> Triangles:
    """Between an outline and its inset, which comes right after it: seen from above the inset is a hole."""
    count = sum(map(len, lower))
    found = _triangles([*lower, *(ring[::-1] for ring in upper)])
    # The inset's rings were turned round: back to where their points stand.
    order = [np.arange(count)]
    for ring in upper:
        order.append(count + np.arange(len(ring))[::-1])
        count += len(ring)
    return np.concatenate(order)[found] + first


def _wall(rings: Sequence[Floats], low: int, high: int) -> Triangles:
    sides: list[Triangles] = []
    first = 0
    for ring in rings:
        here = np.arange(len(ring)) + first
        beside = np.roll(here, -1)
        sides.append(np.stack([here + low, beside + low, beside + high], axis=1))
        sides.append(np.stack([here + low, beside + high, here + high], axis=1))
        first += len(ring)
    return np.concatenate([np.zeros((0, 3), np.int64), *sides])


def _triangles(rings: Sequence[Floats]) -> Triangles:
    if not rings:
        return np.zeros((0, 3), np.int64)
    library: Any = manifold3d
    found = library.triangulate([np.ascontiguousarray(ring) for ring in rings])
    return np.asarray(found, np.int64).reshape(-1, 3)
