"""Few smooth cubics through a dense polygon ring.

The vertices of a finely flattened outline lie on the true curve; this finds it again. A ring is split at its
corners and at its true straights. In each smooth run between them the longest cubic within the tolerance is
taken, then the next, greedily; neighbouring cubics share the tangent at their joint, so every joint that is not
a corner is smooth. One cubic is fitted by least squares over the lengths of its two handles, with its parameters
improved by Newton steps (P. J. Schneider, "An algorithm for automatically fitting digitized curves", Graphics
Gems, 1990), and then changed a little to keep the area. The distance is checked at the vertices and along every chord,
more often on long ones.

Compiled with numba: the same in numpy took ten times as long. The compiled code is cached on disk, and numba looks at
one file only to see whether it is out of date: so everything compiled is in this one.

In the compiled functions ``p`` is the ring (n, 2), and index i stands for vertex i modulo n; ``c`` and ``out`` hold
control points (4, 2), ``u`` the vertices' parameters, ``t`` and ``s`` the unit tangents with which a curve leaves its
start and, backwards, its end.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from numpy.typing import NDArray

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.runtime.compilation import njit

#: A turn of more than this at one vertex is a real corner.
CORNER_DEGREES = 25.0

_CORNER = math.radians(CORNER_DEGREES)
_SMOOTH_REACH = math.radians(20.0)
_STRAIGHT_AT_LEAST = 0.05
_ITERATIONS = 6


def fit_ring(ring: Floats, tolerance: float | Floats) -> Contour:
    """Fit one closed ring.

    Args:
        ring: vertices, shape (k, 2), closing point left out; smooth parts turn by a few degrees a vertex.
        tolerance: greatest distance between the curves and the ring, in the ring's unit (mm); one for all or one
            for each vertex; where it is 0, edges leave as they are.
    Returns:
        a closed contour: straights are lines, the rest cubics.
    """
    kept: NDArray[np.intp] = _settled(np.ascontiguousarray(ring))
    if len(kept) < 4:
        return Contour.of_ring(ring[kept] if len(kept) > 2 else ring)
    limits: Floats = np.ascontiguousarray(np.broadcast_to(tolerance, len(ring))[kept], np.float64)
    return Contour(*_fit(np.ascontiguousarray(ring[kept]), limits))


def fit_run(points: Floats, leaving: Floats, arriving: Floats, tolerance: float) -> Contour:
    """Fit one smooth open run.

    Args:
        points: shape (k, 2), k >= 2, turning by a few degrees a point.
        leaving: the direction with which it leaves its first point, shape (2,).
        arriving: the direction with which it arrives at its last one.
        tolerance: greatest distance between the curves and the points, in the run's unit.
    Returns:
        an open contour of cubics.
    """
    p = np.ascontiguousarray(points, np.float64)
    n = len(p)
    steps = np.zeros_like(p)
    steps[1:-1] = p[2:] - p[:-2]
    steps[0], steps[-1] = leaving, arriving
    tangents: Floats = steps / np.maximum(np.hypot(*steps.T), 1e-12)[:, None]
    found, degree = np.zeros((n + 1, 4, 2)), np.full(n + 1, 3, np.uint8)
    count = int(_fit_run(p, tangents, 0, n - 1, np.full(n, tolerance), np.zeros(n + 2), found, degree, 0))
    return Contour(found[:count].copy(), degree[:count].copy(), False)


def warm() -> None:
    """Compile, or load the compiled code, ahead of the first use."""
    t = np.linspace(0, 2 * np.pi, 60, endpoint=False)
    circle = np.stack([np.cos(t), np.sin(t)], axis=1)
    fit_ring(circle, 0.01)
    fit_run(circle[:9], np.array([0.0, 1.0]), circle[8] - circle[7], 0.01)


@njit(cache=True, nogil=True)
def _settled(p: Any) -> Any:
    """Indices without vertices that make edges far shorter than the tolerance or lie in the middle of a straight."""
    n = len(p)
    kept = np.zeros(n, np.intp)
    count = 1
    for i in range(1, n):
        a, b, c = p[kept[count - 1]], p[i], p[(i + 1) % n]
        ux, uy, vx, vy = b[0] - a[0], b[1] - a[1], c[0] - b[0], c[1] - b[1]
        size = math.hypot(ux, uy)
        if size <= 1e-4:
            continue
        # A spike that turns back on itself is no straight.
        if ux * vx + uy * vy > 0 and abs(ux * vy - uy * vx) <= 2e-6 * math.hypot(ux + vx, uy + vy):
            continue
        kept[count] = i
        count += 1
    return kept[:count]


@njit(cache=True, nogil=True)
def _turn(p: Any, i: int) -> Any:
    n = len(p)
    ax, ay = p[i, 0] - p[i - 1, 0], p[i, 1] - p[i - 1, 1]
    j = (i + 1) % n
    bx, by = p[j, 0] - p[i, 0], p[j, 1] - p[i, 1]
    return math.atan2(ax * by - ay * bx, ax * bx + ay * by)


@njit(cache=True, nogil=True)
def _is_straight(length: Any, turn: Any, i: int) -> Any:
    """An edge is a true straight if no edge longer than a quarter of it lies within 20 degrees of smooth turning."""
    n = len(length)
    size = length[i]
    if size < _STRAIGHT_AT_LEAST:
        return False
    for direction in (1, -1):
        turned = 0.0
        edge = i
        for _ in range(n):
            vertex = (edge + 1) % n if direction == 1 else edge
            if abs(turn[vertex]) > _CORNER:
                break
            turned += abs(turn[vertex])
            if turned > _SMOOTH_REACH:
                break
            edge = (edge + direction) % n
            if edge == i:
                break
            if length[edge] > size / 4:
                return False
    return True


@njit(cache=True, nogil=True)
def _circle_tangent(p: Any, i: int, j: int, k: int, at: int) -> Any:
    """Unit tangent at vertex ``at`` (0, 1 or 2 for i, j, k) of the circle through three vertices."""
    n = len(p)
    a, b, c = p[i % n], p[j % n], p[k % n]
    ux, uy = b[0] - a[0], b[1] - a[1]
    vx, vy = c[0] - b[0], c[1] - b[1]
    lu, lv = math.hypot(ux, uy), math.hypot(vx, vy)
    ux, uy, vx, vy = ux / lu, uy / lu, vx / lv, vy / lv
    # The tangent at b is the chord directions weighted by the other chord's length; at the ends it is
    # that direction mirrored on the chord.
    tx, ty = ux * lv + vx * lu, uy * lv + vy * lu
    size = math.hypot(tx, ty)
    tx, ty = tx / size, ty / size
    if at == 0:
        d = 2 * (tx * ux + ty * uy)
        tx, ty = d * ux - tx, d * uy - ty
    elif at == 2:
        d = 2 * (tx * vx + ty * vy)
        tx, ty = d * vx - tx, d * vy - ty
    return tx, ty


@njit(cache=True, nogil=True)
def _handles(p: Any, i: int, m: int, t: Any, s: Any, u: Any, total: Any, out: Any) -> None:
    """Handle lengths by least squares at the parameters u; each vertex counts for the length it stands for."""
    n = len(p)
    ax, ay, bx, by = out[0, 0], out[0, 1], out[3, 0], out[3, 1]
    c00 = c01 = c11 = x0 = x1 = 0.0
    for k in range(1, m - 1):
        weight = u[k + 1] - u[k - 1]
        v = u[k]
        w = 1 - v
        b0, b1, b2, b3 = w * w * w, 3 * w * w * v, 3 * w * v * v, v * v * v
        c00 += weight * b1 * b1
        c01 += weight * b1 * b2 * (t[0] * s[0] + t[1] * s[1])
        c11 += weight * b2 * b2
        q = p[(i + k) % n]
        rx, ry = q[0] - ax * (b0 + b1) - bx * (b2 + b3), q[1] - ay * (b0 + b1) - by * (b2 + b3)
        x0 += weight * b1 * (t[0] * rx + t[1] * ry)
        x1 += weight * b2 * (s[0] * rx + s[1] * ry)
    det = c00 * c11 - c01 * c01
    alpha = beta = -1.0
    if abs(det) > 1e-12 * c00 * c11:
        alpha = (x0 * c11 - x1 * c01) / det
        beta = (c00 * x1 - c01 * x0) / det
    chord = math.hypot(bx - ax, by - ay)
    if not (alpha > 1e-3 * chord and beta > 1e-3 * chord and alpha < 4 * total and beta < 4 * total):
        alpha = beta = total / 3
    out[1, 0], out[1, 1] = ax + alpha * t[0], ay + alpha * t[1]
    out[2, 0], out[2, 1] = bx + beta * s[0], by + beta * s[1]


@njit(cache=True, nogil=True)
def _nearer(p: Any, i: int, m: int, c: Any, u: Any, times: int) -> Any:
    """Move the parameters towards the vertices' nearest points (Newton); the greatest distance squared before that."""
    n = len(p)
    worst = 0.0
    for k in range(1, m - 1):
        t = u[k]
        q = p[(i + k) % n]
        fx = fy = 0.0
        for _ in range(times):
            w = 1 - t
            fx = w * w * w * c[0, 0] + 3 * w * w * t * c[1, 0] + 3 * w * t * t * c[2, 0] + t * t * t * c[3, 0] - q[0]
            fy = w * w * w * c[0, 1] + 3 * w * w * t * c[1, 1] + 3 * w * t * t * c[2, 1] + t * t * t * c[3, 1] - q[1]
            dx = 3 * (w * w * (c[1, 0] - c[0, 0]) + 2 * w * t * (c[2, 0] - c[1, 0]) + t * t * (c[3, 0] - c[2, 0]))
            dy = 3 * (w * w * (c[1, 1] - c[0, 1]) + 2 * w * t * (c[2, 1] - c[1, 1]) + t * t * (c[3, 1] - c[2, 1]))
            ex = 6 * (w * (c[2, 0] - 2 * c[1, 0] + c[0, 0]) + t * (c[3, 0] - 2 * c[2, 0] + c[1, 0]))
            ey = 6 * (w * (c[2, 1] - 2 * c[1, 1] + c[0, 1]) + t * (c[3, 1] - 2 * c[2, 1] + c[1, 1]))
            slope = dx * dx + dy * dy + fx * ex + fy * ey
            if slope > 1e-18:
                t -= (fx * dx + fy * dy) / slope
            t = min(max(t, 0.0), 1.0)
        u[k] = t
        worst = max(worst, fx * fx + fy * fy)
    return worst


