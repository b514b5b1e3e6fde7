"""Stitches, or a motif, along the outline: evenly spaced, so that the last meets the first without a gap."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
import shapely

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.regions.region import Region

#: Nothing is set closer than this along an outline, in mm.
_LEAST = 0.01


@dataclass(frozen=True)
class Pattern:
    """How stitches follow each other.

    Attributes:
        length: of a stitch, in mm.
        spacing: wished for between the end of one and the start of the next, in mm; changed a little, so that a whole
            number of stitches goes round.
        count: how many there are along each ring, whatever their spacing; None where they go by that. A V counts once.
        slant: turn of every stitch against the outline, in degrees counter-clockwise.
        pairs: whether two stitches of opposite slants meet in a V, on the side that they are slanted to.
    """

    length: float
    spacing: float
    count: int | None = None
    slant: float = 0
    pairs: bool = False

    @property
    def wide(self) -> float:
        """How much of the outline one takes, or one V."""
        return 2 * self.length * abs(math.cos(math.radians(self.slant))) if self.pairs else self.length


def stitches(region: Region, pattern: Pattern, outer_only: bool) -> Floats:
    """One straight stitch after the other along every ring of a region.

    Args:
        region: what is stitched round.
        pattern: how they follow each other.
        outer_only: whether holes get none.
    Returns:
        ends of the stitches, shape (n, 2, 2), in mm.
    """
    made: list[Floats] = [np.zeros((0, 2, 2))]
    angle = math.radians(pattern.slant)
    for ring in _rings(region, outer_only):
        places = _places(ring, pattern.wide, pattern.spacing, pattern.count)
        if pattern.pairs:
            # The V is as high as its stitches are, half of that on either side of the outline.
            across = np.stack([-places.way[:, 1], places.way[:, 0]], axis=1) * pattern.length * math.sin(angle) / 2
            aside = places.way * pattern.length * math.cos(angle)
            meet = places.at + across
            for side in (-1, 1):
                made.append(np.stack([places.at + side * aside - across, meet], axis=1))
        else:
            half = places.way @ _turning(angle) * pattern.length / 2
            made.append(np.stack([places.at - half, places.at + half], axis=1))
    return np.concatenate(made)


def along(region: Region, motif: Region, spacing: float, count: int | None, slant: float, outer_only: bool) -> Region:
    """A motif again and again along every ring of a region, its middle on the outline, turned with it.

    Args:
        region: what it goes round.
        motif: what stands there; its box's lower edge is laid along the outline.
        spacing: wished for between one and the next, in mm, see ``Pattern``.
        count: how many along each ring; None where they go by the spacing.
        slant: its turn against the outline, in degrees counter-clockwise.
        outer_only: whether holes get none.
    """
    if motif.bounds is None:
        return Region.empty()
    x0, y0, x1, y1 = motif.bounds
    points, of = shapely.get_coordinates(motif.area), np.array([(x0 + x1) / 2, (y0 + y1) / 2])
    made: list[shapely.Geometry] = []
    for ring in _rings(region, outer_only):
        places = _places(ring, x1 - x0, spacing, count)
        turn = _turning(math.radians(slant))
        for at, (c, s) in zip(places.at, places.way, strict=True):
            placed = (points - of) @ turn @ np.array([[c, s], [-s, c]]) + at
            made.append(shapely.set_coordinates(shapely.from_wkb(shapely.to_wkb(motif.area)), placed))
    # Motifs that touch become one.
    return Region.of(shapely.union_all(made)) if made else Region.empty()


@dataclass(frozen=True)
class _Places:
    """Where stitches are along a ring, shape (n, 2), and the ways that the outline goes there, of length 1."""

    at: Floats
    way: Floats


def _rings(region: Region, outer_only: bool) -> Iterator[shapely.LinearRing]:
    for piece in shapely.get_parts(shapely.orient_polygons(region.area)):
        yield from (piece.exterior,) if outer_only else (piece.exterior, *piece.interiors)


def _turning(angle: float) -> Floats:
    return np.array([[math.cos(angle), math.sin(angle)], [-math.sin(angle), math.cos(angle)]])


def count_along(region: Region, wide: float, spacing: float, count: int | None, outer_only: bool) -> int:
    """How many stand along all rings, what is ``wide`` mm each: to know before they are made."""
    return sum(_count(ring, wide, spacing, count) for ring in _rings(region, outer_only))


def _count(ring: shapely.LinearRing, wide: float, spacing: float, count: int | None) -> int:
    return max(1, round(ring.length / max(wide + spacing, _LEAST))) if count is None else count


def _places(ring: shapely.LinearRing, wide: float, spacing: float, count: int | None) -> _Places:
    """The middles of what is ``wide`` mm, evenly spaced."""
    count = _count(ring, wide, spacing, count)
    middle = (np.arange(count) + 0.5) * ring.length / count
    # The chord that a stitch spans is its direction: it follows tight curves as a needle does.
    reach = min(wide, ring.length / 3) / 2
    begin, at, end = _along(ring, np.stack([middle - reach, middle, middle + reach]))
    way = end - begin
    size = np.hypot(*way.T)
    # On the tip of a hair both ends of the chord can be one point.
    way = np.where(size[:, None] > 1e-9, way / np.maximum(size, 1e-9)[:, None], [1.0, 0.0])
    return _Places(at, way)


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
