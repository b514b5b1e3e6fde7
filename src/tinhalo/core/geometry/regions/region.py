"""A region: closed areas with holes, in mm, y up."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import cast

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import MultiPolygon, Polygon

from tinhalo.core.geometry.arrays import Box, Floats, Ints
from tinhalo.core.geometry.curves.outline import Outline

#: Pieces and holes smaller than this (mm², a hundredth of a millimetre squared) are numerical crumbs.
CRUMB_AREA = 1e-4
#: What is only measured does without vertices that are closer than this (mm) to the line between their neighbours.
SIMPLER = 0.005


_POLYGON = int(shapely.GeometryType.POLYGON)

NO_MARKS: Floats = np.zeros((0, 2, 2))


@dataclass(frozen=True)
class Region:
    """Flattened areas, the curves that some of their rings are known to come from, and open marks.

    Attributes:
        area: the region as polygons; valid, without crumbs.
        drawn: outlines whose non-zero union drew (parts of) the region. A ring that is still one of theirs
            leaves with those curves; every other ring is fitted. Steps pass it on where rings can survive.
        marks: straight open strokes, shape (n, 2, 2): the ends of each. The evaluator carries them past every step
            that does not change them.
    """

    area: MultiPolygon
    drawn: tuple[Outline, ...] = ()
    marks: Floats = field(default_factory=lambda: NO_MARKS)

    @staticmethod
    def empty() -> Region:
        """A region without any area."""
        return Region(MultiPolygon())

    @staticmethod
    def of(geometry: shapely.Geometry | NDArray[np.object_], drawn: tuple[Outline, ...] = ()) -> Region:
        """Take the polygons out of any geometry, or of several, and drop crumbs; points and lines have no area."""
        parts = _without_crumbs(geometry)
        # Several times quicker than the class, which takes each polygon apart.
        return Region(cast(MultiPolygon, shapely.multipolygons(parts)) if len(parts) else MultiPolygon(), drawn)

    def with_marks(self, marks: Floats) -> Region:
        """The region with other marks, shape (n, 2, 2)."""
        return replace(self, marks=marks)

    def moved(self, dx: float, dy: float) -> Region:
        """The region moved by (dx, dy) mm."""
        return self.transformed(np.array([[1, 0, dx], [0, 1, dy]], float))

    def transformed(self, matrix: Floats) -> Region:
        """The region after an affine map that can be undone, shape (2, 3)."""

        def mapped(points: Floats) -> Floats:
            return points @ matrix[:, :2].T + matrix[:, 2]

        area = shapely.transform(self.area, mapped)
        return Region(area, tuple(o.transformed(matrix) for o in self.drawn), mapped(self.marks))

    @property
    def is_empty(self) -> bool:
        """Whether nothing is left, neither areas nor marks."""
        return self.area.is_empty and not len(self.marks)

    @property
    def marks_length(self) -> float:
        """Total length of the marks in mm."""
        return float(np.hypot(*(self.marks[:, 1] - self.marks[:, 0]).T).sum()) if len(self.marks) else 0.0

    @property
    def pieces(self) -> int:
        """Number of separate pieces."""
        return int(shapely.get_num_geometries(self.area))  # pyright: ignore[reportUnknownMemberType]

    @cached_property
    def holes(self) -> int:
        """Number of holes in all pieces."""
        inner = shapely.get_num_interior_rings(shapely.get_parts(self.area))  # pyright: ignore[reportUnknownMemberType]
        return int(np.sum(inner))

    @cached_property
    def simple(self) -> MultiPolygon:
        """The area with fewer vertices, to measure: none further than ``SIMPLER`` from the edge there was.

        Shared between threads as the region is: see ``prepared``.
        """
        # Loading the compiler takes a moment, which what only reads fonts need not wait for.
        from tinhalo.core.geometry.regions.fewer import with_fewer_vertices

        parts = np.asarray(shapely.get_parts(self.area), object)
        # Without a look at the topology it is several times quicker, and hardly ever goes wrong.
        for simpler in (with_fewer_vertices, shapely.simplify):
            # Piece by piece: all at once takes a time that grows with the square of their number.
            simple = Region.of(np.asarray(simpler(parts, SIMPLER), object)).area
            if simple.is_valid:
                return simple
        return self.area

    def hole_areas(self) -> list[Polygon]:
        """The holes of all pieces as areas of their own."""
        found, of = shapely.get_rings(shapely.get_parts(self.area), return_index=True)
        rings, owner = np.asarray(found, object), np.asarray(of, np.intp)
        # A piece's first ring is its shell.
        inner = rings[np.r_[False, owner[1:] == owner[:-1]]] if len(rings) else rings
        return np.asarray(shapely.polygons(inner), object).tolist()

    @property
    def bounds(self) -> Box | None:
        """(min x, min y, max x, max y) in mm, or None when empty."""
        own = None if self.area.is_empty else self.area.bounds
        if not len(self.marks):
            return own
        marks = (*self.marks.min(axis=(0, 1)).tolist(), *self.marks.max(axis=(0, 1)).tolist())
        return wrapped([marks] if own is None else [own, marks])

    @property
    def vertices(self) -> int:
        """How many corners its edge has, the first of each ring counted twice."""
        return int(shapely.get_num_coordinates(self.area))  # pyright: ignore[reportUnknownMemberType]

    @property
    def nbytes(self) -> int:
        """Memory held, in bytes, near enough for a cache's budget."""
        return 16 * self.vertices + sum(o.nbytes for o in self.drawn) + self.marks.nbytes + 500

    def rings(self) -> list[tuple[int, NDArray[np.float64]]]:
        """Every ring as (piece index, vertices (k, 2) without the closing point), shells before their holes."""
        out: list[tuple[int, NDArray[np.float64]]] = []
        for index, polygon in enumerate(self.area.geoms):
            for ring in (polygon.exterior, *polygon.interiors):
                out.append((index, np.asarray(ring.coords)[:-1, :2]))
        return out


