"""Outlines and regions as SVG path data: mm, y turned to point down, subpaths closed but for marks."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np
from shapely import LineString, Polygon

from tinhalo.core.geometry.curves.outline import Floats
from tinhalo.core.geometry.exact.recover import Contour


def curves(contours: Iterable[Contour]) -> str:
    """Path data of closed contours with lines as L, quadratics as Q and cubics as C.

    Five decimals: handles can be as short as 0.01 mm, and their direction must survive the rounding.
    """
    return "".join(map(closed, contours))


def polygons(areas: Iterable[Polygon], decimals: int = 3) -> str:
    """Path data of flattened areas, for the screen."""
    rings = (ring for area in areas for ring in (area.exterior, *area.interiors))
    return "".join(_run(np.asarray(ring.coords)[:-1, :2], decimals) + "Z" for ring in rings)


def lines(strokes: Iterable[LineString], decimals: int = 3) -> str:
    """Path data of open lines, for the screen."""
    return "".join(_run(np.asarray(stroke.coords)[:, :2], decimals) for stroke in strokes)


def marks(ends: Floats) -> str:
    """Path data of straight open strokes, shape (n, 2, 2)."""
    return "".join(f"M{_pair(a)}L{_pair(b)}" for a, b in (ends * (1.0, -1.0)).tolist())


def closed(contour: Contour) -> str:
    """Path data of one closed contour."""
    parts = _drawn(contour)
    if contour[1][-1] == 1:
        parts.pop()
    return "".join(parts) + "Z"


def opened(contour: Contour) -> str:
    """Path data of one contour that is not closed."""
    return "".join(_drawn(contour))


def _drawn(contour: Contour) -> list[str]:
    segments, degree = contour
    flipped = segments * (1.0, -1.0)
    control = 1.5 * flipped[:, 1] - 0.5 * flipped[:, 0]
    parts = [f"M{_pair(flipped[0, 0])}"]
    for (_, p1, p2, p3), middle, kind in zip(flipped.tolist(), control.tolist(), degree.tolist(), strict=True):
        if kind == 1:
            parts.append(f"L{_pair(p3)}")
        elif kind == 2:
            parts.append(f"Q{_pair(middle)} {_pair(p3)}")
        else:
            parts.append(f"C{_pair(p1)} {_pair(p2)} {_pair(p3)}")
    return parts


def _run(points: Floats, decimals: int) -> str:
    text = np.char.mod(f"%.{decimals}f", points * (1.0, -1.0)).tolist()
    return "M" + "L".join([f"{x},{y}" for x, y in text])


def _pair(point: Floats | list[float]) -> str:
    return f"{number(point[0])},{number(point[1])}"


def number(value: float) -> str:
    """A length with five decimals at most, without trailing zeros."""
    text = f"{value:.5f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text
