"""Windows around places: what is looked at again near them, at a cost that follows the places and not the distance."""

from __future__ import annotations

import numpy as np
import shapely

from tinhalo.core.geometry.arrays import Floats


def cells_at(places: Floats, size: float) -> Floats:
    """The cells of a grid that hold places, shape (n, 2) in mm: each once, shape (m, 2), counted in ``size`` mm."""
    return np.unique(np.floor(places / size), axis=0)


def windows(cells: Floats, size: float) -> shapely.Geometry:
    """All cells, and two more on every side: whatever is within two sizes of a place in them is inside.

    Rows of cells side by side are united far faster than windows, and than anything is buffered.
    """
    ways = np.array([(dx, dy) for dx in range(-2, 3) for dy in range(-2, 3)], float)
    every = np.unique((cells[:, None] + ways).reshape(-1, 2)[:, ::-1], axis=0)
    begins = np.flatnonzero(np.r_[True, (np.diff(every, axis=0) != (0, 1)).any(axis=1)])
    first, last = every[begins], every[np.r_[begins[1:], len(every)] - 1]
    low, high = first[:, ::-1] * size, (last[:, ::-1] + 1) * size
    return shapely.union_all(np.asarray(shapely.box(*low.T, *high.T), object))
