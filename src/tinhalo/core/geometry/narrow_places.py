"""Where a region's strokes or gaps are narrower than a limit, without measuring all of it.

Wherever one is, two parts of the edge face each other closer than that: these are looked for first. Only around them
are widths measured, in windows so large that what is cut off at their own edges does not count. The whole axis takes
up to ten times as long, and finds the same.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import MultiPolygon, Polygon

from tinhalo.core.geometry.outline import Floats, Ints, cross
from tinhalo.core.geometry.patience import checkpoint
from tinhalo.core.geometry.region import Region
from tinhalo.core.geometry.sift import are_narrow
from tinhalo.core.geometry.widths import TIP_LENGTH, TIP_WIDTHS, Measured, Widths, measure

#: What faces each other is looked for a little further apart than the limit, in mm.
_FURTHER = 0.012
#: How far from facing each other straight two parts of the edge may be: the sides of a stroke that widens by one in two
#: are 28 degrees off; where they are further off it is a corner.
_ASKEW = np.cos(np.radians(32))


def narrow_strokes(area: MultiPolygon, least: float) -> Widths | None:
    """Widths of the strokes that are narrower than ``least`` mm, infinite elsewhere; None where there are none."""
    cells = _cells(_facing(area, least + _FURTHER, 1), list(area.geoms), least)
    return _only(_around(area, cells, least).strokes, cells, least) if len(cells) else None


def narrow_gaps(area: MultiPolygon, least: float) -> Widths | None:
    """Widths of the holes, slots and gaps between pieces that are narrower than ``least`` mm, likewise."""
    cells = _cells(_facing(area, least + _FURTHER, -1), Region(area).hole_areas(), least)
    return _only(_around(area, cells, least).gaps, cells, least) if len(cells) else None


def _reach(least: float) -> float:
    """How far windows go around a place, in mm: the fire has to come that far for a stroke to count."""
    return (TIP_WIDTHS + 0.5) * least + TIP_LENGTH


def _cells(facing: Floats, areas: Sequence[Polygon], least: float) -> Floats:
    """Where it may be narrow, as cells of a grid of half the reach, shape (n, 2)."""
    places = [facing.mean(axis=1)]
    for area, narrow in zip(areas, are_narrow(areas, least), strict=True):
        if narrow:
            places.append(shapely.get_coordinates(shapely.segmentize(area, least)))
    return np.unique(np.floor(np.concatenate(places) / (_reach(least) / 2)), axis=0)


def _around(area: MultiPolygon, cells: Floats, least: float) -> Measured:
    """Widths around these cells."""
    reach = _reach(least)
    low, high = cells * reach / 2 - reach, (cells + 1) * reach / 2 + reach
    squares = np.asarray(shapely.box(*low.T, *high.T), object)
    windows = shapely.disjoint_subset_union_all(squares)
    checkpoint()
    return measure(Region.of(shapely.intersection(area, windows)))


def _only(widths: Widths, cells: Floats, least: float) -> Widths | None:
    """The widths under a limit in these cells or beside them: what the windows' edges made narrow is further away."""
    wanted = {(x + dx, y + dy) for x, y in cells.tolist() for dx in (-1, 0, 1) for dy in (-1, 0, 1)}
    narrow = np.flatnonzero(widths.width < least)
    inside = [(x, y) in wanted for x, y in np.floor(widths.place[narrow] / (_reach(least) / 2)).tolist()]
    kept = narrow[np.array(inside, bool)]
    if not len(kept):
        return None
    width = np.full(len(widths.width), np.inf)
    width[kept] = widths.width[kept]
    return replace(widths, width=width)


@dataclass(frozen=True)
class _Edge:
    """The region's edge, shape (n, 2) each, the region on the left: corners, where they lead, and normals.

    Attributes:
        at: corners.
        before: indices of the corners before them.
        to: the next corners.
        normal: unit normals of the edges from ``at`` to ``to``, into the region.
    """

    at: Floats
    before: Ints
    to: Floats
    normal: Floats


def _edge(area: MultiPolygon, longest: float) -> _Edge:
    rings = [
        np.asarray(ring.coords)[:-1, :2]
        for piece in shapely.get_parts(shapely.orient_polygons(shapely.segmentize(area, longest)))
        for ring in (piece.exterior, *piece.interiors)
    ]
    at = np.concatenate(rings)
    first = np.cumsum([0, *(len(ring) for ring in rings)])
    before = np.arange(len(at)) - 1
    before[first[:-1]] = first[1:] - 1
    to = np.empty_like(at)
    to[before] = at
    way = to - at
    normal = np.stack([-way[:, 1], way[:, 0]], axis=1) / np.maximum(np.hypot(*way.T), 1e-12)[:, None]
    return _Edge(at, before, to, normal)


def _facing(area: MultiPolygon, within: float, side: int) -> Floats:
    """Lines between parts of the edge that face each other closer than ``within`` mm, shape (n, 2, 2).

    Args:
        area: whose edge.
        within: in mm.
        side: 1 for what faces each other inside the area, -1 outside.
    """
    checkpoint()
    if area.is_empty:
        return np.zeros((0, 2, 2))
    edge = _edge(area, within)
    # The distance of two straight edges is that of an end of one from the other.
    low, high = np.minimum(edge.at, edge.to) - within, np.maximum(edge.at, edge.to) + within
    boxes = np.asarray(shapely.box(*low.T, *high.T), object)
    which, corner = shapely.STRtree(boxes).query(shapely.points(edge.at))[::-1]
    other = (which != corner) & (which != edge.before[corner])
    which, corner = which[other], corner[other]
    a, way = edge.at[which], edge.to[which] - edge.at[which]
    share = ((edge.at[corner] - a) * way).sum(axis=1) / np.maximum((way**2).sum(axis=1), 1e-18)
    foot = a + way * np.clip(share, 0, 1)[:, None]
    line = foot - edge.at[corner]
    size = np.hypot(*line.T)
    touching = size < 1e-6
    line = line / np.maximum(size, 1e-12)[:, None] * side
    # At an edge's own end the corner there has to face back, elsewhere the edge.
    end = np.where(share <= 0, which, -1)
    follower = np.empty(len(edge.at), np.intp)
    follower[edge.before] = np.arange(len(edge.at))
    end = np.where(share >= 1, follower[which], end)
    straight = (-line * edge.normal[which]).sum(axis=1) > _ASKEW
    back = np.where(end < 0, straight, _faces(edge, end, -line, side))
    kept = (size < within) & (touching | (back & _faces(edge, corner, line, side)))
    return np.stack([edge.at[corner[kept]], foot[kept]], axis=1)


def _faces(edge: _Edge, corner: Ints, way: Floats, side: int) -> NDArray[np.bool_]:
    """Whether corners face that way, unit vectors into the area: as one of their edges does, or between these."""
    after, before = edge.normal[corner], edge.normal[edge.before[corner]]
    close = ((after * way).sum(axis=1) > _ASKEW) | ((before * way).sum(axis=1) > _ASKEW)
    # Seen from this side the corner juts out: it faces all that is between its edges' normals.
    turn = cross(before, after) * side
    between = (turn < 0) & (cross(before, way) * side <= 0) & (cross(way, after) * side <= 0)
    return close | (between & (((before + after) * way).sum(axis=1) > 0))
