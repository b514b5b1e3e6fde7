"""Draw an outline by hand: lines, arcs and curves from point to point."""

from __future__ import annotations

import math

import numpy as np

from tinhalo.core.geometry.arrays import XY, Floats
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.curves.recorder import Recorder

#: An arc is drawn as cubics that each turn by no more than this: an eighth of a circle is true to 4 millionths.
_TURN = math.pi / 4
#: Points nearer than this are one.
_NOTHING = 1e-9


class Sketch(Recorder):
    """A pen that also draws arcs, and may be told one thing after the other; angles in degrees, counter-clockwise."""

    def start(self, x: float, y: float) -> Sketch:
        """Begin a contour."""
        self.moveTo((x, y))
        return self

    def line(self, x: float, y: float) -> Sketch:
        """A straight line; none of (all but) no length."""
        if math.dist(self.here, (x, y)) > _NOTHING:
            self.lineTo((x, y))
        return self

    def curve(self, a: XY, b: XY, to: XY) -> Sketch:
        """A cubic with these handles."""
        self.curveTo(a, b, to)
        return self

    def arc(self, middle: XY, radii: XY, begin: float, end: float) -> Sketch:
        """Part of an ellipse from one angle to another, clockwise where it ends at a smaller one.

        The handles of a part that turns by t are 4/3 tan(t/4) radii long: the middle of the part is exact then.
        """
        rx, ry = radii
        if rx <= 0 or ry <= 0:
            return self
        count = max(1, math.ceil(abs(math.radians(end - begin)) / _TURN - 1e-9))
        angles = np.radians(np.linspace(begin, end, count + 1))
        reach = 4 / 3 * math.tan((angles[1] - angles[0]) / 4)
        c, s = np.cos(angles), np.sin(angles)
        points: Floats = np.stack([middle[0] + rx * c, middle[1] + ry * s], axis=1)
        ways = np.stack([-rx * s, ry * c], axis=1) * reach
        self.line(*points[0].tolist())
        for i in range(count):
            a, b = points[i] + ways[i], points[i + 1] - ways[i + 1]
            self.curve(*(tuple(p.tolist()) for p in (a, b, points[i + 1])))
        return self

    def bulge(self, to: XY, height: float) -> Sketch:
        """A circle's arc to a point, that rises ``height`` over the straight line, to its right."""
        (x0, y0), (x1, y1) = self.here, to
        half = math.dist(self.here, to) / 2
        radius = (half**2 + height**2) / (2 * height)
        across = ((y1 - y0) / (2 * half), (x0 - x1) / (2 * half))
        middle = (
            (x0 + x1) / 2 + across[0] * (height - radius),
            (y0 + y1) / 2 + across[1] * (height - radius),
        )
        begin = math.degrees(math.atan2(y0 - middle[1], x0 - middle[0]))
        end = math.degrees(math.atan2(y1 - middle[1], x1 - middle[0]))
        return self.arc(middle, (radius, radius), begin, end if end > begin else end + 360)

    def close(self) -> Sketch:
        """End the contour where it began."""
        self.line(*self._start)
        # What is left is of the arithmetic: the contour ends exactly where it began.
        if self._segments:
            self._segments[-1][3] = self.here = self._start
        self.closePath()
        return self


def polygon(points: list[XY]) -> Outline:
    """A closed contour of straight lines."""
    sketch = Sketch().start(*points[0])
    for point in points[1:]:
        sketch.line(*point)
    return sketch.close().outline()


def fitted(outline: Outline, width: float, height: float) -> Outline:
    """An outline stretched to exactly that width and height, in mm, with the middle of its box at the origin."""
    x0, y0, x1, y1 = outline.bounds()
    scale = np.array([width / (x1 - x0), height / (y1 - y0)])
    middle = np.array([x0 + x1, y0 + y1]) / 2
    return Outline((outline.segments - middle) * scale, outline.degree, outline.starts)
