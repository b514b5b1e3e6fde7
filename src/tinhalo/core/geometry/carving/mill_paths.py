"""Where an end mill goes: over floors in offset passes, round pieces and inside holes, with tabs that hold them.

Seen from above a mill turns clockwise (M3). *Climb* has the wall on the right of its way, so it goes round pockets
counter-clockwise and round pieces clockwise; *conventional* is the other way (common practice).
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
import shapely
from shapely import MultiPolygon

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.carving.v_paths import rings_of
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.runtime.cancellation import checkpoint

Way = Literal["climb", "conventional"]

#: Passes follow their offsets within this, in mm; they keep off walls by as much more, so that nothing is cut outside.
_WITHIN = 0.01
#: Between passes what was left is gone over again so often; the rest is for a finer tool.
_AGAIN = 3


@dataclass(frozen=True)
class Cleared:
    """Rings (n, 2) that a mill goes round, the outermost of each place last, and what they leave of the floor."""

    rings: tuple[Floats, ...]
    rest: MultiPolygon


def clear(floor: MultiPolygon, diameter: float, share: float, way: Way) -> Cleared:
    """Go over a flat floor.

    Args:
        floor: in mm.
        diameter: of the mill, in mm.
        share: of the diameter from pass to pass.
        way: which way round.
    """
    radius = diameter / 2
    first = _shrunk(floor, radius + _WITHIN)
    if first.is_empty:
        return Cleared((), floor)
    step = share * diameter
    passes: list[MultiPolygon] = [first]
    while not (inner := _shrunk(first, len(passes) * step)).is_empty:
        passes.append(inner)
        checkpoint()
    rings = [ring for one in passes[::-1] for ring in _ringed(one, way)]
    swept = _swept(rings, radius)
    # Where passes turn sharply, or end, islands are left between them: they are reached from between the passes.
    for _ in range(_AGAIN):
        missed = Region.of(shapely.intersection(shapely.difference(floor, swept), shapely.buffer(first, radius))).area
        missed = Region.of(shapely.buffer(missed, -0.02)).area
        if missed.is_empty:
            break
        over = [ring for ring in _over(missed, first) if len(ring) > 1]
        rings = over + rings
        swept = shapely.union(swept, _swept(over, radius))
    return Cleared(tuple(rings), Region.of(shapely.difference(floor, swept)).area)


def _over(missed: MultiPolygon, within: MultiPolygon) -> Iterator[Floats]:
    """Lines over islands, as far as the mill's middle may go: along each at its longest."""
    for piece in missed.geoms:
        box = shapely.get_coordinates(shapely.oriented_envelope(piece))[:4]
        sides = np.hypot(*(box[1] - box[0])), np.hypot(*(box[2] - box[1]))
        ends = (box[0] + box[3], box[1] + box[2]) if sides[0] >= sides[1] else (box[0] + box[1], box[2] + box[3])
        found = shapely.intersection(shapely.linestrings([ends[0] / 2, ends[1] / 2]), within)
        for line in shapely.get_parts(found):
            if line.geom_type == "LineString" and line.length > 0:
                yield np.asarray(line.coords)[:, :2]


def around(area: MultiPolygon, diameter: float, way: Way) -> list[tuple[Floats, bool]]:
    """Rings (n, 2) inside holes, then round pieces; with whether it is a piece that comes free."""
    radius = diameter / 2
    inner: list[tuple[Floats, bool]] = []
    outer: list[tuple[Floats, bool]] = []
    for piece in area.geoms:
        shell = shapely.buffer(shapely.Polygon(piece.exterior), radius, quad_segs=_quarter(radius))
        outer += [(_turned(ring, way == "climb"), True) for ring in rings_of(Region.of(shell).area)]
        for hole in piece.interiors:
            inner += [(ring, False) for ring in _ringed(_shrunk(Region.of(shapely.Polygon(hole)).area, radius), way)]
    return inner + outer


def passes(start: float, depth: float, each: float) -> list[float]:
    """Depths of passes from a start (mm, positive down), none deeper than ``each``, evenly."""
    count = max(1, math.ceil(round(depth / each, 6)))
    return [start + depth * (k + 1) / count for k in range(count)]


def with_tabs(ring: Floats, z: float, top: float, count: int, width: float) -> Floats:
    """A closed ring at height z, lifted to ``top`` over tabs that are evenly spread along it, shape (n, 3).

    Args:
        ring: closed, shape (n, 2), in mm.
        z: height of the pass.
        top: height of the tabs; passes over it have none.
        count: of tabs.
        width: along the ring, in mm.
    """
    lengths = np.hypot(*np.diff(ring, axis=0).T)
    along = np.concatenate([[0], np.cumsum(lengths)])
    total = float(along[-1])
    flat = np.column_stack([ring, np.full(len(ring), z)])
    if z >= top or count < 1 or total <= count * width:
        return flat
    middles = (np.arange(count) + 0.5) * total / count
    edges = np.sort(np.concatenate([middles - width / 2, middles + width / 2]))
    every = np.union1d(along, edges)
    at = np.column_stack([np.interp(every, along, ring[:, 0]), np.interp(every, along, ring[:, 1])])
    lifted: list[list[float]] = []
    for place, (x, y) in zip(every.tolist(), at.tolist(), strict=True):
        off = np.abs(middles - place).min()
        if abs(off - width / 2) < 1e-9:
            # Straight up before a tab, and down behind it.
            up = bool((np.abs(edges[::2] - place) < 1e-9).any())
            lifted += [[x, y, z], [x, y, top]] if up else [[x, y, top], [x, y, z]]
        else:
            lifted.append([x, y, top if off < width / 2 else z])
    return np.array(lifted)


def _ringed(area: MultiPolygon, way: Way) -> list[Floats]:
    return [_turned(ring, way == "conventional") for ring in rings_of(area)]


def _turned(ring: Floats, other: bool) -> Floats:
    return ring[::-1] if other else ring


def _swept(lines: Sequence[Floats], radius: float) -> shapely.Geometry:
    along = np.array([shapely.linestrings(one) for one in lines], object)
    return shapely.union_all(shapely.buffer(along, radius, quad_segs=_quarter(radius)))


def _shrunk(area: MultiPolygon, by: float) -> MultiPolygon:
    if by <= 0:
        return area
    shrunk = shapely.buffer(area, -by, quad_segs=_quarter(by))
    return Region.of(shapely.simplify(shrunk, _WITHIN / 2)).area


def _quarter(radius: float) -> int:
    """Chords to a quarter of a circle that stay within a third of the tolerance."""
    return max(8, math.ceil(math.pi / 4 / math.acos(max(0.5, 1 - _WITHIN / 3 / radius))))
