"""A sign that is carved: which words stand how high, with which tools, out of what board."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tinhalo.core.document.base import Identifier, Strict
from tinhalo.core.document.fields import mm, plain
from tinhalo.core.tools import EndMill, VBit


class Level(Strict):
    """Layers whose tops are at one height, and how far the ground around them is carved down from there."""

    layers: Annotated[tuple[Identifier, ...], Field(max_length=50)] = ()
    depth: Annotated[float, mm("of the ground under their tops", gt=0, le=200)] = 2.5


class Tabs(Strict):
    """What holds a piece that is cut out, until it is snapped off: bars along its edge."""

    count: Annotated[int, Field(ge=0, le=100, description="tabs around each piece")] = 4
    width: Annotated[float, mm("along the edge", gt=0, le=100)] = 8
    height: Annotated[float, mm("over the underside", gt=0, le=100)] = 2


class Carving(Strict):
    """How a board is carved.

    ``levels`` are listed from the top: the first one's layers are as high as the board, those of the next stand on the
    ground of the first, and so on. ``board`` is the layer that is carved, and cut out in the end. Layers that are
    scored are engraved along their lines, layers that are engraved are pockets.
    """

    board: Identifier
    levels: Annotated[tuple[Level, ...], Field(min_length=1, max_length=6)]
    sunk: Annotated[tuple[Identifier, ...], Field(max_length=50, description="layers that are cut into the top")] = ()
    sunk_depth: Annotated[float, mm("of what is sunk, at most: it ends in a flat floor there", gt=0, le=200)] = 3
    bit: VBit = VBit(name="60° V-bit", down=3)
    mill: EndMill | None = EndMill(name="1/8 in end mill")
    ridge: Annotated[float, mm("high at most, where the bit clears what the mill left of a floor", gt=0, le=5)] = 0.1
    step: Annotated[float, plain("of the mill's width, from pass to pass", ge=0.05, le=0.95)] = 0.4
    way: Annotated[Literal["climb", "conventional"], Field(description="how the mill goes round")] = "climb"
    line_depth: Annotated[float, mm("of lines that are scored", gt=0, le=100)] = 0.5
    pocket_depth: Annotated[float, mm("of areas that are engraved", gt=0, le=100)] = 1
    cut_out: Annotated[bool, Field(description="whether the board is cut out in the end")] = True
    tabs: Tabs = Tabs()
    safe: Annotated[float, mm("over the board, where tools go from place to place", gt=0, le=200)] = 5
    change: Annotated[
        Literal["files", "in_one"], Field(description="a file for each tool, or one that stops for each change")
    ] = "files"
    gcode: Annotated[bool, Field(description="whether files for mills leave with the cut pack")] = True

    def levels_down(self, layer: str) -> int | None:
        """How many levels down a layer's top is; of the board its lowest ground; None of what has no place in it."""
        if layer == self.board:
            return len(self.levels) if any(level.layers for level in self.levels) else 0
        if layer in self.sunk:
            return 1
        return next((k for k, level in enumerate(self.levels) if layer in level.layers), None)
