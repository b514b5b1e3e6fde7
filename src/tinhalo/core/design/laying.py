"""How what leaves is laid on sheets: sizes, distances, how pieces may be turned, and where each was laid."""

from __future__ import annotations

from typing import Annotated, Any, Literal, cast

from pydantic import Field, model_validator

from tinhalo.core.document.base import Degrees, Identifier, Millimetres, Strict
from tinhalo.core.document.fields import mm

#: Pieces that are laid, all copies counted.
MOST_PLACED = 2_000
#: Copies of the whole job, of a layer or of a piece.
MOST_COPIES = 500

#: How pieces may be turned: anyhow; by quarters; so that the grain keeps its direction; not at all.
Turning = Literal["free", "quarter", "grain", "none"]
Index = Annotated[int, Field(ge=0, lt=MOST_PLACED)]
Edge = Annotated[float, mm("kept free at an edge of the sheets", ge=0, le=200)]
#: From a sheet's lower left corner.
Point = tuple[Millimetres, Millimetres]


class Margins(Strict):
    """What is kept free at each edge of the sheets, in mm."""

    left: Edge = 5
    right: Edge = 5
    top: Edge = 5
    bottom: Edge = 5

    @classmethod
    def all(cls, edge: float) -> Margins:
        """The same at every edge."""
        return cls(left=edge, right=edge, top=edge, bottom=edge)

    def at_least(self, edge: float) -> Margins:
        """Margins none of which is narrower than ``edge`` mm."""
        return Margins(
            left=max(self.left, edge),
            right=max(self.right, edge),
            top=max(self.top, edge),
            bottom=max(self.bottom, edge),
        )


class KeptFree(Strict):
    """A box of a sheet on which nothing is laid, as under a clamp; in mm, from the sheet's lower left corner."""

    x: Millimetres
    y: Millimetres
    width: Annotated[float, mm("of what is kept free", gt=0, le=10_000)]
    height: Annotated[float, mm("of what is kept free", gt=0, le=10_000)]


class SheetSize(Strict):
    """A sheet of a material, where that is not the material's usual one, and what of each is kept free; in mm."""

    material: Identifier
    width: Annotated[float, mm("of the sheet", gt=0, le=10_000)]
    height: Annotated[float, mm("of the sheet", gt=0, le=10_000)]
    kept_free: Annotated[tuple[KeptFree, ...], Field(max_length=50)] = ()


class Offcut(Strict):
    """A piece of a material that is left of a sheet: laid full before whole sheets are, and there is one of it."""

    material: Identifier
    outline: Annotated[tuple[Point, ...], Field(min_length=3, max_length=200)]


class Quantity(Strict):
    """How many of a layer's pieces, or of one of them, are laid for each copy of the job."""

    layer: Identifier
    piece: Annotated[Index | None, Field(description="which of the layer's pieces, from 0; all where empty")] = None
    count: Annotated[int, Field(ge=0, le=MOST_COPIES)]


class Placed(Strict):
    """Where an item is laid: on which sheet of its board, turned about its own middle, which lies at (x, y) in mm.

    The sheet's lower left corner is the origin; a board's offcuts are its first sheets. An item is a piece, or all of
    what keeps its places. ``shape`` stands for its outline, so that what was laid by hand stays when others change.
    """

    board: Index
    sheet: Index
    item: Index
    x: Millimetres
    y: Millimetres
    turn: Degrees = 0
    shape: Annotated[str, Field(max_length=64)] = ""
    by_hand: bool = False


class Laying(Strict):
    """What is laid on sheets, and where.

    ``of`` tells what was laid: when the design has changed since, it is laid anew.
    """

    copies: Annotated[int, Field(ge=1, le=MOST_COPIES, description="of the whole job")] = 1
    quantities: Annotated[tuple[Quantity, ...], Field(max_length=MOST_PLACED)] = ()
    margins: Margins = Margins()
    spacing: Annotated[float, mm("between pieces", ge=0, le=100)] = 2
    overlap: Annotated[float, mm("of parts of what is larger than a sheet", ge=0, le=100)] = 5
    turning: Turning = "quarter"
    sizes: Annotated[tuple[SheetSize, ...], Field(max_length=50)] = ()
    offcuts: Annotated[tuple[Offcut, ...], Field(max_length=50)] = ()
    placed: Annotated[tuple[Placed, ...], Field(max_length=MOST_PLACED)] = ()
    of: Annotated[str, Field(max_length=64)] = ""
    in_rows: Annotated[bool, Field(description="whether the search broke off and pieces lie in rows")] = False

    @model_validator(mode="before")
    @classmethod
    def _of_one_margin(cls, given: Any) -> Any:
        """Designs of before have one margin for all edges."""
        if not isinstance(given, dict):
            return given
        data = dict(cast("dict[str, Any]", given))
        edge = data.pop("margin", None)
        return data if edge is None else {"margins": dict.fromkeys(("left", "right", "top", "bottom"), edge)} | data

    def size_of(self, material: str, usual: tuple[float, float]) -> tuple[float, float]:
        """Width and height of a material's sheet in mm."""
        return next(((one.width, one.height) for one in self.sizes if one.material == material), usual)

    def kept_free_of(self, material: str) -> tuple[KeptFree, ...]:
        """What is kept free of each of a material's sheets."""
        return next((one.kept_free for one in self.sizes if one.material == material), ())

    def count_of(self, layer: str, piece: int) -> int:
        """How many of a layer's piece are laid for each copy of the job."""
        of_layer = next((one.count for one in self.quantities if (one.layer, one.piece) == (layer, None)), 1)
        of_piece = next((one.count for one in self.quantities if (one.layer, one.piece) == (layer, piece)), 1)
        return of_layer * of_piece
