"""How what leaves is laid on sheets: sizes, distances, how pieces may be turned, and where each was laid."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tinhalo.core.document.base import Degrees, Identifier, Millimetres, Strict
from tinhalo.core.document.fields import mm

#: Pieces that are laid, all copies counted.
MOST_PLACED = 2_000

#: How pieces may be turned: anyhow; by quarters; so that the grain keeps its direction; not at all.
Turning = Literal["free", "quarter", "grain", "none"]
Index = Annotated[int, Field(ge=0, lt=MOST_PLACED)]


class SheetSize(Strict):
    """A sheet of a material, where that is not the material's usual one; in mm."""

    material: Identifier
    width: Annotated[float, mm("of the sheet", gt=0, le=10_000)]
    height: Annotated[float, mm("of the sheet", gt=0, le=10_000)]


class Placed(Strict):
    """Where an item is laid: on which sheet of its board, turned about its own middle, which lies at (x, y) in mm.

    The sheet's lower left corner is the origin. An item is a piece, or all of what keeps its places.
    """

    board: Index
    sheet: Index
    item: Index
    x: Millimetres
    y: Millimetres
    turn: Degrees = 0


class Laying(Strict):
    """What is laid on sheets, and where.

    ``of`` tells what was laid: when the design has changed since, it is laid anew.
    """

    copies: Annotated[int, Field(ge=1, le=500, description="of the whole job")] = 1
    margin: Annotated[float, mm("kept free at the sheet's edges", ge=0, le=200)] = 5
    spacing: Annotated[float, mm("between pieces", ge=0, le=100)] = 2
    overlap: Annotated[float, mm("of parts of what is larger than a sheet", ge=0, le=100)] = 5
    turning: Turning = "quarter"
    sizes: Annotated[tuple[SheetSize, ...], Field(max_length=50)] = ()
    placed: Annotated[tuple[Placed, ...], Field(max_length=MOST_PLACED)] = ()
    of: Annotated[str, Field(max_length=64)] = ""
    in_rows: Annotated[bool, Field(description="whether the search broke off and pieces lie in rows")] = False

    def size_of(self, material: str, usual: tuple[float, float]) -> tuple[float, float]:
        """Width and height of a material's sheet in mm."""
        return next(((one.width, one.height) for one in self.sizes if one.material == material), usual)