@njit(cache=True, nogil=True)
def _keeps_to_chords(p: Any, i: int, m: int, c: Any, u: Any, total: Any, limit: Any) -> Any:
    """Whether the cubic runs forward and stays within the limit (squared) of every chord, all along it."""
    n = len(p)
    for k in range(1, m):
        if u[k] < u[k - 1]:
            return False
        q, r = p[(i + k) % n], p[(i + k - 1) % n]
        dx, dy = q[0] - r[0], q[1] - r[1]
        size = math.hypot(dx, dy)
        looks = 1 + 2 * int(12 * size / total)
        for look in range(1, looks + 1):
            t = u[k - 1] + (u[k] - u[k - 1]) * look / (looks + 1)
            w = 1 - t
            x = w * w * w * c[0, 0] + 3 * w * w * t * c[1, 0] + 3 * w * t * t * c[2, 0] + t * t * t * c[3, 0]
            y = w * w * w * c[0, 1] + 3 * w * w * t * c[1, 1] + 3 * w * t * t * c[2, 1] + t * t * t * c[3, 1]
            across = (dx * (y - r[1]) - dy * (x - r[0])) / size
            if across * across > limit:
                return False
    return True


@njit(cache=True, nogil=True)
def _match_area(p: Any, i: int, m: int, t: Any, s: Any, out: Any) -> None:
    """Change the handles as little as needed for the cubic to cut off the same area from its chord as the vertices do.

    Least squares alone is a little off to one side on most spans, which adds up on thin strokes. With the chord c and
    handles of length a, b along t, s twice the area is (6 (a t x c + b s x c) + 3 a b t x s) / 10 (Green's theorem).
    """
    n = len(p)
    ax, ay = out[0, 0], out[0, 1]
    wanted = 0.0
    for k in range(1, m):
        q, r = p[(i + k) % n], p[(i + k - 1) % n]
        wanted += (r[0] - ax) * (q[1] - ay) - (r[1] - ay) * (q[0] - ax)
    alpha0 = math.hypot(out[1, 0] - ax, out[1, 1] - ay)
    beta0 = math.hypot(out[2, 0] - out[3, 0], out[2, 1] - out[3, 1])
    cx, cy = out[3, 0] - ax, out[3, 1] - ay
    tc, sc, ts = t[0] * cy - t[1] * cx, s[0] * cy - s[1] * cx, t[0] * s[1] - t[1] * s[0]
    alpha, beta = alpha0, beta0
    for _ in range(4):
        by_alpha, by_beta = (6 * tc + 3 * beta * ts) * alpha0, (6 * sc + 3 * alpha * ts) * beta0
        slope = by_alpha * by_alpha + by_beta * by_beta
        if slope < 1e-18:
            return
        step = (6 * (alpha * tc + beta * sc) + 3 * alpha * beta * ts - 10 * wanted) / slope
        alpha -= step * by_alpha * alpha0
        beta -= step * by_beta * beta0
    if 0.7 < alpha / alpha0 < 1.4 and 0.7 < beta / beta0 < 1.4:
        out[1, 0], out[1, 1] = ax + alpha * t[0], ay + alpha * t[1]
        out[2, 0], out[2, 1] = out[3, 0] + beta * s[0], out[3, 1] + beta * s[1]


