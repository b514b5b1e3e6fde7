"""A proof for the customer: the piece as it will be, its size, what it is made of, and its words in plain type.

One page of PDF, its parts from the top down; a picture of it is that page painted. What is drawn on it is pictures:
neither the design nor an outline that could be cut leaves with it.
"""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal

from PIL import Image
from reportlab.lib.colors import HexColor
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas

from tinhalo.core.engine.built import Build
from tinhalo.core.geometry.arrays import Box
from tinhalo.core.output.paper_text import DARK, FONT, PALE, SOFT, lines_of, make_ready, put_text, spelt
from tinhalo.core.output.pdf import POINTS, new_canvas
from tinhalo.core.output.shown import put_within, seen
from tinhalo.core.units import length

Paper = Literal["a4", "letter"]

#: Width and height in mm: ISO 216, and ANSI Y14.1.
PAPERS: dict[Paper, tuple[float, float]] = {"a4": (210.0, 297.0), "letter": (215.9, 279.4)}
_EDGE, _GAP = 15.0, 6.0
#: Heights of the pictures in mm, and of a line of text.
_ROUND, _FLAT, _WAY, _LINE = 88.0, 62.0, 30.0, 5.2
#: So many colour ways and lines of a list have room.
_MOST_WAYS, _MOST_LINES, _MOST_NOTE = 4, 8, 3


@dataclass(frozen=True)
class Proof:
    """What a proof says.

    Attributes:
        build: the design, exactly built.
        revision: its revision.
        made: the day.
        picture: the piece in the round as PNG or JPEG; empty where there is none.
        ways: its colour ways by name, exactly built.
        paper: the page.
        shop: whose proof it is.
        price: what it costs, as it is to be read.
        note: a few words to the customer.
    """

    build: Build
    revision: int
    made: date
    picture: bytes = b""
    ways: tuple[tuple[str, Build], ...] = ()
    paper: Paper = "a4"
    shop: str = ""
    price: str = ""
    note: str = ""


def write(proof: Proof) -> bytes:
    """The page as PDF."""
    make_ready()
    held = io.BytesIO()
    width, height = PAPERS[proof.paper]
    canvas = new_canvas(held, proof.build.design.name, width * POINTS, height * POINTS)
    page = _Page(canvas, width, height - _EDGE)
    page.head(proof)
    if proof.picture:
        page.picture(proof.picture, _ROUND)
    page.flat(proof.build, _FLAT if proof.picture else _FLAT + _ROUND)
    page.materials(proof.build)
    page.words(proof.build)
    page.ways(proof.ways[:_MOST_WAYS])
    page.foot(len(proof.ways) - _MOST_WAYS)
    canvas.showPage()
    canvas.save()
    return held.getvalue()


