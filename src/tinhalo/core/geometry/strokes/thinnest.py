"""The thinnest stroke of what is looked at while it is chosen or edited: told live, or left to the layers."""

from __future__ import annotations

import math

from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.strokes.widths import measure_one

#: Of more vertices it is not worked out: it would be waited for, and the layers tell it.
MOST_MEASURED = 12_000


def thinnest_stroke(region: Region) -> float | None:
    """Width of a region's thinnest stroke in mm, as layers are measured.

    None where there is no stroke, and where there are more than ``MOST_MEASURED`` vertices.
    """
    if not 0 < region.vertices < MOST_MEASURED:
        return None
    found = measure_one(region.simple, inside=True).narrowest
    return found if found is not None and math.isfinite(found) else None
