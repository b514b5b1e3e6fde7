"""A piece on paper as it looks, in the colours of its materials, as large as there is room."""

from __future__ import annotations

import io
from dataclasses import replace

from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas

from tinhalo.core.engine.built import Build, BuiltLayer
from tinhalo.core.geometry.arrays import Box
from tinhalo.core.output.drawing import Drawing, DrawnLayer, Style, drawing_of
from tinhalo.core.output.paper_text import DARK, SOFT
from tinhalo.core.output.pdf import POINTS
from tinhalo.core.output.png import picture_of

#: Dots to an inch of paper.
DOTS = 200


def seen(build: Build) -> Drawing:
    """The drawing as it looks: areas in the colours of their materials, marks as they show."""
    drawn = {one.id: one for one in drawing_of(build, shared=False).layers}
    layers = tuple(_seen(built, drawn[built.layer.id]) for built in build.leaving())
    return Drawing(build.design.name, build.bounds, layers, seen=True)


def _seen(built: BuiltLayer, layer: DrawnLayer) -> DrawnLayer:
    colour, process = built.material.colour, built.layer.process
    if process in ("score", "draw"):
        return replace(layer, style=Style(DARK, None, 0.2, DARK), paint=None, process="print")
    if process in ("engrave", "carve"):
        return replace(layer, style=Style(None, "#5b4632", 0.2, DARK), paint=None, process="print")
    return replace(layer, style=Style(SOFT, colour, 0.1, DARK), process="print")


def scale_within(drawing: Drawing, wide: float, high: float) -> float:
    """How many times its size a drawing fits a room of so many mm."""
    width, height = drawing.size
    return min(wide / max(width, 1e-6), high / max(height, 1e-6))


def put_within(canvas: Canvas, drawing: Drawing, room: Box, scale: float | None = None) -> Box:
    """A picture of a drawing in the middle of a room, as large as fits or at a scale; where it came to lie. All in mm.

    Customers get pages with it: nobody can cut a picture.
    """
    width, height = drawing.size
    scale = scale or scale_within(drawing, room[2] - room[0], room[3] - room[1])
    x = (room[0] + room[2] - width * scale) / 2
    y = (room[1] + room[3] - height * scale) / 2
    if min(width, height) > 0:
        image = ImageReader(io.BytesIO(picture_of(drawing, DOTS * scale)))
        canvas.drawImage(image, x * POINTS, y * POINTS, width * scale * POINTS, height * scale * POINTS, mask="auto")
    return (x, y, x + width * scale, y + height * scale)
