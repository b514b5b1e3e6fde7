"""Widen gaps that are too tight to be cut."""

from __future__ import annotations

import shapely

from tinhalo.core.geometry.curves.precision import Precision
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.strokes.narrow_places import narrow_gaps, narrow_reach
from tinhalo.core.geometry.strokes.thicken import swept

#: Widths are measured on a simplified outline: gaps are made this much wider than asked, in mm.
_MORE = 0.01
#: Where a crevice becomes a gap once its mouth is wider, it takes more than one round.
_ROUNDS = 3


def reach_of(to: float) -> float:
    """How far from a piece something can be that has a part in how ``open_gaps`` changes it, in mm: each round anew."""
    return _ROUNDS * (narrow_reach(to) + to)


def open_gaps(region: Region, to: float, precision: Precision) -> Region:
    """The region with every hole, slot and gap at least ``to`` mm wide; what is wide enough stays as it is.

    A disc of that width is moved along the middles of the gaps that are narrower, and takes off what is in its way:
    half on each side. The ends of a crevice, which are no gap yet, stay pointed.
    """
    radius = (to + _MORE) / 2
    for _ in range(_ROUNDS):
        narrow = narrow_gaps(region.simple, to)
        if narrow is None:
            break
        way = swept(narrow.thin_strokes(to), radius, precision)
        region = Region.of(shapely.difference(region.area, way), region.drawn)
    return region
