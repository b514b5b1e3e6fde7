"""A PDF of the page at 1:1 on sheets of an office printer, with a ruler to check the scale by.

Sheets overlap; crosses stand at the same places of the job on neighbouring sheets, to be laid upon each other. Sheets
that nothing lies on are left out; the others keep their names.
"""

from __future__ import annotations

import io
import math
from dataclasses import dataclass

import numpy as np
import shapely
from reportlab.pdfgen.canvas import Canvas
from shapely import LineString, Polygon
from shapely.geometry.base import BaseGeometry

from tinhalo.core.design.hand_over import HandOver, TilePaper, Tiling
from tinhalo.core.geometry.arrays import Box
from tinhalo.core.geometry.curves.affine import shift
from tinhalo.core.geometry.curves.outline import followed
from tinhalo.core.output.drawing import Drawing
from tinhalo.core.output.pdf import POINTS, new_canvas, put

#: Sheets of office printers, in mm: ISO 216, and ANSI Y14.1 and its legal size (from memory).
PAPERS: dict[TilePaper, tuple[float, float]] = {
    "a4": (210.0, 297.0),
    "a3": (297.0, 420.0),
    "letter": (215.9, 279.4),
    "legal": (215.9, 355.6),
}
#: What printers leave blank at a sheet's edges, in mm.
EDGE = 10.0
#: The strip for the ruler and the number of the sheet, in mm.
FOOT = 12.0
RULER = 100.0
#: No job has more sheets.
MOST_SHEETS = 400
#: Curves are followed within this to see on which sheets they lie, in mm.
_WITHIN = 0.2


@dataclass(frozen=True)
class _Grid:
    """Where the sheets of a page lie: what each shows of it, and how far they overlap, in mm."""

    page: Box
    sheet: tuple[float, float]
    overlap: float

    @property
    def window(self) -> tuple[float, float]:
        return self.sheet[0] - 2 * EDGE, self.sheet[1] - 2 * EDGE - FOOT

    @property
    def count(self) -> tuple[int, int]:
        """How many sheets side by side, and one upon the other."""
        width, height = self.page[2] - self.page[0], self.page[3] - self.page[1]
        across, up = self.window
        return _count(width, across, self.overlap), _count(height, up, self.overlap)

    def box(self, column: int, row: int) -> Box:
        """What of the page a sheet shows; rows from the top."""
        across, up = self.window
        left = self.page[0] + column * (across - self.overlap)
        top = self.page[3] - row * (up - self.overlap)
        return left, top - up, left + across, top


def sheets_of(page: Box, tiling: Tiling | None = None) -> tuple[int, int]:
    """How many sheets side by side, and one upon the other."""
    return _grid(page, tiling or Tiling()).count


def write(drawing: Drawing, options: HandOver | None = None) -> bytes:
    """The sheets that anything lies on, row by row from the upper left corner."""
    held = io.BytesIO()
    grid = _grid(drawing.page or (0.0, 0.0, 1.0, 1.0), (options or HandOver()).tiling)
    canvas = new_canvas(held, drawing.title, grid.sheet[0] * POINTS, grid.sheet[1] * POINTS)
    columns, rows = grid.count
    if columns * rows > MOST_SHEETS:
        # Nobody glues so many: one sheet says so.
        canvas.drawString(EDGE * POINTS, grid.sheet[1] / 2 * POINTS, f"At 1:1 this would take {columns * rows} sheets.")
        canvas.showPage()
    else:
        drawn = _drawn(drawing)
        for row in range(rows):
            for column in range(columns):
                if not drawn or _on(drawn, grid.box(column, row)):
                    _sheet(canvas, drawing, grid, (column, row))
    canvas.save()
    return held.getvalue()


def _on(drawn: list[BaseGeometry], box: Box) -> bool:
    """Whether anything lies within a box."""
    return bool(shapely.intersects(np.asarray(drawn, object), shapely.box(*box)).any())


def _drawn(drawing: Drawing) -> list[BaseGeometry]:
    """What is drawn: lines, and the areas that are filled."""
    found: list[BaseGeometry] = []
    for layer in drawing.layers:
        if layer.style.fill:
            found += [Polygon(followed(piece[0], _WITHIN)).buffer(0) for piece in layer.pieces]
        else:
            found += [LineString(followed(one, _WITHIN)) for piece in layer.pieces for one in piece]
        found += [LineString(followed(one, _WITHIN)) for one in layer.strokes]
    return found


def _grid(page: Box, tiling: Tiling) -> _Grid:
    return _Grid(page, PAPERS[tiling.paper], tiling.overlap)


def _count(length: float, window: float, overlap: float) -> int:
    return max(1, math.ceil((length - overlap) / (window - overlap) - 1e-9))


def _sheet(canvas: Canvas, drawing: Drawing, grid: _Grid, at: tuple[int, int]) -> None:
    across, up = grid.window
    overlap, page, count = grid.overlap, grid.page, grid.count
    left, _, _, top = grid.box(*at)
    to_points = shift((EDGE - left) * POINTS, (grid.sheet[1] - EDGE - top) * POINTS, POINTS)
    canvas.saveState()
    window = canvas.beginPath()
    window.rect(EDGE * POINTS, (EDGE + FOOT) * POINTS, across * POINTS, up * POINTS)
    canvas.clipPath(window, stroke=0, fill=0)
    put(canvas, drawing, to_points)
    canvas.restoreState()
    canvas.setLineWidth(0.25)
    canvas.setStrokeGray(0.4)
    across_at = [page[0] + i * (across - overlap) + overlap / 2 for i in range(count[0] + 1)]
    up_at = [page[3] - j * (up - overlap) - overlap / 2 for j in range(count[1] + 1)]
    for x in across_at:
        for y in up_at:
            _cross(canvas, grid.sheet, *(to_points[:, :2] @ (x, y) + to_points[:, 2]).tolist())
    _foot(canvas, grid.sheet, at, count)
    canvas.showPage()


def _cross(canvas: Canvas, sheet: tuple[float, float], x: float, y: float) -> None:
    """A cross at a place in points, where that lies on the sheet."""
    arm = 3 * POINTS
    low, high = EDGE * POINTS, [(side - EDGE) * POINTS for side in sheet]
    if low <= x <= high[0] and low + FOOT * POINTS <= y <= high[1]:
        canvas.line(x - arm, y, x + arm, y)
        canvas.line(x, y - arm, x, y + arm)


def _foot(canvas: Canvas, sheet: tuple[float, float], at: tuple[int, int], count: tuple[int, int]) -> None:
    """A ruler of 100 mm, and which sheet it is."""
    canvas.setStrokeGray(0)
    canvas.setFillGray(0)
    base = EDGE * POINTS
    canvas.line(base, base, base + RULER * POINTS, base)
    for mm in range(0, int(RULER) + 1, 5):
        x = base + mm * POINTS
        canvas.line(x, base, x, base + (3 if mm % 10 else 6) * POINTS / 2)
    canvas.setFont("Helvetica", 8)
    canvas.drawString(base + (RULER + 3) * POINTS, base, "100 mm when printed at 100 %")
    canvas.drawRightString(
        (sheet[0] - EDGE) * POINTS, base + 5 * POINTS, f"{chr(65 + at[1] % 26)}{at[0] + 1} of {count[0] * count[1]}"
    )
