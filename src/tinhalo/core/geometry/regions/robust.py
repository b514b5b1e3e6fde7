"""Operations that GEOS refuses now and then, tried again in a slower way."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import GEOSException, MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from tinhalo.core.geometry.arrays import Floats


def clipped(area: Polygon | MultiPolygon, box: tuple[float, float, float, float]) -> BaseGeometry:
    """The part of an area inside a box (min x, min y, max x, max y)."""
    try:
        return shapely.clip_by_rect(area, *box)
    except GEOSException:
        # The quick way trips over a ring that meets the box in a way that leaves too few points.
        return shapely.intersection(area, shapely.box(*box))


def clipped_each(areas: NDArray[np.object_], boxes: Floats) -> NDArray[np.object_]:
    """The part of each area in its own box, shape (n, 4): least x and y, greatest x and y in mm."""
    made = np.empty(len(areas), object)
    made[:] = [clipped(area, (x0, y0, x1, y1)) for area, (x0, y0, x1, y1) in zip(areas, boxes.tolist(), strict=True)]
    return made


def where_valid(made: NDArray[np.object_], before: NDArray[np.object_]) -> NDArray[np.object_]:
    """What was made of each area, or the area itself where that is not valid."""
    return np.where(shapely.is_valid(made), made, before)


def overlaid(operation: Callable[..., Any], *areas: Any) -> Any:
    """A union, difference or intersection of areas or arrays of them.

    Raises:
        GEOSException: when it is refused again.
    """
    try:
        return operation(*areas)
    except GEOSException:
        # Buffering gives a ring that crosses itself once in a great many times.
        return operation(*[shapely.make_valid(area, method="structure", keep_collapsed=False) for area in areas])
