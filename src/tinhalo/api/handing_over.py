"""What the hand-over offers: what leaves, file formats, and tables of processes of the maker's own."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated

from fastapi import APIRouter, HTTPException, Path, Request
from pydantic import BaseModel

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop
from tinhalo.core.design.design import Design
from tinhalo.core.design.hand_over import PRESETS, Format, Kind, Table
from tinhalo.core.engine.built import Build
from tinhalo.core.output import svg
from tinhalo.core.output.formats import FORMATS
from tinhalo.core.output.names import Names
from tinhalo.core.output.parts import Part, download_parts
from tinhalo.store.tables import OwnTable

router = APIRouter(prefix="/api", tags=["hand-over"])

#: Lines of a small picture are this share of its longer side.
_LINES = 250
Name = Annotated[str, Path(min_length=1, max_length=80)]


class FormatReply(BaseModel):
    """A file format: what files end with, what it is called, and what it is for."""

    id: Format
    ending: str
    title: str
    use: str


class TableReply(BaseModel):
    """How each process leaves, under a name."""

    name: str
    table: Table
    shipped: bool = False


@router.get("/formats")
def list_formats() -> list[FormatReply]:
    """All formats that files can be written in."""
    return [FormatReply(id=id, ending=one.ending, title=one.title, use=one.use) for id, one in FORMATS.items()]


class LeavingRequest(BaseModel):
    """A document whose hand-over is looked at."""

    document: Design


class LeavingFileReply(BaseModel):
    """What a file of each format holds: its name and endings, layers, size in mm, pieces, and a picture of it (SVG).

    ``kind`` is what it is of the job; ``sheet`` whether pieces are laid out on it.
    """

    title: str
    kind: Kind
    sheet: bool
    name: str
    endings: list[str]
    layers: list[str]
    mirrored: bool
    size_mm: tuple[float, float]
    pieces: int
    picture: str


class LeavingReply(BaseModel):
    """The files of a hand-over, and whether pieces were laid on sheets that are out of date, so that none leaves."""

    files: list[LeavingFileReply]
    sheets_out_of_date: bool


@router.post("/leaving")
async def list_files(request: LeavingRequest, shop: Shop, asked: Request) -> LeavingReply:
    """What a design's hand-over holds, seen before it is made. Given up when the browser no longer waits."""
    return await unless_gone(asked, lambda: _files(shop.build(request.document, exact=True)))


def _files(built: Build) -> LeavingReply:
    parts = download_parts(built, Names.for_people(built))
    laying = built.design.hand_over.laying
    out_of_date = bool(laying and laying.placed) and not any(part.sheet for part in parts)
    return LeavingReply(
        files=[_file(part, built) for part in parts],
        sheets_out_of_date=out_of_date and "boards" in built.design.hand_over.files,
    )


def _file(part: Part, built: Build) -> LeavingFileReply:
    drawing = part.drawing
    # Hairlines would not be seen in a small picture.
    wide = max(*drawing.size, 1.0) / _LINES
    layers = tuple(replace(one, style=replace(one.style, line_width=wide)) for one in drawing.layers)
    x0, y0, x1, y1 = drawing.page or (0.0, 0.0, 0.0, 0.0)
    seen = replace(drawing, layers=layers, page=(x0 - wide, y0 - wide, x1 + wide, y1 + wide))
    return LeavingFileReply(
        title=drawing.title,
        kind=part.kind,
        sheet=part.sheet,
        name=part.stem,
        endings=[
            FORMATS[format].file_name(part.stem, drawing).removeprefix(f"{part.stem}.")
            for format in built.design.hand_over.formats
        ],
        layers=list(part.layers),
        mirrored=part.mirrored,
        size_mm=drawing.size,
        pieces=sum(len(one.pieces) for one in layers),
        picture=svg.write(seen).decode(),
    )


@router.get("/tables")
def list_tables(shop: Shop) -> list[TableReply]:
    """Tables that come with the app, then the maker's own, by name."""
    shipped = [TableReply(name=name, table=table, shipped=True) for name, table in PRESETS.items()]
    return shipped + [TableReply(name=one.name, table=one.table) for one in shop.tables.list()]


@router.put("/tables/{name}")
def save_table(name: Name, table: Table, shop: Shop) -> TableReply:
    """Save a table under a name, new or changed."""
    shop.tables.put(OwnTable(name, table))
    return TableReply(name=name, table=table)


@router.delete("/tables/{name}", status_code=204)
def remove_table(name: str, shop: Shop) -> None:
    """Forget a saved table. Designs that use it keep it."""
    if not shop.tables.remove(name):
        raise HTTPException(404, "This table is not among yours: it may have been removed already.")
