"""What is as far from one part of a region's edge as from another: edges of a Voronoi diagram, and between what."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import MultiPolygon, Polygon

from tinhalo.core.geometry.arrays import Floats, Ints
from tinhalo.core.geometry.curves.outline import cross
from tinhalo.core.geometry.regions.region import Region, edges_of
from tinhalo.core.geometry.strokes.voronoi import (
    END,
    GRID,
    START,
    Diagram,
    voronoi,
    voronoi_each,
    worth_dividing,
)
from tinhalo.core.runtime.elsewhere import sizes


@dataclass(frozen=True)
class Bisectors:
    """The edges of a Voronoi diagram of a region's edges, inside it or outside.

    Attributes:
        vertices: shape (v, 2), in mm.
        ends: shape (m, 2), indices of the two vertices of each.
        segment: shape (m, 2, 2, 2), the two edges of the region that each lies between, or whose corners it does.
        is_corner: shape (m, 2), which of the two it lies between is a corner.
        corner: shape (m, 2, 2), that corner.
        runs_on: shape (v,), whether the diagram runs on from a vertex to infinity.
    """

    vertices: Floats
    ends: Ints
    segment: Floats
    is_corner: NDArray[np.bool_]
    corner: Floats
    runs_on: NDArray[np.bool_]

    def radii(self, points: Floats) -> Floats:
        """How far points, one on each (m, 2), are from the region's edge, in mm."""
        a, b = self.segment[:, 0, 0], self.segment[:, 0, 1]
        to_line = np.abs(cross(b - a, points - a)) / np.hypot(*(b - a).T)
        to_corner = np.hypot(*(points - self.corner[:, 0]).T)
        return np.asarray(np.where(self.is_corner[:, 0], to_corner, to_line), float)

    def only(self, kept: NDArray[np.bool_]) -> Bisectors:
        """Some of them."""
        parts = (self.ends[kept], self.segment[kept], self.is_corner[kept], self.corner[kept])
        return Bisectors(self.vertices, *parts, self.runs_on)

    def with_ends(self, ends: Ints) -> Bisectors:
        """The same with other ends."""
        return replace(self, ends=ends)


_NOTHING = Bisectors(
    np.zeros((0, 2)),
    np.zeros((0, 2), np.intp),
    np.zeros((0, 2, 2, 2)),
    np.zeros((0, 2), bool),
    np.zeros((0, 2, 2)),
    np.zeros(0, bool),
)


def bisectors(area: MultiPolygon, sides: Sequence[bool]) -> list[Bisectors]:
    """Of an area's edges: inside it (True) or outside (False), for each that is asked for."""
    area = on_grid(area)
    sites = sites_of(area)
    if not len(sites):
        return [_NOTHING for _ in sides]
    if list(sides) == [True] and worth_dividing(len(sites)):
        # Inside a piece no other piece's edge is the nearest.
        parts = _shared_out(area)
        own = [sites_of(one) for one in parts]
        found = [_of(*one, sides)[0] for one in zip(parts, own, voronoi_each(own), strict=True)]
        return [together(found)]
    return _of(area, sites, voronoi(sites), sides)


def on_grid(area: MultiPolygon) -> MultiPolygon:
    """An area on the diagram's grid, which is coarser than ours: edges that cross there put corners at infinity."""
    snapped = shapely.set_precision(area, 1 / GRID)  # pyright: ignore[reportUnknownMemberType]
    return Region.of(snapped).area


def _shared_out(area: MultiPolygon) -> list[MultiPolygon]:
    """Its pieces in groups of about as many edges, more of them than are made at once: other diagrams wait, too."""
    pieces = sorted(((len(shapely.get_coordinates(one)), k, one) for k, one in enumerate(area.geoms)), reverse=True)
    groups: list[list[Polygon]] = [[] for _ in range(min(2 * sizes().at_once, len(pieces)))]
    counts = [0] * len(groups)
    for count, _, piece in pieces:
        least = counts.index(min(counts))
        groups[least].append(piece)
        counts[least] += count
    return [MultiPolygon(group) for group in groups]


def together(found: Sequence[Bisectors]) -> Bisectors:
    """The bisectors of several diagrams as one set."""
    first = np.cumsum([0, *(len(one.vertices) for one in found[:-1])])
    return Bisectors(
        np.concatenate([one.vertices for one in found]),
        np.concatenate([one.ends + offset for one, offset in zip(found, first, strict=True)]),
        np.concatenate([one.segment for one in found]),
        np.concatenate([one.is_corner for one in found]),
        np.concatenate([one.corner for one in found]),
        np.concatenate([one.runs_on for one in found]),
    )


def within(area: MultiPolygon, sites: Floats, diagram: Diagram) -> Bisectors:
    """What a diagram of some of an area's edges holds inside it."""
    return _of(area, sites, diagram, [True])[0]


def _of(area: MultiPolygon, sites: Floats, diagram: Diagram, sides: Sequence[bool]) -> list[Bisectors]:
    """What a diagram of an area's edges holds on these sides."""
    table, vertices = diagram.edges, diagram.vertices
    finite = (table[:, :2] >= 0).all(axis=1)
    runs_on = np.zeros(len(vertices), bool)
    runs_on[np.maximum(table[~finite, 0], table[~finite, 1])] = True
    pieces = table[finite]
    inside = _inside(area, sites, vertices, diagram.cells, pieces)
    return [_bisectors(sites, vertices, diagram.cells, pieces[inside == side], runs_on) for side in sides]


def sites_of(area: MultiPolygon) -> Floats:
    """The region's edges on the grid, shape (k, 2, 2), the region on their left."""
    edges = edges_of(area).round(4)
    return edges[(edges[:, 0] != edges[:, 1]).any(axis=1)]


def _inside(
    area: MultiPolygon, sites: Floats, vertices: Floats, cells: NDArray[np.int64], table: NDArray[np.int64]
) -> NDArray[np.bool_]:
    """Which of the diagram's edges are inside the area."""
    middle = (vertices[table[:, 0]] + vertices[table[:, 1]]) / 2
    kinds = cells[table[:, 2:]]
    is_corner = kinds[:, :, 1] <= END
    # Which side of an edge of the region it lies on tells; between two corners its middle does.
    beside = sites[kinds[np.arange(len(kinds)), np.where(is_corner[:, 0], 1, 0), 0]]
    inside = cross(beside[:, 1] - beside[:, 0], middle - beside[:, 0]) > 0
    both = is_corner.all(axis=1)
    inside[both] = shapely.contains_xy(area, *middle[both].T)
    return inside


def _bisectors(
    sites: Floats,
    vertices: Floats,
    cells: NDArray[np.int64],
    table: NDArray[np.int64],
    runs_on: NDArray[np.bool_],
) -> Bisectors:
    """The diagram's edges with what they lie between."""
    kinds = cells[table[:, 2:]]
    segment = sites[kinds[:, :, 0]]
    corner = np.where((kinds[:, :, 1] == START)[..., None], segment[:, :, 0], segment[:, :, 1])
    return Bisectors(vertices, table[:, :2].astype(np.intp), segment, kinds[:, :, 1] <= END, corner, runs_on)