@njit(cache=True, nogil=True)
def _fit_one(p: Any, i: int, j: int, t: Any, s: Any, limits: Any, u: Any, out: Any) -> Any:
    """Fit one cubic to vertices i..j with end tangents t (leaving i) and s (leaving j, backwards).

    Writes the control points to ``out`` and returns whether it is within the tolerance.
    """
    n = len(p)
    m = j - i + 1
    tolerance = limits[i % n]
    u[0] = 0.0
    for k in range(1, m):
        tolerance = min(tolerance, limits[(i + k) % n])
        q, r = p[(i + k) % n], p[(i + k - 1) % n]
        u[k] = u[k - 1] + math.hypot(q[0] - r[0], q[1] - r[1])
    total = u[m - 1]
    for k in range(1, m):
        u[k] /= total
    limit = tolerance * tolerance
    out[0], out[3] = p[i % n], p[j % n]
    for step in range(_ITERATIONS):
        _handles(p, i, m, t, s, u, total, out)
        worst = _nearer(p, i, m, out, u, 1)
        if worst > 25 * limit and step >= 1:
            return False
    _match_area(p, i, m, t, s, out)
    return _nearer(p, i, m, out, u, 3) <= limit and _keeps_to_chords(p, i, m, out, u, total, limit)


@njit(cache=True, nogil=True)
def _one_span(p: Any, i: int, tx: Any, ty: Any, sx: Any, sy: Any, tolerance: Any, out: Any) -> None:
    """A cubic for a single edge whose handles are so short that it keeps to the edge within the tolerance."""
    n = len(p)
    a, b = p[i % n], p[(i + 1) % n]
    dx, dy = b[0] - a[0], b[1] - a[1]
    size = math.hypot(dx, dy)
    out[0, 0], out[0, 1], out[3, 0], out[3, 1] = a[0], a[1], b[0], b[1]
    # A handle of length h at angle f lifts a cubic by at most 4/9 h sin f.
    lift = abs(tx * dy - ty * dx) / size
    h = min(size / 3, tolerance / (0.9 * lift + 1e-12))
    out[1, 0], out[1, 1] = a[0] + h * tx, a[1] + h * ty
    lift = abs(sx * dy - sy * dx) / size
    h = min(size / 3, tolerance / (0.9 * lift + 1e-12))
    out[2, 0], out[2, 1] = b[0] + h * sx, b[1] + h * sy


