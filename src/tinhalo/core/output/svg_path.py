"""Outlines and regions as SVG path data: mm, y turned to point down, subpaths closed but for strokes."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np
from shapely import LineString, Polygon

from tinhalo.core.geometry.arrays import XY, Floats
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.courses import courses
from tinhalo.core.units import number


class SvgPathPen:
    """A pen that writes path data.

    Five decimals: handles can be as short as 0.01 mm, and their direction must survive the rounding.
    """

    def __init__(self) -> None:
        self._parts: list[str] = []

    def moveTo(self, pt: XY) -> None:  # noqa: N802
        """Begin a subpath."""
        self._parts.append(f"M{_pair(pt)}")

    def lineTo(self, pt: XY) -> None:  # noqa: N802
        """A straight line."""
        self._parts.append(f"L{_pair(pt)}")

    def qCurveTo(self, handle: XY, pt: XY) -> None:  # noqa: N802
        """A quadratic."""
        self._parts.append(f"Q{_pair(handle)} {_pair(pt)}")

    def curveTo(self, first: XY, second: XY, pt: XY) -> None:  # noqa: N802
        """A cubic."""
        self._parts.append(f"C{_pair(first)} {_pair(second)} {_pair(pt)}")

    def closePath(self) -> None:  # noqa: N802
        """Close the subpath."""
        self._parts.append("Z")

    def endPath(self) -> None:  # noqa: N802
        """Leave the subpath open."""

    def data(self) -> str:
        """All that was drawn."""
        return "".join(self._parts)


def curves(contours: Iterable[Contour]) -> str:
    """Path data of contours with lines as L, quadratics as Q and cubics as C."""
    pen = SvgPathPen()
    for contour in contours:
        contour.draw(pen)
    return pen.data()


def polygons(areas: Iterable[Polygon], decimals: int = 3) -> str:
    """Path data of flattened areas, for the screen."""
    rings = (ring for area in areas for ring in (area.exterior, *area.interiors))
    return "".join(_run(np.asarray(ring.coords)[:-1, :2], decimals) + "Z" for ring in rings)


def lines(strokes: Iterable[LineString], decimals: int = 3) -> str:
    """Path data of open lines, for the screen."""
    return "".join(_run(np.asarray(stroke.coords)[:, :2], decimals) for stroke in strokes)


def marks(ends: Floats) -> str:
    """Path data of straight open strokes, shape (n, 2, 2); those that follow each other are one line."""
    return "".join(_run(points, 4) for points in courses(ends))


def _run(points: Floats, decimals: int) -> str:
    # One format for the whole run: this is half of what a quick answer costs.
    pair = f"%.{decimals}f,%.{decimals}f"
    return "M" + "L".join([pair] * len(points)) % tuple((points * (1.0, -1.0)).ravel().tolist())


def _pair(point: XY) -> str:
    return f"{number(point[0])},{number(-point[1])}"
