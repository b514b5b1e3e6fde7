"""One contour, closed or open, and the pens that walk it.

A pen has the methods of fontTools' segment pens, so that theirs can be used, too: ``moveTo``, ``lineTo``, ``qCurveTo``
(one handle, then the end), ``curveTo`` (two handles, then the end), and ``closePath`` or ``endPath``.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

import numpy as np

from tinhalo.core.geometry.arrays import XY, Degrees, Floats
from tinhalo.core.geometry.curves.bezier import quadratic_handles, straight


class Pen(Protocol):
    """What a contour is drawn with, in the contour's own unit."""

    def moveTo(self, pt: XY, /) -> None:  # noqa: N802
        """Begin."""
        ...

    def lineTo(self, pt: XY, /) -> None:  # noqa: N802
        """A straight line."""
        ...

    def qCurveTo(self, handle: XY, pt: XY, /) -> None:  # noqa: N802
        """A quadratic."""
        ...

    def curveTo(self, first: XY, second: XY, pt: XY, /) -> None:  # noqa: N802
        """A cubic."""
        ...

    def closePath(self) -> None:  # noqa: N802
        """End where it began."""
        ...

    def endPath(self) -> None:  # noqa: N802
        """End where it is."""
        ...


@dataclass(frozen=True, eq=False)
class Contour:
    """Bézier segments, each beginning where the one before ends.

    Attributes:
        segments: shape (n, 4, 2), control points in cubic form.
        degree: shape (n,), 1, 2 or 3: what each segment was before it was raised to cubic form.
        closed: whether it ends where it begins, around an area.
    """

    segments: Floats
    degree: Degrees
    closed: bool = True

    @staticmethod
    def of_ring(ring: Floats) -> Contour:
        """A polygon ring, shape (k, 2), closing point left out."""
        return Contour(straight(ring, np.roll(ring, -1, axis=0)), np.ones(len(ring), np.uint8))

    @staticmethod
    def of_strokes(ends: Floats) -> list[Contour]:
        """Straight open strokes, shape (n, 2, 2)."""
        one = np.ones(1, np.uint8)
        return [Contour(line[None], one, False) for line in straight(ends[:, 0], ends[:, 1])]

    def reversed(self) -> Contour:
        """The same the other way round."""
        return Contour(np.ascontiguousarray(self.segments[::-1, ::-1]), self.degree[::-1].copy(), self.closed)

    def transformed(self, matrix: Floats) -> Contour:
        """The same after an affine map, shape (2, 3)."""
        return Contour(self.segments @ matrix[:, :2].T + matrix[:, 2], self.degree, self.closed)

    def draw(self, pen: Pen) -> None:
        """Draw it; the last line of a closed one is left to ``closePath``."""
        handles = quadratic_handles(self.segments).tolist()
        points = self.segments.tolist()
        pen.moveTo(points[0][0])
        last = len(points) - 1
        for number, ((_, p1, p2, p3), handle, kind) in enumerate(
            zip(points, handles, self.degree.tolist(), strict=True)
        ):
            if kind == 1:
                if number < last or not self.closed:
                    pen.lineTo(p3)
            elif kind == 2:
                pen.qCurveTo(handle, p3)
            else:
                pen.curveTo(p1, p2, p3)
        if self.closed:
            pen.closePath()
        else:
            pen.endPath()

    @property
    def nbytes(self) -> int:
        """Memory held by the arrays, in bytes."""
        return self.segments.nbytes + self.degree.nbytes