@njit(cache=True, nogil=True)
def _line(p: Any, i: int) -> Any:
    """The edge from vertex i to the next one, in cubic form."""
    n = len(p)
    a, b = p[i % n], p[(i + 1) % n]
    out = np.zeros((4, 2))
    for k in range(4):
        out[k, 0] = a[0] + (b[0] - a[0]) * k / 3
        out[k, 1] = a[1] + (b[1] - a[1]) * k / 3
    return out


@njit(cache=True, nogil=True)
def _fit_run(p: Any, tan: Any, first: int, last: int, limits: Any, u: Any, found: Any, degree: Any, count: int) -> Any:
    """Cubics for the smooth run of vertices first..last; tan holds the tangent at each vertex (0..m-1).

    Edges with no tolerance at all leave as they are.
    """
    n = len(p)
    out = np.zeros((4, 2))
    i = first
    stride = 8
    while i < last:
        here = min(limits[i % n], limits[(i + 1) % n])
        if here == 0:
            found[count] = _line(p, i)
            degree[count] = 1
            count += 1
            i += 1
            continue
        good, bad = i + 1, last + 1
        _one_span(
            p,
            i,
            tan[i - first, 0],
            tan[i - first, 1],
            -tan[i + 1 - first, 0],
            -tan[i + 1 - first, 1],
            here,
            out,
        )
        found[count] = out
        j = min(last, i + max(2, stride))
        while good < last and bad - good > 1:
            if j > good and _fit_one(p, i, j, tan[i - first], -tan[j - first], limits, u, out):
                good = j
                found[count] = out
                j = min(last, i + 2 * (j - i)) if bad > last else (good + bad) // 2
            else:
                bad = j
                j = (good + bad) // 2
        stride = good - i
        count += 1
        i = good
    return count


