"""Rings and backers made of offsets: outlines at a distance, walls, gaps closed."""

from __future__ import annotations

from typing import Literal

from tinhalo.core.geometry.curves.precision import Precision
from tinhalo.core.geometry.regions.offset import Corners, offset
from tinhalo.core.geometry.regions.overlay import subtract
from tinhalo.core.geometry.regions.region import Region

Side = Literal["inside", "centred", "outside"]


def ring(region: Region, inner: float, outer: float, precision: Precision, corners: Corners = "round") -> Region:
    """What lies between two offsets of a region.

    Args:
        region: what the ring goes round.
        inner: distance of its inner edge in mm; negative inside the region.
        outer: distance of its outer edge in mm, more than ``inner``.
        precision: how finely arcs are drawn.
        corners: how outer corners are made.
    """
    return subtract(offset(region, outer, precision, corners), offset(region, inner, precision, corners))


def wall(region: Region, width: float, side: Side, precision: Precision) -> Region:
    """A wall of ``width`` mm along the region's edge: inside it, outside it, or half on each side."""
    outer = {"inside": 0.0, "centred": width / 2, "outside": width}[side]
    return ring(region, outer - width, outer, precision)


def close_gaps(region: Region, up_to: float, precision: Precision) -> Region:
    """The region with every gap, slot and hole filled that is at most ``up_to`` mm wide.

    The closing of mathematical morphology by a disc: grown by half of that and shrunk again. Nothing else changes:
    outer corners stay as they are, inner ones get the disc's radius. Rings that are as before are still the font's.
    """
    closed = offset(offset(region, up_to / 2, precision), -up_to / 2, precision)
    return Region(closed.area, region.drawn)
