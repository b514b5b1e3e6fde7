"""Where a piece of art stands."""

from __future__ import annotations

from tinhalo.core.document.base import Degrees, Factor, Millimetres, Strict
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.affine import after, shift, turn


class Place(Strict):
    """Where art stands: scaled, then turned, then moved; lengths in mm, degrees counter-clockwise."""

    x: Millimetres = 0
    y: Millimetres = 0
    rotate: Degrees = 0
    scale_x: Factor = 1
    scale_y: Factor = 1


def place_matrix(place: Place) -> Floats:
    """The map from the art's own coordinates to where it stands, shape (2, 3)."""
    return after(shift(place.x, place.y), turn(place.rotate, place.scale_x, place.scale_y))
