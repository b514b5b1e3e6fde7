"""How far it is to an edge, sampled on a grid.

The distance to the edge of what a channel leaves of a letter is the lesser of two distances: from inside the letter to
its edge, and from outside the channel to the channel's. Neither changes when the channel is moved, so both are sampled
once for all places that are tried.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import MultiPolygon, Polygon

Samples = NDArray[np.float32]

#: The area is painted so many times finer than it is sampled, where a distance has to be right within a dot of that.
_FINER = 4
#: Fractional bits of the corners that OpenCV paints between.
_BITS = 6


@dataclass(frozen=True)
class Clearance:
    """Distances to an edge in mm, sampled on the grid of whole multiples of a step.

    Attributes:
        values: shape (rows, columns), upwards and to the right.
        row: the first row stands at ``row`` × step.
        column: the first column stands at ``column`` × step.
    """

    values: Samples
    row: int
    column: int


def clearance_inside(area: Polygon | MultiPolygon, step: float) -> Clearance:
    """From each sample inside the area to its edge; 0 outside."""
    return _clearance(area, step, 1, _FINER, inside=True)


def clearance_outside(area: Polygon | MultiPolygon, step: float, reach: float, *, roughly: bool = False) -> Clearance:
    """From each sample outside the area to it, as far as ``reach`` mm around it; 0 inside.

    Roughly it is right within a step.
    """
    return _clearance(area, step, int(np.ceil(reach / step)) + 1, 1 if roughly else _FINER, inside=False)


def _clearance(area: Polygon | MultiPolygon, step: float, margin: int, finer: int, *, inside: bool) -> Clearance:
    x0, y0, x1, y1 = area.bounds
    row, column = int(np.floor(y0 / step)) - margin, int(np.floor(x0 / step)) - margin
    rows, columns = int(np.ceil(y1 / step)) + margin - row + 1, int(np.ceil(x1 / step)) + margin - column + 1
    fine = step / finer
    painted = np.zeros((rows * finer, columns * finer), np.uint8)
    # A dot's middle is a whole number to OpenCV.
    origin = np.array([column * step, row * step])
    rings = [
        np.round((np.asarray(ring.coords)[:, :2] - origin) / fine * 2**_BITS).astype(np.int32)
        for piece in shapely.get_parts(area)
        for ring in (piece.exterior, *piece.interiors)
    ]
    cv2.fillPoly(painted, rings, (1,), lineType=cv2.LINE_8, shift=_BITS)
    if not inside:
        painted = 1 - painted
    far = cv2.distanceTransform(painted, cv2.DIST_L2, cv2.DIST_MASK_PRECISE)
    sampled = far[::finer, ::finer]
    if inside:
        # What is painted includes the dots that the edge only touches.
        sampled = np.maximum(sampled - 0.5, 0)
    return Clearance(np.ascontiguousarray(sampled * fine, np.float32), row, column)
