"""Where a region's strokes or gaps are narrower than a limit, without measuring all of it.

Wherever one is, two parts of the edge face each other closer than that: these are looked for first. Only around them
are widths measured, in windows so large that what is cut off at their own edges does not count. The whole axis takes
up to ten times as long, and finds the same.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon

from tinhalo.core.geometry.arrays import XY, Floats
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.regions.selection import are_narrow
from tinhalo.core.geometry.regions.windows import cells_at, square, windows
from tinhalo.core.geometry.strokes.facing import facing
from tinhalo.core.geometry.strokes.widths import TIP_LENGTH, TIP_WIDTHS, Widths, measure_one
from tinhalo.core.runtime.cancellation import checkpoint

#: What faces each other is looked for a little further apart than the limit, in mm.
_FURTHER = 0.012
#: Where one narrow stroke is enough, so many cells are looked at first, and then so many times more.
_CLOSEST, _FEW = 4, 6
#: How far (widths) a place where it is narrow may move as a region grows.
_BESIDE = 0.5


@dataclass(frozen=True)
class NarrowPlace:
    """A place where a stroke is narrow.

    Attributes:
        at: the place in mm.
        width: of the stroke in mm.
        around: how many pieces and holes there are around it, where only that was looked at.
    """

    at: XY
    width: float
    around: tuple[int, int] | None


def narrow_strokes(area: MultiPolygon, least: float) -> Widths | None:
    """Widths of the strokes that are narrower than ``least`` mm, infinite elsewhere; None where there are none."""
    cells = _cells(facing(area, least + _FURTHER, 1), list(area.geoms), least)
    return _only(_around(area, cells, least, inside=True), cells, least) if len(cells) else None


def some_narrow(area: MultiPolygon, least: float) -> list[NarrowPlace]:
    """Some places where strokes are narrower than ``least`` mm, the narrowest first; none where there are none.

    Sooner told than where all of them are: it is looked where the sides are closest first, and mostly that will do.
    """
    lines = facing(area, least + _FURTHER, 1)
    cells = _cells(lines, list(area.geoms), least)
    if not len(cells):
        return []
    closest = np.argsort(np.hypot(*(lines[:, 1] - lines[:, 0]).T), kind="stable")
    every = np.concatenate([np.floor(lines[closest].mean(axis=1) / (narrow_reach(least) / 2)), cells])
    _, first = np.unique(every, axis=0, return_index=True)
    for some in np.split(every[np.sort(first)], [_CLOSEST, _CLOSEST * _FEW]):
        narrow = _only(_around(area, some, least, inside=True), some, least) if len(some) else None
        if narrow is not None:
            return _one_per_cell(narrow, least)
    return []


def _one_per_cell(narrow: Widths, least: float) -> list[NarrowPlace]:
    order = np.argsort(narrow.width, kind="stable")[: np.isfinite(narrow.width).sum()]
    _, first = np.unique(np.floor(narrow.place[order] / (narrow_reach(least) / 2)), axis=0, return_index=True)
    return [_place(narrow, piece) for piece in order[np.sort(first)].tolist()]


def narrow_gaps(area: MultiPolygon, least: float) -> Widths | None:
    """Widths of the holes, slots and gaps between pieces that are narrower than ``least`` mm, likewise."""
    cells = _cells(facing(area, least + _FURTHER, -1), Region(area).hole_areas(), least)
    return _only(_around(area, cells, least, inside=False), cells, least) if len(cells) else None


def narrow_stroke_at(area: MultiPolygon, least: float, place: XY) -> NarrowPlace | None:
    """The stroke that is narrower than ``least`` mm nearest to a place, where there is one at it or near it.

    The area needs to be whole in ``window_at`` there.
    """
    checkpoint()
    within = Region.of(shapely.intersection(area, window_at(place, least)))
    widths = measure_one(within.area, inside=True)
    narrow = np.flatnonzero(widths.width < least)
    off = np.abs(widths.place[narrow] - place).max(axis=1)
    if not len(off) or off.min() >= least * _BESIDE:
        return None
    return _place(widths, int(narrow[off.argmin()]), within)


def _place(widths: Widths, piece: int, within: Region | None = None) -> NarrowPlace:
    x, y = widths.place[piece].tolist()
    around = (within.pieces, len(within.hole_areas())) if within else None
    return NarrowPlace((x, y), float(widths.width[piece]), around)


def window_at(place: XY, least: float) -> Polygon:
    """What has to be known of an area to say whether a stroke is narrower than that at a place or near it."""
    # As far as the fire has to come for a stroke to count, from wherever the window cuts it off.
    by = least * _BESIDE + max(TIP_WIDTHS * least, TIP_LENGTH) + _FURTHER
    return square(place, by)


def narrow_reach(least: float) -> float:
    """How far something can be that has a part in whether it is narrow at a place, in mm, and windows go around it.

    The fire has to come that far for a stroke to count.
    """
    return (TIP_WIDTHS + 0.5) * least + TIP_LENGTH


def _cells(lines: Floats, areas: Sequence[Polygon], least: float) -> Floats:
    """Where it may be narrow, as cells of a grid of half the reach, shape (n, 2)."""
    places = [lines.mean(axis=1)]
    for area, narrow in zip(areas, are_narrow(areas, least), strict=True):
        if narrow:
            places.append(shapely.get_coordinates(shapely.segmentize(area, least)))
    return cells_at(np.concatenate(places), narrow_reach(least) / 2)


def _around(area: MultiPolygon, cells: Floats, least: float, *, inside: bool) -> Widths:
    """Widths around these cells."""
    around = windows(cells, narrow_reach(least) / 2)
    checkpoint()
    return measure_one(Region.of(shapely.intersection(area, around)).area, inside=inside)


def _only(widths: Widths, cells: Floats, least: float) -> Widths | None:
    """The widths under a limit in these cells or beside them: what the windows' edges made narrow is further away."""
    wanted = {(x + dx, y + dy) for x, y in cells.tolist() for dx in (-1, 0, 1) for dy in (-1, 0, 1)}
    narrow = np.flatnonzero(widths.width < least)
    inside = [(x, y) in wanted for x, y in np.floor(widths.place[narrow] / (narrow_reach(least) / 2)).tolist()]
    kept = narrow[np.array(inside, bool)]
    if not len(kept):
        return None
    width = np.full(len(widths.width), np.inf)
    width[kept] = widths.width[kept]
    return replace(widths, width=width)
