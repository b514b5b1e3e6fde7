"""What a printed layer is filled with, in PDF: a tile is a form that is shown again and again under the outline.

A row of tiles is one form, too, so that a page of very many tiles stays a small file.
"""

from __future__ import annotations

import io
from collections.abc import Callable

from reportlab.lib.colors import HexColor
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import FILL_EVEN_ODD, Canvas
from reportlab.pdfgen.pathobject import PDFPathObject

from tinhalo.core.geometry.arrays import Box, Floats
from tinhalo.core.geometry.curves.affine import after
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.output.paint import Paint

#: Draws contours onto a path.
Trace = Callable[[PDFPathObject, tuple[Contour, ...]], None]


def paint_inside(
    canvas: Canvas, outline: PDFPathObject, box: Box, paint: Paint, to_points: Floats, draw: Trace
) -> None:
    """Fill an outline, given in points, with a paint; ``box`` is around it, in mm."""
    columns, rows = paint.tiles_over(box)
    if not columns or not rows:
        return
    width, height = paint.size
    tile = _form(canvas, _reach(width, height), lambda: _tile(canvas, paint, draw))
    many = (columns.start * width - width, -height, columns.stop * width + width, 2 * height)
    row = tile if len(columns) == 1 else _form(canvas, many, lambda: _repeat(canvas, tile, columns, width, 0))
    canvas.saveState()
    canvas.clipPath(outline, stroke=0, fill=0, fillMode=FILL_EVEN_ODD)
    (a, c, e), (b, d, f) = after(to_points, paint.matrix).tolist()
    canvas.transform(a, b, c, d, e, f)
    if row == tile:
        canvas.translate(columns.start * width, 0)
    _repeat(canvas, row, rows, 0, height)
    canvas.restoreState()


def _repeat(canvas: Canvas, form: str, over: range, dx: float, dy: float) -> None:
    for k in over:
        canvas.saveState()
        canvas.translate(k * dx, k * dy)
        canvas.doForm(form)
        canvas.restoreState()


def _tile(canvas: Canvas, paint: Paint, draw: Trace) -> None:
    for figure in paint.figures:
        canvas.setFillColor(HexColor(figure.colour))
        path = canvas.beginPath()
        draw(path, figure.contours)
        canvas.drawPath(path, stroke=0, fill=1)
    if paint.own:
        canvas.drawImage(ImageReader(io.BytesIO(paint.picture)), 0, 0, *paint.picture_size)


def _reach(width: float, height: float) -> Box:
    """Around a tile and what crosses its edges."""
    return (-width, -height, 2 * width, 2 * height)


def _form(canvas: Canvas, box: Box, draw: Callable[[], None]) -> str:
    """A form of its own with what is drawn; its name."""
    count = 0
    while canvas.hasForm(f"paint{count}"):
        count += 1
    name = f"paint{count}"
    canvas.beginForm(name, *box)
    draw()
    canvas.endForm()
    return name
