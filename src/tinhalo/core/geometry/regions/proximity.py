"""Which pieces hang together, how far they are from each other, and points from an edge."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from tinhalo.core.geometry.arrays import Floats, Ints
from tinhalo.core.geometry.regions.region import Region, edges_of
from tinhalo.core.geometry.regions.robust import clipped

#: The next piece is looked for with outlines this coarse, in mm: GEOS compares every edge with every other.
_COARSE = 0.05
_AT_ONCE = 50
#: Fewer pairs of edges than this GEOS compares sooner than a tree is made.
_FEW_PAIRS = 8_000_000


def nearest_gaps(pieces: Sequence[Polygon]) -> list[tuple[float, int]]:
    """Distance of each piece from the one next to it, in mm, and the index of that; there are at least two.

    Where two are next to it all but equally far, it is either.
    """
    coarse = _coarse(pieces)
    found = shapely.STRtree(coarse).query_nearest(coarse, exclusive=True, return_distance=True, all_matches=False)
    (one, other), far = found
    pairs: list[tuple[int, int]] = list(zip(one.tolist(), other.tolist(), strict=True))
    return [(_distance(pieces[a], pieces[b], reach), b) for (a, b), reach in zip(pairs, far.tolist(), strict=True)]


def joined_at(pieces: Sequence[Polygon], main: int, most: float) -> list[float]:
    """The least gap (mm) over which each piece hangs together with the main one, directly or through others.

    Wider by up to four times the coarseness than it is exactly; infinite where it takes more than ``most``.
    """
    coarse = _coarse(pieces)
    tree = shapely.STRtree(coarse)
    found = [np.inf] * len(pieces)
    found[main] = 0.0
    reach = min(most, 2.0)
    while not all(np.isfinite(found)):
        near: Ints = np.asarray(tree.query(coarse, predicate="dwithin", distance=reach), np.intp)
        pairs: list[tuple[int, int]] = near.T[near[0] < near[1]].tolist()
        gaps: list[tuple[float, int, int]] = [(coarse[a].distance(coarse[b]) + 4 * _COARSE, a, b) for a, b in pairs]
        groups: list[list[int]] = [[i] for i in range(len(pieces))]
        # Kruskal: the shortest gap that joins a group to the main one's is the widest on the way.
        for gap, one, other in sorted(gaps):
            a, b = groups[one], groups[other]
            if a is b:
                continue
            if b is groups[main]:
                a, b = b, a
            if a is groups[main]:
                for piece in b:
                    found[piece] = min(found[piece], gap)
            a += b
            for piece in b:
                groups[piece] = a
        if reach >= most:
            break
        reach = min(most, 3 * reach)
    return found


def connected(areas: NDArray[np.object_]) -> Ints:
    """For each area the lowest index among those that it hangs together with: a point in common is not enough."""
    pairs: Ints = np.asarray(shapely.STRtree(areas).query(areas, predicate="intersects"), np.intp)
    pairs = pairs[:, pairs[0] < pairs[1]]
    one, other = areas[pairs[0]], areas[pairs[1]]
    touching = np.flatnonzero(shapely.touches(one, other))
    shared = shapely.intersection(one[touching], other[touching])
    apart = touching[np.asarray(shapely.get_dimensions(shared)) < 1]  # pyright: ignore[reportUnknownMemberType]
    return components(np.delete(pairs, apart, axis=1), len(areas))


def components(pairs: Ints, count: int) -> Ints:
    """For each of ``count`` things the lowest index among those that pairs, shape (2, n), join it with."""
    # Loading it takes half a second, which outlines need not wait for.
    from scipy.sparse import coo_array
    from scipy.sparse.csgraph import connected_components

    is_pair = np.full(pairs.shape[1], True)
    joined = coo_array((is_pair, (pairs[0], pairs[1])), shape=(count, count))
    _, label = connected_components(joined, directed=False)
    _, first = np.unique(label, return_index=True)
    return first[label].astype(np.intp)


def edge_tree(area: MultiPolygon) -> shapely.STRtree:
    """All straight edges of an area, to be searched.

    Raises:
        ValueError: when the area is empty.
    """
    if area.is_empty:
        raise ValueError("an empty area has no edge")
    return shapely.STRtree(np.asarray(shapely.linestrings(edges_of(area)), object))


def nearest_edges(points: Floats, tree: shapely.STRtree) -> tuple[Floats, Ints]:
    """Distance of each point, shape (n, 2), from the nearest edge in mm, and that edge's index in ``edge_tree``."""
    # GEOS would compare a point with every edge; a tree does not.
    (_, edges), far = tree.query_nearest(shapely.points(points), return_distance=True, all_matches=False)
    return np.asarray(far, float), np.asarray(edges, np.intp)


