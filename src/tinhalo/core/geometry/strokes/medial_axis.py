"""The medial axis of a region and of what surrounds it: the middles of strokes and of gaps, and how wide they are.

It is read off the Voronoi diagram of the region's edges (``voronoi``). A diagram's edge is straight
between two edges of the region or between two of its corners, and a parabola between an edge and a corner; the distance
to the region's edge is least inside such a piece only beside a corner, which is worked out and not sampled.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from shapely import MultiPolygon

from tinhalo.core.geometry.arrays import Floats, Ints
from tinhalo.core.geometry.regions.proximity import components
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.strokes.bisectors import Bisectors, bisectors


@dataclass(frozen=True)
class MedialAxis:
    """Pieces of a medial axis.

    Attributes:
        ends: shape (m, 2), indices of the two nodes of each piece.
        points: shape (n, 2), the nodes in mm.
        radius: shape (n,), each node's distance from the region's edge, in mm.
        least: shape (m,), the least distance along each piece, in mm.
        least_at: shape (m, 2), where that is, in mm.
        share: shape (m,), how far along the piece that is, from its first end (0) to its second (1).
        part: shape (m,), a number for each set of pieces that hang together.
        runs_on: shape (n,), whether the axis runs on from a node to infinity, which no piece shows.
    """

    ends: Ints
    points: Floats
    radius: Floats
    least: Floats
    least_at: Floats
    share: Floats
    part: Ints
    runs_on: NDArray[np.bool_]

    @property
    def nbytes(self) -> int:
        """Memory held, in bytes."""
        return sum(a.nbytes for a in (self.ends, self.points, self.radius, self.least, self.least_at, self.share))

    @property
    def lengths(self) -> Floats:
        """Straight distance between the ends of each piece, shape (m,)."""
        a, b = self.points[self.ends[:, 0]], self.points[self.ends[:, 1]]
        return np.hypot(*(b - a).T)


_NONE = MedialAxis(
    np.zeros((0, 2), np.intp),
    np.zeros((0, 2)),
    np.zeros(0),
    np.zeros(0),
    np.zeros((0, 2)),
    np.zeros(0),
    np.zeros(0, np.intp),
    np.zeros(0, bool),
)


def medial_axes(region: Region) -> tuple[MedialAxis, MedialAxis]:
    """The medial axes inside a region (strokes) and outside it (holes, bays, gaps between pieces)."""
    strokes, gaps = _axes(region.simple, (True, False))
    return strokes, gaps


def medial_axis(area: MultiPolygon, *, inside: bool) -> MedialAxis:
    """One of them, of an area's edges as they are."""
    return _axes(area, (inside,))[0]


def _axes(area: MultiPolygon, sides: Sequence[bool]) -> list[MedialAxis]:
    """The medial axes inside (True) or outside (False) of an area."""
    return [_axis(one) for one in bisectors(area, sides)]


def _axis(found: Bisectors) -> MedialAxis:
    if not len(found.ends):
        return _NONE
    start, end = found.vertices[found.ends[:, 0]], found.vertices[found.ends[:, 1]]
    at_start, at_end = found.radii(start), found.radii(end)
    least, share, place = _least(start, end, at_start, at_end, found.segment, found.is_corner, found.corner)
    used, flat = np.unique(found.ends, return_inverse=True)
    ends = flat.reshape(-1, 2).astype(np.intp)
    radius = np.zeros(len(used))
    radius[ends[:, 0]], radius[ends[:, 1]] = at_start, at_end
    parts = _parts(ends, len(used))
    return MedialAxis(ends, found.vertices[used], radius, least, place, share, parts, found.runs_on[used])


def _parts(ends: Ints, count: int) -> Ints:
    """For each piece a node that stands for all that it hangs together with."""
    return components(ends.T, count)[ends[:, 0]]


def _least(
    start: Floats,
    end: Floats,
    at_start: Floats,
    at_end: Floats,
    segment: Floats,
    is_corner: NDArray[np.bool_],
    corner: Floats,
) -> tuple[Floats, Floats, Floats]:
    """Least distance along each piece, its share of the way, and its place."""
    share = np.where(at_start <= at_end, 0.0, 1.0)
    least = np.minimum(at_start, at_end)
    place = np.where((at_start <= at_end)[:, None], start, end)

    # Beside a corner the distance has its minimum at the middle between the corner and the other site.
    rows = np.flatnonzero(is_corner.any(axis=1))
    which = np.where(is_corner[rows, 0], 0, 1)
    tip = corner[rows, which]
    other = 1 - which
    a, b = segment[rows, other, 0], segment[rows, other, 1]
    along = b - a
    foot = a + along * (((tip - a) * along).sum(axis=1) / (along**2).sum(axis=1))[:, None]
    foot = np.where(is_corner[rows, other][:, None], corner[rows, other], foot)
    nearest = (tip + foot) / 2
    way = end[rows] - start[rows]
    t = ((nearest - start[rows]) * way).sum(axis=1) / np.maximum((way**2).sum(axis=1), 1e-18)
    within = (t > 0) & (t < 1)
    rows, t, nearest, tip = rows[within], t[within], nearest[within], tip[within]
    size = np.hypot(*(nearest - tip).T)
    closer = size < least[rows]
    rows, t, nearest, size = rows[closer], t[closer], nearest[closer], size[closer]
    least[rows], share[rows], place[rows] = size, t, nearest
    return least, share, place
