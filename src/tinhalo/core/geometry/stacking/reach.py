"""How far what hangs over a ground is from it, along edges and inside areas, not at corners only.

The distance from the ground changes by no more than the way gone (it is 1-Lipschitz), so what lies between two places
is bounded by theirs: only where that bound is above the greatest distance found so far is it looked at more closely,
and only what lies outside the ground grown by that distance.
"""

from __future__ import annotations

from functools import cached_property

import numpy as np
import shapely
from shapely import LineString, MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from tinhalo.core.geometry.arrays import XY, Floats
from tinhalo.core.geometry.regions.proximity import edge_tree, nearest_edges
from tinhalo.core.geometry.regions.region import prepared
from tinhalo.core.geometry.regions.robust import clipped, overlaid

#: Distances are found to within this, in mm.
WITHIN = 0.004
#: So many corners of a part are looked at before it is asked what is further away than those.
_FIRST = 200
#: Cells of an area are halved no more often.
_MOST_ROUNDS = 16


class Ground:
    """An area that something lies on, and how far from it places are; for one thread to ask.

    Args:
        area: in mm; not empty.
    """

    def __init__(self, area: MultiPolygon) -> None:
        self.area = area

    @cached_property
    def _edges(self) -> shapely.STRtree:
        return edge_tree(self.area)

    @cached_property
    def _prepared(self) -> MultiPolygon:
        return prepared(self.area)

    def away(self, points: Floats) -> Floats:
        """Distance of each point, shape (n, 2), from the ground in mm; 0 on it."""
        far, _ = nearest_edges(points, self._edges)
        on_it = np.asarray(shapely.contains_xy(self._prepared, *points.T), bool)
        return np.where(on_it, 0.0, far)

    def furthest(self, part: Polygon) -> tuple[float, XY]:
        """How far the edge of a part reaches from the ground, in mm, and where; what only covers a hole does not."""
        corners = shapely.get_coordinates(part)
        some = corners[:: 1 + len(corners) // _FIRST]
        best, at = _highest(self.away(some), some)
        rest = shapely.get_parts(overlaid(shapely.difference, part.boundary, self._reached(part, best)))
        lines = np.concatenate([np.zeros((0, 2, 2)), *map(_segments, rest)])
        ends = self.away(lines.reshape(-1, 2))
        if len(ends) and ends.max() > best:
            best, at = _highest(ends, lines.reshape(-1, 2))
        away = ends.reshape(-1, 2)
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
        rest = overlaid(shapely.difference, part, self._reached(part, least))
        if rest.is_empty:
            return least, at
        x0, y0, x1, y1 = rest.bounds
        size = max(x1 - x0, y1 - y0)
        cells: Floats = np.array([[(x0 + x1) / 2, (y0 + y1) / 2]])
        best = least
        shapely.prepare(rest)
        quarters = np.array([(-1, -1), (-1, 1), (1, -1), (1, 1)], float) / 4
        for _ in range(_MOST_ROUNDS):
            away = self.away(cells)
            held = np.asarray(shapely.intersects_xy(rest, *cells.T), bool)
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
            cells = cells[np.asarray(shapely.intersects(rest, reach), bool)]
        return best, at

    def spans(self, part: Polygon, width: float) -> bool:
        """Whether a part lies over slots of up to ``width`` (mm) only: the ground with those filled covers it."""
        if not width:
            return False
        # A closing depends, at any place, on what is no further than its width.
        near = self._near(part, 2 * width)
        return bool(near.buffer(width / 2 + WITHIN).buffer(WITHIN - width / 2).covers(part))

    def _reached(self, part: Polygon, far: float) -> BaseGeometry:
        """All that is no further than ``far`` (mm) from the ground, of what is near a part; never more than that."""
        by = far + WITHIN
        return self._near(part, 2 * by).buffer(by)

    def _near(self, part: Polygon, by: float) -> BaseGeometry:
        x0, y0, x1, y1 = part.bounds
        return clipped(self.area, (x0 - by, y0 - by, x1 + by, y1 + by))


def _segments(line: LineString) -> Floats:
    points = shapely.get_coordinates(line)
    return np.stack([points[:-1], points[1:]], axis=1)


def _highest(values: Floats, places: Floats) -> tuple[float, XY]:
    k = int(values.argmax())
    return float(values[k]), (float(places[k, 0]), float(places[k, 1]))
