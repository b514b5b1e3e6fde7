"""The area that a marked layer takes: what is scored or drawn along as wide as its line."""

from __future__ import annotations

import shapely
from shapely import MultiPolygon

from tinhalo.core.design.hand_over import LINES
from tinhalo.core.engine.built import BuiltLayer
from tinhalo.core.geometry.regions.region import Region


def marked_area(built: BuiltLayer, width: float, quarter: int) -> MultiPolygon:
    """A layer's area with its open marks ``width`` mm wide; of what is scored its outline and marks alone.

    ``quarter`` is how many chords draw a quarter of a circle at ends and corners.
    """
    area = built.region.area
    marks = shapely.multilinestrings(built.region.marks)
    if built.layer.process in LINES:
        return Region.of(shapely.buffer(shapely.union(area.boundary, marks), width / 2, quad_segs=quarter)).area
    if len(built.region.marks):
        return Region.of(shapely.union(area, shapely.buffer(marks, width / 2, quad_segs=quarter))).area
    return area
