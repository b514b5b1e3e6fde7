"""Names of the arrays and tuples that geometry is written in."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

#: (x, y) in mm.
XY = tuple[float, float]
#: (min x, min y, max x, max y) in mm.
Box = tuple[float, float, float, float]
Floats = NDArray[np.float64]
Ints = NDArray[np.intp]
Degrees = NDArray[np.uint8]
