"""Round corners off without losing thin strokes.

Opening a region with a disc rounds its outer corners, but drops every stroke that is thinner than the disc. So it is
opened around one corner at a time, and what that takes away is only believed when it is no more than a rounded corner
loses; where it is more, the corner is tried again with half the radius. Inner corners are outer corners of what is
around the region.
"""

from __future__ import annotations

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import MultiPolygon

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.fitting import CORNER_DEGREES
from tinhalo.core.geometry.curves.precision import Precision
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.regions.robust import clipped_each, overlaid, where_valid
from tinhalo.core.geometry.regions.selection import are_small, without_holes, without_pieces
from tinhalo.core.geometry.regions.windows import boxes_of, within_each

_SMALLEST = 0.05
#: In mm².
_CRUMB = 0.01
#: Bits are this much larger than what is rounded, in mm: where their sides are the region's own but for the last digit,
#: slits and hairs of no width would be left along these.
_OVER = 1e-6
#: No edge is shorter, in mm: where they end they leave steps, which would be corners themselves.
_STEP = 4 * _OVER
#: What may be taken off, as a multiple of what a corner between straight sides loses.
_BELIEVED = 1.3
#: Into a spike of a smaller angle (radians) no circle fits.
_SLIMMEST = 1e-4
#: A pointed end is not cut back by more than this, in radii asked for.
_MOST_BACK = 1 + 1e-9


def reach_of(outer: float, inner: float) -> float:
    """How far from a piece something can be that has a part in how its corners are rounded, in mm.

    What is looked at around a corner goes up to four radii, as a corner is no sharper than 60 degrees then; it may have
    been changed by what was there around another one, with this radius or those tried after it: twice that in all.
    """
    return 8 * (outer + inner) + 1


def round_off(region: Region, outer: float, inner: float, precision: Precision) -> Region:
    """Give corners a radius in mm: ``outer`` to those that stick out, ``inner`` to those that go in. 0 leaves them."""
    for radius, sign in ((outer, 1), (inner, -1)):
        if radius > 0 and not region.is_empty:
            region = _rounded(region, radius, sign, precision)
    return region


def corner_count(region: Region) -> int:
    """How many corners there are to be rounded, both ways."""
    return sum(len(_corners(region, sign)[0]) for sign in (1, -1))


def _rounded(region: Region, asked: float, sign: int, precision: Precision) -> Region:
    places, angles = _corners(region, sign)
    radius = asked
    while len(places) and radius >= _SMALLEST:
        back = radius * (1 / np.sin(angles / 2) - 1)
        loss = radius**2 * (1 / np.tan(angles / 2) - (np.pi - angles) / 2)
        fits = back <= _MOST_BACK * asked
        # The sharpest reach farthest, and cost most: they are not tried for nothing.
        bits, left = _bits(region, places[fits], angles[fits], radius, sign, precision)
        lost: Floats = np.array([bit.area for bit in bits], float)
        believed = lost <= _BELIEVED * loss[fits]
        # How deep it goes takes longer to say than how large it is.
        small_enough = np.flatnonzero(believed)
        believed[small_enough] = _are_near(bits[small_enough], left[small_enough], _BELIEVED * back[fits][small_enough])
        fits[fits] = believed
        region = _without_crumbs(_changed(region, bits[believed], sign), region)
        places, angles, radius = places[~fits], angles[~fits], radius / 2
    return region


def _changed(region: Region, bits: NDArray[np.object_], sign: int) -> Region:
    """The region without bits of its corners (sign 1) or with them (-1); pieces without any near stay as they are."""
    pieces = np.asarray(shapely.get_parts(region.area), object)
    near = np.unique(shapely.STRtree(pieces).query(bits)[1])
    larger = _objects(shapely.buffer(bits, _OVER, join_style="bevel"))
    area, taken = MultiPolygon(pieces[near].tolist()), shapely.disjoint_subset_union_all(larger)
    changed = shapely.difference(area, taken) if sign > 0 else shapely.union(area, taken)
    parts = np.asarray(shapely.get_parts(changed), object)
    smooth = np.asarray(shapely.remove_repeated_points(parts, _STEP), object)  # pyright: ignore[reportUnknownMemberType]
    return Region.of(np.concatenate([np.delete(pieces, near), where_valid(smooth, parts)]), region.drawn)


