"""A picture of all pieces at true size, each with its number: which goes where, and a template to place them by."""

from __future__ import annotations

import io
import re

import shapely
from reportlab.lib.colors import HexColor
from reportlab.pdfgen.canvas import Canvas
from shapely import Polygon

from tinhalo.core.geometry.curves.affine import shift
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.output.drawing import Drawing, DrawnLayer
from tinhalo.core.output.pdf import POINTS, new_canvas, trace_onto

#: A line of the list, and of the picture, in mm.
_LINE, _THIN = 5.0, 0.15
_EDGE = 5.0


def write(drawing: Drawing) -> bytes:
    """One page at true size: outlines with numbers, and under them a list of what is which."""
    held = io.BytesIO()
    x0, y0, _, _ = drawing.page or (0.0, 0.0, 1.0, 1.0)
    listed = [one for one in drawing.layers if one.pieces]
    foot = _LINE * (len(listed) + 1) + _EDGE
    width = max(drawing.size[0], 90.0) + 2 * _EDGE
    height = drawing.size[1] + foot + 2 * _EDGE
    canvas = new_canvas(held, drawing.title, width * POINTS, height * POINTS)
    to_points = shift((_EDGE - x0) * POINTS, (foot + _EDGE - y0) * POINTS, POINTS)
    canvas.setLineWidth(_THIN * POINTS)
    number = 1
    ranges: list[tuple[DrawnLayer, int, int]] = []
    for layer in reversed(listed):
        colour = HexColor(layer.style.stroke or layer.style.fill or layer.style.open_stroke)
        canvas.setStrokeColor(colour)
        first = number
        for piece in layer.pieces:
            trace_onto(canvas, [one.transformed(to_points) for one in piece])
        for place, size in _places(layer):
            at = to_points[:, :2] @ place + to_points[:, 2]
            canvas.setFillColor(colour)
            canvas.setFont("Helvetica", min(9.0, max(3.0, size * POINTS * 0.6)))
            canvas.drawCentredString(float(at[0]), float(at[1]), str(number))
            number += 1
        ranges.append((layer, first, number - 1))
    _list(canvas, ranges, foot)
    canvas.showPage()
    canvas.save()
    return held.getvalue()


def _list(canvas: Canvas, ranges: list[tuple[DrawnLayer, int, int]], foot: float) -> None:
    canvas.setFillGray(0)
    canvas.setFont("Helvetica", 9)
    for k, (layer, first, last) in enumerate(reversed(ranges)):
        numbers = f"{first}" if first == last else f"{first} to {last}"
        # The base fonts of PDF have Latin letters only.
        title = re.sub(r"[^\x20-\xff]", "?", f"{numbers}: {layer.title}, {layer.material}")
        canvas.drawString(_EDGE * POINTS, (foot - _LINE * (k + 1)) * POINTS, title)


def _places(layer: DrawnLayer) -> list[tuple[tuple[float, float], float]]:
    """For each piece a place well inside it, and how much room there is."""
    made: list[tuple[tuple[float, float], float]] = []
    for piece in layer.pieces:
        rings = Outline.from_contours(piece).flattened(0.1)
        area = Polygon(rings[0], rings[1:]) if rings and len(rings[0]) >= 3 else Polygon()
        if area.is_empty:
            continue
        line = shapely.maximum_inscribed_circle(area.buffer(0), tolerance=0.5)
        x, y = shapely.get_coordinates(line)[0].tolist()
        made.append(((x, y), 2 * float(line.length)))
    return made
