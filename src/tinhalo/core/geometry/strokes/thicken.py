"""Bring strokes up to a least width where they are too thin, and only there."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import LineString, Polygon
from shapely.geometry.base import BaseGeometry
from shapely.ops import linemerge

from tinhalo.core.geometry.arrays import XY, Floats
from tinhalo.core.geometry.curves.precision import Precision
from tinhalo.core.geometry.regions.fewer import with_fewer_if_valid
from tinhalo.core.geometry.regions.proximity import components, near_any
from tinhalo.core.geometry.regions.region import Region, prepared
from tinhalo.core.geometry.regions.selection import are_narrow, without_holes
from tinhalo.core.geometry.regions.windows import cells_at, windows
from tinhalo.core.geometry.strokes.widths import Measured

#: Widths are measured on a simplified outline: this much short of what is wanted is enough.
ENOUGH = 0.005
#: How far a disc may move aside from the middle it is for, and what is too thin to be left of it, in radii.
_MOST_ASIDE = 0.8
_SLIVER = 0.2
_ROUNDS = 3
#: Discs follow the middles this closely, and arcs are drawn so, in mm: less than what is enough of a width leaves room
#: for. Drawn as finely as offsets are, they would be several times as many edges.
_FOLLOWED = 0.001
_DRAWN = Precision(chord=0.0004, turn=4.0, arc_turn=15.0, needless=0.0004)
#: Stretches whose ends are this near hang together; a place is on one that comes this near, in mm.
_HANGS, _THERE = 0.05, 0.5
#: How far around such a place is measured again, in wanted widths: the window's own edge must be out of reach.
_AROUND = 5

Measure = Callable[[Region], Measured]


def reach_of(to: float, keep_open: float) -> float:
    """How far from a piece something can be that has a part in how ``thicken_thin`` widens it, in mm.

    In each round a disc depends on the gaps whose middles are so near that it is in their way; their other sides are
    as far again, and a disc is put down no further than that from where it is seen.
    """
    return _ROUNDS * 3 * (to / 2 * (1 + _MOST_ASIDE) + keep_open / 2)


def thicken_thin(
    region: Region,
    measure: Measure,
    to: float,
    keep_open: float,
    precision: Precision,
    near: Sequence[XY] | None = None,
) -> Region:
    """Widen strokes to a least width where they are thinner, and nothing else.

    Discs of that width are put along the middles of the thin stretches; what a gap takes off a disc is made up for
    on its other side. Gaps and holes that are at least ``keep_open`` wide stay at least that wide, and narrower ones
    stay as they are: no hole closes and no pieces join. Between gaps that leave no room a stroke stays thinner.

    Args:
        region: what is thickened.
        measure: gives a region's widths.
        to: the least width in mm.
        keep_open: least width of holes and gaps in mm, at most what they have.
        precision: how finely the discs are drawn.
        near: places in mm; only the thin stretches that begin or go through there are widened. None for all.
    """
    wanted, radius = to - ENOUGH, to / 2 + ENOUGH / 2
    measured = measure(region)
    thin = measured.strokes.thin_strokes(wanted)
    reach: list[LineString] | None = None
    if near is not None:
        thin = _stretches_at(thin, near)
        # What later rounds find beside them belongs to them, what is elsewhere does not.
        reach = thin
    for left in reversed(range(_ROUNDS)):
        if not thin:
            break
        region, cut = _with_discs(region, measured, thin, radius, keep_open, precision)
        if cut is None or shapely.is_empty(cut) or left == 0:
            break
        # Only where a gap took something off can it still be thin: what is further away is not measured again.
        cells = cells_at(shapely.get_coordinates(shapely.segmentize(cut, to)), _AROUND * to / 2)
        measured = measure(Region.of(shapely.intersection(region.area, windows(cells, _AROUND * to / 2))))
        thin = _within(measured.strokes.thin_strokes(wanted), _edges(cut), to)
        thin = thin if reach is None else _within(thin, reach, to)
    return region


def _within(
    lines: list[LineString], others: Sequence[BaseGeometry] | NDArray[np.object_], by: float
) -> list[LineString]:
    """The lines that come within ``by`` mm of any of the others."""
    if not lines:
        return []
    every = np.array(lines, object)
    return list(every[near_any(every, np.asarray(others, object), by)])


def _stretches_at(thin: list[LineString], places: Sequence[XY]) -> list[LineString]:
    """The lines of those stretches that hang together and come within half a millimetre of one of the places."""
    if not thin or not places:
        return []
    lines = np.array(thin, object)
    tree = shapely.STRtree(lines)
    label = components(np.asarray(tree.query(lines, predicate="dwithin", distance=_HANGS), np.intp), len(lines))
    at = np.asarray(shapely.points(np.array(places, float)), object)
    wanted = np.unique(label[tree.query(at, predicate="dwithin", distance=_THERE)[1]])
    return list(lines[np.isin(label, wanted)])


def _with_discs(
    region: Region, measured: Measured, thin: list[LineString], radius: float, keep_open: float, precision: Precision
) -> tuple[Region, shapely.Geometry | None]:
    """The region with discs along the thin stretches, and what had to stay open of these, if anything."""
    open_ = _kept_open(measured, thin, radius * (1 + _MOST_ASIDE), keep_open, precision)
    discs = swept(_made_room(thin, open_, radius), radius, precision)
    if open_ is None:
        return Region.of(shapely.union(region.area, discs), region.drawn), None
    sliver = radius * _SLIVER
    quarter = _quarter(sliver, precision)
    left = shapely.buffer(shapely.difference(discs, open_), -sliver, quad_segs=quarter)
    opened = Region.of(shapely.buffer(left, sliver * 0.999, quad_segs=quarter)).area
    parts = with_fewer_if_valid(np.asarray(shapely.get_parts(opened), object), _DRAWN.needless)
    # What a gap cuts off a disc would be a piece of its own.
    parts = parts[shapely.intersects(prepared(region.area), parts)]
    united = Region.of(shapely.disjoint_subset_union_all([region.area, *parts]), region.drawn)
    united = _without_new_holes(united, region, keep_open)
    # Where a disc only touches, nothing was taken off.
    return united, Region.of(shapely.intersection(discs, open_)).area


def _without_new_holes(after: Region, before: Region, least: float) -> Region:
    """Fill the holes that are in none of the holes there were, corners of bays that discs cut off, and crumbs of holes.

    Crumbs are what was cut off a hole and is narrower than ``least`` mm all over.
    """
    holes = after.hole_areas()
    areas = np.array([hole.area for hole in holes])
    of, old = shapely.STRtree(before.hole_areas()).query(np.array(holes, object), predicate="intersects")
    is_new, largest = np.ones(len(holes), bool), np.zeros(len(holes), bool)
    is_new[of] = False
    by_size = np.argsort(-areas[of], kind="stable")
    largest[of[by_size[np.unique(old[by_size], return_index=True)[1]]]] = True
    return without_holes(after, is_new | (are_narrow(holes, least) & ~largest))


def _made_room(thin: list[LineString], open_: shapely.Geometry | None, radius: float) -> list[LineString]:
    """The middles moved away from what has to stay open, until a disc has room beside it."""
    if open_ is None or shapely.is_empty(open_):
        return thin
    edges = _edges(open_)
    # Every stretch has three points, and begins where another one ends.
    each = shapely.get_coordinates(thin)
    points, of = np.unique(each, axis=0, return_inverse=True)
    at = np.asarray(shapely.points(points), object)
    shapely.prepare(open_)
    held: NDArray[np.bool_] = np.asarray(shapely.contains_xy(open_, points[:, 0], points[:, 1]), bool)
    outside = np.flatnonzero(~held)
    # Its edges one by one: the distance to a whole area with thousands of them is slow.
    near, which = shapely.STRtree(edges).query_nearest(at[outside], max_distance=radius, all_matches=False)
    near = outside[near]
    shortest = shapely.shortest_line(edges[which], at[near])  # pyright: ignore[reportUnknownMemberType]
    way = shapely.get_coordinates(shortest).reshape(-1, 2, 2)
    out = way[:, 1] - way[:, 0]
    distance = np.hypot(*out.T)
    # The disc still has to hold the middle it is for.
    lacking = np.minimum(radius - distance, _MOST_ASIDE * radius) / np.maximum(distance, 1e-9)
    points[near] += out * np.where(distance > 0, lacking, 0.0)[:, None]
    return list(np.asarray(shapely.linestrings(points[of].reshape(-1, 3, 2)), object))


def _edges(area: shapely.Geometry) -> NDArray[np.object_]:
    """Every edge of an area's rings."""
    parts = [part for part in list(shapely.get_parts(area)) if isinstance(part, Polygon)]
    rings = [ring for part in parts for ring in (part.exterior, *part.interiors)]
    found = [np.asarray(ring.coords)[:, :2] for ring in rings]
    pairs = np.concatenate([np.stack([ring[:-1], ring[1:]], axis=1) for ring in found])
    return np.asarray(shapely.linestrings(pairs), object)