def _without_crumbs(after: Region, before: Region) -> Region:
    """Without the specks that the edge of a bit can leave beside it."""
    if after.pieces > before.pieces:
        after = without_pieces(after, are_small(list(after.area.geoms), _CRUMB, None))
    if after.holes > before.holes:
        after = without_holes(after, are_small(after.hole_areas(), _CRUMB, None))
    return after


def _corners(region: Region, sign: int) -> tuple[Floats, Floats]:
    """Corners that stick out (sign 1) or go in (-1): places, shape (n, 2), and angles of their sides in radians."""
    places: list[Floats] = [np.zeros((0, 2))]
    turns: list[Floats] = [np.zeros(0)]
    for piece in shapely.get_parts(shapely.orient_polygons(region.area)):
        for line in (piece.exterior, *piece.interiors):
            ring = np.asarray(line.coords)[:-1, :2]
            before, after = ring - np.roll(ring, 1, axis=0), np.roll(ring, -1, axis=0) - ring
            cross = before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0]
            turn = np.arctan2(cross, (before * after).sum(axis=1)) * sign
            sharp = (turn > np.radians(CORNER_DEGREES)) & (turn < np.pi - _SLIMMEST)
            places.append(ring[sharp])
            turns.append(turn[sharp])
    return np.concatenate(places), np.pi - np.concatenate(turns)


def _bits(
    region: Region, places: Floats, angles: Floats, radius: float, sign: int, precision: Precision
) -> tuple[NDArray[np.object_], NDArray[np.object_]]:
    """What rounding each corner with that radius takes away (of inner ones, adds), and what is left around each."""
    if not len(places):
        return np.zeros(0, object), np.zeros(0, object)
    reach = radius / np.tan(angles / 2)
    within = 1.1 * reach + 0.05
    # Whether a disc fits that holds a place only depends on what is within two radii of it.
    room = (within + 2 * radius)[:, None]
    boxes = np.concatenate([places - room, places + room], axis=1)
    around = within_each(region.area, boxes)
    if sign < 0:
        around = _objects(shapely.difference(boxes_of(boxes), around))
    quarter = precision.quarter_segments(radius)
    opened = shapely.buffer(_objects(shapely.buffer(around, -radius, quad_segs=quarter)), radius, quad_segs=quarter)
    points = _objects(shapely.points(places))
    left = _objects(opened)
    # What is near first: differences take longest where there is most of it.
    circles = _objects(shapely.buffer(points, within))
    near = _objects(shapely.intersection(around, circles))
    around_each = np.asarray(shapely.bounds(shapely.buffer(circles, 0.1)), float)  # pyright: ignore[reportUnknownMemberType]
    lost = _objects(overlaid(shapely.difference, near, clipped_each(left, around_each.reshape(-1, 4))))
    return np.array([_touching(bit, point) for bit, point in zip(lost, points, strict=True)], object), left


def _are_near(bits: NDArray[np.object_], left: NDArray[np.object_], most: Floats) -> NDArray[np.bool_]:
    """Whether no corner of a bit is further than so many mm from what is left, for each of them."""
    shapely.prepare(left)
    corners, of = shapely.get_coordinates(bits, return_index=True)
    near = np.asarray(shapely.dwithin(left[of], shapely.points(corners), most[of]), bool)  # pyright: ignore[reportCallIssue, reportArgumentType]
    all_near: NDArray[np.bool_] = ~np.asarray(shapely.is_empty(left), bool)
    all_near[of[~near]] = False
    return all_near


def _objects(made: object) -> NDArray[np.object_]:
    return np.atleast_1d(np.asarray(made, object))


def _touching(bit: shapely.Geometry, corner: shapely.Geometry) -> shapely.Geometry:
    """The part of what was lost that has the corner."""
    parts = shapely.get_parts(bit)
    return shapely.disjoint_subset_union_all(parts[shapely.dwithin(parts, corner, 1e-6)])
