"""Sheets: what leaves laid out by a search, or looked at as it was laid, also by hand."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from fastapi import APIRouter, HTTPException, Request
from pydantic import BaseModel

from tinhalo.api.lists import with_listed_materials
from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop, Workshop
from tinhalo.core.design.design import Design
from tinhalo.core.design.laying import Laying
from tinhalo.core.listing.batch import Job
from tinhalo.core.listing.leaving import laid_list
from tinhalo.core.output import svg_path
from tinhalo.core.output.items import LaidBoard, laid_boards
from tinhalo.core.output.lining_up import marks_of_sheet
from tinhalo.core.output.sheets import Sheet, as_laid, fill_sheets, is_current, lay_out
from tinhalo.core.runtime.memo import digest
from tinhalo.core.runtime.progress import part

router = APIRouter(prefix="/api/sheets", tags=["sheets"])


#: About the share of the time that outlines take before pieces are nested.
_BUILT = 0.3
#: How a list is laid at first: as the design's own, with nothing laid yet.
_NOTHING = {"placed": (), "of": "", "copies": 1, "quantities": ()}


class SheetsRequest(BaseModel):
    """A document; it is laid as its hand-over says, or all rows of its list as that says."""

    document: Design
    of: Literal["design", "list"] = "design"


class LayRequest(SheetsRequest):
    """What is laid anew; ``fill`` asks for as many copies as go on the sheets that the copies there are take."""

    fill: bool = False


class ItemReply(BaseModel):
    """What is laid as one: its outlines about its middle (mm, y down), by layer, and its box (y up).

    ``layer`` and ``piece`` say which of which layer's pieces it is: its quantity is that of both.
    """

    paths: dict[str, str]
    hull: str
    width_mm: float
    height_mm: float
    row: int
    name: str
    layer: str
    piece: int


class BoardReply(BaseModel):
    """A board: what it is of, its sheet's size, what is laid of it, and how much of that are parts of larger pieces.

    ``marks`` is path data of the marks in its sheets' corners, in mm, y down from their lower edge.
    """

    title: str
    material: str
    colour: str | None
    width_mm: float
    height_mm: float
    items: list[ItemReply]
    split: int
    marks: str


class SheetReply(BaseModel):
    """A sheet: which board's, which of them, what lies on it (indices of the laying), and what is wrong with that.

    ``used`` is the share that becomes pieces, up to where the last one ends.
    """

    board: int
    number: int
    placed: list[int]
    used: float
    wrong: list[str]


class SheetsReply(BaseModel):
    """All sheets; ``current`` tells whether what was laid is what the design has now."""

    boards: list[BoardReply]
    sheets: list[SheetReply]
    current: bool
    seconds_each: float


@router.post("/look")
async def look_at_sheets(request: SheetsRequest, shop: Shop, asked: Request) -> SheetsReply:
    """The sheets as they were laid. Given up when the browser no longer waits."""
    return await unless_gone(asked, lambda: _look(request, shop))


@router.post("/lay")
async def lay_sheets(request: LayRequest, shop: Shop, asked: Request) -> Laying:
    """The laying with every piece nested anew. Given up when the browser no longer waits."""

    def lay() -> Laying:
        with part(0, _BUILT):
            boards, laying = _boards(request, shop)
        with part(_BUILT, 1):
            return (fill_sheets if request.fill else lay_out)(boards, laying, shop.waits.nesting)

    return await unless_gone(asked, lay)


def _boards(request: SheetsRequest, shop: Workshop) -> tuple[list[LaidBoard], Laying]:
    """What is laid, and how."""
    document = request.document
    usual = document.hand_over.laying or Laying()
    if request.of == "design":
        return laid_boards(shop.build(document, exact=True), usual), usual
    if document.names is None or not document.names.rows:
        raise HTTPException(422, "The list has no rows: read or type one first.")
    document = with_listed_materials(shop, document)
    laying = document.names.laying if document.names and document.names.laying else usual.model_copy(update=_NOTHING)
    # One list after the other: the pieces of a thousand names are no small thing to keep.
    key = digest("rows laid", laying.model_dump_json(exclude={"placed", "of", "copies"}), _told(document))
    job = Job(document, shop.rows.folder, files=shop.rows.of(document))
    return list(shop.memo.get(key, Boards, lambda: Boards(laid_list(job, laying, shop.crew))).every), laying


def _told(document: Design) -> str:
    """All that the pieces of a list depend on."""
    names = document.names.model_copy(update={"laying": None, "file": "-"}) if document.names else None
    hand_over = document.hand_over.model_copy(update={"laying": None})
    return document.model_copy(update={"names": names, "hand_over": hand_over}).model_dump_json()


@dataclass(frozen=True)
class Boards:
    """Boards that are kept, with the memory that they take."""

    every: list[LaidBoard]

    @property
    def nbytes(self) -> int:
        """Bytes held, about."""
        layers = (layer for one in self.every for item in one.items for layer in item.layers)
        return 1_000 + sum(one.segments.nbytes for layer in layers for piece in layer.pieces for one in piece)


def _look(request: SheetsRequest, shop: Workshop) -> SheetsReply:
    boards, laying = _boards(request, shop)
    sheets = as_laid(boards, laying)
    return SheetsReply(
        boards=[_board(one) for one in boards],
        sheets=[_sheet(one, boards) for one in sheets],
        current=is_current(boards, laying),
        seconds_each=shop.waits.nesting,
    )


def _board(one: LaidBoard) -> BoardReply:
    items: list[ItemReply] = []
    for item in one.items:
        x0, y0, x1, y1 = item.hull.bounds
        paths = {layer.id: svg_path.curves(layer.lines) for layer in item.layers}
        hull = svg_path.polygons([item.hull])
        layer, piece = item.of
        items.append(
            ItemReply(
                paths=paths,
                hull=hull,
                width_mm=x1 - x0,
                height_mm=y1 - y0,
                row=item.row,
                name=item.name,
                layer=layer,
                piece=piece,
            )
        )
    board = one.board
    width, height = one.blanks.whole.size
    return BoardReply(
        title=board.title,
        material=board.material,
        colour=board.colour,
        width_mm=width,
        height_mm=height,
        items=items,
        split=one.split,
        marks=svg_path.curves(marks_of_sheet((width, height), one.lining_up)),
    )


def _sheet(one: Sheet, boards: list[LaidBoard]) -> SheetReply:
    return SheetReply(
        board=boards.index(one.board),
        number=one.number,
        placed=list(one.placed),
        used=one.used,
        wrong=list(one.wrong),
    )