def _kept_open(
    measured: Measured, thin: list[LineString], radius: float, least: float, precision: Precision
) -> shapely.Geometry | None:
    """The middles of the holes and gaps in reach of the discs, as wide as they have to stay."""
    gaps = measured.gaps
    lines = np.array(gaps.thinner_than(math.inf), object)
    if not len(lines):
        return None
    width = np.minimum(gaps.width[np.isfinite(gaps.width)], least)
    near = near_any(lines, np.array(thin, object), radius + least / 2)
    lines, width = lines[near], width[near]
    return cores(lines, width, least, precision)


def cores(lines: NDArray[np.object_], width: Floats, least: float, precision: Precision) -> shapely.Geometry:
    """The middles of gaps, ``least`` wide, or as wide as they are where that is less."""
    narrow = width < least
    slits = shapely.buffer(lines[narrow], width[narrow] / 2 * 0.999, quad_segs=4)
    return shapely.disjoint_subset_union_all([swept(lines[~narrow].tolist(), least / 2, precision), *slits])


def swept(lines: list[LineString], radius: float, precision: Precision) -> shapely.Geometry:
    """All points within a radius of any of the lines."""
    # One line after the other gives far fewer arcs than every stretch by itself; each line by itself, as GEOS takes
    # twenty times as long for thousands that overlap.
    merged = shapely.get_parts(linemerge(shapely.multilinestrings(np.array(lines, object))))
    # A middle has a vertex wherever one of its sides has one, and each would be an arc.
    merged = shapely.simplify(merged, _FOLLOWED, preserve_topology=False)
    discs = np.asarray(shapely.buffer(merged, radius, quad_segs=_quarter(radius, precision)), object)
    return shapely.disjoint_subset_union_all(with_fewer_if_valid(discs, _DRAWN.needless))


def _quarter(radius: float, precision: Precision) -> int:
    """Chords for a quarter of a disc: on the screen no more than there."""
    return min(precision.quarter_segments(radius), _DRAWN.quarter_segments(radius))
