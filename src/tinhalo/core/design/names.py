"""A list for a design: one piece for each row, with the row's words in place of the design's."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tinhalo.core.document.base import READABLE, Identifier, Strict
from tinhalo.core.document.fields import mm, plain

#: Rows of a list at most, columns, and letters of a cell.
MOST_ROWS, MOST_COLUMNS, MOST_LETTERS = 2_000, 20, 300

Cell = Annotated[str, Field(max_length=MOST_LETTERS), READABLE]


class Column(Strict):
    """What a column is for: the words of a block, a colour way by name, the number of pieces, or nothing."""

    title: Annotated[str, Field(max_length=80), READABLE] = ""
    use: Literal["words", "colour_way", "copies", "nothing"] = "nothing"
    art: Annotated[Identifier | None, Field(description="of words: the block that they go to")] = None


class Fit(Strict):
    """How words that are wider than they may be are made to fit.

    ``keep`` leaves their size, ``shrink`` makes them smaller, ``stretch`` narrower or wider, ``break`` puts them on
    several lines.
    """

    art: Identifier
    rule: Literal["keep", "shrink", "stretch", "break"] = "keep"
    width: Annotated[float, mm("that the words may be wide; exactly so where they are stretched", gt=0)] = 80
    least: Annotated[float, plain("of their width, the narrowest that they are stretched to", ge=0.1, le=1)] = 0.7


class Names(Strict):
    """The list, its columns in order, and how each block's words are made to fit."""

    columns: Annotated[tuple[Column, ...], Field(max_length=MOST_COLUMNS)] = ()
    rows: Annotated[
        tuple[Annotated[tuple[Cell, ...], Field(max_length=MOST_COLUMNS)], ...], Field(max_length=MOST_ROWS)
    ] = ()
    fits: Annotated[tuple[Fit, ...], Field(max_length=100)] = ()
    file: Annotated[
        str, Field(min_length=1, max_length=80, description="what each row's files are called: {n} and {words}")
    ] = "{n} {words}"
