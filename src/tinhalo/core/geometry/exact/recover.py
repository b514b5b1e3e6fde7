"""The outline that leaves: a flattened region turned back into few, smooth curves.

A ring that still is a contour of the font keeps the font's own curves. Every other ring is fitted. The result is
then looked at as a whole: where a ring crosses itself or touches another it is fitted again, closer, until none does.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import LinearRing, LineString, Polygon, STRtree

from tinhalo.core.geometry.arrays import Floats, Ints
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.fitting import fit_ring
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.curves.precision import EXACT
from tinhalo.core.geometry.curves.unite import unite
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.regions.windows import boxes_of

#: Greatest distance between what leaves and what was computed, in mm. What was computed is itself flattened to
#: 0.0015 mm: together they stay within the 0.02 mm that the product promises.
FIT_TOLERANCE = 0.016

_OWN_CURVES_WITHIN = 0.01
_ROUNDS = 7
_CLOSER_ROUNDS = 3
_CLOSER = 0.4
_REFIT_REACH = 0.5
_APART = 2e-4
_RUN = 200


@dataclass(frozen=True)
class CutOutline:
    """What leaves for one layer.

    Attributes:
        outline: closed contours in mm, y up; shells run counter-clockwise, holes clockwise, and the shell of
            a piece stands before its holes.
        piece: index of the piece that each contour belongs to.
    """

    outline: Outline
    piece: Ints

    @property
    def area(self) -> float:
        """Area in mm², exact for the curves."""
        return float(self.outline.areas.sum())

    @property
    def nbytes(self) -> int:
        """Memory held, in bytes."""
        return self.outline.nbytes + self.piece.nbytes

    def pieces(self) -> list[list[Contour]]:
        """The contours of each piece, its shell first."""
        out: dict[int, list[Contour]] = {}
        for index, contour in zip(self.piece.tolist(), self.outline.contours(), strict=True):
            out.setdefault(index, []).append(contour)
        return list(out.values())


def trace(region: Region, tolerance: float = FIT_TOLERANCE) -> CutOutline:
    """Curves for a region that was computed at ``EXACT`` precision.

    Args:
        region: what leaves.
        tolerance: greatest distance of a fitted curve from the region's rings, in mm.
    """
    rings = region.rings()
    own = _OwnCurves(region.drawn)
    limits = [np.full(len(ring), tolerance) for _, ring in rings]
    contours: list[Contour] = []
    for _, ring in rings:
        kept = own.matching(ring)
        contours.append(kept if kept is not None else fit_ring(ring, tolerance))
    for round_number in range(_ROUNDS + 1):
        entangled = _entangled(contours)
        for index, places in entangled.items():
            ring = rings[index][1]
            if round_number == _ROUNDS:
                # The ring itself crosses nothing.
                contours[index] = Contour.of_ring(ring)
                continue
            away = np.hypot(*(ring[:, None] - places[None]).transpose(2, 0, 1)).min(axis=1)
            # Two sides of a notch a hair wide only stay apart as the straight edges they were computed as.
            limits[index][away < _REFIT_REACH] *= _CLOSER if round_number < _CLOSER_ROUNDS else 0.0
            contours[index] = fit_ring(ring, limits[index])
        if not entangled:
            break
    piece = np.array([index for index, _ in rings], np.intp)
    first = np.concatenate([[True], piece[1:] != piece[:-1]]) if len(piece) else np.zeros(0, bool)
    turned = [_directed(c, ccw=bool(is_shell)) for c, is_shell in zip(contours, first, strict=True)]
    return CutOutline(Outline.from_contours(turned), piece)


class _OwnCurves:
    """Contours of the united art, to be recognised among a region's rings."""

    def __init__(self, drawn: Sequence[Outline]) -> None:
        united = unite(drawn, _grain(drawn)) if drawn else Outline.empty()
        self._contours = united.contours()
        self._areas = np.abs(united.areas)
        self._rings = united.flattened(EXACT.chord)
        self._bounds = np.array([[*r.min(axis=0), *r.max(axis=0)] for r in self._rings]).reshape(-1, 4)

    def matching(self, ring: Floats) -> Contour | None:
        """The contour that the ring is a flattening of, if any."""
        if not self._contours:
            return None
        bounds = np.concatenate([ring.min(axis=0), ring.max(axis=0)])
        near = np.abs(self._bounds - bounds).max(axis=1) < 2 * _OWN_CURVES_WITHIN
        area = Polygon(ring).area
        length = np.hypot(*(ring - np.roll(ring, 1, axis=0)).T).sum()
        near &= np.abs(self._areas - area) < _OWN_CURVES_WITHIN * length
        for index in np.flatnonzero(near):
            if _close(ring, self._rings[index]) and _close(self._rings[index], ring):
                return self._contours[index]
        return None


