"""Which piece on a sheet is whose: a page for each sheet, each piece with the number of its row, and the names."""

from __future__ import annotations

import io
from collections import Counter
from collections.abc import Sequence
from functools import lru_cache

import shapely
from reportlab.lib.colors import HexColor
from reportlab.pdfgen.canvas import Canvas
from shapely import Polygon

from tinhalo.core.design.laying import Laying
from tinhalo.core.geometry.curves.affine import after, shift, turn
from tinhalo.core.output.items import Item
from tinhalo.core.output.paper_text import DARK, SOFT, make_ready, put_text
from tinhalo.core.output.pdf import POINTS, new_canvas, trace_onto
from tinhalo.core.output.sheets import Sheet

#: The page (ISO 216, A4, on its side), in points; its edge, and a line of the names.
_WIDTH, _HEIGHT, _EDGE, _LINE = 297 * POINTS, 210 * POINTS, 12 * POINTS, 11.0
_COLUMNS, _ROWS = 5, 44
#: Of a sheet more than what is used is shown by this, in mm.
_BESIDE = 10.0
_HEAD = 26.0
#: Numbers are no larger and no smaller than this, in points.
_LARGEST, _SMALLEST = 11.0, 4.0


def write(title: str, sheets: Sequence[Sheet], laying: Laying) -> bytes:
    """All sheets, each as large as a page takes it, and after it the names of those on it."""
    make_ready()
    held = io.BytesIO()
    canvas = new_canvas(held, title, _WIDTH, _HEIGHT)
    for sheet in sheets:
        _picture(canvas, title, sheet, laying)
        _names(canvas, sheet, laying)
    canvas.save()
    return held.getvalue()


def _picture(canvas: Canvas, title: str, sheet: Sheet, laying: Laying) -> None:
    width, height = _used(sheet), sheet.size[1]
    scale = min((_WIDTH - 2 * _EDGE) / width, (_HEIGHT - 2 * _EDGE - _HEAD) / height, POINTS)
    put_text(canvas, f"{title}: {sheet.drawing.title}", 12, _EDGE, _HEIGHT - _EDGE - 11, _WIDTH - 2 * _EDGE)
    told = f"{len(sheet.placed)} pieces, drawn 1 : {POINTS / scale:.3g}; each has the number of its name"
    put_text(canvas, told, 8, _EDGE, _HEIGHT - _EDGE - 22, _WIDTH, SOFT)
    to_points = shift(_EDGE, _HEIGHT - _EDGE - _HEAD - height * scale, scale)
    canvas.setLineWidth(0.4)
    canvas.setStrokeColor(HexColor(SOFT))
    canvas.rect(_EDGE, _HEIGHT - _EDGE - _HEAD - height * scale, width * scale, height * scale)
    canvas.setStrokeColor(HexColor(DARK))
    for layer in sheet.drawing.layers:
        for piece in layer.pieces:
            trace_onto(canvas, [one.transformed(to_points) for one in piece])
    for index in sheet.placed:
        one = laying.placed[index]
        item = sheet.board.items[one.item]
        place, room = _inside(item.hull)
        at = to_points[:, :2] @ _where(place, one.x, one.y, one.turn) + to_points[:, 2]
        size = min(_LARGEST, max(_SMALLEST, room * scale * 0.6))
        x, y = float(at[0]), float(at[1]) - size / 3
        put_text(canvas, str(item.row), size, x, y, _WIDTH, middle=True)
    canvas.showPage()


def _used(sheet: Sheet) -> float:
    """How far of it something lies, in mm, and a little more: what is empty makes the rest small."""
    every = (one for layer in sheet.drawing.layers for piece in layer.pieces for one in piece)
    ends = [float(one.segments[..., 0].max()) for one in every if len(one.segments)]
    return min(sheet.size[0], max(ends, default=0.0) + _BESIDE)


def _where(place: tuple[float, float], x: float, y: float, turned: float) -> tuple[float, float]:
    matrix = after(shift(x, y), turn(turned, 1, 1))
    moved = matrix[:, :2] @ place + matrix[:, 2]
    return float(moved[0]), float(moved[1])


def _names(canvas: Canvas, sheet: Sheet, laying: Laying) -> None:
    """Every name on it, by its number, and how many pieces it has there; on as many pages as it takes."""
    found = Counter((item.row, item.name) for item in _items(sheet, laying))
    lines = [f"{row}  {name}" + (f" × {count}" if count > 1 else "") for (row, name), count in sorted(found.items())]
    column = (_WIDTH - 2 * _EDGE) / _COLUMNS
    for begin in range(0, len(lines), _COLUMNS * _ROWS):
        for k, text in enumerate(lines[begin : begin + _COLUMNS * _ROWS]):
            x = _EDGE + (k // _ROWS) * column
            put_text(canvas, text, 9, x, _HEIGHT - _EDGE - _LINE * (k % _ROWS + 1), column - 8)
        canvas.showPage()


def _items(sheet: Sheet, laying: Laying) -> list[Item]:
    return [sheet.board.items[laying.placed[index].item] for index in sheet.placed]


@lru_cache(maxsize=4_000)
def _inside(hull: Polygon) -> tuple[tuple[float, float], float]:
    """A place well inside, and how much room there is."""
    line = shapely.maximum_inscribed_circle(hull, tolerance=0.5)
    x, y = shapely.get_coordinates(line)[0].tolist()
    return (x, y), 2 * float(line.length)
