"""A check list to print: a line for each row, with its picture, what to know of it, and a box to tick."""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import islice

from reportlab.lib.colors import HexColor
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas

from tinhalo.core.output.paper_text import DARK, PALE, SOFT, lines_of, make_ready, put_text
from tinhalo.core.output.pdf import POINTS, new_canvas

#: The page (ISO 216, A4), in points; its edge; a line of what to know; the least that a row is high.
_WIDTH, _HEIGHT, _EDGE = 210 * POINTS, 297 * POINTS, 14 * POINTS
_LINE, _LEAST, _PAD = 9.5, 14 * POINTS, 4.0
#: Where things begin beside the box to tick, and the room for the picture.
_NUMBER, _PICTURE, _NAME, _TOLD = (_EDGE + x * POINTS for x in (8, 18, 54, 104))
_WIDE, _HIGH = 33 * POINTS, 12 * POINTS


@dataclass(frozen=True)
class Line:
    """One row: its number, what it is called, how many are made, a picture (PNG), and what to know, in sentences."""

    row: int
    name: str
    copies: int
    picture: bytes
    told: tuple[str, ...]


def write(title: str, lines: Sequence[Line]) -> bytes:
    """All rows, in as many pages as it takes."""
    make_ready()
    held = io.BytesIO()
    canvas = new_canvas(held, title, _WIDTH, _HEIGHT)
    pages = _pages(lines)
    pieces = sum(one.copies for one in lines)
    looked = sum(bool(one.told) for one in lines)
    told = f"{len(lines)} rows, {pieces} pieces; {looked} with something to know"
    for number, page in enumerate(pages, 1):
        top = _HEIGHT - _EDGE
        put_text(canvas, title, 15, _EDGE, top - 12, _WIDTH - 2 * _EDGE)
        put_text(canvas, told, 9, _EDGE, top - 26, _WIDTH - 2 * _EDGE, SOFT)
        put_text(canvas, f"Page {number} of {len(pages)}", 8, _EDGE, _EDGE - 14, _WIDTH, SOFT)
        top -= _HEAD
        for line, words in page:
            _row(canvas, line, words, top)
            top -= _height(words)
        canvas.showPage()
    canvas.save()
    return held.getvalue()


_HEAD = 34.0


def _pages(lines: Sequence[Line]) -> list[list[tuple[Line, list[str]]]]:
    room = _WIDTH - _EDGE - _TOLD
    pages: list[list[tuple[Line, list[str]]]] = [[]]
    left = full = _HEIGHT - 2 * _EDGE - _HEAD
    for line in lines:
        words = [part for sentence in line.told for part in lines_of(sentence, 8, room)]
        # What is longer than a page has goes on in a row without a name.
        for part in _cut(words, int((full - 2 * _PAD) // _LINE)):
            if _height(part) > left:
                pages.append([])
                left = full
            pages[-1].append((line, part))
            left -= _height(part)
    return pages


def _cut(words: list[str], most: int) -> list[list[str]]:
    rest = iter(words)
    parts = [words[:0]] if not words else []
    while part := list(islice(rest, most)):
        parts.append(part)
    return parts


def _height(words: Sequence[str]) -> float:
    return max(_LEAST, len(words) * _LINE + 2 * _PAD)


def _row(canvas: Canvas, line: Line, words: Sequence[str], top: float) -> None:
    height = _height(words)
    canvas.setStrokeColor(HexColor(PALE))
    canvas.setLineWidth(0.5)
    canvas.line(_EDGE, top, _WIDTH - _EDGE, top)
    canvas.setStrokeColor(HexColor(DARK))
    side = 4 * POINTS
    middle = top - _LEAST / 2
    canvas.rect(_EDGE, middle - side / 2, side, side)
    put_text(canvas, str(line.row), 9, _NUMBER, middle - 3, 9 * POINTS, SOFT)
    if line.picture:
        picture = ImageReader(io.BytesIO(line.picture))
        canvas.drawImage(
            picture, _PICTURE, middle - _HIGH / 2, _WIDE, _HIGH, mask="auto", preserveAspectRatio=True, anchor="w"
        )
    called = f"{line.name} × {line.copies}" if line.copies != 1 else line.name
    put_text(canvas, called, 11, _NAME, middle - 4, _TOLD - _NAME - _PAD)
    first = top - max(_PAD + 7, (height - len(words) * _LINE) / 2 + 7)
    for k, text in enumerate(words):
        put_text(canvas, text, 8, _TOLD, first - k * _LINE, _WIDTH - _EDGE - _TOLD)
