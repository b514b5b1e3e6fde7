"""Sheets: what leaves laid out by a search, or looked at as it was laid, also by hand."""

from __future__ import annotations

from fastapi import APIRouter, Request
from pydantic import BaseModel

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop, Workshop
from tinhalo.core.design.design import Design
from tinhalo.core.design.laying import Laying
from tinhalo.core.output import svg_path
from tinhalo.core.output.items import LaidBoard, laid_boards
from tinhalo.core.output.nesting import SECONDS
from tinhalo.core.output.sheets import Sheet, is_current, lay_out, sheets_of

router = APIRouter(prefix="/api/sheets", tags=["sheets"])


class SheetsRequest(BaseModel):
    """A document; it is laid as its hand-over says."""

    document: Design


class ItemReply(BaseModel):
    """What is laid as one: its outlines about its middle (mm, y down), by layer, and its box (y up)."""

    paths: dict[str, str]
    hull: str
    width_mm: float
    height_mm: float


class BoardReply(BaseModel):
    """A board: what it is of, its sheet's size, what is laid of it, and how much of that are parts of larger pieces."""

    title: str
    material: str
    colour: str | None
    width_mm: float
    height_mm: float
    items: list[ItemReply]
    split: int


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
    return await unless_gone(asked, lambda: _look(request.document, shop))


@router.post("/lay")
async def lay_sheets(request: SheetsRequest, shop: Shop, asked: Request) -> Laying:
    """The hand-over's laying with every piece nested anew. Given up when the browser no longer waits."""

    def lay() -> Laying:
        built = shop.build(request.document, exact=True)
        return lay_out(built, request.document.hand_over.laying or Laying())

    return await unless_gone(asked, lay)


def _look(document: Design, shop: Workshop) -> SheetsReply:
    built = shop.build(document, exact=True)
    boards = laid_boards(built)
    laying = document.hand_over.laying or Laying()
    sheets = sheets_of(built, boards)
    return SheetsReply(
        boards=[_board(one) for one in boards],
        sheets=[_sheet(one, boards) for one in sheets],
        current=is_current(boards, laying),
        seconds_each=SECONDS,
    )


def _board(one: LaidBoard) -> BoardReply:
    items: list[ItemReply] = []
    for item in one.items:
        x0, y0, x1, y1 = item.hull.bounds
        paths = {layer.id: svg_path.curves(layer.lines) for layer in item.layers}
        hull = svg_path.polygons([item.hull])
        items.append(ItemReply(paths=paths, hull=hull, width_mm=x1 - x0, height_mm=y1 - y0))
    board = one.board
    return BoardReply(
        title=board.title,
        material=board.material,
        colour=board.colour,
        width_mm=one.size[0],
        height_mm=one.size[1],
        items=items,
        split=one.split,
    )


def _sheet(one: Sheet, boards: list[LaidBoard]) -> SheetReply:
    return SheetReply(
        board=boards.index(one.board),
        number=one.number,
        placed=list(one.placed),
        used=one.used,
        wrong=list(one.wrong),
    )
