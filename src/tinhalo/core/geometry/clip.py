"""What of an area lies in a box."""

from __future__ import annotations

import shapely
from shapely import GEOSException, MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry


def clipped(area: Polygon | MultiPolygon, box: tuple[float, float, float, float]) -> BaseGeometry:
    """The part of an area inside a box (min x, min y, max x, max y)."""
    try:
        return shapely.clip_by_rect(area, *box)
    except GEOSException:
        # The quick way trips over a ring that touches the box in a way that leaves too few points.
        return shapely.intersection(area, shapely.box(*box))
