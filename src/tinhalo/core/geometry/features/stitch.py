"""Stitches along the outline: open strokes, evenly spaced, so that the last meets the first without a gap."""

from __future__ import annotations

import numpy as np
import shapely

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.regions.region import Region


def stitches(region: Region, length: float, spacing: float, slant: float, outer_only: bool) -> Floats:
    """One straight stitch after the other along every ring of a region.

    Args:
        region: what is stitched round.
        length: of a stitch, in mm.
        spacing: wished for between the end of one and the start of the next, in mm; changed a little, so that a whole
            number of stitches goes round.
        slant: turn of every stitch against the outline, in degrees counter-clockwise.
        outer_only: whether holes get none.
    Returns:
        ends of the stitches, shape (n, 2, 2), in mm.
    """
    made: list[Floats] = [np.zeros((0, 2, 2))]
    angle = np.radians(slant)
    turned = np.array([[np.cos(angle), np.sin(angle)], [-np.sin(angle), np.cos(angle)]])
    for piece in shapely.get_parts(shapely.orient_polygons(region.area)):
        for ring in (piece.exterior,) if outer_only else (piece.exterior, *piece.interiors):
            count = max(1, round(ring.length / (length + spacing)))
            middle = (np.arange(count) + 0.5) * ring.length / count
            # The chord that a stitch spans is its direction: it follows tight curves as a needle does.
            reach = min(length, ring.length / 3) / 2
            begin, at, end = _along(ring, np.stack([middle - reach, middle, middle + reach]))
            way = end - begin
            size = np.hypot(*way.T)
            # On the tip of a hair both ends of the chord can be one point.
            way = np.where(size[:, None] > 1e-9, way / np.maximum(size, 1e-9)[:, None], [1.0, 0.0])
            half = way @ turned * length / 2
            made.append(np.stack([at - half, at + half], axis=1))
    return np.concatenate(made)


def as_slots(marks: Floats, width: float, quarter: int) -> Region:
    """Every stroke, shape (n, 2, 2), as a slim closed mark with round ends, ``width`` mm wide."""
    if not len(marks):
        return Region.empty()
    return Region.of(
        shapely.disjoint_subset_union_all(shapely.buffer(shapely.linestrings(marks), width / 2, quad_segs=quarter))
    )


def _along(ring: shapely.LinearRing, way: Floats) -> Floats:
    """Points of a ring at distances along it, past its end going on at its start."""
    # Together they take one pass; shapely walks the ring from its start for every single point.
    points = np.asarray(ring.coords)
    run = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(points, axis=0).T))])
    way = way % run[-1]
    return np.stack([np.interp(way, run, points[:, axis]) for axis in (0, 1)], axis=-1)