def prepared(area: Polygon | MultiPolygon) -> MultiPolygon:
    """A copy of an area, prepared for many questions.

    Regions are shared between threads, and GEOS must not prepare what another thread may use: the process was seen to
    abort. ``shapely.contains_xy`` prepares what it is given, too.
    """
    own = cast(MultiPolygon, shapely.multipolygons(shapely.get_parts(area)))
    shapely.prepare(own)
    return own


def plainer(area: MultiPolygon, by: float) -> MultiPolygon:
    """An area with fewer vertices, hardly further than ``by`` mm from its edge; the slimmest pieces get lost.

    Quicker than with a look at the topology: meant to be measured, not to be passed on. Where nothing would be left, it
    is the area itself.
    """
    simple = shapely.simplify(area, by, preserve_topology=False)
    left = [part for part in shapely.get_parts(simple) if isinstance(part, Polygon)]
    return MultiPolygon(left) if left else area


def edges_of(area: MultiPolygon) -> Floats:
    """All straight edges of an area, shape (n, 2, 2), the area on their left."""
    found: list[Floats] = [np.zeros((0, 2, 2))]
    for piece in shapely.get_parts(shapely.orient_polygons(area)):
        for ring in (piece.exterior, *piece.interiors):
            points = np.asarray(ring.coords)[:, :2]
            found.append(np.stack([points[:-1], points[1:]], axis=1))
    return np.concatenate(found)


def wrapped(boxes: Sequence[Box]) -> Box | None:
    """The box around boxes, each (min x, min y, max x, max y); None when there are none."""
    if not boxes:
        return None
    x0, y0, x1, y1 = zip(*boxes, strict=True)
    return (min(x0), min(y0), max(x1), max(y1))


def _without_crumbs(geometry: shapely.Geometry | NDArray[np.object_]) -> NDArray[np.object_]:
    """The polygons of any geometry, those of collections inside it too, that are no crumbs and without such holes."""
    if isinstance(geometry, Polygon) and not len(geometry.interiors) and geometry.area >= CRUMB_AREA:
        return np.array([geometry], object)
    parts = np.asarray(shapely.get_parts(geometry), object)
    if not isinstance(geometry, Polygon | MultiPolygon) or geometry.is_empty:
        while ((kinds := _kinds(parts)) > _POLYGON).any():
            parts = np.asarray(shapely.get_parts(parts), object)
        parts = parts[(kinds == _POLYGON) & ~np.asarray(shapely.is_empty(parts))]
    found, of = shapely.get_rings(parts, return_index=True)
    rings, owner = np.asarray(found, object), np.asarray(of, np.intp)
    size = np.asarray(shapely.area(shapely.polygons(rings)), float)  # pyright: ignore[reportUnknownMemberType]
    if not len(size) or size.min() >= CRUMB_AREA:
        return parts
    crumbs = size < CRUMB_AREA
    first = np.searchsorted(owner, np.arange(len(parts)))
    for i in np.unique(owner[crumbs]).tolist():
        holes = np.flatnonzero((owner == i) & ~crumbs & (np.arange(len(rings)) > first[i]))
        parts[i] = Polygon(rings[first[i]], rings[holes].tolist())
    return parts[~crumbs[first]]


def _kinds(parts: NDArray[np.object_]) -> Ints:
    return np.asarray(shapely.get_type_id(parts), np.intp)  # pyright: ignore[reportUnknownMemberType]
