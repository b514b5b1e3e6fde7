"""Set one block against another: slide it straight towards the other until they overlap by an amount."""

from __future__ import annotations

import math

import numpy as np
import shapely

from tinhalo.core.artwork.art import Against
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.placement.approach import Profile, reach
from tinhalo.core.geometry.regions.region import Region

#: Maps that turn each side into "to the right of": shape (2, 2).
_TO_RIGHT = {
    "right": np.array([[1.0, 0.0], [0.0, 1.0]]),
    "left": np.array([[-1.0, 0.0], [0.0, 1.0]]),
    "above": np.array([[0.0, 1.0], [1.0, 0.0]]),
    "below": np.array([[0.0, -1.0], [1.0, 0.0]]),
}


def slide(block: Region, other: Region, against: Against) -> tuple[float, float] | None:
    """The move (dx, dy) in mm of a block; None when sliding that way it would pass the other without touching."""
    turned = _TO_RIGHT[against.side]
    distance = reach(_turned(other, turned), _turned(block, turned))
    if not math.isfinite(distance):
        return None
    move = (distance - against.overlap) * turned[0]
    return float(move[0]), float(move[1])


def _turned(region: Region, matrix: Floats) -> Profile:
    return Profile.of(shapely.transform(region.area, lambda points: points @ matrix.T))