def _close(points: Floats, ring: Floats) -> bool:
    line = LinearRing(ring)
    shapely.prepare(line)
    return bool(np.all(shapely.dwithin(line, shapely.points(points), _OWN_CURVES_WITHIN)))


def _grain(drawn: Sequence[Outline]) -> float:
    reach = max((float(np.abs(o.segments).max()) for o in drawn if len(o.segments)), default=1.0)
    return max(reach, 1.0) / 20_000


def _entangled(contours: Sequence[Contour]) -> dict[int, Floats]:
    """Contours that cross themselves or come closer to another than a fifth of a micrometre: index to places (k, 2)."""
    rings = Outline.from_contours(contours).flattened(0.001, 10.0)
    lines = np.array([LinearRing(ring) if len(ring) >= 3 else None for ring in rings], object)
    bad = {int(i) for i in np.flatnonzero(~shapely.is_simple(lines))}
    runs, owner = _runs(rings)
    a, b = STRtree(runs).query(runs, predicate="dwithin", distance=_APART)
    bad |= {int(i) for i in owner[a[owner[a] != owner[b]]]}
    return _places(rings, sorted(bad)) if bad else {}


def _runs(rings: Sequence[Floats]) -> tuple[NDArray[np.object_], Ints]:
    """Rings as lines, long ones in several, and the ring of each: GEOS compares all of a line with all of another."""
    runs: list[LineString] = []
    owner: list[int] = []
    for index, ring in enumerate(rings):
        closed = np.concatenate([ring, ring[:1]])
        for start in range(0, len(ring), _RUN) if len(ring) >= 3 else ():
            runs.append(LineString(closed[start : start + _RUN + 1]))
            owner.append(index)
    return np.array(runs, object), np.array(owner, np.intp)


def _places(rings: Sequence[Floats], bad: Sequence[int]) -> dict[int, Floats]:
    """Where the bad rings meet themselves or each other; all over, where no place is found."""
    starts = np.concatenate([rings[i] for i in bad])
    ends = np.concatenate([np.roll(rings[i], -1, axis=0) for i in bad])
    owner = np.repeat(bad, [len(rings[i]) for i in bad])
    length: Floats = np.hypot(*(ends - starts).T)
    along = np.cumsum(length)
    total = np.bincount(owner, length)
    edges = np.asarray(shapely.linestrings(np.stack([starts, ends], axis=1)))
    boxes = np.concatenate([np.minimum(starts, ends) - _APART, np.maximum(starts, ends) + _APART], axis=1)
    a, b = STRtree(edges).query(boxes_of(boxes))
    size = np.array([len(ring) for ring in rings])[owner[a]]
    apart = np.abs(a - b)
    # Nearly all pairs are an edge with itself or the next one, which the library need not look at.
    others = (owner[a] != owner[b]) | (np.minimum(apart, size - apart) > 1)
    a, b = a[others], b[others]
    near = np.asarray(shapely.dwithin(edges[a], edges[b], _APART), bool)
    a, b = a[near], b[near]
    touching = shapely.intersects(edges[a], edges[b])
    # Edges that follow each other closely are near one another by nature.
    way = np.abs(along[a] - along[b])
    way = np.minimum(way, total[owner[a]] - way)
    meets = (owner[a] != owner[b]) | touching | (way - np.maximum(length[a], length[b]) > 10 * _APART)
    middle = (starts + ends) / 2
    found: dict[int, Floats] = {}
    for i in bad:
        at = middle[a[meets & (owner[a] == i)]]
        found[i] = at if len(at) else rings[i]
    return found


def _directed(contour: Contour, *, ccw: bool) -> Contour:
    return contour if (Outline.from_contours([contour]).areas[0] > 0) == ccw else contour.reversed()