@njit(cache=True, nogil=True)
def _edge_direction(p: Any, length: Any, i: int) -> Any:
    j = (i + 1) % len(p)
    return (p[j, 0] - p[i, 0]) / length[i], (p[j, 1] - p[i, 1]) / length[i]


@njit(cache=True, nogil=True)
def _leaving(p: Any, length: Any, straight: Any, corner: Any, stop: Any, i: int) -> Any:
    """Unit tangent with which the outline leaves the stop at vertex i."""
    n = len(p)
    if straight[i]:
        return _edge_direction(p, length, i)
    if not corner[i] and straight[i - 1]:
        return _edge_direction(p, length, (i - 1 + n) % n)
    if stop[(i + 1) % n]:
        return _edge_direction(p, length, i)
    return _circle_tangent(p, i, i + 1, i + 2, 0)


@njit(cache=True, nogil=True)
def _arriving(p: Any, length: Any, straight: Any, corner: Any, stop: Any, i: int) -> Any:
    """Unit tangent with which the outline arrives at the stop at vertex i."""
    n = len(p)
    before = (i - 1 + n) % n
    if straight[before]:
        return _edge_direction(p, length, before)
    if not corner[i] and straight[i]:
        return _edge_direction(p, length, i)
    if stop[before]:
        return _edge_direction(p, length, before)
    return _circle_tangent(p, i - 2 + n, i - 1 + n, i, 2)


@njit(cache=True, nogil=True)
def _settle_corners(p: Any, turn: Any, length: Any, straight: Any, corner: Any) -> None:
    """Take back corners where the curves on both sides would meet at less than a corner's turn.

    So no joint is left that is neither smooth nor a corner.
    """
    n = len(p)
    stop = np.zeros(n, np.bool_)
    for _ in range(6):
        for i in range(n):
            stop[i] = corner[i] or straight[i] or straight[i - 1]
        changed = False
        for i in range(n):
            if corner[i]:
                ax, ay = _arriving(p, length, straight, corner, stop, i)
                bx, by = _leaving(p, length, straight, corner, stop, i)
                if abs(math.atan2(ax * by - ay * bx, ax * bx + ay * by)) < _CORNER + 0.02:
                    corner[i] = False
                    changed = True
        if not changed:
            break


@njit(cache=True, nogil=True)
def _fit(p: Any, limits: Any) -> Any:
    n = len(p)
    turn = np.zeros(n)
    length = np.zeros(n)
    for i in range(n):
        turn[i] = _turn(p, i)
        j = (i + 1) % n
        length[i] = math.hypot(p[j, 0] - p[i, 0], p[j, 1] - p[i, 1])
    straight = np.zeros(n, np.bool_)
    stop = np.zeros(n, np.bool_)
    for i in range(n):
        straight[i] = _is_straight(length, turn, i)
    corner = np.abs(turn) > _CORNER
    _settle_corners(p, turn, length, straight, corner)
    any_stop = False
    for i in range(n):
        stop[i] = corner[i] or straight[i] or straight[i - 1]
        any_stop = any_stop or stop[i]
    begin = 0
    if any_stop:
        while not stop[begin]:
            begin += 1
    found = np.zeros((n + 1, 4, 2))
    degree = np.full(n + 1, 3, np.uint8)
    u = np.zeros(n + 2)
    count = 0
    i = begin
    while i < begin + n:
        if straight[i % n]:
            found[count] = _line(p, i)
            degree[count] = 1
            count += 1
            i += 1
            continue
        j = i + 1
        while j < begin + n and not stop[j % n]:
            j += 1
        tan = np.zeros((j - i + 1, 2))
        for k in range(i, j + 1):
            if i < k < j or not any_stop:
                tan[k - i] = _circle_tangent(p, k - 1 + n, k, k + 1, 1)
        if any_stop:
            tan[0] = _leaving(p, length, straight, corner, stop, i % n)
            tan[j - i] = _arriving(p, length, straight, corner, stop, j % n)
        if j - i == 1 and corner[i % n] and corner[j % n]:
            degree[count] = 1
        count = _fit_run(p, tan, i, j, limits, u, found, degree, count)
        i = j
    return found[:count].copy(), degree[:count].copy()
