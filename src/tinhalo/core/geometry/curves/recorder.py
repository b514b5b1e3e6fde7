"""A pen that keeps what it is told: what fonts, path engines and our own shapes draw becomes an outline."""

from __future__ import annotations

import numpy as np

from tinhalo.core.geometry.arrays import XY
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.outline import Outline


class Recorder:
    """A pen, see ``contour``; every contour is closed.

    Args:
        most: so many curves are kept, and ``is_full`` says that there were more.
    """

    def __init__(self, most: int | None = None) -> None:
        self._most = most
        self._count = 0
        self._contours: list[Contour] = []
        self._segments: list[list[XY]] = []
        self._degree: list[int] = []
        self.here = self._start = (0.0, 0.0)

    def moveTo(self, pt: XY) -> None:  # noqa: N802
        """Begin a contour; the one before is closed."""
        self.closePath()
        self.here = self._start = pt

    def lineTo(self, pt: XY) -> None:  # noqa: N802
        """A straight line; none of no length."""
        if pt != self.here:
            self._add([self.here, _third(self.here, pt), _third(pt, self.here), pt], 1)

    def qCurveTo(self, handle: XY, pt: XY) -> None:  # noqa: N802
        """A quadratic."""
        self._add([self.here, _third(self.here, handle, 2), _third(pt, handle, 2), pt], 2)

    def curveTo(self, first: XY, second: XY, pt: XY) -> None:  # noqa: N802
        """A cubic."""
        self._add([self.here, first, second, pt], 3)

    def closePath(self) -> None:  # noqa: N802
        """End the contour where it began."""
        self.lineTo(self._start)
        if self._segments:
            self._contours.append(Contour(np.array(self._segments, float), np.array(self._degree, np.uint8)))
        self._segments, self._degree = [], []

    endPath = closePath  # noqa: N815

    def _add(self, segment: list[XY], degree: int) -> None:
        self._count += 1
        if self.is_full:
            return
        self._segments.append(segment)
        self._degree.append(degree)
        self.here = segment[3]

    @property
    def is_full(self) -> bool:
        """Whether there was more than it may keep."""
        return self._most is not None and self._count > self._most

    def outline(self) -> Outline:
        """Everything drawn so far."""
        self.closePath()
        return Outline.from_contours(self._contours)


def _third(a: XY, b: XY, count: int = 1) -> XY:
    """The point that is one or two thirds of the way from one to another."""
    return (a[0] + (b[0] - a[0]) * count / 3, a[1] + (b[1] - a[1]) * count / 3)
