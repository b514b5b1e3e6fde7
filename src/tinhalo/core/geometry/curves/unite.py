"""Unite overlapping outlines with their curves kept (skia-pathops)."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import pathops
import shapely
from numpy.typing import NDArray

from tinhalo.core.geometry.curves.outline import Floats, Outline

Point = tuple[float, float]


def unite(outlines: Sequence[Outline], grain: float) -> Outline:
    """The non-zero union of closed outlines as non-overlapping contours.

    Args:
        outlines: contours in mm; direction matters (non-zero winding, as fonts are filled).
        grain: mm per unit handed to the path engine, which computes in single precision; outlines a few
            thousand units across keep their shape to far below a thousandth of a millimetre.
    Returns:
        contours whose even-odd filling is the union. Lines, quadratics and cubics stay what they were.
        The engine fails on rare inputs: callers compare the result with an independent union.
    """
    contours = [Outline.from_contours([c]) for outline in outlines for c in outline.contours()]
    return Outline.joined([_unite_together(group, grain) for group in _groups(contours)])


def _unite_together(outlines: Sequence[Outline], grain: float) -> Outline:
    path = pathops.Path()
    for outline in outlines:
        _draw(path, outline, 1 / grain)
    path.simplify(fix_winding=True, keep_starting_points=False)
    return _read(path, grain)


def _groups(contours: Sequence[Outline]) -> list[list[Outline]]:
    """Contours whose boxes overlap, directly or through others: the engine's time grows with the square of each."""
    if not contours:
        return []
    low = np.array([c.segments.min(axis=(0, 1)) for c in contours])
    high = np.array([c.segments.max(axis=(0, 1)) for c in contours])
    boxes = shapely.box(low[:, 0], low[:, 1], high[:, 0], high[:, 1])
    clumps = shapely.get_parts(shapely.disjoint_subset_union_all(boxes))
    which, clump = shapely.STRtree(clumps).query(boxes, predicate="intersects")
    groups: dict[int, list[Outline]] = {}
    for contour, group in zip(which, clump, strict=True):
        groups.setdefault(int(group), []).append(contours[int(contour)])
    return list(groups.values())


def _draw(path: pathops.Path, outline: Outline, scale: float) -> None:
    pen = path.getPen(allow_open_paths=False)
    for segments, degree in outline.contours():
        scaled = (segments * scale).tolist()
        pen.moveTo(scaled[0][0])
        for (p0, p1, p2, p3), kind in zip(scaled, degree.tolist(), strict=True):
            if kind == 1:
                pen.lineTo(p3)
            elif kind == 2:
                pen.qCurveTo((1.5 * p1[0] - 0.5 * p0[0], 1.5 * p1[1] - 0.5 * p0[1]), p3)
            else:
                pen.curveTo(p1, p2, p3)
        pen.closePath()


def _read(path: pathops.Path, grain: float) -> Outline:
    contours: list[tuple[Floats, NDArray[np.uint8]]] = []
    segments: list[list[Point]] = []
    degree: list[int] = []
    start = here = (0.0, 0.0)
    for verb, points in path:
        if verb == pathops.PathVerb.MOVE:
            start = here = points[0]
            continue
        closing = verb == pathops.PathVerb.CLOSE
        end = start if closing else points[-1]
        if closing or verb == pathops.PathVerb.LINE:
            if end != here:
                segments.append([here, _mix(here, end, 1 / 3), _mix(here, end, 2 / 3), end])
                degree.append(1)
        elif verb == pathops.PathVerb.QUAD:
            segments.append([here, _mix(here, points[0], 2 / 3), _mix(end, points[0], 2 / 3), end])
            degree.append(2)
        else:
            segments.append([here, *points])
            degree.append(3)
        here = end
        if closing and segments:
            points_mm: Floats = np.array(segments, np.float64) * grain
            contours.append((points_mm, np.array(degree, np.uint8)))
            segments, degree = [], []
    return Outline.from_contours(contours)


def _mix(a: Point, b: Point, t: float) -> Point:
    return (a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t)
