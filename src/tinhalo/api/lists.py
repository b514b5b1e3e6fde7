"""Lists of names: tables read, one row looked at, all packs at once."""

from __future__ import annotations

import io
import zipfile
from typing import Annotated

from fastapi import APIRouter, Body, HTTPException, Query, Request, Response
from pydantic import BaseModel, Field

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop
from tinhalo.core.design.design import Design
from tinhalo.core.design.names import Cell, Column, Names
from tinhalo.core.engine.build import build
from tinhalo.core.findings.causes import causes_of
from tinhalo.core.findings.survey import survey
from tinhalo.core.listing.batch import folders_of, usual_columns
from tinhalo.core.listing.each import Row, row_of
from tinhalo.core.listing.quantities import as_csv, as_xlsx, quantities_of, table_of
from tinhalo.core.listing.table_file import MOST_BYTES, TableError, TableFile, read_table, read_text
from tinhalo.core.output.pack import pack_files
from tinhalo.core.output.thumbnail import thumbnail
from tinhalo.core.runtime.cancellation import checkpoint

router = APIRouter(prefix="/api/names", tags=["names"])


class TableReply(BaseModel):
    """A table: its rows, whether the first looks like titles, and what to know, in sentences."""

    rows: list[list[str]]
    titled: bool
    told: list[str]


class TextRequest(BaseModel):
    """A table that was typed or pasted."""

    text: Annotated[str, Field(max_length=1_000_000)]


class ColumnsRequest(BaseModel):
    """A document, the titles of a table's columns, if it has any, and some of its rows, all equally long."""

    document: Design
    titles: Annotated[list[Cell], Field(max_length=20)] = []
    rows: Annotated[list[Annotated[list[Cell], Field(max_length=20)]], Field(max_length=100)]


class RowRequest(BaseModel):
    """A document with its list, and which row of it, from 0."""

    document: Design
    index: Annotated[int, Field(ge=0, le=10_000)]


class RowReply(BaseModel):
    """A row as it comes out.

    ``told`` is what was done so that its words fit, ``open`` what is to be looked at; ``unmade`` says whether some of
    that cannot be made at all. ``document`` is the row's own design, ``picture`` an SVG.
    """

    words: str
    copies: int
    told: list[str]
    open: list[str]
    unmade: bool
    picture: str
    document: Design


class PacksRequest(BaseModel):
    """A document with its list."""

    document: Design


@router.post("/file")
def read_file(
    data: Annotated[bytes, Body(media_type="application/octet-stream", max_length=MOST_BYTES + 1)],
    name: Annotated[str, Query(min_length=1, max_length=200)],
) -> TableReply:
    """Read a table from a file."""
    try:
        return _table(read_table(data, name))
    except TableError as error:
        raise HTTPException(422, str(error)) from error


@router.post("/text")
def read_pasted(request: TextRequest) -> TableReply:
    """Read a table that was typed or pasted."""
    try:
        return _table(read_text(request.text))
    except TableError as error:
        raise HTTPException(422, f"{str(error)[:1].upper()}{str(error)[1:]}.") from error


@router.post("/columns")
def suggest_columns(request: ColumnsRequest) -> list[Column]:
    """What the columns of a table are most likely for."""
    if len({len(row) for row in request.rows}) > 1:
        raise HTTPException(422, "Rows must be equally long.")
    return list(usual_columns(request.document, request.titles, request.rows).columns)


@router.post("/row")
async def look_at_row(request: RowRequest, shop: Shop, asked: Request) -> RowReply:
    """One row, built and checked as it leaves. Given up when the browser no longer waits."""
    names = _names(request.document, request.index)

    def make() -> RowReply:
        row = row_of(request.document, names, request.index, shop.library, shop.memo)
        built = build(row.design, shop.library, memo=shop.memo)
        causes = causes_of(survey(built, shop.memo), row.design)
        open_ = [one for one in causes if not one.accepted and one.severity != "note"]
        return RowReply(
            words=row.words,
            copies=row.copies,
            told=list(row.told),
            open=[one.sentence for one in open_],
            unmade=any(one.severity == "error" for one in open_),
            picture=thumbnail(built),
            document=row.design,
        )

    return await unless_gone(asked, make)


@router.post("/packs", response_class=Response)
async def pack_all(request: PacksRequest, shop: Shop, asked: Request) -> Response:
    """The cut packs of all rows in one zip file, with what they take. Given up when the browser no longer waits."""
    names = _names(request.document, 0)

    def make() -> bytes:
        held = io.BytesIO()
        rows: list[Row] = []
        quantities = []
        with zipfile.ZipFile(held, "w", zipfile.ZIP_DEFLATED) as archive:
            for index, folder in enumerate(folders_of(names)):
                checkpoint()
                row = row_of(request.document, names, index, shop.library, shop.memo)
                built = build(row.design, shop.library, memo=shop.memo)
                quantities += quantities_of(row, built)
                rows.append(row)
                for name, content in pack_files(built, shop.memo).items():
                    archive.writestr(f"{folder}/{name}", content)
            lines = table_of(quantities)
            archive.writestr("quantities.csv", as_csv(lines))
            archive.writestr("quantities.xlsx", as_xlsx(lines))
            check = [[row.number, row.words, row.copies, " ".join(row.told), ""] for row in rows]
            archive.writestr("check list.csv", as_csv([["row", "name", "copies", "to know", "done"], *check]))
        return held.getvalue()

    content = await unless_gone(asked, make)
    return Response(content, media_type="application/zip", headers={"Cache-Control": "no-store"})


def _names(document: Design, index: int) -> Names:
    if document.names is None or index >= len(document.names.rows):
        raise HTTPException(422, "The list has no such row: read or type one first.")
    return document.names


def _table(found: TableFile) -> TableReply:
    return TableReply(rows=[list(row) for row in found.rows], titled=found.titled, told=list(found.told))
