"""Closed outlines made of lines, quadratic and cubic Bézier segments, in numpy.

An ``Outline`` is what a font draws, what a union of glyphs gives back and what leaves in a file. Every segment
is stored as four control points (lines and quadratics raised to cubic form), because one array lets all segments
be transformed, flattened and measured at once; ``degree`` remembers what each segment was, so that it leaves as
what it came.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import cast

import numpy as np

from tinhalo.core.geometry.arrays import Degrees, Floats, Ints
from tinhalo.core.geometry.curves.bezier import points_at
from tinhalo.core.geometry.curves.contour import Contour

#: Smooth curves are never flattened into turns larger than this, so that a turn of ``CORNER_DEGREES`` or more
#: in a flattened outline always is a real corner, whatever the size of the curve.
MAX_TURN_DEGREES = 4.0

#: Length of the first and last chord of a curve, as a share of its other chords.
_END_SHARE = 1 / 16
#: Vertices closer than this to the one before them are left out.
_REPEAT = 1e-7

_GAUSS_NODES, _GAUSS_WEIGHTS = np.polynomial.legendre.leggauss(12)


@dataclass(frozen=True)
class Outline:
    """Closed contours of Bézier segments.

    Attributes:
        segments: shape (n, 4, 2), control points in cubic form; each contour's end is its start.
        degree: shape (n,), 1, 2 or 3: what the segment was before it was raised to cubic form.
        starts: shape (m + 1,), index of each contour's first segment, closed by n.
    """

    segments: Floats
    degree: Degrees
    starts: Ints

    @staticmethod
    def empty() -> Outline:
        """An outline without contours."""
        return Outline(np.zeros((0, 4, 2)), np.zeros(0, np.uint8), np.zeros(1, np.intp))

    @staticmethod
    def from_contours(contours: Iterable[Contour]) -> Outline:
        """Join contours; those without segments are left out."""
        kept = [one for one in contours if len(one.segments)]
        if not kept:
            return Outline.empty()
        starts = np.concatenate([[0], np.cumsum([len(one.segments) for one in kept])]).astype(np.intp)
        return Outline(np.concatenate([c.segments for c in kept]), np.concatenate([c.degree for c in kept]), starts)

    @staticmethod
    def joined(outlines: Sequence[Outline]) -> Outline:
        """All contours of several outlines, in order."""
        filled = [o for o in outlines if len(o.segments)]
        if not filled:
            return Outline.empty()
        before = np.cumsum([0, *(len(o.segments) for o in filled[:-1])])
        ends = np.concatenate([o.starts[1:] for o in filled]) + np.repeat(before, [len(o.starts) - 1 for o in filled])
        segments = np.concatenate([o.segments for o in filled])
        return Outline(segments, np.concatenate([o.degree for o in filled]), np.append(0, ends))

    def contours(self) -> list[Contour]:
        """Each contour by itself."""
        spans = zip(self.starts[:-1], self.starts[1:], strict=True)
        return [Contour(self.segments[a:b], self.degree[a:b]) for a, b in spans]

    def transformed(self, matrix: Floats) -> Outline:
        """Apply an affine map, shape (2, 3): x' = m00 x + m01 y + m02, and y' alike."""
        return Outline(self.segments @ matrix[:, :2].T + matrix[:, 2], self.degree, self.starts)

    @cached_property
    def areas(self) -> Floats:
        """Signed area of each contour (counter-clockwise positive), exact for the curves.

        Green's theorem, 1/2 of the integral of x dy - y dx, worked out for cubics in Bernstein form: a weighted
        sum of the cross products of the control points.
        """
        p = self.segments
        per_segment = (
            6 * cross(p[:, 0], p[:, 1])
            + 3 * cross(p[:, 0], p[:, 2])
            + cross(p[:, 0], p[:, 3])
            + 3 * cross(p[:, 1], p[:, 2])
            + 3 * cross(p[:, 1], p[:, 3])
            + 6 * cross(p[:, 2], p[:, 3])
        ) / 20
        return _sum_by(per_segment, self.starts)

    @property
    def length(self) -> float:
        """Total length, by 12-point Gauss-Legendre quadrature of the speed of each segment."""
        if not len(self.segments):
            return 0.0
        p = self.segments
        t = ((_GAUSS_NODES + 1) / 2)[None, :, None]
        d = (
            3 * (1 - t) ** 2 * (p[:, None, 1] - p[:, None, 0])
            + 6 * (1 - t) * t * (p[:, None, 2] - p[:, None, 1])
            + 3 * t**2 * (p[:, None, 3] - p[:, None, 2])
        )
        return float((np.hypot(d[..., 0], d[..., 1]) @ _GAUSS_WEIGHTS).sum() / 2)

    def flattened(self, tolerance: float, max_turn: float = MAX_TURN_DEGREES) -> list[Floats]:
        """Rings as vertex arrays, shape (k, 2), the closing point left out.

        Args:
            tolerance: greatest distance between chord and curve, in the outline's own unit.
            max_turn: greatest turn between neighbouring chords of one smooth segment, in degrees.

        The number of chords follows from the second differences of the control points (Wang's bound:
        n >= sqrt(d (d - 1) M / (8 tolerance)), d the degree, M their largest size).
        """
        p = self.segments
        if not len(p):
            return []
        second = np.maximum(
            np.hypot(*(p[:, 0] - 2 * p[:, 1] + p[:, 2]).T), np.hypot(*(p[:, 1] - 2 * p[:, 2] + p[:, 3]).T)
        )
        by_chord = np.ceil(np.sqrt(6 * second / (8 * tolerance)))
        by_turn = np.ceil(1.5 * _control_turn(p) / np.radians(max_turn))
        curved = self.degree > 1
        n = np.where(curved, np.maximum(1, np.maximum(by_chord, by_turn)), 1).astype(np.intp)
        # Both ends of a curve get one more, short chord: it has the curve's own direction there, on which the
        # corners of an offset depend.
        count = n + 2 * curved
        first = np.concatenate([[0], np.cumsum(count)])
        which = np.repeat(np.arange(len(n)), count)
        place: Ints = np.arange(len(which)) - first[which]
        step = np.where(curved[which], place - 1.0, place)
        step = np.where(curved[which] & (place == 0), 0.0, step)
        step = np.where(curved[which] & (place == 1), _END_SHARE, step)
        step = np.where(curved[which] & (place == n[which] + 1), n[which] - _END_SHARE, step)
        t: Floats = np.true_divide(step, n[which])[:, None]
        points = points_at(p[which], t)
        begin, end = first[self.starts[:-1]], first[self.starts[1:]]
        before = np.arange(len(points)) - 1
        before[begin] = end - 1
        kept = np.abs(points - points[before]).max(axis=1) > _REPEAT
        counts = np.add.reduceat(kept, begin, dtype=np.intp)
        return np.split(points[kept], np.cumsum(counts)[:-1])

    def bounds(self) -> tuple[float, float, float, float]:
        """Exact (min x, min y, max x, max y) of the curves; raises ValueError when there are none."""
        if not len(self.segments):
            raise ValueError("an empty outline has no bounds")
        p = self.segments
        points = [p[:, 0], p[:, 3]]
        a = p[:, 3] - 3 * p[:, 2] + 3 * p[:, 1] - p[:, 0]
        b = 2 * (p[:, 2] - 2 * p[:, 1] + p[:, 0])
        c = p[:, 1] - p[:, 0]
        with np.errstate(divide="ignore", invalid="ignore"):
            root = np.sqrt(b * b - 4 * a * c)
            # Where the quadratic term vanishes the extreme is that of a parabola.
            roots = [(-b + root) / (2 * a), (-b - root) / (2 * a), -c / b]
        for t in roots:
            inside = np.where(np.isfinite(t) & (t > 0) & (t < 1), t, 0.0)
            points.append(points_at(p, inside))
        every = np.concatenate(points)
        low, high = every.min(axis=0), every.max(axis=0)
        return (float(low[0]), float(low[1]), float(high[0]), float(high[1]))

    @property
    def nbytes(self) -> int:
        """Memory held by the arrays, in bytes."""
        return self.segments.nbytes + self.degree.nbytes + self.starts.nbytes


def followed(contour: Contour, tolerance: float) -> Floats:
    """Points along a contour from its beginning to its end, shape (k, 2), k >= 2; a closed one ends where it began."""
    (ring,) = Outline.from_contours([contour]).flattened(tolerance)
    start, end = contour.segments[:1, 0], contour.segments[-1:, 3]
    # Taken for closed, a single line back to its beginning is no ring.
    inner = ring[(ring != start).any(axis=1) & (ring != end).any(axis=1)]
    return np.vstack([start, inner, start if contour.closed else end])


def cross(a: Floats, b: Floats) -> Floats:
    """Cross products of vectors, shape (n, 2) each."""
    return a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0]


def _sum_by(values: Floats, starts: Ints) -> Floats:
    total = np.concatenate([[0.0], np.cumsum(values)])
    return cast(Floats, total[starts[1:]] - total[starts[:-1]])


def _control_turn(p: Floats) -> Floats:
    """Total turning of each control polygon, in radians; it bounds the turning of the curve."""
    legs = np.diff(p, axis=1)
    size = np.hypot(legs[..., 0], legs[..., 1])
    turn = np.zeros(len(p))
    for i, j in ((0, 1), (1, 2), (0, 2)):
        a, b = legs[:, i], legs[:, j]
        angle = np.abs(np.arctan2(cross(a, b), (a * b).sum(axis=1)))
        # The direct turn from first to last leg only counts where the middle leg has no length.
        counted = (size[:, i] > 0) & (size[:, j] > 0) & ((j - i == 1) | (size[:, 1] == 0))
        turn += np.where(counted, angle, 0.0)
    return turn
