"""PDF files at true size (ISO 32000-1): vector outlines, lines of machines as named spot colours, true page boxes.

A point is 1/72 of an inch. What a machine follows is a separation that is called after its process, so that print shops
find it; areas are plain RGB. Media, crop, bleed and trim box are the page.
"""

from __future__ import annotations

import io
from collections.abc import Iterable

from reportlab.lib.colors import CMYKColorSep, Color, HexColor
from reportlab.pdfgen.canvas import FILL_EVEN_ODD, Canvas
from reportlab.pdfgen.pathobject import PDFPathObject

from tinhalo.core.design.hand_over import HandOver, Use
from tinhalo.core.geometry.arrays import XY, Floats
from tinhalo.core.geometry.curves.affine import shift
from tinhalo.core.geometry.curves.bezier import raised
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.output.drawing import Drawing, DrawnLayer, Style
from tinhalo.core.output.paint import Paint
from tinhalo.core.output.path_order import grouped
from tinhalo.core.output.pdf_paint import paint_inside
from tinhalo.core.units import MM_PER_INCH

#: Points to a mm.
POINTS = 72 / MM_PER_INCH
#: Processes whose lines are followed by a machine, and what the spot colour is called.
SPOTS: dict[Use, str] = {
    "cut": "Cut",
    "through": "Cut through",
    "score": "Score",
    "draw": "Draw",
    "engrave": "Engrave",
    "carve": "Carve",
}


def write(drawing: Drawing, options: HandOver | None = None) -> bytes:
    """One page with all layers, in the order of ``path_order``."""
    held = io.BytesIO()
    x0, y0, _, _ = drawing.page or (0.0, 0.0, 0.0, 0.0)
    width, height = (max(side * POINTS, 1.0) for side in drawing.size)
    canvas = new_canvas(held, drawing.title, width, height)
    put(canvas, drawing, shift(-x0 * POINTS, -y0 * POINTS, POINTS))
    canvas.showPage()
    canvas.save()
    return held.getvalue()


def new_canvas(held: io.BytesIO, title: str, width: float, height: float) -> Canvas:
    """An empty document with pages of that size in points; the same drawing gives the same bytes."""
    canvas = Canvas(held, pagesize=(width, height), pageCompression=1, invariant=1)
    canvas.setTitle(title)
    canvas.setCreator("Tin Halo")
    for box in (canvas.setCropBox, canvas.setBleedBox, canvas.setTrimBox):
        box((0, 0, width, height))
    return canvas


def put(canvas: Canvas, drawing: Drawing, to_points: Floats) -> None:
    """Draw all layers after an affine map to points, shape (2, 3)."""
    for group in grouped(drawing):
        layer, style = group.layer, group.layer.style
        canvas.setLineWidth(style.line_width * POINTS)
        if style.fill:
            canvas.setFillColor(HexColor(style.fill))
        if style.stroke:
            canvas.setStrokeColor(_line_colour(layer, style.stroke))
        for pieces, run in group.runs():
            if pieces:
                for path in run:
                    _put_piece(canvas, style, [one.transformed(to_points) for one in path.contours])
                if layer.paint:
                    _paint(canvas, layer, layer.paint, to_points)
            else:
                canvas.saveState()
                canvas.setStrokeColor(_line_colour(layer, style.open_stroke))
                trace_onto(canvas, [path.shell.transformed(to_points) for path in run])
                canvas.restoreState()


def _put_piece(canvas: Canvas, style: Style, contours: Iterable[Contour]) -> None:
    path = canvas.beginPath()
    _draw(path, contours)
    canvas.drawPath(path, stroke=int(bool(style.stroke)), fill=int(bool(style.fill)), fillMode=FILL_EVEN_ODD)


def _paint(canvas: Canvas, layer: DrawnLayer, paint: Paint, to_points: Floats) -> None:
    """Fill a layer's areas with its paint."""
    outline = canvas.beginPath()
    _draw(outline, tuple(one.transformed(to_points) for piece in layer.pieces for one in piece))
    paint_inside(canvas, outline, layer.box, paint, to_points, _draw)


def _draw(path: PDFPathObject, contours: Iterable[Contour]) -> None:
    for one in contours:
        one.draw(_Pen(path))


def trace_onto(canvas: Canvas, contours: Iterable[Contour]) -> None:
    """Draw lines along contours that are in points already."""
    path = canvas.beginPath()
    _draw(path, contours)
    canvas.drawPath(path, stroke=1, fill=0)


def _line_colour(layer: DrawnLayer, colour: str) -> Color:
    """A named separation for what a machine follows; its stand-in is the line's own colour in CMYK."""
    spot = layer.style.spot or SPOTS.get(layer.process)
    if spot is None or layer.process not in SPOTS:
        return HexColor(colour)
    cyan, magenta, yellow, black = cmyk(colour)
    return CMYKColorSep(cyan, magenta, yellow, black, spotName=spot)


def cmyk(colour: str) -> tuple[float, float, float, float]:
    """#rrggbb as shares of four inks, by the plain rule of PostScript (red book, 7.2.4), all black taken out."""
    inks = [1 - int(colour[k : k + 2], 16) / 255 for k in (1, 3, 5)]
    black = min(inks)
    cyan, magenta, yellow = (round(ink - black, 4) for ink in inks)
    return cyan, magenta, yellow, round(black, 4)


class _Pen:
    """A pen that draws a path of reportlab's."""

    def __init__(self, path: PDFPathObject) -> None:
        self._path = path
        self._here: XY = (0.0, 0.0)

    def moveTo(self, pt: XY) -> None:  # noqa: N802
        self._here = pt
        self._path.moveTo(*pt)

    def lineTo(self, pt: XY) -> None:  # noqa: N802
        self._here = pt
        self._path.lineTo(*pt)

    def qCurveTo(self, handle: XY, pt: XY) -> None:  # noqa: N802
        self.curveTo(*raised(self._here, handle, pt), pt)

    def curveTo(self, first: XY, second: XY, pt: XY) -> None:  # noqa: N802
        self._here = pt
        self._path.curveTo(*first, *second, *pt)

    def closePath(self) -> None:  # noqa: N802
        self._path.close()

    def endPath(self) -> None:  # noqa: N802
        pass
