"""Keep what a step changed at some places, and take the rest of it back."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import shapely
from numpy.typing import NDArray

from tinhalo.core.geometry.arrays import XY
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.regions.robust import overlaid

#: A place on an edge is a little beside what was changed there, in mm.
_THERE = 0.05
#: What is changed reaches so far over the edge that it shares with what stays: no slit is left between them, in mm.
_OVER = 1e-3


def changed_at(before: Region, after: Region, places: Sequence[XY], reach: float = 0.0) -> Region:
    """The region before, with those changes only that come within a distance of one of the places.

    Args:
        before: the region before a step.
        after: what the step makes of all of it.
        places: points in mm.
        reach: how far a change may be from its place, in mm; a little more is always allowed.
    """
    if not places:
        return before
    added = _near(overlaid(shapely.difference, after.area, before.area), places, reach)
    removed = _near(overlaid(shapely.difference, before.area, after.area), places, reach)
    if not len(added) and not len(removed):
        return before
    area: shapely.Geometry = before.area
    if len(added):
        grown = shapely.buffer(shapely.union_all(added), _OVER)
        area = overlaid(shapely.union, area, overlaid(shapely.intersection, grown, after.area))
    if len(removed):
        grown = shapely.buffer(shapely.union_all(removed), _OVER)
        area = overlaid(shapely.difference, area, overlaid(shapely.difference, grown, after.area))
    return Region.of(area, (*before.drawn, *after.drawn)).with_marks(before.marks)


def _near(changes: shapely.Geometry, places: Sequence[XY], reach: float) -> NDArray[np.object_]:
    parts = np.asarray(shapely.get_parts(changes), object)
    if not len(parts):
        return parts
    points = np.asarray(shapely.points(np.array(places, float)), object)
    near = shapely.STRtree(parts).query(points, predicate="dwithin", distance=reach + _THERE)[1]
    return parts[np.unique(near)]
