"""Items larger than a sheet, split into parts that overlap, with marks to join them by."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import replace

import numpy as np
import shapely
from shapely import LineString, Polygon
from shapely.geometry.base import BaseGeometry

from tinhalo.core.geometry.arrays import Box
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.fill import filled_nonzero
from tinhalo.core.geometry.curves.outline import Outline, followed
from tinhalo.core.geometry.curves.precision import EXACT
from tinhalo.core.geometry.exact.recover import trace
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.output.drawing import DrawnLayer
from tinhalo.core.output.lining_up import mark_layer

#: Half the length of a mark's lines, and how far beside the job it stands, in mm.
ARM, BESIDE = 3.0, 5.0


def parts_of(
    layers: tuple[DrawnLayer, ...], box: Box, room: tuple[float, float], overlap: float
) -> Iterator[tuple[DrawnLayer, ...]]:
    """What is in a box, in as few parts as fit in a room, which overlap by so many mm; row by row from the top left.

    Args:
        layers: of one item.
        box: of all of it.
        room: width and height of what a sheet takes, which may lie either way.
        overlap: of parts that lie beside each other.
    """
    width, height = box[2] - box[0], box[3] - box[1]
    # Marks stand beside it.
    ways = [(a - 2 * (BESIDE + ARM), b - 2 * (BESIDE + ARM)) for a, b in (room, room[::-1])]
    counts = [(_count(width, a, overlap), _count(height, b, overlap)) for a, b in ways]
    columns, rows = min(counts, key=lambda one: one[0] * one[1])
    xs = _cuts(box[0], box[2], columns, overlap)
    ys = _cuts(box[1], box[3], rows, overlap)
    marks = _marks(box, xs, ys, overlap)
    for y0, y1 in reversed(ys):
        for x0, x1 in xs:
            cell = shapely.box(x0, y0, x1, y1)
            near = cell.buffer(BESIDE + 1, join_style="mitre")
            own = [mark for mark in marks if near.covers(shapely.Point(mark))]
            made = [_clipped(layer, cell) for layer in layers]
            kept = [one for one in made if one.pieces or one.strokes]
            if kept:
                crosses = _crosses(own)
                yield (*([mark_layer(crosses)] if crosses else []), *kept)


def _count(length: float, room: float, overlap: float) -> int:
    if length <= room:
        return 1
    return math.ceil((length - overlap) / (room - overlap)) if room > overlap else 10_000


def _cuts(low: float, high: float, count: int, overlap: float) -> list[tuple[float, float]]:
    """From where to where each part goes: all alike."""
    size = (high - low + overlap * (count - 1)) / count
    return [(low + k * (size - overlap), low + k * (size - overlap) + size) for k in range(count)]


def _marks(
    box: Box, xs: list[tuple[float, float]], ys: list[tuple[float, float]], overlap: float
) -> list[tuple[float, float]]:
    """In the middle of every overlap, beside the job at both ends of it."""
    made: list[tuple[float, float]] = []
    for start, _ in xs[1:]:
        made += [(start + overlap / 2, y) for y in (box[1] - BESIDE, box[3] + BESIDE)]
    for start, _ in ys[1:]:
        made += [(x, start + overlap / 2) for x in (box[0] - BESIDE, box[2] + BESIDE)]
    return made


def _crosses(places: list[tuple[float, float]]) -> list[Contour]:
    ways = ((ARM, 0.0), (0.0, ARM))
    ends = [[[x - a, y - b], [x + a, y + b]] for x, y in places for a, b in ways]
    return Contour.of_strokes(np.array(ends)) if ends else []


def _clipped(layer: DrawnLayer, cell: Polygon) -> DrawnLayer:
    """What of a layer lies in a cell: rings that lie in it whole keep their curves."""
    pieces: list[tuple[Contour, ...]] = []
    for piece in layer.pieces:
        outline = Outline.from_contours(piece)
        area = shapely.union_all(np.array(filled_nonzero(outline.flattened(EXACT.chord)), object))
        if cell.covers(area):
            pieces.append(piece)
        elif cell.intersects(area):
            cut = trace(Region.of(shapely.intersection(area, cell), (outline,)))
            pieces += [tuple(one) for one in cut.pieces()]
    strokes = [part for stroke in layer.strokes for part in _lines(stroke, cell)]
    return replace(layer, pieces=tuple(pieces), strokes=tuple(strokes))


def _lines(stroke: Contour, cell: Polygon) -> list[Contour]:
    line = LineString(followed(stroke, EXACT.chord))
    if cell.covers(line):
        return [stroke]
    inside: BaseGeometry = line.intersection(cell)
    ends = [np.asarray(part.coords) for part in shapely.get_parts(inside).tolist() if isinstance(part, LineString)]
    return [one for part in ends for one in Contour.of_strokes(np.stack([part[:-1], part[1:]], axis=1))]
