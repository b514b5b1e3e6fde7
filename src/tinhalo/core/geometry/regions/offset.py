"""Grow and shrink a region by a distance.

Round and mitred offsets are GEOS buffers. Its bevelled ones are only believed at corners: on lettering they were seen
to leave holes in what had been solid before (the "e" of a bold sans grown by 4 mm). So a bevelled offset is the round
one, changed to the bevelled one inside the caps that bevels cut off. Clipper2 gives the same areas, but took ten times
as long on script lettering.
"""

from __future__ import annotations

import math
from typing import Any, Literal

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.precision import Precision
from tinhalo.core.geometry.regions.fewer import with_fewer_if_valid
from tinhalo.core.geometry.regions.region import Region

_MANY_RINGS = 150
#: More vertices than this, and than so many in a mm of edge, are thinned out; letters have about seven.
_MANY_VERTICES, _DENSE = 20_000, 12

#: Everything goes this much further, in mm: where it meets just so (a line as wide as twice what is taken off, a gap as
#: wide as twice what is put on), slits and hairs of no width would be left, or not, by the last digit.
_FURTHER = 1e-9

Corners = Literal["round", "miter", "bevel"]


def offset(
    region: Region, by: float, precision: Precision, corners: Corners = "round", miter_limit: float = 4
) -> Region:
    """All points within ``by`` of the region, or for a negative ``by`` all points that far inside it.

    Args:
        region: what is offset.
        by: distance in mm; positive grows, negative shrinks.
        precision: how finely arcs are drawn.
        corners: how outer corners are made, named as in SVG's stroke-linejoin (inner ones when shrinking).
        miter_limit: for mitred corners, the greatest distance from the old corner to the new tip as a multiple
            of ``by``. A longer tip is cut off square at that distance (``miter-clip`` of SVG 2, section 13.5.5).

    The source must be flattened at the same precision: then the turns of its smooth curves are so small that
    mitred offsets follow them as closely as round ones.
    """
    if by == 0 or region.is_empty:
        return region
    by += math.copysign(_FURTHER, by)
    quarter = precision.quarter_segments(abs(by))
    if corners == "miter":
        return Region.of(buffered(region.area, by, join_style="mitre", mitre_limit=miter_limit))
    grown = buffered(region.area, by, quad_segs=quarter)
    if corners == "bevel":
        caps = shapely.disjoint_subset_union_all(_caps(region, by, precision))
        bevelled = buffered(region.area, by, join_style="bevel")
        if by > 0:
            grown = shapely.difference(grown, shapely.difference(caps, shapely.union(bevelled, region.area)))
        else:
            grown = shapely.union(grown, shapely.intersection(caps, shapely.intersection(bevelled, region.area)))
        return Region.of(grown)
    return _thinned(Region.of(grown), precision)


def _thinned(grown: Region, precision: Precision) -> Region:
    """With fewer vertices, where steps upon each other have made far too many: every corner becomes two or more.

    All of its edge is new, so that no layer has the same edge with other vertices.
    """
    if grown.vertices < max(_MANY_VERTICES, _DENSE * grown.area.length):
        return grown
    return Region.of(with_fewer_if_valid(np.asarray(shapely.get_parts(grown.area), object), precision.needless))


def buffered(area: MultiPolygon, by: float, **style: Any) -> BaseGeometry:
    """GEOS' buffer; of areas with many rings put together from those of single rings.

    Where hundreds of pieces grow into one with hundreds of holes, GEOS looks for each hole's shell among all rings, and
    one call was seen to take ten times as long as the rings' own buffers and their union.
    """
    if len(shapely.get_rings(shapely.get_parts(area))) < _MANY_RINGS:
        return shapely.buffer(area, by, **style)
    made: list[BaseGeometry] = []
    for piece in area.geoms:
        shell = shapely.buffer(Polygon(piece.exterior), by, **style)
        holes = [shapely.buffer(Polygon(hole), -by, **style) for hole in piece.interiors]
        made.append(shapely.difference(shell, shapely.disjoint_subset_union_all(holes)) if holes else shell)
    # Pieces apart stay apart when they are shrunk.
    return shapely.disjoint_subset_union_all(made) if by > 0 else shapely.geometrycollections(made)


def _caps(region: Region, by: float, precision: Precision) -> list[Polygon]:
    """What a round corner has beyond a bevelled one, and a little more: from the bevel to a square cut at ``by``."""
    oriented = shapely.get_parts(shapely.orient_polygons(region.area))
    rings = [np.asarray(ring.coords)[:-1] for p in oriented for ring in (p.exterior, *p.interiors)]
    return [cap for ring in rings for cap in _ring_caps(ring, by, precision)]


def _ring_caps(ring: Floats, by: float, precision: Precision) -> list[Polygon]:
    """Caps of the sharp corners of a ring that has the region on its left."""
    before = ring - np.roll(ring, 1, axis=0)
    after = np.roll(ring, -1, axis=0) - ring
    turn = np.arctan2(before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0], (before * after).sum(axis=1))
    # The small turns of flattened smooth curves are no corners.
    sharp = np.flatnonzero(turn * np.sign(by) > np.radians(1.5 * precision.turn))
    caps: list[Polygon] = []
    for i in sharp:
        first, second = _normal(before[i]) * by, _normal(after[i]) * by
        # Both sides run on until they are as far out as the arc's middle: tan(turn / 4) times the distance.
        aside = abs(by) * np.tan(abs(turn[i]) / 4)
        ahead, back = before[i] / np.hypot(*before[i]), -after[i] / np.hypot(*after[i])
        corner = ring[i]
        caps.append(
            Polygon(
                [
                    corner + first,
                    corner + first + ahead * aside,
                    corner + second + back * aside,
                    corner + second,
                ]
            )
        )
    return caps


def _normal(edge: Floats) -> Floats:
    """Unit normal to the right of an edge: outwards, where the region is on the left."""
    return np.array([edge[1], -edge[0]]) / np.hypot(edge[0], edge[1])
