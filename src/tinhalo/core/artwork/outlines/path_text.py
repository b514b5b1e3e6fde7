"""Outlines as text in a document: path data of SVG (SVG 2, section 9.3) with M, L, C and Z only, in mm, y up.

A document says where every node is, so that nodes can be moved in it. Quadratics are raised to cubics, which is exact.
"""

from __future__ import annotations

import re
from functools import lru_cache

import numpy as np

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.bezier import straight
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.units import number

MOST_NODES = 20_000
#: No point lies further from the origin, in mm.
MOST_FAR = 20_000
_NUMBER = r"[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?"
_PART = re.compile(rf"\s*(?:([MLC])((?:[\s,]*{_NUMBER})+)|(Z))\s*")
_TAKES = {"M": 2, "L": 2, "C": 6}


class PathTextError(ValueError):
    """A text is no outline; the message says why."""


@lru_cache(maxsize=32)
def read_outline(text: str) -> Outline:
    """The outline that a text describes.

    Raises:
        PathTextError: where it is none; the message ends a sentence.
    """
    contours: list[Contour] = []
    points: list[Floats] = []
    kinds: list[int] = []
    at = nodes = 0
    while at < len(text):
        found = _PART.match(text, at)
        if not found:
            raise PathTextError(f"it is no path data from character {at + 1} on: only M, L, C and Z are known")
        at = found.end()
        command, numbers, closing = found.groups()
        if closing:
            if points:
                contours.append(_closed(points, kinds))
            points, kinds = [], []
            continue
        values = np.array(re.findall(_NUMBER, numbers), float)
        if not np.isfinite(values).all() or np.abs(values).max() > MOST_FAR:
            raise PathTextError("some of its points are too far away")
        takes = _TAKES[command]
        if len(values) % takes or (command == "M" and (len(values) != 2 or points)) or (command != "M" and not points):
            raise PathTextError(f"its path data breaks off before character {at + 1}")
        given = values.reshape(-1, 2)
        points.extend(given)
        kinds += [0 if command == "M" else 1 if command == "L" else 3] * (len(values) // takes)
        nodes += len(values) // takes
        if nodes > MOST_NODES:
            raise PathTextError(f"it has more than {MOST_NODES:,} nodes")
    if points:
        raise PathTextError("its last ring is not closed")
    return Outline.from_contours(contours)


def _closed(points: list[Floats], kinds: list[int]) -> Contour:
    here = points[0]
    segments: list[Floats] = []
    degree: list[int] = []
    at = 1
    for kind in kinds[1:]:
        end = points[at + (2 if kind == 3 else 0)]
        segments.append(
            np.stack([here, points[at], points[at + 1], end]) if kind == 3 else straight(here[None], end[None])[0]
        )
        degree.append(kind)
        here, at = end, at + kind
    if not np.array_equal(here, points[0]) or not segments:
        segments.append(straight(here[None], points[0][None])[0])
        degree.append(1)
    return Contour(np.array(segments), np.array(degree, np.uint8))


def write_outline(outline: Outline) -> str:
    """The text of an outline, to a hundred-thousandth of a millimetre."""
    made: list[str] = []
    for contour in outline.contours():
        start = _pair(contour.segments[0, 0])
        made.append(f"M{start}")
        last = len(contour.segments) - 1
        for i, (segment, degree) in enumerate(zip(contour.segments, contour.degree.tolist(), strict=True)):
            # Back at the start to the digit: a reader tells from that whether a line is missing.
            end = start if i == last else _pair(segment[3])
            if degree > 1:
                made.append(f"C{_pair(segment[1])} {_pair(segment[2])} {end}")
            elif i < last:
                made.append(f"L{end}")
        made.append("Z")
    return "".join(made)


def _pair(point: Floats) -> str:
    return f"{number(point[0])},{number(point[1])}"
