"""How far what hangs over a ground is from it, along edges and inside areas, not at corners only.

The distance from the ground changes by no more than the way gone (it is 1-Lipschitz), so what lies between two places
is bounded by theirs: only where that bound is above the greatest distance found so far is it looked at more closely.
"""

from __future__ import annotations

from functools import cached_property

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon

from tinhalo.core.geometry.arrays import XY, Floats
from tinhalo.core.geometry.regions.proximity import edge_tree, nearest_edges
from tinhalo.core.geometry.regions.region import edges_of, prepared

#: Distances are found to within this, in mm.
WITHIN = 0.004
#: Ends and middle of an edge as near as this (mm) to the ground's edge: it runs along that.
_ALONG = 1e-3
#: Cells of an area are halved no more often.
_MOST_ROUNDS = 16


class Ground:
    """An area that something lies on, and how far from it places are.

    Args:
        area: in mm; not empty.
    """

    def __init__(self, area: MultiPolygon) -> None:
        self.area = area

    @cached_property
    def _edges(self) -> shapely.STRtree:
        return edge_tree(self.area)

    def away(self, points: Floats) -> Floats:
        """Distance of each point, shape (n, 2), from the ground in mm; 0 on it."""
        far, _ = nearest_edges(points, self._edges)
        on_it = np.asarray(shapely.contains_xy(prepared(self.area), *points.T), bool)
        return np.where(on_it, 0.0, far)

    def furthest(self, part: Polygon) -> tuple[float, XY]:
        """How far the edge of a part reaches from the ground, in mm, and where; what only covers a hole does not."""
        lines = edges_of(MultiPolygon([part]))
        away = self.away(lines.reshape(-1, 2)).reshape(-1, 2)
        middles = self.away(lines.mean(axis=1))
        off = (away.max(axis=1) > _ALONG) | (middles > _ALONG)
        lines, away = lines[off], away[off]
        if not len(lines):
            return 0.0, (part.exterior.coords[0][0], part.exterior.coords[0][1])
        best, at = _highest(away.reshape(-1), lines.reshape(-1, 2))
        while len(lines):
            length = np.hypot(*(lines[:, 1] - lines[:, 0]).T)
            open_ = (away.sum(axis=1) + length) / 2 > best + WITHIN
            lines, away = lines[open_], away[open_]
            if not len(lines):
                break
            middle = lines.mean(axis=1)
            between = self.away(middle)
            most, place = _highest(between, middle)
            if most > best:
                best, at = most, place
            halves = np.stack([lines[:, 0], middle, middle, lines[:, 1]], axis=1).reshape(-1, 2, 2)
            lines, away = halves, np.stack([away[:, 0], between, between, away[:, 1]], axis=1).reshape(-1, 2)
        return best, at

    def furthest_inside(self, part: Polygon, least: float, at: XY) -> tuple[float, XY]:
        """How far anything of a part is from the ground, in mm, and where; ``least`` and ``at`` where nothing is
        further."""
        x0, y0, x1, y1 = part.bounds
        size = max(x1 - x0, y1 - y0)
        cells: Floats = np.array([[(x0 + x1) / 2, (y0 + y1) / 2]])
        best = least
        inside = prepared(MultiPolygon([part]))
        quarters = np.array([(-1, -1), (-1, 1), (1, -1), (1, 1)], float) / 4
        for _ in range(_MOST_ROUNDS):
            away = self.away(cells)
            held = np.asarray(shapely.contains_xy(inside, *cells.T), bool)
            if held.any():
                most, place = _highest(away[held], cells[held])
                if most > best + WITHIN:
                    best, at = most, place
            cells = cells[away + size * np.sqrt(0.5) > best + WITHIN]
            if not len(cells):
                break
            size /= 2
            cells = (cells[:, None] + quarters * 2 * size).reshape(-1, 2)
            reach = np.asarray(shapely.box(*(cells - size / 2).T, *(cells + size / 2).T), object)
            cells = cells[np.asarray(shapely.intersects(inside, reach), bool)]
        return best, at


def _highest(values: Floats, places: Floats) -> tuple[float, XY]:
    k = int(values.argmax())
    return float(values[k]), (float(places[k, 0]), float(places[k, 1]))
