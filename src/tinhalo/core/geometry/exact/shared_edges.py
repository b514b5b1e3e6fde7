"""Outlines of which parts are left out, because they are cut already with what lies beside them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import shapely
from numpy.typing import NDArray

from tinhalo.core.geometry.arrays import Degrees, Floats, Ints
from tinhalo.core.geometry.curves.bezier import part_between, points_at
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.regions.region import Region, prepared

#: Edges that come this near each other are one cut, in mm: what leaves may be 0.016 mm off on either side.
SAME = 0.04
#: Regions that overlap by more than this (mm²) lie on each other.
_APART = 0.5
#: Shorter stretches (mm) are cut twice: edges that only cross, or touch, share no more.
_LEAST = 1.0
#: An outline is looked at in steps of this length, in mm. By one of them cuts overlap at their ends.
_STEP = 0.2


@dataclass(frozen=True)
class CutLines:
    """What leaves of an outline.

    Attributes:
        whole: contours that leave whole, closed.
        runs: open stretches of the others, as contours that are not closed.
    """

    whole: tuple[Contour, ...]
    runs: tuple[Contour, ...]

    @cached_property
    def length(self) -> float:
        """Length of all of it in mm."""
        return Outline.from_contours([*self.whole, *self.runs]).length


def beside(one: Region, other: Region) -> bool:
    """Whether two regions can come from one sheet: they lie beside each other, not on each other."""
    return one.area.intersection(other.area).area <= _APART


def without_shared(contours: Sequence[Contour], others: Sequence[Region]) -> CutLines | None:
    """Leave out what of an outline is cut with other regions; None where it shares nothing with them.

    Args:
        contours: closed contours in mm.
        others: regions whose edges are cut whole.
    """
    edges = shapely.union_all([shapely.boundary(other.area) for other in others])
    area = shapely.buffer(edges, SAME)
    if area.is_empty:
        return None
    near = prepared(area)
    whole: list[Contour] = []
    runs: list[Contour] = []
    for contour in contours:
        found = _kept(contour, near)
        if found is None:
            whole.append(contour)
        else:
            runs += found
    return CutLines(tuple(whole), tuple(runs)) if len(whole) < len(contours) else None


def _kept(contour: Contour, near: shapely.MultiPolygon) -> list[Contour] | None:
    """The stretches of a contour that are not near; None where that is all of it."""
    segments, degree = contour.segments, contour.degree
    # The control polygon is no shorter than the curve.
    size = np.hypot(*np.diff(segments, axis=1).transpose(2, 0, 1)).sum(axis=1)
    count = np.maximum(1, np.ceil(size / _STEP)).astype(np.intp)
    which = np.repeat(np.arange(len(segments)), count)
    t = (np.arange(len(which)) - np.repeat(np.cumsum(count) - count, count)) / count[which]
    points = points_at(segments[which], t[:, None])
    shared = np.asarray(shapely.contains_xy(near, points[:, 0], points[:, 1]), bool)
    step = np.hypot(*(np.roll(points, -1, axis=0) - points).T)
    left = _long_runs(shared, step)
    if not left.any():
        return None
    if left.all():
        return []
    # From where something is left out, so that no stretch goes over the contour's own beginning.
    first = int(np.flatnonzero(left)[0])
    order = (np.arange(len(left)) + first) % len(left)
    kept = ~left[order]
    begins = np.flatnonzero(kept & ~np.r_[False, kept[:-1]])
    ends = np.flatnonzero(kept & ~np.r_[kept[1:], False])
    places = np.column_stack([which, t])[order]
    runs: list[Contour] = []
    for begin, end in zip(begins.tolist(), ends.tolist(), strict=True):
        # By one place more on either side, so that the two cuts overlap.
        stop = places[(end + 1) % len(places)]
        runs.append(_stretch(segments, degree, places[begin - 1], stop))
    return runs


def _long_runs(shared: NDArray[np.bool_], step: Floats) -> NDArray[np.bool_]:
    """Which places lie in stretches of shared ones, round the contour, that are long enough."""
    if shared.all():
        return shared
    start = int(np.flatnonzero(~shared)[0])
    turned, length = np.roll(shared, -start), np.roll(step, -start)
    number: Ints = np.cumsum(turned & ~np.r_[False, turned[:-1]]) * turned
    long = np.bincount(number, weights=length)[number] >= _LEAST
    return np.roll(turned & long, start)


def _stretch(segments: Floats, degree: Degrees, begin: Floats, end: Floats) -> Contour:
    """The part of a contour from one (segment, parameter) to another one."""
    (i, t0), (j, t1) = (int(begin[0]), float(begin[1])), (int(end[0]), float(end[1]))
    if i == j and t0 < t1:
        return Contour(part_between(segments[i], t0, t1)[None], degree[i : i + 1], False)
    inner = [k % len(segments) for k in range(i + 1, j if j > i else j + len(segments))]
    parts = [part_between(segments[i], t0, 1.0), *segments[inner]]
    degrees = [degree[i], *degree[inner]]
    if t1 > 0:
        parts.append(part_between(segments[j], 0.0, t1))
        degrees.append(degree[j])
    return Contour(np.array(parts), np.array(degrees, np.uint8), False)