class _Page:
    """A page that is filled from the top; places in mm."""

    def __init__(self, canvas: Canvas, width: float, top: float) -> None:
        self._canvas, self._width, self._y = canvas, width, top

    def head(self, proof: Proof) -> None:
        self._text(proof.build.design.name, 20, _EDGE, self._y - 6)
        parts = [proof.shop, f"Revision {proof.revision}", f"{proof.made.day} {proof.made:%B %Y}"]
        told = spelt(" · ".join(part for part in parts if part))
        self._canvas.setFillColor(HexColor(SOFT))
        self._canvas.setFont(FONT, 10)
        self._canvas.drawRightString((self._width - _EDGE) * POINTS, (self._y - 5) * POINTS, told)
        self._y -= 12
        if proof.price:
            self._text(f"Price: {proof.price}", 11, _EDGE, self._y)
            self._y -= _LINE + 1
        for line in lines_of(proof.note, 10, (self._width - 2 * _EDGE) * POINTS)[:_MOST_NOTE]:
            self._text(line, 10, _EDGE, self._y, SOFT)
            self._y -= _LINE

    def picture(self, data: bytes, high: float) -> None:
        image = ImageReader(io.BytesIO(_cropped(data)))
        across, up = image.getSize()
        room = self._width - 2 * _EDGE
        scale = min(room / across, high / up)
        x, y = _EDGE + (room - across * scale) / 2, self._y - high + (high - up * scale) / 2
        size = (across * scale * POINTS, up * scale * POINTS)
        self._canvas.drawImage(image, x * POINTS, y * POINTS, *size, mask="auto")
        self._y -= high + _GAP

    def flat(self, build: Build, high: float) -> None:
        """The piece from above, its width under it and its height beside it."""
        drawing = seen(build)
        if drawing.page is None:
            return
        room = self._width - 2 * _EDGE - 24
        box = put_within(self._canvas, drawing, (_EDGE + 20, self._y - high + 9, _EDGE + 20 + room, self._y))
        self._measure(box, build)
        self._y -= high + _GAP

    def _measure(self, box: Box, build: Build) -> None:
        x0, y0, x1, y1 = box
        finished = build.finished or (0, 0, 0, 0)
        unit = build.design.unit
        canvas = self._canvas
        canvas.setStrokeColor(HexColor(SOFT))
        canvas.setLineWidth(0.5)
        for a, b in (((x0, y0 - 3), (x1, y0 - 3)), ((x0 - 3, y0), (x0 - 3, y1))):
            canvas.line(*(v * POINTS for v in (*a, *b)))
            for x, y in (a, b):
                dx, dy = (0, 1.2) if a[1] == b[1] else (1.2, 0)
                canvas.line(*(v * POINTS for v in (x - dx, y - dy, x + dx, y + dy)))
        self._canvas.setFillColor(HexColor(DARK))
        canvas.setFont(FONT, 10)
        wide, tall = length(finished[2] - finished[0], unit), length(finished[3] - finished[1], unit)
        canvas.drawCentredString((x0 + x1) / 2 * POINTS, (y0 - 7.5) * POINTS, wide)
        canvas.drawRightString((x0 - 5) * POINTS, ((y0 + y1) / 2 - 1) * POINTS, tall)

    def materials(self, build: Build) -> None:
        leaving = build.leaving()
        for built in leaving[:_MOST_LINES]:
            self._y -= _LINE
            self._canvas.setFillColor(HexColor(built.material.colour))
            self._canvas.setStrokeColor(HexColor(PALE))
            self._canvas.rect(_EDGE * POINTS, (self._y - 0.6) * POINTS, 4 * POINTS, 4 * POINTS, stroke=1, fill=1)
            told = f"{built.layer.title}: {built.material.name}"
            self._text(told, 10, _EDGE + 6.5, self._y)
        self._more(len(leaving) - _MOST_LINES, "layers")
        self._y -= _GAP / 2

    def words(self, build: Build) -> None:
        """What is written, letter by letter, for somebody else's eyes."""
        # Words that were turned into an outline are still there, too.
        every = [getattr(one, "made_of", None) or one for one in build.design.art]
        blocks = [str(getattr(one, "text", "")) for one in every]
        if not any(block.strip() for block in blocks):
            return
        self._y -= _LINE
        self._text("Words, to be checked:", 10, _EDGE, self._y, SOFT)
        lines = [line for text in blocks for line in text.splitlines() if line.strip()]
        for line in lines[:_MOST_LINES]:
            self._y -= _LINE + 1.2
            self._text(f"“{line}”", 13, _EDGE, self._y)
        self._more(len(lines) - _MOST_LINES, "lines")
        self._y -= _GAP / 2

    def ways(self, ways: Sequence[tuple[str, Build]]) -> None:
        if not ways or self._y - _WAY - 8 < _EDGE:
            return
        each = (self._width - 2 * _EDGE) / len(ways)
        for index, (name, build) in enumerate(ways):
            x = _EDGE + index * each
            drawing = seen(build)
            if drawing.page:
                put_within(self._canvas, drawing, (x + 2, self._y - _WAY, x + each - 2, self._y - 2))
            self._text(name, 9, x + 2, self._y - _WAY - 5)
        self._y -= _WAY + 8

    def foot(self, more: int) -> None:
        told = "Please check the words, the size and the colours. Checked by:"
        if more > 0:
            told = f"{more} more colour ways have no room here: a contact sheet shows all. {told}"
        self._text(told, 9, _EDGE, _EDGE - 3, SOFT)
        self._canvas.setStrokeColor(HexColor(SOFT))
        self._canvas.line(130 * POINTS, (_EDGE - 4) * POINTS, (self._width - _EDGE) * POINTS, (_EDGE - 4) * POINTS)

    def _more(self, count: int, what: str) -> None:
        if count > 0:
            self._y -= _LINE
            self._text(f"and {count} more {what}", 9, _EDGE, self._y, SOFT)

    def _text(self, text: str, size: float, x: float, y: float, colour: str = DARK) -> None:
        room = (self._width - _EDGE - x) * POINTS
        put_text(self._canvas, text, size, x * POINTS, y * POINTS, room, colour)


def _cropped(picture: bytes) -> bytes:
    """A picture without what is see-through around the piece."""
    with Image.open(io.BytesIO(picture)) as opened:
        made = opened.convert("RGBA")
    box = made.getchannel("A").getbbox()
    held = io.BytesIO()
    (made.crop(box) if box else made).save(held, "PNG")
    return held.getvalue()
