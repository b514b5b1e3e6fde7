"""Outlines of a picture's ink: lines of equal darkness, their corners found again, smoothed between them, and fitted.

The line where a picture is halfway dark lies within a few tenths of a pixel of the edge that was drawn, also in
pictures that are noisy. Corners come out rounded, as every pixel is a mean: they are put back where straight lines
through what lies on either side of them meet.
"""

from __future__ import annotations

import contourpy
import numpy as np
import shapely
from numpy.typing import NDArray

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.evening import evened, resampled
from tinhalo.core.geometry.curves.fitting import fit_ring
from tinhalo.core.geometry.curves.outline import Outline, cross

#: Distance of the points that a line is followed by, in pixels.
_STEP = 0.5
#: Corners turn by more than this, in degrees, between lines through what is near on either side (pixels from, to).
_CORNER = 35.0
_NEAR = (1.0, 4.0)
_NEARER = (1.0, 2.5)
#: Of a corner's turn so much is seen within a shorter way; of a bend that is only tight less is.
_SUDDEN = 0.72
#: A corner lies no further from the line than this, in pixels.
_MOST_BEYOND = 2.0
#: Points nearer to a corner than this are of its rounding, in pixels.
_ROUNDED = 1.3
#: Curves keep to the smoothed line within this, in pixels.
TOLERANCE = 0.28


def contours_at(ink: Floats, level: float, smooth: float) -> list[Contour]:
    """Closed contours around everything that is at least so dark, in pixels, y down.

    Args:
        ink: darkness, shape (h, w); pixel (0, 0) reaches from 0 to 1.
        level: the darkness at the edge.
        smooth: how far along the line it is evened out, in pixels.
    """
    low = float(min(ink.min(), level - 1e-3))
    padded = np.pad(ink, 1, constant_values=low)
    lines = contourpy.contour_generator(z=padded, name="serial").lines(level)
    made: list[Contour] = []
    for line in lines:
        ring = np.asarray(line, float)[:-1] - 0.5
        if len(ring) >= 4 and (one := _fitted(ring, smooth)) is not None:
            made.append(one)
    return made


def _fitted(ring: Floats, smooth: float) -> Contour | None:
    """Few curves along a line; None where nothing is left of it."""
    for points, tolerance in (
        (followed(ring, smooth), TOLERANCE * max(1.0, smooth)),
        # In a narrow bay corners can be put beyond the other side.
        (evened(resampled(ring, _STEP, closed=True), smooth / _STEP, closed=True), TOLERANCE / 2),
    ):
        fitted = fit_ring(points, tolerance)
        flat = Outline.from_contours([fitted]).flattened(0.05) if len(fitted.segments) > 1 else []
        if flat and len(flat[0]) >= 3 and shapely.is_simple(shapely.linearrings(flat[0])):
            return fitted
    return Contour.of_ring(ring)


def followed(ring: Floats, smooth: float) -> Floats:
    """A line of equal darkness as it was drawn: with its corners, and smooth between them; shape (k, 2)."""
    points = resampled(ring, _STEP, closed=True)
    if len(points) < 24:
        return points
    corners, places = _corners(points)
    if not len(corners):
        return evened(points, smooth / _STEP, closed=True)
    made: list[Floats] = []
    skip = int(_ROUNDED / _STEP)
    for (begin, at), (end, to) in zip(
        zip(corners, places, strict=True),
        zip(np.r_[corners[1:], corners[0] + len(points)], np.r_[places[1:], places[:1]], strict=True),
        strict=True,
    ):
        inner = np.asarray(np.arange(int(begin) + skip, int(end) - skip + 1) % len(points), np.intp)
        run = np.vstack([at, points[inner], to]) if end - begin > 2 * skip else np.vstack([at, to])
        made.append(evened(resampled(run, _STEP, closed=False), smooth / _STEP, closed=False)[:-1])
    return np.concatenate(made)


def _directions(points: Floats, way: tuple[float, float], sign: int) -> tuple[Floats, Floats]:
    """Directions and middles of least-squares lines through the points that far before (-1) or after (1) each."""
    offsets = sign * np.arange(round(way[0] / _STEP), round(way[1] / _STEP) + 1)
    # One neighbour of all points after the other: sums over a few numbers each take three times as long.
    window = [np.roll(points, -offset, axis=0) for offset in offsets.tolist()]
    middle = np.add.reduce(window) / len(window)
    off = [one - middle for one in window]
    (xx, yy), xy = np.add.reduce([one**2 for one in off]).T, np.add.reduce([one[:, 0] * one[:, 1] for one in off])
    angle = 0.5 * np.arctan2(2 * xy, xx - yy)
    direction = np.stack([np.cos(angle), np.sin(angle)], axis=1)
    chord = (window[-1] - window[0]) * sign
    return direction * np.where((direction * chord).sum(1) < 0, -1.0, 1.0)[:, None], middle


def _turns(before: Floats, after: Floats) -> Floats:
    """Angles between directions, in degrees."""
    return np.degrees(np.arctan2(cross(before, after), (before * after).sum(1)))


def _corners(points: Floats) -> tuple[NDArray[np.intp], Floats]:
    """Indices of the points at corners, in order, and where the corners are."""
    before, first = _directions(points, _NEAR, -1)
    after, second = _directions(points, _NEAR, 1)
    turn = np.abs(_turns(before, after))
    sudden = np.abs(_turns(_directions(points, _NEARER, -1)[0], _directions(points, _NEARER, 1)[0]))
    reach = round(_NEAR[1] / _STEP)
    around = np.stack([np.roll(turn, k) for k in range(-reach, reach + 1)])
    peak = (turn >= around.max(axis=0)) & (turn > _CORNER) & (sudden > _SUDDEN * turn)
    found = np.flatnonzero(peak)
    if len(found) > 1:
        # Of two with the same turn the first.
        found = found[np.diff(np.r_[found[-1] - len(points), found]) > reach // 2]
    sine = cross(before, after)
    found = found[np.abs(sine[found]) >= 1e-3]
    along = (cross(second - first, after)[found] / sine[found])[:, None]
    places = first[found] + along * before[found]
    kept = np.hypot(*(places - points[found]).T) <= _MOST_BEYOND
    return np.asarray(found[kept], np.intp), places[kept]
