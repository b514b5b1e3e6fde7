"""What a drawing file draws: contours, some of them open, before they become areas."""

from __future__ import annotations

import numpy as np

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.outline import Outline

Segment = tuple[complex, complex, complex, complex]


class Track:
    """Contours drawn one after the other; points are complex numbers in the file's own unit."""

    def __init__(self) -> None:
        self._done: list[tuple[list[Segment], list[int], bool, complex]] = []
        self._segments: list[Segment] = []
        self._degree: list[int] = []
        self._here = self._start = 0j
        self._begun = False

    def move(self, to: complex) -> None:
        """Begin a contour; the one before stays open."""
        self._end(closed=False)
        self._here = self._start = to
        self._begun = True

    def line(self, to: complex) -> None:
        """A straight line."""
        here = self._here
        self._add((here, here + (to - here) / 3, to + (here - to) / 3, to), 1)

    def quadratic(self, handle: complex, to: complex) -> None:
        """A quadratic curve."""
        here = self._here
        self._add((here, here + (handle - here) * 2 / 3, to + (handle - to) * 2 / 3, to), 2)

    def cubic(self, first: complex, second: complex, to: complex) -> None:
        """A cubic curve."""
        self._add((self._here, first, second, to), 3)

    def close(self) -> None:
        """End the contour where it began; what follows begins there."""
        if self._here != self._start:
            self.line(self._start)
        self._end(closed=True)
        self._here = self._start

    def contours(self) -> list[Contour]:
        """Everything drawn so far; contours of no length are those that are a single point."""
        self._end(closed=False)
        made: list[Contour] = []
        for segments, degree, closed, start in self._done:
            points = segments or [(start,) * 4]
            pairs: Floats = np.array([[(p.real, p.imag) for p in one] for one in points], float)
            made.append(Contour(pairs, np.array(degree or [1], np.uint8), closed))
        return made

    def _add(self, segment: Segment, degree: int) -> None:
        self._begun = True
        self._segments.append(segment)
        self._degree.append(degree)
        self._here = segment[3]

    def _end(self, *, closed: bool) -> None:
        if self._segments or (self._begun and closed):
            self._done.append((self._segments, self._degree, closed, self._start))
        self._segments, self._degree, self._begun = [], [], False


def closed_up(contours: list[Contour]) -> Outline:
    """All contours as areas have them: open ones end where they began; those of no length are left out."""
    made: list[Contour] = []
    for one in contours:
        begin, end = one.segments[0, 0], one.segments[-1, 3]
        segments, degree = one.segments, one.degree
        if (begin != end).any():
            ways = np.linspace(0, 1, 4)[:, None]
            segments = np.concatenate([segments, (end + (begin - end) * ways)[None]])
            degree = np.append(degree, np.uint8(1))
        if np.ptp(segments, axis=(0, 1)).max() > 0:
            made.append(Contour(segments, degree))
    return Outline.from_contours(made)
