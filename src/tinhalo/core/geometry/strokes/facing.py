"""Parts of a region's edge that face each other closer than a limit.

Compiled with numba, and all that is compiled is in this one file: numba looks at one file only to see whether its cache
is out of date. The same with a tree of boxes and numpy took ten times as long.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import shapely
from shapely import MultiPolygon

from tinhalo.core.geometry.arrays import Floats, Ints
from tinhalo.core.runtime.compilation import njit

#: How far from facing each other straight two parts of the edge may be: the sides of a stroke that widens by one in two
#: are 28 degrees off; where they are further off it is a corner.
_ASKEW = math.cos(math.radians(32))


@dataclass(frozen=True)
class _Edge:
    """The region's edge, shape (n, 2) each, the region on the left: corners, where they lead, and normals.

    Attributes:
        at: corners.
        before: indices of the corners before them.
        after: indices of the corners after them.
        normal: unit normals of the edges from each corner to the next, into the region.
    """

    at: Floats
    before: Ints
    after: Ints
    normal: Floats


def facing(area: MultiPolygon, within: float, side: int) -> Floats:
    """Lines between parts of the edge that face each other closer than ``within`` mm, shape (n, 2, 2).

    Each line goes from a corner of the edge, which is parted into lengths of ``within`` at most, to the nearest place
    on an edge that faces it.

    Args:
        area: whose edge.
        within: in mm.
        side: 1 for what faces each other inside the area, -1 outside.
    """
    if area.is_empty:
        return np.zeros((0, 2, 2))
    edge = _edge(area, within)
    # An edge is no longer than that, so one that comes so close has its middle in the corner's cell or beside it.
    size = 1.5 * within
    middles = np.floor((edge.at + edge.at[edge.after]) / (2 * size)).astype(np.int64)
    base = middles.min(axis=0) - 1
    across = int(np.ptp(middles[:, 0])) + 4
    keys = (middles - base) @ np.array([1, across])
    order = np.argsort(keys, kind="stable")
    cells = (np.floor(edge.at / size).astype(np.int64) - base) @ np.array([1, across])
    # Three cells side by side follow each other in that order.
    rows = cells[:, None] + np.array([-across, 0, across])
    begin, end = _first_at_least(keys[order], rows - 1), _first_at_least(keys[order], rows + 2)
    return _pairs(edge.at, edge.before, edge.after, edge.normal, order, begin, end, within, side)


def _first_at_least(ascending: Ints, values: Ints) -> Ints:
    return np.searchsorted(ascending, values)  # pyright: ignore[reportUnknownMemberType, reportUnknownVariableType]


def _edge(area: MultiPolygon, longest: float) -> _Edge:
    rings = [
        np.asarray(ring.coords)[:-1, :2]
        for piece in shapely.get_parts(shapely.orient_polygons(shapely.segmentize(area, longest)))
        for ring in (piece.exterior, *piece.interiors)
    ]
    at = np.concatenate(rings)
    first = np.cumsum([0, *(len(ring) for ring in rings)])
    before, after = np.arange(len(at)) - 1, np.arange(len(at)) + 1
    before[first[:-1]] = first[1:] - 1
    after[first[1:] - 1] = first[:-1]
    way = at[after] - at
    normal = np.stack([-way[:, 1], way[:, 0]], axis=1) / np.maximum(np.hypot(*way.T), 1e-12)[:, None]
    return _Edge(at, before, after, normal)


@njit(cache=True, nogil=True)
def _pairs(
    at: Floats,
    before: Ints,
    after: Ints,
    normal: Floats,
    order: Ints,
    begin: Ints,
    end: Ints,
    within: float,
    side: int,
) -> Floats:
    """See ``facing``; what may be near a corner are the edges in three stretches of ``order``, given for each."""
    found = np.empty((1024, 2, 2))
    count = 0
    for i in range(len(at)):
        px, py = at[i]
        for row in range(3):
            for j in order[begin[i, row] : end[i, row]]:
                if j == i or j == before[i]:
                    continue
                ax, ay = at[j]
                wx, wy = at[after[j], 0] - ax, at[after[j], 1] - ay
                share = ((px - ax) * wx + (py - ay) * wy) / max(wx * wx + wy * wy, 1e-18)
                along = min(max(share, 0.0), 1.0)
                x, y = ax + wx * along, ay + wy * along
                size = math.hypot(x - px, y - py)
                if size >= within:
                    continue
                if size >= 1e-6:
                    ux, uy = (x - px) / size * side, (y - py) / size * side
                    if not _faces(before, normal, i, ux, uy, side):
                        continue
                    # At an edge's own end the corner there has to face back, elsewhere the edge.
                    if share <= 0:
                        back = _faces(before, normal, j, -ux, -uy, side)
                    elif share >= 1:
                        back = _faces(before, normal, after[j], -ux, -uy, side)
                    else:
                        back = -(ux * normal[j, 0] + uy * normal[j, 1]) > _ASKEW
                    if not back:
                        continue
                if count == len(found):
                    longer = np.empty((2 * count, 2, 2))
                    longer[:count] = found
                    found = longer
                found[count, 0, 0], found[count, 0, 1] = px, py
                found[count, 1, 0], found[count, 1, 1] = x, y
                count += 1
    return found[:count].copy()


@njit(cache=True, nogil=True)
def _faces(before: Ints, normal: Floats, corner: int, x: float, y: float, side: int) -> bool:
    """Whether a corner faces that way, a unit vector into the area: as one of its edges does, or between these."""
    bx, by = normal[before[corner]]
    ax, ay = normal[corner]
    if ax * x + ay * y > _ASKEW or bx * x + by * y > _ASKEW:
        return True
    # Seen from this side the corner juts out: it faces all that is between its edges' normals.
    juts = (bx * ay - by * ax) * side < 0
    between = (bx * y - by * x) * side <= 0 and (x * ay - y * ax) * side <= 0
    return juts and between and (bx + ax) * x + (by + ay) * y > 0


def warm() -> None:
    """Compile, or load the compiled code, ahead of the first use."""
    facing(MultiPolygon([shapely.box(0, 0, 1, 1)]), 0.5, 1)
