"""Patterns of our own, each as one tile that is repeated side by side; lengths are shares of its width, y up.

What crosses an edge of a tile is drawn at the opposite edge, too, so tiles may be clipped or not.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import cache

from tinhalo.core.design.print_fill import Motif
from tinhalo.core.geometry.arrays import XY
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.sketch import Sketch

#: Shapes in how much of the pattern's colour over the ground, painted in that order.
Figures = list[tuple[float, Sketch]]
#: Handles of half a sine's period, as a share of that: cubics cross the middle with the sine's own slope, 2 pi times
#: its height over its period.
_REACH = 4 / (3 * math.pi)


@cache
def tile(motif: Motif) -> tuple[float, tuple[tuple[float, tuple[Contour, ...]], ...]]:
    """A tile's height, and its figures: how much of the pattern's colour over the ground, and the outlines."""
    height, figures = _MOTIFS[motif]()
    return height, tuple((share, tuple(sketch.outline().contours())) for share, sketch in figures)


def _stripes() -> tuple[float, Figures]:
    # A little over the tile, so that no seam shows from one to the next.
    return 1, [(1, _box(0, -0.01, 0.5, 1.01))]


def _dots() -> tuple[float, Figures]:
    middles = [(0.5, 0.5), (0.0, 0.0), (1.0, 0.0), (0.0, 1.0), (1.0, 1.0)]
    return 1, [(1, _circle(middle, 0.17)) for middle in middles]


def _checks() -> tuple[float, Figures]:
    return 1, [(1, _box(0, 0, 0.5, 0.5)), (1, _box(0.5, 0.5, 1, 1))]


def _gingham() -> tuple[float, Figures]:
    return 1, [(0.5, _box(0, 0.5, 0.5, 1)), (0.5, _box(0.5, 0, 1, 0.5)), (1, _box(0, 0, 0.5, 0.5))]


def _diamonds() -> tuple[float, Figures]:
    return 1.6, [(1, _polygon([(0.5, 0), (1, 0.8), (0.5, 1.6), (0, 0.8)]))]


def _stars() -> tuple[float, Figures]:
    middles = [(0.5, 0.5), (0.0, 0.0), (1.0, 0.0), (0.0, 1.0), (1.0, 1.0)]
    return 1, [(1, _star(middle, 0.24)) for middle in middles]


def _waves() -> tuple[float, Figures]:
    """A band between two sines, half as high as the tile."""
    height, rise = 0.6, 0.11
    band = Sketch().start(0, 0.15)
    _sine(band, 0.15, rise, 1)
    band.line(1, 0.45)
    _sine(band, 0.45, rise, -1)
    return height, [(1, band.close())]


def _sine(pen: Sketch, middle: float, rise: float, way: int) -> None:
    """One period, to the right or back, as two cubics through its crossings."""
    x = pen.here[0]
    for up in (1, -1):
        first, second = x + way * 0.5 * _REACH, x + way * 0.5 * (1 - _REACH)
        high = middle + way * up * rise * 4 / 3
        pen.curve((first, high), (second, high), (x + way * 0.5, middle))
        x += way * 0.5


def _box(x0: float, y0: float, x1: float, y1: float) -> Sketch:
    return _polygon([(x0, y0), (x1, y0), (x1, y1), (x0, y1)])


def _polygon(points: list[XY]) -> Sketch:
    sketch = Sketch().start(*points[0])
    for point in points[1:]:
        sketch.line(*point)
    return sketch.close()


def _circle(middle: XY, radius: float) -> Sketch:
    return Sketch().start(middle[0] + radius, middle[1]).arc(middle, (radius, radius), 0, 360).close()


def _star(middle: XY, radius: float) -> Sketch:
    """Five points; the inner corners of a pentagram are at (3 - sqrt 5) / 2 of its radius."""
    inner = (3 - math.sqrt(5)) / 2 * radius
    corners: list[XY] = []
    for k in range(10):
        r, angle = (radius, inner)[k % 2], math.radians(90 + 36 * k)
        corners.append((middle[0] + r * math.cos(angle), middle[1] + r * math.sin(angle)))
    return _polygon(corners)


_MOTIFS: dict[Motif, Callable[[], tuple[float, Figures]]] = {
    "stripes": _stripes,
    "dots": _dots,
    "checks": _checks,
    "gingham": _gingham,
    "diamonds": _diamonds,
    "stars": _stars,
    "waves": _waves,
}
