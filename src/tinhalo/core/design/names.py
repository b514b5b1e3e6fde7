"""A list for a design: one piece for each row, with the row's words in place of the design's."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, JsonValue

from tinhalo.core.design.laying import Laying
from tinhalo.core.document.base import READABLE, Identifier, Strict
from tinhalo.core.document.fields import mm, plain

#: Rows of a list at most, columns, and letters of a cell.
MOST_ROWS, MOST_COLUMNS, MOST_LETTERS = 2_000, 20, 300

Cell = Annotated[str, Field(max_length=MOST_LETTERS), READABLE]


class Column(Strict):
    """What a column is for.

    ``words`` of a block, and those of several columns for one block stand beside each other; the ``size`` of its
    letters; the ``material`` of a layer, by name; a ``colour_way``, by name; the number of pieces; or nothing.
    """

    title: Annotated[str, Field(max_length=80), READABLE] = ""
    use: Literal["words", "size", "material", "colour_way", "copies", "nothing"] = "nothing"
    art: Annotated[Identifier | None, Field(description="of words and sizes: the block that they go to")] = None
    layer: Annotated[Identifier | None, Field(description="of materials: the layer that is made of it")] = None


class Fit(Strict):
    """How words that are wider than they may be are made to fit.

    ``keep`` leaves their size, ``shrink`` makes them smaller, ``stretch`` narrower or wider, ``break`` puts them on
    several lines.
    """

    art: Identifier
    rule: Literal["keep", "shrink", "stretch", "break"] = "keep"
    width: Annotated[float, mm("that the words may be wide; exactly so where they are stretched", gt=0)] = 80
    least: Annotated[float, plain("of their width, the narrowest that they are stretched to", ge=0.1, le=1)] = 0.7


class Change(Strict):
    """One operation of a JSON patch (RFC 6902)."""

    op: Literal["add", "remove", "replace"]
    path: Annotated[str, Field(max_length=500)]
    value: JsonValue = None


class Own(Strict):
    """What is different for one name alone, whatever becomes of the design: of its art and layers, by their ids."""

    words: Annotated[str, Field(max_length=2_000, description="the row's words, by which it is known"), READABLE]
    changes: Annotated[tuple[Change, ...], Field(max_length=500)]


class OfList(Strict):
    """Which list a design is a row of: under which id the list's design is kept, and which words the row has."""

    design: Annotated[str, Field(max_length=64)]
    words: Annotated[str, Field(max_length=2_000), READABLE]


class Names(Strict):
    """The list, its columns in order, how each block's words are made to fit, and what is different for some names.

    ``laying`` is where all its pieces lie on sheets.
    """

    columns: Annotated[tuple[Column, ...], Field(max_length=MOST_COLUMNS)] = ()
    rows: Annotated[
        tuple[Annotated[tuple[Cell, ...], Field(max_length=MOST_COLUMNS)], ...], Field(max_length=MOST_ROWS)
    ] = ()
    fits: Annotated[tuple[Fit, ...], Field(max_length=100)] = ()
    own: Annotated[tuple[Own, ...], Field(max_length=MOST_ROWS)] = ()
    laying: Laying | None = None
    file: Annotated[
        str, Field(min_length=1, max_length=80, description="what each row's files are called: {n} and {words}")
    ] = "{n} {words}"
