"""Outlines changed at their nodes: some taken out, stretches straightened or evened out, all of it made simpler.

A *node* is where a segment begins; nodes are counted through all contours of an outline. A *stretch* is a run of nodes
of one contour next to each other, with the segments between them.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Sequence
from dataclasses import replace
from itertools import groupby
from typing import TypeAlias

import numpy as np
import shapely

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.bezier import part_between, straight
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.evening import evened, resampled
from tinhalo.core.geometry.curves.fitting import fit_ring, fit_run
from tinhalo.core.geometry.curves.outline import Outline, followed

#: Points nearer than this are the same, in mm.
_SAME = 1e-9
#: Evened stretches are fitted within this share of how far they are evened out.
_FIT = 0.04
#: Points of an evened stretch for each such length, and at most in all.
_FINE, _MOST = 6, 6_000

#: Nodes of a contour: the first, and how many segments go on from there.
Stretch: TypeAlias = tuple[int, int]


def stretches(taken: Collection[int], count: int) -> list[Stretch]:
    """Runs of two nodes or more next to each other on a contour of ``count`` nodes; all of them go round it once."""
    chosen = sorted(set(taken))
    if len(chosen) == count:
        return [(0, count)]
    if not chosen:
        return []
    # Begun after a gap, no run goes over the end.
    begin = next(i for i in chosen if (i - 1) % count not in chosen)
    turned = sorted((i - begin) % count for i in chosen)
    runs = [[i for _, i in group] for _, group in groupby(enumerate(turned), lambda one: one[1] - one[0])]
    return [((run[0] + begin) % count, len(run) - 1) for run in runs if len(run) > 1]


def without_nodes(outline: Outline, nodes: Collection[int]) -> Outline:
    """Nodes taken out: what was on both sides is one curve, near what was there, or one line where both were lines.

    A contour that has fewer than two nodes left goes as a whole, and one of lines with fewer than three.
    """

    def change(contour: Contour, taken: set[int]) -> Contour | None:
        count = len(contour.segments)
        kept = [i for i in range(count) if i not in taken]
        lines = bool((contour.degree == 1).all())
        if len(kept) < (3 if lines else 2):
            return None
        made = [
            _section(contour, first, (after - first) % count or count)
            for first, after in zip(kept, [*kept[1:], kept[0]], strict=True)
        ]
        return _joined([one if len(one.segments) == 1 else _as_one(one) for one in made])

    return _changed(outline, nodes, change)


def with_node(outline: Outline, segment: int, at: float) -> Outline:
    """A node more, at a parameter of a segment: the curve stays (de Casteljau)."""
    one, degree = outline.segments[segment], outline.degree[segment]
    halves = np.stack([part_between(one, 0, at), part_between(one, at, 1)])
    segments = np.concatenate([outline.segments[:segment], halves, outline.segments[segment + 1 :]])
    degrees = np.insert(outline.degree, segment, degree)
    return Outline(segments, degrees, outline.starts + (outline.starts > segment))


def smoothed(outline: Outline, nodes: Collection[int]) -> Outline:
    """Nodes where the outline turns no more: both handles on one line, each as long as it was."""

    def change(contour: Contour, i: int) -> None:
        before, after = contour.segments[i - 1], contour.segments[i]
        way = _arriving(before) + _leaving(after)
        if np.hypot(*way) < 1e-6:
            way = after[3] - before[0]
        way = _unit(way)
        before[2] = after[0] - way * np.hypot(*(before[3] - before[2]))
        after[1] = after[0] + way * np.hypot(*(after[1] - after[0]))

    return _at_each(outline, nodes, change)


def cornered(outline: Outline, nodes: Collection[int]) -> Outline:
    """Nodes that are corners: each handle points to the next node of its side."""

    def change(contour: Contour, i: int) -> None:
        before, after = contour.segments[i - 1], contour.segments[i]
        before[2] = before[3] + (before[0] - before[3]) / 3
        after[1] = after[0] + (after[3] - after[0]) / 3

    return _at_each(outline, nodes, change)


def straightened(outline: Outline, nodes: Collection[int]) -> Outline:
    """Every stretch as one straight line between its ends; a whole contour stays."""

    def line(run: Contour) -> Contour:
        return Contour(straight(run.segments[:1, 0], run.segments[-1:, 3]), np.ones(1, np.uint8), False)

    return _stretched(outline, nodes, line, lambda contour: contour)


def evened_out(outline: Outline, nodes: Collection[int], reach: float) -> Outline:
    """Every stretch evened out along its way, by what lies within about ``reach`` mm; its ends stay."""
    tolerance = reach * _FIT

    def dense(contour: Contour) -> tuple[Floats, float]:
        line = followed(contour, tolerance / 2)
        length = float(np.hypot(*np.diff(line, axis=0).T).sum())
        step = max(min(reach, length / 4) / _FINE, length / _MOST, _SAME)
        return resampled(line[:-1] if contour.closed else line, step, closed=contour.closed), step

    def run(contour: Contour) -> Contour:
        points, step = dense(contour)
        if len(points) < 3:
            return contour
        made = evened(points, reach / step, closed=False)
        return fit_run(made, made[1] - made[0], made[-1] - made[-2], tolerance)

    def ring(contour: Contour) -> Contour:
        points, step = dense(contour)
        return fit_ring(evened(points, reach / step, closed=True), tolerance)

    return _stretched(outline, nodes, run, ring)


def simplified(outline: Outline, within: float) -> Outline:
    """The same with fewer nodes, nowhere further than ``within`` mm from what it was.

    What has no fewer nodes then stays as it is, and so does what would cross itself or another contour.
    """
    before = outline.contours()
    made = [_simpler(one, within) for one in before]
    # Changed ones are put back until none crosses another.
    while crossing := [i for i in _crossing(made) if made[i] is not before[i]]:
        for i in crossing:
            made[i] = before[i]
    return Outline.from_contours(made)


def deviation(before: Outline, after: Outline) -> float:
    """The largest distance of a point of the one from the other, both ways, in mm; 0 where either has nothing."""
    if not len(before.segments) or not len(after.segments):
        return 0.0
    x0, y0, x1, y1 = before.bounds()
    fine = max(x1 - x0, y1 - y0, 1e-3)
    dense = [_dense(one, fine) for one in (before, after)]
    return max(_furthest(dense[0], dense[1]), _furthest(dense[1], dense[0]))


def _simpler(contour: Contour, within: float) -> Contour:
    own = Outline.from_contours([contour])
    ring = own.flattened(max(within / 20, 1e-4))[0]
    if len(ring) < 4:
        return contour
    # What is uneven by less than half of it is no corner; the other half is the curves'.
    plainer = shapely.get_coordinates(shapely.simplify(shapely.linearrings(ring), within / 2))[:-1]
    tries = [fit_ring(ring, within)]
    if len(plainer) >= 4:
        tries += [fit_ring(plainer, within / 2), Contour.of_ring(plainer)]
    for one in sorted(tries, key=lambda made: len(made.segments)):
        if len(one.segments) >= len(contour.segments):
            break
        candidate = Outline.from_contours([one])
        if len(one.segments) > 1 and not _crossing([one]) and deviation(own, candidate) <= within:
            return one
    return contour


def _crossing(contours: Sequence[Contour]) -> list[int]:
    """Contours that cross themselves or another."""
    rings = Outline.from_contours(contours).flattened(0.002, 10.0)
    lines = np.array([shapely.linearrings(ring) if len(ring) >= 3 else None for ring in rings], object)
    bad = set(np.flatnonzero(~np.asarray(shapely.is_simple(lines))).tolist())
    one, other = shapely.STRtree(lines).query(lines, predicate="intersects")
    return sorted(bad | set(one[one != other].tolist()))


def _dense(outline: Outline, size: float) -> list[Floats]:
    return [
        shapely.get_coordinates(shapely.segmentize(shapely.linearrings(ring), size / 800))
        for ring in outline.flattened(size * 2e-6)
        if len(ring) >= 3
    ]


def _furthest(points: list[Floats], lines: list[Floats]) -> float:
    if not points or not lines:
        return 0.0
    edges = np.concatenate([np.stack([line[:-1], line[1:]], axis=1) for line in lines])
    tree = shapely.STRtree(np.asarray(shapely.linestrings(edges)))
    _, far = tree.query_nearest(shapely.points(np.concatenate(points)), return_distance=True, all_matches=False)
    return float(far.max())


def _as_one(run: Contour) -> Contour:
    """One segment near several, which leaves and arrives as they do."""
    start, end = run.segments[0, 0], run.segments[-1, 3]
    if (run.degree == 1).all() or np.hypot(*(end - start)) < 1e-9:
        return Contour(straight(start[None], end[None]), np.ones(1, np.uint8), False)
    line = followed(run, np.hypot(*(end - start)) * 1e-3)
    points = resampled(line, np.hypot(*np.diff(line, axis=0).T).sum() / 60, closed=False)
    ends = _leaving(run.segments[0]), _arriving(run.segments[-1])
    return Contour(_least_squares(points, *ends)[None], np.full(1, 3, np.uint8), False)


def _least_squares(points: Floats, leaving: Floats, arriving: Floats) -> Floats:
    """The cubic, shape (4, 2), nearest to points at parameters by their way (Schneider 1990), with given directions."""
    along = np.concatenate([[0], np.cumsum(np.hypot(*np.diff(points, axis=0).T))])
    t = (along / along[-1])[:, None]
    a, b = points[0], points[-1]
    b1, b2 = 3 * (1 - t) ** 2 * t, 3 * (1 - t) * t**2
    rest = points - a * ((1 - t) ** 3 + b1) - b * (t**3 + b2)
    matrix = np.stack([(b1 * leaving).ravel(), (b2 * -arriving).ravel()], axis=1)
    lengths: Floats = np.asarray(np.linalg.lstsq(matrix, rest.ravel(), rcond=None)[0], float)
    # Handles that point backwards, or far beyond, make loops.
    first, second = np.clip(lengths, along[-1] * 0.01, along[-1]).tolist()
    return np.stack([a, a + first * leaving, b - second * arriving, b])


def _changed(
    outline: Outline, nodes: Collection[int], change: Callable[[Contour, set[int]], Contour | None]
) -> Outline:
    """Every contour that has some of these nodes, changed; None takes it out."""
    taken = np.array(sorted(set(nodes)), np.intp)
    made: list[Contour] = []
    for contour, first, end in zip(outline.contours(), outline.starts[:-1], outline.starts[1:], strict=True):
        own = set((taken[(taken >= first) & (taken < end)] - first).tolist())
        one = change(contour, own) if own else contour
        if one is not None:
            made.append(one)
    return Outline.from_contours(made)


def _at_each(outline: Outline, nodes: Collection[int], change: Callable[[Contour, int], None]) -> Outline:
    """Both segments at each of these nodes changed in place, as cubics."""

    def at_each(contour: Contour, taken: set[int]) -> Contour:
        made = replace(contour, segments=contour.segments.copy(), degree=contour.degree.copy())
        for i in sorted(taken):
            made.degree[[i - 1, i]] = 3
            change(made, i)
        return made

    return _changed(outline, nodes, at_each)


def _stretched(
    outline: Outline,
    nodes: Collection[int],
    run: Callable[[Contour], Contour],
    ring: Callable[[Contour], Contour],
) -> Outline:
    """Every stretch replaced, and whole contours where all of their nodes are taken."""

    def change(contour: Contour, taken: set[int]) -> Contour:
        count = len(contour.segments)
        if len(taken) == count:
            return ring(contour)
        made: list[Contour] = []
        here = 0
        found = stretches(taken, count)
        # From the first stretch on, so that none goes over the end.
        offset = found[0][0] if found else 0
        for first, size in sorted(((first - offset) % count, size) for first, size in found):
            made += [_section(contour, here + offset, first - here), run(_section(contour, first + offset, size))]
            here = first + size
        return _joined([*made, _section(contour, here + offset, count - here)])

    return _changed(outline, nodes, change)


def _section(contour: Contour, first: int, size: int) -> Contour:
    """So many segments from a node on."""
    at = np.arange(first, first + size) % len(contour.segments)
    return Contour(contour.segments[at], contour.degree[at], False)


def _joined(runs: Sequence[Contour]) -> Contour:
    kept = [one for one in runs if len(one.segments)]
    return Contour(np.concatenate([one.segments for one in kept]), np.concatenate([one.degree for one in kept]))


def _leaving(segment: Floats) -> Floats:
    """The direction of a cubic at its start: to the first control point that lies elsewhere."""
    away = segment[1:] - segment[0]
    return _unit(away[np.argmax(np.hypot(*away.T) > _SAME)])


def _arriving(segment: Floats) -> Floats:
    """The direction of a cubic at its end."""
    return -_leaving(segment[::-1])


def _unit(way: Floats) -> Floats:
    size = np.hypot(*way)
    return way / size if size > 1e-12 else np.array([1.0, 0.0])
