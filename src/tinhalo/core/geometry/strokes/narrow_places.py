"""Where a region's strokes or gaps are narrower than a limit, without measuring all of it.

Wherever one is, two parts of the edge face each other closer than that: these are looked for first. Only around them
are widths measured, in windows so large that what is cut off at their own edges does not count. The whole axis takes
up to ten times as long, and finds the same.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon

from tinhalo.core.geometry.arrays import XY, Floats
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.regions.selection import are_narrow
from tinhalo.core.geometry.regions.windows import cells_at, windows
from tinhalo.core.geometry.strokes.facing import facing
from tinhalo.core.geometry.strokes.widths import TIP_LENGTH, TIP_WIDTHS, Widths, measure_one
from tinhalo.core.runtime.cancellation import checkpoint

#: What faces each other is looked for a little further apart than the limit, in mm.
_FURTHER = 0.012


def narrow_strokes(area: MultiPolygon, least: float) -> Widths | None:
    """Widths of the strokes that are narrower than ``least`` mm, infinite elsewhere; None where there are none."""
    cells = _cells(facing(area, least + _FURTHER, 1), list(area.geoms), least)
    return _only(_around(area, cells, least, inside=True), cells, least) if len(cells) else None


def narrow_gaps(area: MultiPolygon, least: float) -> Widths | None:
    """Widths of the holes, slots and gaps between pieces that are narrower than ``least`` mm, likewise."""
    cells = _cells(facing(area, least + _FURTHER, -1), Region(area).hole_areas(), least)
    return _only(_around(area, cells, least, inside=False), cells, least) if len(cells) else None


def narrow_strokes_at(area: MultiPolygon, least: float, place: XY) -> bool:
    """Whether a stroke is narrower than ``least`` mm at a place, or in the same cell of the grid.

    The area needs to be whole in ``window_at`` there.
    """
    cells = cells_at(np.array([place]), _reach(least) / 2)
    widths = _around(area, cells, least, inside=True)
    narrow = widths.place[widths.width < least]
    return bool((np.floor(narrow / (_reach(least) / 2)) == cells[0]).all(axis=1).any())


def window_at(place: XY, least: float) -> shapely.Geometry:
    """What has to be known of an area to say whether a stroke is narrower than that at a place."""
    return windows(cells_at(np.array([place]), _reach(least) / 2), _reach(least) / 2)


def _reach(least: float) -> float:
    """How far windows go around a place, in mm: the fire has to come that far for a stroke to count."""
    return (TIP_WIDTHS + 0.5) * least + TIP_LENGTH


def _cells(lines: Floats, areas: Sequence[Polygon], least: float) -> Floats:
    """Where it may be narrow, as cells of a grid of half the reach, shape (n, 2)."""
    places = [lines.mean(axis=1)]
    for area, narrow in zip(areas, are_narrow(areas, least), strict=True):
        if narrow:
            places.append(shapely.get_coordinates(shapely.segmentize(area, least)))
    return cells_at(np.concatenate(places), _reach(least) / 2)


def _around(area: MultiPolygon, cells: Floats, least: float, *, inside: bool) -> Widths:
    """Widths around these cells."""
    around = windows(cells, _reach(least) / 2)
    checkpoint()
    return measure_one(Region.of(shapely.intersection(area, around)).area, inside=inside)


def _only(widths: Widths, cells: Floats, least: float) -> Widths | None:
    """The widths under a limit in these cells or beside them: what the windows' edges made narrow is further away."""
    wanted = {(x + dx, y + dy) for x, y in cells.tolist() for dx in (-1, 0, 1) for dy in (-1, 0, 1)}
    narrow = np.flatnonzero(widths.width < least)
    inside = [(x, y) in wanted for x, y in np.floor(widths.place[narrow] / (_reach(least) / 2)).tolist()]
    kept = narrow[np.array(inside, bool)]
    if not len(kept):
        return None
    width = np.full(len(widths.width), np.inf)
    width[kept] = widths.width[kept]
    return replace(widths, width=width)
