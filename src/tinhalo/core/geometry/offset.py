"""Grow and shrink a region by a distance."""

from __future__ import annotations

from typing import Literal

import shapely

from tinhalo.core.geometry.precision import Precision
from tinhalo.core.geometry.region import Region

Corners = Literal["round", "miter", "bevel"]

_JOIN = {"round": "round", "miter": "mitre", "bevel": "bevel"}


def offset(region: Region, by: float, precision: Precision, corners: Corners = "round", miter_limit: float = 4) -> Region:
    """All points within ``by`` of the region, or for a negative ``by`` all points that far inside it.

    Args:
        region: what is offset.
        by: distance in mm; positive grows, negative shrinks.
        precision: how finely arcs are drawn.
        corners: how outer corners are made, named as in SVG's stroke-linejoin.
        miter_limit: for mitred corners, the greatest distance from the old corner to the new tip as a multiple
            of ``by``. A longer tip is cut off square at that distance (``miter-clip`` of SVG 2, section 13.5.5).

    The source must be flattened at the same precision: then the turns of its smooth curves are so small that
    mitred and bevelled offsets follow them as closely as round ones.
    """
    if by == 0:
        return region
    grown = shapely.buffer(
        region.area,
        by,
        quad_segs=precision.quarter_segments(abs(by)),
        join_style=_JOIN[corners],
        mitre_limit=miter_limit,
    )
    return Region.of(grown)
