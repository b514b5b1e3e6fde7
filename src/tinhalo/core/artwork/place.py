"""Where a piece of art stands."""

from __future__ import annotations

from pydantic import field_validator

from tinhalo.core.document.base import Degrees, Factor, Millimetres, Strict
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.affine import after, shift, turn

#: Flatter than this share of its size nothing can be cut of art.
LEAST_SCALE = 1e-3
#: Art stands within a page of this side, in mm.
MOST_EXTENT = 10_000


class Place(Strict):
    """Where art stands: scaled, then turned, then moved; lengths in mm, degrees counter-clockwise."""

    x: Millimetres = 0
    y: Millimetres = 0
    rotate: Degrees = 0
    scale_x: Factor = 1
    scale_y: Factor = 1

    @field_validator("scale_x", "scale_y")
    @classmethod
    def _not_flat(cls, scale: float) -> float:
        if abs(scale) < LEAST_SCALE:
            raise ValueError("stretched to less than a thousandth nothing is left")
        return scale


def check_extent(place: Place, width: float, height: float) -> None:
    """Refuse art that is larger than any page.

    Raises:
        ValueError: saying how large it would be.
    """
    largest = max(abs(place.scale_x) * width, abs(place.scale_y) * height)
    if largest > MOST_EXTENT:
        raise ValueError(f"stretched like this it would be {largest / 1000:.3g} m large, and 10 m is the most")


def place_matrix(place: Place) -> Floats:
    """The map from the art's own coordinates to where it stands, shape (2, 3)."""
    return after(shift(place.x, place.y), turn(place.rotate, place.scale_x, place.scale_y))
