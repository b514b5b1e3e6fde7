"""How far strokes have to grow all round so that none is too thin, and holes that are kept open meanwhile."""

from __future__ import annotations

import numpy as np
import shapely

from tinhalo.core.geometry.arrays import XY
from tinhalo.core.geometry.curves.precision import Precision
from tinhalo.core.geometry.regions.offset import offset
from tinhalo.core.geometry.regions.region import SIMPLER, Region
from tinhalo.core.geometry.strokes.narrow_places import narrow_strokes, narrow_strokes_at, window_at
from tinhalo.core.geometry.strokes.thicken import ENOUGH, Measure, cores
from tinhalo.core.geometry.strokes.widths import Measured

#: The amount of growth is looked for in steps of this, then halved down to the last one, in mm.
_STEP = 0.02
_COARSE = 0.1
_FINE = 0.0025
#: How many steps more are tried where holes are kept open.
_MORE = 8
#: So many places where it was too narrow before are looked at first.
_KNOWN = 4


def keep_holes_open(
    before: Region, after: Region, measured: Measured, by: float, least: float, precision: Precision
) -> Region:
    """A grown region whose holes stay at least ``least`` mm wide, or as wide as they were.

    Args:
        before: the region before it was grown ``by`` mm, and ``measured`` its widths.
        after: the grown region.
        least: least width of holes in mm.
        precision: how finely the holes' new edges are drawn.
    """
    holes = before.hole_areas()
    lines = np.array(measured.gaps.between_tips(least + 2 * by), object)
    if not holes or not len(lines):
        return after
    width = measured.gaps.width[measured.gaps.width < least + 2 * by]
    inside = np.unique(shapely.STRtree(holes).query(lines, predicate="intersects")[0])
    open_ = cores(lines[inside], np.minimum(width[inside], least), least, precision)
    return Region.of(shapely.difference(after.area, open_))


def growth_for(region: Region, measure: Measure, to: float, precision: Precision, keep_open: float = 0.0) -> float:
    """The smallest growth all round, in mm, after which no stroke is thinner than ``to``.

    Strokes that newly touch make new necks, so more growth can be worse: amounts are tried in order, in steps, and the
    first that will do is made finer. Strokes with no narrow gap or notch beside them get wider by exactly twice the
    growth, so nothing below what these need is tried. With ``keep_open``, the least width of holes in mm, a little more
    is tried where these take some of it back; between two holes it may not be enough.
    """
    measured = measure(region)
    narrowest = measured.strokes.narrowest
    if narrowest is None or narrowest >= to - ENOUGH:
        return 0.0

    # Where it was too narrow last it mostly still is: there it is looked first, and only there it is grown for that.
    known: list[XY] = []

    def enough(by: float, keep_open: float = 0.0) -> bool:
        for place in known:
            if not keep_open and _narrow_there(region, by, place, to - ENOUGH - 2 * SIMPLER, precision):
                return False
        grown = offset(region, by, precision)
        if keep_open:
            grown = keep_holes_open(region, grown, measured, by, keep_open, precision)
        # Only where strokes may be thinner are they measured.
        narrow = narrow_strokes(grown.simple, to - ENOUGH)
        if narrow is not None and narrow.narrowest_at:
            known.insert(0, narrow.narrowest_at)
            del known[_KNOWN:]
        return not grown.is_empty and narrow is None

    # Half the width is enough for every stroke there is, but not for the necks where strokes newly touch.
    most = to
    low = max(0.0, (to - _narrowest_free(measured, to)) / 2 - 2 * ENOUGH)
    high = low
    while high < most and not enough(high):
        low, high = high, min(most, high + (_STEP if high < to / 2 else _COARSE))
    while high - low > _FINE:
        middle = (low + high) / 2
        low, high = (low, middle) if enough(middle) else (middle, high)
    for more in range(_MORE if keep_open else 0):
        if enough(high + more * _STEP, keep_open):
            return round(high + more * _STEP, 4)
    return round(high, 4)


def _narrow_there(region: Region, by: float, place: XY, least: float, precision: Precision) -> bool:
    """Whether a region that is grown ``by`` mm is narrower than ``least`` at a place or near it.

    The same is found when all of it is grown, as nothing reaches the window from further away; the outline may be
    simplified in another way, so what is only just narrower is left to whoever looks at all of it.
    """
    window = window_at(place, least)
    near = Region.of(shapely.intersection(region.area, shapely.buffer(window, by + SIMPLER, join_style="mitre")))
    return not near.is_empty and narrow_strokes_at(offset(near, by, precision).simple, least, place)


def _narrowest_free(measured: Measured, to: float) -> float:
    """Width of the thinnest stroke that has no gap or notch beside it that could fill up before it is ``to`` wide."""
    strokes, gaps = measured.strokes, measured.gaps
    thin = np.flatnonzero(strokes.width < to)
    narrow = gaps.bays_under(to)
    if narrow:
        beside = shapely.STRtree(narrow).query(
            shapely.points(strokes.place[thin]), predicate="dwithin", distance=strokes.width[thin] / 2 + to / 2
        )
        thin = np.delete(thin, np.unique(beside[0]))
    return float(strokes.width[thin].min()) if len(thin) else to