def edge_distance(one: BaseGeometry, other: BaseGeometry) -> float:
    """Distance of two areas that do not overlap, in mm: from edge to edge."""
    one_count, other_count = (len(shapely.get_coordinates(area)) for area in (one, other))
    if one_count * other_count < _FEW_PAIRS:
        return float(one.distance(other))
    few, many = sorted((edges_of(Region.of(area).area) for area in (one, other)), key=len)
    tree = shapely.STRtree(np.asarray(shapely.linestrings(many), object))
    _, far = tree.query_nearest(np.asarray(shapely.linestrings(few), object), return_distance=True, all_matches=False)
    return float(np.min(far))


def near_any(some: NDArray[np.object_], others: NDArray[np.object_], by: float) -> Ints:
    """Indices of those that come within ``by`` mm of any of the others, in order.

    One other is enough for each: all pairs within a distance would be as many as the square of both.
    """
    if not len(some) or not len(others):
        return np.zeros(0, np.intp)
    found = shapely.STRtree(others).query_nearest(some, max_distance=by, all_matches=False)
    return np.unique(np.asarray(found, np.intp)[0])


def meet_often(rings: Sequence[Floats], most: int) -> bool:
    """Whether edges of rings, shape (k, 2) each, meet in more than so many places, besides neighbours.

    What crosses is united in a time that grows with it, so that it is asked before. Two rings upon each other meet all
    along.
    """
    closed = [np.stack([ring, np.roll(ring, -1, axis=0)], axis=1) for ring in rings if len(ring) >= 2]
    if not closed:
        return False
    lines = np.asarray(shapely.linestrings(np.concatenate(closed)), object)
    tree = shapely.STRtree(lines)
    met = 0
    # A few at a time: all pairs at once could be as many as the square of the edges.
    for first in range(0, len(lines), _AT_ONCE):
        some = lines[first : first + _AT_ONCE]
        # Each meets itself and both its neighbours; every other pair is met twice.
        met += len(np.asarray(tree.query(some, predicate="intersects"))[0]) - 3 * len(some)
        if met > 2 * most:
            return True
    return False


def _coarse(pieces: Sequence[Polygon]) -> NDArray[np.object_]:
    every = np.array(pieces, object)
    coarse = np.asarray(shapely.simplify(every, _COARSE, preserve_topology=False), object)
    # A small piece may have nothing left.
    return np.array([piece if one.is_empty else one for one, piece in zip(coarse, every, strict=True)], object)


def _distance(one: Polygon, other: Polygon, about: float) -> float:
    """Distance of two areas, given to within the coarseness: of what of each is near enough to the other's box."""
    reach = about + 3 * _COARSE
    near = _near(one, other, reach), _near(other, one, reach)
    # The coarse outlines lose a hole that is as small: what stands in it is further from its edge than they say.
    return edge_distance(one, other) if any(part.is_empty for part in near) else edge_distance(*near)


def _near(one: Polygon, other: Polygon, reach: float) -> BaseGeometry:
    x0, y0, x1, y1 = other.bounds
    return clipped(one, (x0 - reach, y0 - reach, x1 + reach, y1 + reach))
