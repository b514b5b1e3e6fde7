"""Inner corners of a region that a round tool does not get into, and what radius each has itself.

What a tool leaves standing is the closing by its radius less the region. A corner's own radius is that of the largest
tool that leaves nothing there, found by halving. All corners of a group are looked at in one call each time: the
interpreter's lock is given up once for all of them, so groups get on side by side.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import MultiPolygon, Point, Polygon

from tinhalo.core.geometry.arrays import Floats, Ints
from tinhalo.core.geometry.regions.fewer import with_fewer_if_valid
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.regions.robust import clipped_each, overlaid
from tinhalo.core.geometry.regions.windows import within_each
from tinhalo.core.runtime.cancellation import checkpoint
from tinhalo.core.runtime.elsewhere import elsewhere
from tinhalo.core.runtime.threads import side_by_side

#: Corners' own radii are found to within this, in mm.
WITHIN = 0.01
#: The tool leaves more than this (mm²) standing in a corner that counts.
_LEAST = 0.02
#: Less than this is left by the way arcs are followed.
_CRUMB = 1e-4
#: A closing comes out of the area by less than this, in mm.
_OVER = 1e-4
#: Edges are followed this closely, in mm: every vertex becomes an arc.
_DRAWN = 0.0003
#: Most corners are sharper than this, in mm: it is asked first.
_SHARP = 0.04
#: Edges where an area was cut off are looked at from so far, in mm; what is in a corner is further from others' edges.
_MARGIN, _ASIDE = 0.1, 1.0
#: So many corners are looked at in one call.
_GROUP = 32
#: Chords for a quarter of a tool.
_QUARTER = 32


@dataclass(frozen=True)
class InnerCorner:
    """An inner corner.

    Attributes:
        left: what the tool leaves in it.
        at: where that is deepest.
        deep: how far (mm) that is from where the tool can be.
        radius: its own radius in mm: of the largest tool that leaves nothing there.
    """

    left: Polygon
    at: Point
    deep: float
    radius: float


def inner_corners(area: MultiPolygon, radius: float, slack: float) -> list[InnerCorner]:
    """Where a tool of a radius (mm) leaves something beside a piece of an area; not what it leaves between two.

    Nor what it cannot get into at all. A tool that is smaller by ``slack`` mm has to leave something, too.

    Raises:
        CancelledError: once nobody waits for them, see ``runtime.cancellation``.
    """
    left, near = _left(area, radius, slack)
    groups = [slice(k, k + _GROUP) for k in range(0, len(left), _GROUP)]
    found = side_by_side(lambda some: elsewhere(_corners, left[some], near[some], radius), groups)
    return [corner for group in found for corner in group]


def _left(area: MultiPolygon, radius: float, slack: float) -> tuple[NDArray[np.object_], NDArray[np.object_]]:
    """What the tool leaves beside each piece and is worth telling, and what there is of the piece around that."""
    pieces = with_fewer_if_valid(np.asarray(shapely.get_parts(area), object), _DRAWN)
    grown = shapely.buffer(pieces, radius - slack, quad_segs=_QUARTER)
    closed = shapely.buffer(grown, slack - radius, quad_segs=_QUARTER)
    covered = shapely.buffer(shapely.multipolygons(pieces), _OVER)
    left, of = _polygons(np.asarray(overlaid(shapely.difference, closed, covered), object), _LEAST)
    near = np.empty(len(left), object)
    by = max(2 * radius, _ASIDE) + _MARGIN
    bounds = _bounds(left, by)
    for index, piece in enumerate(pieces.tolist()):
        own = of == index
        if own.any():
            near[own] = [Region.of(one).area for one in within_each(piece, bounds[own])]
    return left, near


def _corners(left: NDArray[np.object_], near: NDArray[np.object_], most: float) -> list[InnerCorner]:
    checkpoint()
    beside = shapely.buffer(clipped_each(near, _bounds(left, _ASIDE)), 1e-3)
    # Where the tool can be. What it cannot get into from anywhere is a gap too narrow for it, and no corner.
    rings = np.array([part.exterior for part in left.tolist()], object)
    edges = np.asarray(shapely.difference(rings, beside), object)
    reached = ~np.asarray(shapely.is_empty(edges), bool)
    left, near, edges = left[reached], near[reached], edges[reached]
    found: list[InnerCorner] = []
    for part, edge, own in zip(left.tolist(), edges.tolist(), _radii(left, near, most).tolist(), strict=True):
        vertices = np.asarray(shapely.points(shapely.get_coordinates(part)), object)
        deep = np.asarray(shapely.distance(vertices, edge), float)  # pyright: ignore[reportUnknownMemberType]
        deepest = int(deep.argmax())
        found.append(InnerCorner(part, vertices[deepest], float(deep[deepest]), own))
    return found


def _radii(left: NDArray[np.object_], near: NDArray[np.object_], most: float) -> Floats:
    """The corners' own radii, at most ``most`` mm.

    Where a disc fits that holds a place only depends on what is within its width of there.
    """
    covered = np.asarray(shapely.buffer(near, _OVER), object)
    around = _bounds(left, 0)
    low, high = np.zeros(len(left)), np.full(len(left), most)
    middle = np.full(len(left), min(_SHARP, most / 2))
    while len(asked := np.flatnonzero(high - low > WITHIN)):
        checkpoint()
        tool, box = middle[asked], around[asked]
        beside = _left_by(tool, box, near[asked], covered[asked])
        some, of = _polygons(beside, _CRUMB)
        here = np.asarray(shapely.intersects(some, left[asked][of]), bool)
        own = asked[of[here]]
        leaves = np.unique(own)
        high[leaves] = middle[leaves]
        not_left = np.setdiff1d(asked, leaves)
        low[not_left] = middle[not_left]
        # A smaller tool leaves less, and nothing where this one does not.
        around[leaves] = _joined(_bounds(some[here], 0), own, len(left))[leaves]
        middle = (low + high) / 2
    return low


def _left_by(tool: Floats, box: Floats, near: NDArray[np.object_], covered: NDArray[np.object_]) -> NDArray[np.object_]:
    """What tools of these radii leave in each box.

    What is elsewhere is cut off before it is worked on: it does not matter, and takes most of the time.
    """
    grown = shapely.buffer(clipped_each(near, _widened(box, 2 * tool + _MARGIN)), tool, quad_segs=_QUARTER)
    closed = shapely.buffer(clipped_each(grown, _widened(box, tool + _MARGIN)), -tool, quad_segs=_QUARTER)
    closed, around = clipped_each(closed, _widened(box, _MARGIN)), clipped_each(covered, _widened(box, 2 * _MARGIN))
    return np.asarray(overlaid(shapely.difference, closed, around), object)


def _polygons(areas: NDArray[np.object_], least: float) -> tuple[NDArray[np.object_], Ints]:
    """Their polygons of more than so many mm², and which area each is of."""
    parts, of = shapely.get_parts(areas, return_index=True)
    parts = np.asarray(parts, object)
    kept = (shapely.get_type_id(parts) == shapely.GeometryType.POLYGON) & (shapely.area(parts) > least)  # pyright: ignore[reportUnknownMemberType]
    return parts[kept], np.asarray(of, np.intp)[kept]


def _bounds(areas: NDArray[np.object_], by: float) -> Floats:
    """Boxes that reach ``by`` mm beyond each area, shape (n, 4)."""
    return _widened(np.asarray(shapely.bounds(areas), float).reshape(-1, 4), by)  # pyright: ignore[reportUnknownMemberType]


def _widened(boxes: Floats, by: Floats | float) -> Floats:
    return boxes + np.reshape(by, (-1, 1)) * np.array([-1, -1, 1, 1])


def _joined(boxes: Floats, of: Ints, count: int) -> Floats:
    """The boxes around all boxes of each of so many owners, shape (count, 4)."""
    made = np.tile([np.inf, np.inf, -np.inf, -np.inf], (count, 1))
    np.minimum.at(made[:, :2], of, boxes[:, :2])
    np.maximum.at(made[:, 2:], of, boxes[:, 2:])
    return made
