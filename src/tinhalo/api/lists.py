"""Lists of names: tables read, rows looked at and changed one by one, and all that leaves of them at once."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from pathlib import Path
from tempfile import mkdtemp
from typing import Annotated
from urllib.parse import quote

from fastapi import APIRouter, Body, HTTPException, Query, Request, Response
from fastapi.responses import FileResponse
from pydantic import BaseModel, Field
from starlette.background import BackgroundTask

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop, Workshop
from tinhalo.core.design.design import Design
from tinhalo.core.design.names import MOST_ROWS, Cell, Change, Column, Names
from tinhalo.core.listing.batch import JOURNAL, Job, batch
from tinhalo.core.listing.columns import usual_columns
from tinhalo.core.listing.each import called, row_of
from tinhalo.core.listing.leaving import leave
from tinhalo.core.listing.own import differences, own_of
from tinhalo.core.listing.rows import Asked, look, mend
from tinhalo.core.listing.table_file import MOST_BYTES, TableError, TableFile, read_table, read_text
from tinhalo.core.output.archive import write_zip
from tinhalo.core.output.names import plain
from tinhalo.core.runtime.cancellation import checkpoint
from tinhalo.core.runtime.progress import part

router = APIRouter(prefix="/api/names", tags=["names"])

Index = Annotated[int, Field(ge=0, lt=MOST_ROWS)]
#: About the share of the time that rows take of all that leaves.
_ROWS = 0.9


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
    """A document with its list, and which row of it, from 0.

    No other row need be sent: ``number`` says then which it is of the whole list, from 1.
    """

    document: Design
    index: Index
    number: Annotated[int | None, Field(ge=1, le=MOST_ROWS)] = None


class CauseReply(BaseModel):
    """Findings of a row with one cause, and what mends them first, if anything does."""

    kind: str
    layer: str | None
    sentence: str
    mend: str | None


class RowReply(BaseModel):
    """A row as it comes out.

    ``told`` is what was done so that its words fit, ``open`` what is to be looked at; ``unmade`` says whether some of
    that cannot be made at all. ``document`` is the row's own design, ``picture`` an SVG; ``own`` says whether
    something is different for this name alone.
    """

    words: str
    copies: int
    told: list[str]
    open: list[CauseReply]
    unmade: bool
    own: bool
    picture: str
    document: Design


class OwnRequest(BaseModel):
    """A document with its list, the words that a row of it is known by, and that row's design as it was changed."""

    document: Design
    words: Annotated[str, Field(max_length=2_000)]
    changed: Design


class MendRowRequest(RowRequest):
    """A row, and what of it is mended: findings of a kind in a layer."""

    kind: Annotated[str, Field(max_length=40)]
    layer: Annotated[str | None, Field(max_length=64)] = None


class OwnReply(BaseModel):
    """What is different for a name alone now, and what to know, in sentences."""

    words: str
    changes: list[Change]
    told: list[str]


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
    row = _row(shop, request)

    def make() -> RowReply:
        found = shop.crew.ask(look, row)
        return RowReply(
            words=found.row.words,
            copies=found.row.copies,
            told=list(found.row.told),
            open=[
                CauseReply(
                    kind=one.kind,
                    layer=one.layer,
                    sentence=one.sentence,
                    mend=one.mends[0].title if one.mends else None,
                )
                for one in found.causes
            ],
            unmade=any(one.severity == "error" for one in found.causes),
            own=bool(own_of(row.names, found.row.words)),
            picture=found.picture,
            document=found.row.design,
        )

    return await unless_gone(asked, make)


@router.post("/own")
async def tell_own(request: OwnRequest, shop: Shop, asked: Request) -> OwnReply:
    """How a row's design was changed from what the list makes of it. Given up when the browser no longer waits."""
    names = request.document.names or Names()
    index = next((k for k in range(len(names.rows)) if called(names, k) == request.words), None)
    if index is None:
        raise HTTPException(404, f"The list has no row “{request.words}” any more.")
    one = _row(shop, RowRequest(document=request.document, index=index))

    def compare() -> OwnReply:
        row = row_of(one.design, one.names, 0, shop.library, shop.memo, one.number)
        found = differences(row.usual, request.changed)
        return OwnReply(words=row.words, changes=list(found.changes), told=list(found.told))

    return await unless_gone(asked, compare)


@router.post("/mend")
async def mend_row(request: MendRowRequest, shop: Shop, asked: Request) -> OwnReply:
    """Mend what a row has of a kind, for that name alone. Given up when the browser no longer waits."""
    row = _row(shop, request)

    def make() -> OwnReply:
        found = shop.crew.ask(mend, row, request.kind, request.layer)
        return OwnReply(words=found.words, changes=list(found.changes), told=list(found.told))

    return await unless_gone(asked, make)


@router.post("/packs", response_class=Response)
async def pack_all(request: PacksRequest, shop: Shop, asked: Request) -> Response:
    """All that leaves of a list in one zip file. Given up when the browser no longer waits."""
    document = _listed(shop, request.document, 0)
    folder = Path(mkdtemp(dir=shop.rows.folder))

    def make() -> Path:
        job = Job(document, folder / "list", files=shop.rows.of(document))
        with part(0, _ROWS):
            done = list(batch(job, shop.crew))
        with part(_ROWS, 1):
            leave(job, done, shop.crew)
        return _zipped(job.out, folder / "packs.zip")

    try:
        path = await unless_gone(asked, make)
    except OSError as error:
        shutil.rmtree(folder, ignore_errors=True)
        told = f"The packs cannot be written here: {error.strerror or error}. Make room, and try it again."
        raise HTTPException(507, told) from error
    except BaseException:
        shutil.rmtree(folder, ignore_errors=True)
        raise
    title = quote(plain(document.name, r"\w \-", "list"))
    return FileResponse(
        path,
        media_type="application/zip",
        headers={
            "Cache-Control": "no-store",
            "Content-Disposition": f"attachment; filename*=UTF-8''{title}%20packs.zip",
        },
        background=BackgroundTask(shutil.rmtree, folder, ignore_errors=True),
    )


def _zipped(folder: Path, path: Path) -> Path:
    """All files of a folder but the journal, in one."""

    def files() -> Iterator[tuple[str, bytes]]:
        for one in sorted(folder.rglob("*")):
            checkpoint()
            if one.is_file() and one.name != JOURNAL:
                yield str(one.relative_to(folder)), one.read_bytes()

    write_zip(path, files())
    return path


def _row(shop: Workshop, request: RowRequest) -> Asked:
    document = _listed(shop, request.document, request.index)
    return Asked.of(document, request.index, shop.rows.of(document), request.number)


def _listed(shop: Workshop, document: Design, index: int) -> Design:
    """The document, if it has such a row; with own materials that its list names."""
    if document.names is None or index >= len(document.names.rows):
        raise HTTPException(422, "The list has no such row: read or type one first.")
    return with_listed_materials(shop, document)


def with_listed_materials(shop: Workshop, document: Design) -> Design:
    """The document with those of the maker's own materials that its list names."""
    if document.names is None:
        return document
    columns = [k for k, one in enumerate(document.names.columns) if one.use == "material"]
    named = {row[k].strip().casefold() for row in document.names.rows for k in columns if k < len(row)}
    there = {one.id for one in document.materials}
    own = shop.materials.list() if named else []
    found = tuple(one for one in own if one.name.casefold() in named and one.id not in there)
    return document.model_copy(update={"materials": (*document.materials, *found)}) if found else document


def _table(found: TableFile) -> TableReply:
    return TableReply(rows=[list(row) for row in found.rows], titled=found.titled, told=list(found.told))
