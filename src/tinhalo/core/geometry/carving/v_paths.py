"""Where a V-bit goes to carve an area: along its walls, into its corners and grooves, and over what is left of floors.

With half the bit's angle *a*, a wall that begins at the edge is depth x tan(a) further in at a depth (plane
trigonometry). So at the floor the bit's tip follows the edge at that distance; where the area is narrower it follows
the medial axis, as deep as its clearance allows: clearance / tan(a). A flat tip keeps half its width further off.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
import shapely
from shapely import LineString, MultiPolygon, Polygon

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.carving.axis import carved_axis, fewer
from tinhalo.core.geometry.carving.heights import Profile
from tinhalo.core.geometry.carving.order import near_each_other
from tinhalo.core.geometry.regions.region import Region, edges_of

#: The surface is right within this, in mm, and so far off paths may be in all.
_SURFACE, _FURTHEST = 0.012, 0.006
#: Lines to and fro are joined where the next begins within so many steps, and nothing is between but so many mm.
_BESIDE, _BETWEEN = 4, 0.003


@dataclass(frozen=True)
class Cone:
    """A V-bit: the tangent of half its angle, and how wide its tip is, in mm."""

    tangent: float
    tip: float = 0.0

    @staticmethod
    def of(angle: float, tip: float = 0.0) -> Cone:
        """A bit by its included angle in degrees, and its tip's width in mm."""
        return Cone(math.tan(math.radians(angle) / 2), tip)

    @property
    def profile(self) -> Profile:
        """Its shape from below."""
        return Profile(self.tip / 2, 1 / self.tangent)

    @property
    def within(self) -> float:
        """How far its paths may be off, in mm: on steep walls less for the same depth."""
        return min(_FURTHEST, _SURFACE * self.tangent)

    def keeps_off(self, depth: float) -> float:
        """How far from a wall's upper edge its middle is at a depth, in mm."""
        return depth * self.tangent + self.tip / 2


@dataclass(frozen=True)
class Carving:
    """What carves an area, in paths of (x, y, z), shape (n, 3), z from where it starts at; closed ones come back.

    Attributes:
        walls: along the floor's edge.
        grooves: along the medial axis, where the floor is not reached.
        floor: the flat area at the full depth.
        inner: where the bit's middle can be at the full depth.
    """

    walls: tuple[Floats, ...]
    grooves: tuple[Floats, ...]
    floor: MultiPolygon
    inner: MultiPolygon


def carve(area: MultiPolygon, cone: Cone, depth: float) -> Carving:
    """How an area is carved down to a depth in mm, below where its edge is."""
    within = cone.within
    plain = Region.of(shapely.simplify(area, within * 2 / 3)).area
    inner = _shrunk(plain, cone.keeps_off(depth))
    floor = inner if cone.tip == 0 else _shrunk(plain, depth * cone.tangent)
    walls = [_at(fewer(ring, within / 2), -depth) for ring in rings_of(inner)]
    grooves = [deep for line in carved_axis(plain, cone.keeps_off(depth), within) for deep in _deep(line, cone)]
    return Carving(tuple(walls), tuple(grooves), floor, inner)


def swept(carving: Carving, rest: MultiPolygon, step: float, depth: float) -> list[Floats]:
    """Paths to and fro over what is left of a floor, ``step`` mm apart, joined where nothing is between."""
    if rest.is_empty or carving.inner.is_empty:
        return []
    # The way along the walls has done as much of it as one line does.
    done = shapely.buffer(carving.inner.boundary, step / 2, quad_segs=4)
    left = Region.of(shapely.difference(rest, done)).area
    # Lines beside what is left reach in, too.
    reached = shapely.intersection(shapely.buffer(left, step), carving.inner)
    paths: list[Floats] = []
    for part in Region.of(reached).area.geoms:
        # Ends lie on the edge: from one to the next is a hair's breadth outside.
        room = shapely.buffer(part, _BETWEEN)
        shapely.prepare(room)
        begun = len(paths)
        for line in near_each_other(_hatched(part, step)):
            across = np.stack([paths[-1][-1] if len(paths) > begun else line[0], line[0]])
            near = len(paths) > begun and np.hypot(*(across[1] - across[0])) < _BESIDE * step
            if near and shapely.covers(room, LineString(across)):
                paths[-1] = np.vstack([paths[-1], line])
            else:
                paths.append(line)
    return [_at(one, -depth) for one in paths]


def rings_of(area: MultiPolygon) -> Iterator[Floats]:
    """Its rings, closed, shape (n, 2) each, with the area on their left."""
    for piece in shapely.get_parts(shapely.orient_polygons(area)):
        for ring in (piece.exterior, *piece.interiors):
            yield np.asarray(ring.coords)[:, :2]


def _hatched(part: Polygon, step: float) -> list[Floats]:
    """Level lines over a part, shape (2, 2) each, from below, from edge to edge."""
    _, y0, _, y1 = part.bounds
    count = max(1, math.ceil((y1 - y0) / step))
    spacing = (y1 - y0) / count
    first = y0 + spacing / 2
    edges = edges_of(MultiPolygon([part]))
    low, high = edges[:, :, 1].min(axis=1), edges[:, :, 1].max(axis=1)
    # Each edge crosses the rows from its lower end on, before its upper one.
    begin = np.ceil((low - first) / spacing).astype(np.intp)
    crossed = np.maximum(np.ceil((high - first) / spacing).astype(np.intp) - begin, 0)
    owner = np.repeat(np.arange(len(edges)), crossed)
    row = begin[owner] + np.arange(len(owner)) - np.repeat(np.cumsum(crossed) - crossed, crossed)
    a, b = edges[owner, 0], edges[owner, 1]
    y = first + row * spacing
    x = a[:, 0] + (b[:, 0] - a[:, 0]) * (y - a[:, 1]) / (b[:, 1] - a[:, 1])
    order = np.lexsort((x, row))
    points = np.column_stack([x, y])[order]
    return list(points.reshape(-1, 2, 2))


def _shrunk(area: MultiPolygon, by: float) -> MultiPolygon:
    """A tolerance of arcs that the walls can bear: 0.001 mm of the way."""
    if by <= 0:
        return area
    quarter = max(8, math.ceil(math.pi / 4 / math.acos(max(0.0, 1 - 0.001 / by))))
    return Region.of(shapely.buffer(area, -by, quad_segs=quarter)).area


def _at(line: Floats, z: float) -> Floats:
    return np.column_stack([line, np.full(len(line), z)])


def _deep(line: Floats, cone: Cone) -> Iterator[Floats]:
    """Clearances as depths; what the tip is too wide for is left out."""
    height = (cone.tip / 2 - line[:, 2]) / cone.tangent
    deep = np.column_stack([line[:, :2], height])
    if cone.tip == 0:
        yield deep
        return
    under = height <= 0
    crossing = np.flatnonzero(under[:-1] != under[1:])
    share = height[crossing] / (height[crossing] - height[crossing + 1])
    surfaced = deep[crossing] + (deep[crossing + 1] - deep[crossing]) * share[:, None]
    surfaced[:, 2] = 0
    begins = 0
    for at, place in zip([*(crossing + 1).tolist(), len(deep)], [*surfaced, None], strict=True):
        stretch = deep[begins:at]
        if len(stretch) and under[begins]:
            before = [surfaced[crossing + 1 == begins]] if begins else []
            yield np.vstack([*before, stretch, *([] if place is None else [place])])
        begins = at
