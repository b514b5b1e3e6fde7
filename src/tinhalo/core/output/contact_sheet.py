"""Several designs, or one in its colour ways, side by side on one page."""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from math import ceil

from tinhalo.core.engine.built import Build
from tinhalo.core.output.drawing import Drawing
from tinhalo.core.output.paper_text import DARK, SOFT, make_ready, put_text
from tinhalo.core.output.pdf import POINTS, new_canvas
from tinhalo.core.output.proof import PAPERS, Paper
from tinhalo.core.output.shown import put_within, scale_within, seen
from tinhalo.core.units import Unit, length

#: So many are still large enough to be told from each other on one page.
MOST_SHOWN = 60
#: In mm: the page's edge, its head, what lies between two pictures, and the two lines under each.
_EDGE, _HEAD, _GAP, _LINES = 15.0, 17.0, 5.0, 10.0


@dataclass(frozen=True)
class Shown:
    """One of them: what it is called, the piece, and its size as it is told."""

    name: str
    drawing: Drawing
    size: str

    @classmethod
    def of(cls, name: str, build: Build) -> Shown:
        """A built design under a name."""
        return cls(name, seen(build), _size(build, build.design.unit))


def _size(build: Build, unit: Unit) -> str:
    if build.finished is None:
        return "nothing in it"
    x0, y0, x1, y1 = build.finished
    return f"{length(x1 - x0, unit)} × {length(y1 - y0, unit)}"


def write(title: str, shown: Sequence[Shown], made: date, paper: Paper = "a4", *, one_scale: bool = False) -> bytes:
    """The page as PDF.

    Args:
        title: its head.
        shown: at least one and at most ``MOST_SHOWN``.
        made: the day.
        paper: the page.
        one_scale: whether all are drawn to one scale, or each as large as there is room.
    """
    make_ready()
    held = io.BytesIO()
    width, height = PAPERS[paper]
    canvas = new_canvas(held, title, width * POINTS, height * POINTS)
    room = width - 2 * _EDGE
    top = height - _EDGE
    put_text(canvas, title, 18, _EDGE * POINTS, (top - 5) * POINTS, room * POINTS)
    told = f"{made.day} {made:%B %Y}"
    drawn = [one.drawing for one in shown if one.drawing.page]
    columns = _columns(drawn, len(shown), room, top - _HEAD - _EDGE)
    wide, high = _cell(len(shown), columns, room, top - _HEAD - _EDGE)
    scale = min((scale_within(one, wide, high) for one in drawn), default=None) if one_scale else None
    if scale:
        told = f"{told} · drawn {_ratio(scale)}"
    put_text(canvas, told, 9, _EDGE * POINTS, (top - 10) * POINTS, room * POINTS, SOFT)
    for index, one in enumerate(shown):
        x = _EDGE + index % columns * (wide + _GAP)
        y = top - _HEAD - index // columns * (high + _LINES + _GAP)
        if one.drawing.page:
            put_within(canvas, one.drawing, (x, y - high, x + wide, y), scale)
        for line, (text, size, colour) in enumerate(((one.name, 9, DARK), (one.size, 8, SOFT))):
            place = (x + wide / 2) * POINTS, (y - high - 5 - 3.8 * line) * POINTS
            put_text(canvas, text, size, *place, wide * POINTS, colour, middle=True)
    canvas.showPage()
    canvas.save()
    return held.getvalue()


def _cell(count: int, columns: int, wide: float, high: float) -> tuple[float, float]:
    """The room for a picture, in mm."""
    rows = ceil(count / columns)
    return (wide - (columns - 1) * _GAP) / columns, (high - (rows - 1) * _GAP) / rows - _LINES


def _columns(drawn: Sequence[Drawing], count: int, wide: float, high: float) -> int:
    """The number of columns in which most of the page is drawn on."""

    def area(columns: int) -> float:
        cell = _cell(count, columns, wide, high)
        if min(cell) <= 0:
            return 0.0
        return sum(scale_within(one, *cell) ** 2 * one.size[0] * one.size[1] for one in drawn)

    return max(range(1, count + 1), key=area)


def _ratio(scale: float) -> str:
    return f"1 : {1 / scale:.3g}" if scale < 1 else f"{scale:.3g} : 1"
