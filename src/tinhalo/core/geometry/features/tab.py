"""Tabs with a hole for a ring, and holes by themselves."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import shapely
from shapely import LineString, Point
from shapely.geometry.base import BaseGeometry

from tinhalo.core.geometry.arrays import Box, Floats
from tinhalo.core.geometry.curves.precision import Precision
from tinhalo.core.geometry.regions.offset import offset
from tinhalo.core.geometry.regions.overlay import fill_holes
from tinhalo.core.geometry.regions.region import Region


@dataclass(frozen=True)
class TabPlace:
    """Where a tab's hole is, in mm, and the box that its direction is measured in."""

    x: float
    y: float
    box: Box


@dataclass(frozen=True)
class HoleRow:
    """Where holes are: their middles, shape (n, 2), in mm, and the box that their places are shares of."""

    middles: Floats
    box: Box


def tab_place(region: Region, reach: float, at: float, precision: Precision) -> TabPlace | None:
    """Where the hole of a tab is: ``reach`` mm outside the region's outline (inside it, where that is negative).

    Args:
        region: what the tab is on.
        reach: distance of the hole's middle from the outline in mm.
        at: the direction from the middle of the region's box, in degrees counter-clockwise from the right. 45 is
            always towards the box's corner: so a tab stays at its place when words get longer.
        precision: how finely arcs are drawn.
    Returns:
        the place; None when there is none.
    """
    around = offset(fill_holes(region), reach, precision)
    if around.bounds is None:
        return None
    x0, y0, x1, y1 = around.bounds
    middle, half = np.array([x0 + x1, y0 + y1]) / 2, np.array([x1 - x0, y1 - y0]) / 2
    angle = math.radians(at)
    way = np.array([math.cos(angle), math.sin(angle)]) * half
    ray = LineString([middle, middle + 2 * way])
    edges = shapely.multilinestrings([piece.exterior for piece in around.area.geoms])
    met = shapely.get_coordinates(shapely.intersection(ray, edges))
    if len(met):
        x, y = met[np.hypot(*(met - middle).T).argmax()].tolist()
    else:
        # Between pieces the ray may get away: the nearest place on the outline then.
        nearest = shapely.shortest_line(Point(middle + way), edges)  # pyright: ignore[reportUnknownMemberType]
        x, y = shapely.get_coordinates(nearest)[1].tolist()
    return TabPlace(x, y, around.bounds)


def with_tab(region: Region, middle: tuple[float, float], hole: float, rim: float, precision: Precision) -> Region:
    """The region with a tab that reaches from it to a hole, and the hole.

    Args:
        region: what the tab is on.
        middle: the hole's middle in mm.
        hole: its diameter in mm.
        rim: what is left around it in mm.
        precision: how finely arcs are drawn.
    """
    if region.is_empty:
        return region
    outer = hole / 2 + rim
    point = Point(middle)
    root = shapely.shortest_line(point, region.area)  # pyright: ignore[reportUnknownMemberType]
    line: BaseGeometry = root if root.length > 0 else point
    body = line.buffer(outer, quad_segs=precision.quarter_segments(outer))
    return _less_discs(shapely.union(region.area, body), [middle], hole, region, precision)


def hole_box(region: Region, inset: float) -> Box | None:
    """The region's box less ``inset`` mm on each side, in which holes are placed; None when nothing is there.

    Where the box is narrower than twice the inset, its sides change places.
    """
    if region.bounds is None:
        return None
    x0, y0, x1, y1 = region.bounds
    return (x0 + inset, y0 + inset, x1 - inset, y1 - inset)


def hole_places(box: Box, share_x: float, share_y: float, count: int, dx: float, dy: float) -> Floats:
    """Middles of a row of holes, shape (count, 2), in mm.

    Args:
        box: what they are placed in, see ``hole_box``.
        share_x: where the middle of the row is, as a share of the way from the left to the right of the box.
        share_y: the same from its foot to its top.
        count: how many holes.
        dx: from one to the next, in mm to the right.
        dy: the same upwards.
    """
    x0, y0, x1, y1 = box
    x, y, first = x0 + (x1 - x0) * share_x, y0 + (y1 - y0) * share_y, -(count - 1) / 2
    return np.array([(x + (first + i) * dx, y + (first + i) * dy) for i in range(count)], float).reshape(-1, 2)


def with_holes(region: Region, middles: Floats, diameter: float, precision: Precision) -> Region:
    """The region without a disc of that diameter (mm) about each place, shape (n, 2)."""
    return _less_discs(region.area, middles.tolist(), diameter, region, precision)


def _less_discs(
    area: shapely.Geometry,
    middles: list[tuple[float, float]],
    diameter: float,
    region: Region,
    precision: Precision,
) -> Region:
    discs = shapely.buffer(shapely.points(middles), diameter / 2, quad_segs=precision.quarter_segments(diameter / 2))
    taken = discs[0] if len(discs) == 1 else shapely.disjoint_subset_union_all(discs)
    return Region.of(shapely.difference(area, taken), region.drawn)
