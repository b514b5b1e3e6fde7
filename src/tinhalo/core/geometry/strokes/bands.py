"""The bisectors inside a region where its edge is near, from several diagrams side by side.

Where a place is no further from the edge than a limit, only edges near it say what is there. So the region is seen in
bands, each with the edges some way beyond it, and each bisector is taken from the band that its lower end lies in: both
diagrams have it there, and what is higher than the limit at both ends is not asked for.
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

import numpy as np
import shapely
from shapely import MultiPolygon

from tinhalo.core.geometry.arrays import Ints
from tinhalo.core.geometry.strokes.bisectors import Bisectors, bisectors, on_grid, sites_of, together, within
from tinhalo.core.geometry.strokes.voronoi import voronoi_each, worth_dividing
from tinhalo.core.runtime.elsewhere import sizes

#: Ends of one bisector are as high as each other where they differ by less than this, in mm; and places are the same.
_ALIKE = 1e-6
#: Edges are no longer than this, in limits, so that no bisector between two of them reaches far.
_LONGEST = 4.0
#: How far beyond a band edges are seen, in limits.
_BEYOND = _LONGEST + 4.0


def near_bisectors(area: MultiPolygon, most: float) -> Bisectors:
    """The bisectors inside an area that have an end no further than ``most`` mm from its edge, and perhaps others."""
    if not worth_dividing(int(shapely.get_num_coordinates(area))):  # pyright: ignore[reportUnknownMemberType, reportUnknownArgumentType]
        return bisectors(area, [True])[0]
    short = shapely.segmentize(on_grid(area), _LONGEST * most)
    sites = sites_of(short)
    x0, y0, x1, y1 = area.bounds
    axis = 0 if x1 - x0 >= y1 - y0 else 1
    along = sites[:, :, axis]
    low, high = along.min(axis=1), along.max(axis=1)
    parts = sizes().at_once
    borders = [-np.inf, *np.quantile(along.mean(axis=1), np.arange(1, parts) / parts), np.inf]
    reach = _BEYOND * most
    own = [sites[(high >= a - reach) & (low <= b + reach)] for a, b in pairwise(borders)]
    found = [
        _kept(within(short, one, diagram), most, (a, b), axis)
        for one, diagram, (a, b) in zip(own, voronoi_each(own), pairwise(borders), strict=True)
    ]
    return _joined(found)


def _kept(found: Bisectors, most: float, band: tuple[float, float], axis: int) -> Bisectors:
    """Those that are low enough and whose lower end lies in a band; of two that are alike the one further left."""
    start, end = found.vertices[found.ends[:, 0]], found.vertices[found.ends[:, 1]]
    at_start, at_end = found.radii(start), found.radii(end)
    first = (start[:, 0] < end[:, 0]) | ((start[:, 0] == end[:, 0]) & (start[:, 1] <= end[:, 1]))
    lower = np.where(np.abs(at_start - at_end) < _ALIKE, first, at_start < at_end)
    place = np.where(lower[:, None], start, end)[:, axis]
    return found.only((np.minimum(at_start, at_end) <= most) & (band[0] <= place) & (place < band[1]))


def _joined(found: Sequence[Bisectors]) -> Bisectors:
    """All of them, nodes at one place being one."""
    made = together(found)
    used = np.unique(made.ends)
    points = [shapely.Point(place) for place in made.vertices[used].tolist()]
    pairs = shapely.STRtree(points).query(points, predicate="dwithin", distance=_ALIKE)
    stands: Ints = np.arange(len(made.vertices))
    # Each with the first of those at its place.
    np.minimum.at(stands, used[pairs[0]], used[pairs[1]])
    return made.with_ends(stands[made.ends])
