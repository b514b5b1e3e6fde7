"""How far pieces are from each other."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import shapely
from shapely import Polygon
from shapely.geometry.base import BaseGeometry

#: The next piece is looked for with outlines this coarse, in mm: GEOS compares every edge with every other.
_COARSE = 0.05


def nearest_gaps(pieces: Sequence[Polygon]) -> list[float]:
    """Distance of each piece from the one next to it, in mm; there are at least two.

    Where two are next to it all but equally far, it is that of either.
    """
    every = np.array(pieces, object)
    coarse = np.asarray(shapely.simplify(every, _COARSE, preserve_topology=False), object)
    # A small piece may have nothing left.
    coarse = np.array([piece if one.is_empty else one for one, piece in zip(coarse, every, strict=True)], object)
    found = shapely.STRtree(coarse).query_nearest(coarse, exclusive=True, return_distance=True, all_matches=False)
    (one, other), far = found
    pairs: list[tuple[int, int]] = list(zip(one.tolist(), other.tolist(), strict=True))
    return [_distance(pieces[a], pieces[b], reach) for (a, b), reach in zip(pairs, far.tolist(), strict=True)]


def _distance(one: Polygon, other: Polygon, about: float) -> float:
    """Distance of two areas, given to within the coarseness: of what of each is near enough to the other's box."""
    reach = about + 3 * _COARSE
    near = _near(one, other, reach), _near(other, one, reach)
    # The coarse outlines lose a hole that is as small: what stands in it is further from its edge than they say.
    if any(part.is_empty for part in near):
        return float(one.distance(other))
    return float(near[0].distance(near[1]))


def _near(one: Polygon, other: Polygon, reach: float) -> BaseGeometry:
    x0, y0, x1, y1 = other.bounds
    return shapely.clip_by_rect(one, x0 - reach, y0 - reach, x1 + reach, y1 + reach)
