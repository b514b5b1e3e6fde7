"""Which narrow gaps are only notches: open on one side, and narrowing to a point.

What closing a gap fills (the closing of mathematical morphology, by a disc) is bounded by the region's own edge and by
*mouths*, where it borders on what stays open. A passage has two mouths or more, a hole that is too narrow has none.
What has one is a blind slot if it is about as wide all along, and a notch if it tapers: a disc three quarters as wide
as the mouth gets into nearly all of a slot with parallel sides, but into at most 7/16 of a wedge's area.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import shapely
from shapely import MultiPolygon, Polygon
from shapely.ops import linemerge

from tinhalo.core.geometry.arrays import XY
from tinhalo.core.geometry.curves.precision import EXACT
from tinhalo.core.geometry.regions.morphology import close_gaps
from tinhalo.core.geometry.regions.offset import offset
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.regions.windows import square
from tinhalo.core.geometry.strokes.narrow_places import narrow_reach

#: What is filled lies this close to the region's edge where it borders on it, in mm: chords of the disc lie inside it.
_ALONG = 0.01
#: Shares of the mouth's width, and of the area that a disc of that width gets into, from which a slot is no notch.
_DISC, _REACHED = 0.75, 0.72


@dataclass(frozen=True)
class Gap:
    """A narrow place between edges.

    Attributes:
        filled: whether closing gaps up to the limit fills it: between two points a disc gets through from both sides.
        notch: whether it is open on one side only and narrows to a point.
    """

    filled: bool
    notch: bool


def gaps_at(region: Region, places: Sequence[XY], up_to: float) -> list[Gap]:
    """What kind of gap there is at each place, where gaps are narrower than ``up_to`` mm."""
    if not places:
        return []
    by = 2 * narrow_reach(up_to)
    windows = shapely.union_all([square(place, by) for place in places])
    near = Region.of(shapely.intersection(region.area, windows))
    closed = close_gaps(near, up_to, EXACT).area
    parts = [part for part in shapely.get_parts(shapely.difference(closed, near.area)) if part.area > 0]
    tree = shapely.STRtree(parts)
    edge = shapely.buffer(near.area.boundary, _ALONG, quad_segs=2)
    notches: dict[int, bool] = {}
    gaps: list[Gap] = []
    for place in places:
        # At a mouth the narrowest place may lie a little outside of what is filled, whose edge is hollow there.
        nearest = tree.query_nearest(shapely.Point(place), max_distance=up_to / 4, all_matches=False)
        if not len(nearest):
            gaps.append(Gap(filled=False, notch=False))
            continue
        part = int(nearest[0])
        if part not in notches:
            notches[part] = _is_notch(parts[part], edge, up_to)
        gaps.append(Gap(filled=True, notch=notches[part]))
    return gaps


def _is_notch(part: Polygon, edge: Polygon | MultiPolygon, up_to: float) -> bool:
    mouths = _mouths(part, edge)
    if len(mouths) != 1:
        return False
    start, *_, end = mouths[0].coords
    width = min(math.dist(start, end), up_to)
    into = offset(offset(Region.of(part), -_DISC * width / 2, EXACT), _DISC * width / 2, EXACT)
    return into.area.area < _REACHED * part.area


def _mouths(part: Polygon, edge: Polygon | MultiPolygon) -> list[shapely.LineString]:
    """The stretches of a filled part's edge where it borders on what stays open."""
    open_edge = shapely.difference(part.boundary, edge)
    # Where the edge begins, at whichever of its points, no mouth ends.
    stretches = [line for line in shapely.get_parts(open_edge) if not line.is_empty]
    if not stretches:
        return []
    return [line for line in shapely.get_parts(linemerge(stretches)) if line.length > _ALONG]
