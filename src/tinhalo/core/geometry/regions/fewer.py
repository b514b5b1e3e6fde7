"""Areas with as few vertices as stay within a distance of their edges.

What is measured takes its time for every edge. From each vertex the longest line is taken that passes all between them
(the cone of directions that do, after Sklansky and Gonzalez, "Fast polygonal approximation of digitized curves", 1980);
along letters that is a seventh fewer than the library's way, which halves, leaves within the same distance.

Compiled with numba, and all that is compiled is in this one file, see ``strokes.facing``.
"""

from __future__ import annotations

import math

import numpy as np
import shapely
from numpy.typing import NDArray

from tinhalo.core.geometry.arrays import Floats, Ints
from tinhalo.core.geometry.regions.robust import where_valid
from tinhalo.core.runtime.compilation import njit

#: So many vertices after the last one that a line could end at, it ends there.
_AHEAD = 12
#: A ring of fewer vertices than this has no area.
_LEAST = 3
#: Rings that are slimmer than this many times the distance keep all: little is left of them otherwise, or nothing.
_SLIM = 4


def with_fewer_vertices(parts: NDArray[np.object_], within: float) -> NDArray[np.object_]:
    """Polygons whose vertices are some of those they had, none of which is further than ``within`` mm from their edges.

    Their topology is not looked at: where rings come closer than that, they may cross.
    """
    found, of = shapely.get_rings(parts, return_index=True)
    rings, owner = np.asarray(found, object), np.asarray(of, np.intp)
    coordinates, ring = shapely.get_coordinates(rings, return_index=True)
    points, ring = np.asarray(coordinates, float), np.asarray(ring, np.intp)
    first = np.flatnonzero(np.r_[True, ring[1:] != ring[:-1], True]) if len(ring) else np.zeros(1, np.intp)
    kept = _kept(points, first, _shared(points, first), within)
    simple = np.asarray(shapely.linearrings(points[kept], indices=ring[kept]), object)
    made = parts.copy()
    # What is empty has no ring, and stays.
    having, owner = np.unique(owner, return_inverse=True)
    made[having] = np.asarray(shapely.polygons(simple, indices=owner), object)
    return made


def with_fewer_if_valid(parts: NDArray[np.object_], within: float) -> NDArray[np.object_]:
    """The same, for what goes on: a polygon that would cross itself stays as it was."""
    return where_valid(with_fewer_vertices(parts, within), parts)


def _shared(points: Floats, first: Ints) -> NDArray[np.bool_]:
    """Which vertices are in more than one place: without them what touches there would be apart, or overlap."""
    place = np.ascontiguousarray(points).view(np.complex128).ravel().copy()
    # The last of each ring is its first once more.
    place[first[1:] - 1] = np.nan
    order = np.argsort(place, kind="stable")
    same = np.flatnonzero(place[order][1:] == place[order][:-1])
    shared = np.zeros(len(points), np.bool_)
    shared[order[same]] = shared[order[same + 1]] = True
    return shared


@njit(cache=True, nogil=True)
def _kept(points: Floats, first: Ints, shared: NDArray[np.bool_], within: float) -> NDArray[np.bool_]:
    """Which vertices of closed rings stay; ``first`` has the index of each ring's first, and of what follows them."""
    kept = np.zeros(len(points), np.bool_)
    for ring in range(len(first) - 1):
        begin, last = first[ring], first[ring + 1] - 1
        at, count = begin, 0
        kept[begin] = True
        if _width(points, begin, last) < _SLIM * within:
            kept[begin : last + 1] = True
            continue
        while at < last:
            at = _furthest(points, shared, at, last, within)
            kept[at] = True
            count += 1
        if count < _LEAST:
            kept[begin : last + 1] = True
    return kept


@njit(cache=True, nogil=True)
def _width(points: Floats, begin: int, last: int) -> float:
    """How wide a closed ring is on the whole: twice its area over its length."""
    twice, length = 0.0, 0.0
    x0, y0 = points[begin]
    for i in range(begin, last):
        x, y = points[i, 0] - x0, points[i, 1] - y0
        nx, ny = points[i + 1, 0] - x0, points[i + 1, 1] - y0
        twice += x * ny - nx * y
        length += math.hypot(nx - x, ny - y)
    return abs(twice) / max(length, 1e-12)


@njit(cache=True, nogil=True)
def _furthest(points: Floats, shared: NDArray[np.bool_], start: int, last: int, within: float) -> int:
    """The vertex up to ``last`` that the longest line from ``start`` ends at, at a shared one if not before."""
    x0, y0 = points[start]
    reach, best = 0.0, start + 1
    # The cone's sides, the left one and the right one, once there is one.
    lx, ly, rx, ry, open_ = 0.0, 0.0, 0.0, 0.0, True
    for i in range(start + 1, last + 1):
        if shared[i - 1] and i - 1 > start:
            break
        x, y = points[i, 0] - x0, points[i, 1] - y0
        far = math.sqrt(x * x + y * y)
        if far <= within:
            # Near enough to where the line begins, unless it would have to come back to it.
            if reach > within:
                break
            reach = max(reach, far)
            best = i
            continue
        if far < reach:
            break
        reach = far
        tangent = math.sqrt(far * far - within * within)
        nlx, nly = x * tangent - y * within, y * tangent + x * within
        nrx, nry = x * tangent + y * within, y * tangent - x * within
        if open_:
            lx, ly, rx, ry, open_ = nlx, nly, nrx, nry, False
            best = i
            continue
        if rx * y - ry * x >= 0 and x * ly - y * lx >= 0:
            best = i
        elif i - best > _AHEAD:
            break
        # Both sides move in; where they would pass each other no line passes all of them.
        if rx * nly - ry * nlx < 0 or nrx * ly - nry * lx < 0:
            break
        if nlx * ly - nly * lx > 0:
            lx, ly = nlx, nly
        if rx * nry - ry * nrx > 0:
            rx, ry = nrx, nry
    return best


def warm() -> None:
    """Compile, or load the compiled code, ahead of the first use."""
    with_fewer_vertices(np.array([shapely.box(0, 0, 1, 1)], object), 0.1)
