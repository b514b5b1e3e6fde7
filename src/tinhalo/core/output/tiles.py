"""A PDF of the page at 1:1 on sheets of an office printer, with a ruler to check the scale by.

Sheets overlap; crosses stand at the same places of the job on neighbouring sheets, to be laid upon each other.
"""

from __future__ import annotations

import io
import math

from reportlab.pdfgen.canvas import Canvas

from tinhalo.core.design.hand_over import HandOver
from tinhalo.core.geometry.arrays import Box
from tinhalo.core.geometry.curves.affine import shift
from tinhalo.core.output.drawing import Drawing
from tinhalo.core.output.pdf import POINTS, new_canvas, put

#: An A4 sheet (ISO 216), in mm, what printers leave blank at its edges, and how far sheets overlap.
SHEET = (210.0, 297.0)
EDGE = 10.0
OVERLAP = 10.0
#: The strip for the ruler and the number of the sheet, in mm.
FOOT = 12.0
RULER = 100.0
#: No job has more sheets.
MOST_SHEETS = 400


def sheets_of(page: Box) -> tuple[int, int]:
    """How many sheets side by side, and one upon the other."""
    width, height = page[2] - page[0], page[3] - page[1]
    across, up = _window()
    return _count(width, across), _count(height, up)


def write(drawing: Drawing, options: HandOver | None = None) -> bytes:
    """All sheets, row by row from the upper left corner."""
    held = io.BytesIO()
    canvas = new_canvas(held, drawing.title, SHEET[0] * POINTS, SHEET[1] * POINTS)
    page = drawing.page or (0.0, 0.0, 1.0, 1.0)
    columns, rows = sheets_of(page)
    if columns * rows > MOST_SHEETS:
        # Nobody glues so many: one sheet says so.
        canvas.drawString(EDGE * POINTS, SHEET[1] / 2 * POINTS, f"At 1:1 this would take {columns * rows} sheets.")
        canvas.showPage()
    else:
        for row in range(rows):
            for column in range(columns):
                _sheet(canvas, drawing, page, (column, row), (columns, rows))
    canvas.save()
    return held.getvalue()


def _window() -> tuple[float, float]:
    return SHEET[0] - 2 * EDGE, SHEET[1] - 2 * EDGE - FOOT


def _count(length: float, window: float) -> int:
    return max(1, math.ceil((length - OVERLAP) / (window - OVERLAP) - 1e-9))


def _sheet(canvas: Canvas, drawing: Drawing, page: Box, at: tuple[int, int], count: tuple[int, int]) -> None:
    across, up = _window()
    left = page[0] + at[0] * (across - OVERLAP)
    top = page[3] - at[1] * (up - OVERLAP)
    to_points = shift((EDGE - left) * POINTS, (SHEET[1] - EDGE - top) * POINTS, POINTS)
    canvas.saveState()
    window = canvas.beginPath()
    window.rect(EDGE * POINTS, (EDGE + FOOT) * POINTS, across * POINTS, up * POINTS)
    canvas.clipPath(window, stroke=0, fill=0)
    put(canvas, drawing, to_points)
    canvas.restoreState()
    canvas.setLineWidth(0.25)
    canvas.setStrokeGray(0.4)
    across_at = [page[0] + i * (across - OVERLAP) + OVERLAP / 2 for i in range(count[0] + 1)]
    up_at = [page[3] - j * (up - OVERLAP) - OVERLAP / 2 for j in range(count[1] + 1)]
    for x in across_at:
        for y in up_at:
            _cross(canvas, *(to_points[:, :2] @ (x, y) + to_points[:, 2]).tolist())
    _foot(canvas, at, count)
    canvas.showPage()


def _cross(canvas: Canvas, x: float, y: float) -> None:
    """A cross at a place in points, where that lies on the sheet."""
    arm = 3 * POINTS
    low, high = EDGE * POINTS, [(side - EDGE) * POINTS for side in SHEET]
    if low <= x <= high[0] and low + FOOT * POINTS <= y <= high[1]:
        canvas.line(x - arm, y, x + arm, y)
        canvas.line(x, y - arm, x, y + arm)


def _foot(canvas: Canvas, at: tuple[int, int], count: tuple[int, int]) -> None:
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
        (SHEET[0] - EDGE) * POINTS, base + 5 * POINTS, f"{chr(65 + at[1] % 26)}{at[0] + 1} of {count[0] * count[1]}"
    )
