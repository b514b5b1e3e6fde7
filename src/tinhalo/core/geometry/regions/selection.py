"""Take pieces and holes out of a region by their size, or because somebody picked them."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import Polygon

from tinhalo.core.geometry.arrays import XY
from tinhalo.core.geometry.regions.region import CRUMB_AREA, Region

#: A widest circle is found to within this, in mm.
_CIRCLE_WITHIN = 0.005
#: No machine makes, and nobody finds, a piece under this area (mm²) or width (mm).
SPECK_AREA, SPECK_WIDTH = 0.01, 0.02


def widest(areas: Sequence[Polygon]) -> NDArray[np.float64]:
    """Diameter of the widest circle inside each area, in mm."""
    if not areas:
        return np.zeros(0)
    radii = [shapely.maximum_inscribed_circle(one, tolerance=_CIRCLE_WITHIN).length for one in areas]
    return 2 * np.array(radii, float)


def are_narrow(areas: Sequence[Polygon], width: float) -> NDArray[np.bool_]:
    """Whether each area is nowhere as wide as ``width`` mm: nothing is left when that is taken off its edges."""
    every = np.array(areas, object)
    # An area of A mm² with an edge of P mm always holds a circle of radius A / P: most need no closer look.
    found = _areas(every) < _lengths(every) * width / 2
    doubtful: list[int] = np.flatnonzero(found).tolist()
    if doubtful:
        middles = np.asarray(shapely.buffer(every[doubtful], -width / 2), object)
        # What is left may be a crumb of the arithmetic.
        found[doubtful] = _areas(middles) < CRUMB_AREA
    return found


def _areas(areas: NDArray[np.object_]) -> NDArray[np.float64]:
    return np.asarray(shapely.area(areas), float)  # pyright: ignore[reportUnknownMemberType]


def _lengths(areas: NDArray[np.object_]) -> NDArray[np.float64]:
    return np.asarray(shapely.length(areas), float)  # pyright: ignore[reportUnknownMemberType]


def are_small(areas: Sequence[Polygon], area: float | None, width: float | None) -> NDArray[np.bool_]:
    """Whether each area is smaller than ``area`` mm² or nowhere as wide as ``width`` mm; None leaves a limit out."""
    found = np.zeros(len(areas), bool)
    if area is not None:
        found |= _areas(np.array(areas, object)) < area
    if width is not None:
        found |= are_narrow(areas, width)
    return found


def without_specks(region: Region) -> Region:
    """Without pieces that only come of arithmetic: under 0.01 mm², or nowhere as wide as 0.02 mm."""
    pieces = np.asarray(shapely.get_parts(region.area), object)
    # As for what is narrow: an area holds a circle whose radius is its area over the length of its edge.
    doubtful = _areas(pieces) < np.maximum(SPECK_AREA, _lengths(pieces) * SPECK_WIDTH / 2)
    if not doubtful.any():
        return region
    dropped = np.zeros(len(pieces), bool)
    dropped[doubtful] = are_small(list(pieces[doubtful]), SPECK_AREA, SPECK_WIDTH)
    return without_pieces(region, dropped).with_marks(region.marks)


def holes_without(these: Region, others: Region) -> list[Polygon]:
    """Holes of one region that overlap no hole of the other."""
    tree = shapely.STRtree(others.hole_areas())
    return [hole for hole in these.hole_areas() if not len(tree.query(hole, predicate="intersects"))]


def without_holes(region: Region, filled: NDArray[np.bool_]) -> Region:
    """Fill some of the holes, given in the order of ``Region.hole_areas``, with whatever stands inside them."""
    if not filled.any():
        return region
    holes = [hole for hole, fill in zip(region.hole_areas(), filled, strict=True) if fill]
    return Region.of(shapely.disjoint_subset_union_all([region.area, *holes]), region.drawn)


def without_pieces(region: Region, dropped: NDArray[np.bool_]) -> Region:
    """Drop some of the pieces, given in their order."""
    if not dropped.any():
        return region
    return Region.of(np.asarray(shapely.get_parts(region.area), object)[~dropped], region.drawn)


def standing_inside(pieces: Sequence[Polygon]) -> NDArray[np.bool_]:
    """Which pieces stand in a hole of another one."""
    # Pieces do not cross: with one of its corners, a whole piece is inside another one's outer edge.
    corners = shapely.STRtree(shapely.points([piece.exterior.coords[0] for piece in pieces]))
    inside = np.zeros(len(pieces), bool)
    # The tree prepares what it is asked of once for all that is in it.
    inside[corners.query([Polygon(piece.exterior) for piece in pieces], predicate="contains")[1]] = True
    return inside


def holding(areas: Sequence[Polygon], places: Sequence[XY]) -> NDArray[np.bool_]:
    """Which areas hold one of the places (x, y) in mm."""
    held = np.zeros(len(areas), bool)
    if areas and places:
        held[shapely.STRtree(areas).query([shapely.Point(p) for p in places], predicate="within")[1]] = True
    return held
