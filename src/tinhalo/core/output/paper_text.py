"""Text on pages that people read: in a font that ships, so that accented names are there on every machine.

Characters that it lacks are told by their code.
"""

from __future__ import annotations

from importlib.resources import files

from reportlab.lib.colors import HexColor
from reportlab.lib.utils import simpleSplit
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

FONT = "TinHaloText"
DARK, SOFT, PALE = "#2a2622", "#6f675e", "#d8d0c4"
_covered: set[int] = set()


def make_ready() -> None:
    """Register the font; before anything is written in it."""
    if not _covered:
        font = TTFont(FONT, str(files("tinhalo").joinpath("fonts/work-sans/work-sans.ttf")))
        pdfmetrics.registerFont(font)
        _covered.update(font.face.charToGlyph)


def spelt(text: str) -> str:
    """A text, with the code of each character that the font lacks."""
    return "".join(one if ord(one) in _covered else f"[U+{ord(one):04X}]" for one in text)


def put_text(
    canvas: Canvas, text: str, size: float, x: float, y: float, room: float, colour: str = DARK, *, middle: bool = False
) -> None:
    """Write a line from a place on, or about it; smaller, where it is wider than the room. All in points."""
    told = spelt(text)
    wide = pdfmetrics.stringWidth(told, FONT, size)
    canvas.setFillColor(HexColor(colour))
    canvas.setFont(FONT, size if wide <= room else size * room / wide)
    (canvas.drawCentredString if middle else canvas.drawString)(x, y, told)


def lines_of(text: str, size: float, room: float) -> list[str]:
    """A text broken into lines no wider than the room, in points."""
    return simpleSplit(spelt(text), FONT, size, room)
