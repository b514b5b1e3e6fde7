"""Open marks that follow each other: found together as the lines they were, and drawn with few curves."""

from __future__ import annotations

from itertools import pairwise

import numpy as np

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.fitting import fit_ring, fit_run
from tinhalo.core.geometry.curves.outline import cross

#: Ends nearer than this are one, in mm.
_SAME = 1e-6
#: Neighbours that turn by more than this, in degrees, meet in a corner: smooth lines are followed by far smaller turns.
_CORNER = 20.0


def courses(marks: Floats) -> list[Floats]:
    """Marks, shape (n, 2, 2), as the points of each line, shape (k, 2): one begins where the one before did not end."""
    if not len(marks):
        return []
    breaks = np.flatnonzero(np.abs(marks[1:, 0] - marks[:-1, 1]).max(axis=1) > _SAME) + 1
    return [np.vstack([run[:, 0], run[-1:, 1]]) for run in np.split(marks, breaks)]


def marks_along(lines: list[Floats]) -> Floats:
    """The straight marks of lines given by their points, shape (n, 2, 2)."""
    pairs = [np.stack([line[:-1], line[1:]], axis=1) for line in lines if len(line) > 1]
    return np.concatenate([np.zeros((0, 2, 2)), *pairs])


def drawn(marks: Floats, tolerance: float) -> list[Contour]:
    """Marks as contours, nearer than ``tolerance`` mm; a line that ends where it begins is closed."""
    return [_drawn(points, tolerance) for points in courses(marks)]


def _drawn(points: Floats, tolerance: float) -> Contour:
    if len(points) == 2:
        return Contour.of_strokes(points[None])[0]
    if len(points) > 3 and np.abs(points[0] - points[-1]).max() <= _SAME:
        return fit_ring(points[:-1], tolerance)
    steps = np.diff(points, axis=0)
    turns = np.degrees(np.abs(np.arctan2(cross(steps[:-1], steps[1:]), (steps[:-1] * steps[1:]).sum(axis=1))))
    corners = [0, *(np.flatnonzero(turns > _CORNER) + 1).tolist(), len(points) - 1]
    parts = [_smooth(points[a : b + 1], tolerance) for a, b in pairwise(corners)]
    return Contour(
        np.concatenate([one.segments for one in parts]), np.concatenate([one.degree for one in parts]), False
    )


def _smooth(points: Floats, tolerance: float) -> Contour:
    """A run without corners."""
    if len(points) == 2:
        return Contour.of_strokes(points[None])[0]
    return fit_run(points, points[1] - points[0], points[-1] - points[-2], tolerance)
