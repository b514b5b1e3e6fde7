"""The stored designs."""

from __future__ import annotations

import mimetypes
import re
from datetime import datetime
from typing import Annotated
from urllib.parse import quote

from fastapi import APIRouter, Body, Request, Response
from pydantic import BaseModel, Field, StringConstraints

from tinhalo.api.door import Who
from tinhalo.api.problems import ProblemDetails
from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop
from tinhalo.core.design.design import Design
from tinhalo.core.design.references import check_references
from tinhalo.core.listing.each import called, copies_of
from tinhalo.core.output import job_sheet
from tinhalo.core.output.names import plain, readable_name
from tinhalo.core.output.pack import download
from tinhalo.core.output.proof import Paper
from tinhalo.core.output.thumbnail import thumbnail
from tinhalo.store.designs import HISTORY, LONGEST_FOLDER, Save, State
from tinhalo.store.portable import MOST_BYTES, packed, unpacked

router = APIRouter(prefix="/api/designs", tags=["designs"])


#: More saves than anybody makes.
_MOST_PLACES = 10**12
Place = Annotated[int, Field(ge=0, le=_MOST_PLACES)]


class SummaryReply(BaseModel):
    """A design on the shelf; ``changed_by`` is empty where no names are asked for."""

    id: str
    name: str
    folder: str
    revision: int
    updated: datetime
    changed_by: str


class StateReply(BaseModel):
    """A design with its undo history: ``timeline[at - first]`` is the current document."""

    id: str
    revision: int
    first: int
    at: int
    timeline: list[Design]
    changed_by: str


class CreateRequest(BaseModel):
    """A new design's document."""

    document: Design


class SaveRequest(BaseModel):
    """Keep the history up to a place, put documents after it, and stand at a place."""

    base_revision: Place
    keep_through: Annotated[int, Field(ge=-1, le=_MOST_PLACES)]
    add: Annotated[list[Design], Field(max_length=HISTORY)]
    at: Place


class SaveReply(BaseModel):
    """The revision that the save made."""

    revision: int


class RenameRequest(BaseModel):
    """A new name."""

    name: Annotated[str, Field(max_length=200)]


class FolderRequest(BaseModel):
    """Designs, and the folder of the shelf that they go into; an empty name for none."""

    ids: Annotated[list[str], Field(max_length=2_000)]
    folder: Annotated[str, StringConstraints(strip_whitespace=True, max_length=LONGEST_FOLDER)]


_PROBLEM = {"model": ProblemDetails}


@router.get("")
def list_designs(shop: Shop) -> list[SummaryReply]:
    """All designs, the last changed first."""
    return [SummaryReply.model_validate(s, from_attributes=True) for s in shop.designs.list()]


@router.post("", status_code=201)
def create_design(request: CreateRequest, shop: Shop, name: Who) -> StateReply:
    """Store a new design."""
    check_references(request.document)
    return _state(shop.designs.create(request.document, by=name))


@router.post("/folder", status_code=204, responses={404: _PROBLEM})
def put_into_folder(request: FolderRequest, shop: Shop) -> None:
    """Put designs into a folder, all or none."""
    shop.designs.put_into(request.ids, request.folder)


@router.get("/{id}", responses={404: _PROBLEM})
def get_design(id: str, shop: Shop) -> StateReply:
    """One design with its undo history."""
    return _state(shop.designs.get(id))


@router.post("/file", status_code=201)
async def open_file(
    shop: Shop,
    asked: Request,
    name: Who,
    data: Annotated[bytes, Body(media_type="application/octet-stream", max_length=MOST_BYTES + 1)],
) -> StateReply:
    """Store a design from a file of its own, with the fonts, drawings and pictures that it brings."""

    def store() -> StateReply:
        design = unpacked(data, shop.fonts, shop.files)
        shop.library.forget()
        return _state(shop.designs.create(design, by=name))

    return await unless_gone(asked, store)


@router.get("/{id}/file", response_class=Response, responses={404: _PROBLEM})
def get_file(id: str, shop: Shop) -> Response:
    """A design as one file, with all that it is drawn with."""
    _, design = shop.designs.current(id)
    stem = plain(re.sub(r"[^\w\- ]", "", design.name), r"\w \-", "design")
    disposition = f"attachment; filename*=UTF-8''{quote(stem)}.tinhalo.zip"
    content = packed(design, shop.fonts, shop.files)
    return Response(content, media_type="application/zip", headers={"Content-Disposition": disposition})


@router.put("/{id}", responses={404: _PROBLEM, 409: _PROBLEM})
def save_design(id: str, request: SaveRequest, shop: Shop, name: Who) -> SaveReply:
    """Save; refused with 409 when the design was saved by another window since ``base_revision``."""
    for document in request.add:
        check_references(document)
    save = Save(request.base_revision, request.keep_through, request.add, request.at)
    return SaveReply(revision=shop.designs.save(id, save, name))


@router.patch("/{id}", responses={404: _PROBLEM})
def rename_design(id: str, request: RenameRequest, shop: Shop, name: Who) -> SummaryReply:
    """Rename."""
    return SummaryReply.model_validate(shop.designs.rename(id, request.name, name), from_attributes=True)


@router.post("/{id}/duplicate", status_code=201, responses={404: _PROBLEM})
def duplicate_design(id: str, shop: Shop, name: Who) -> StateReply:
    """A copy under a new id."""
    return _state(shop.designs.duplicate(id, name))


@router.delete("/{id}", status_code=204, responses={404: _PROBLEM})
def delete_design(id: str, shop: Shop) -> None:
    """Take a design off the shelf; ``restore`` puts it back."""
    shop.designs.delete(id)


@router.post("/{id}/restore", responses={404: _PROBLEM})
def restore_design(id: str, shop: Shop) -> StateReply:
    """Put a deleted design back."""
    return _state(shop.designs.restore(id))


@router.get("/{id}/thumbnail.svg", response_class=Response, responses={404: _PROBLEM})
async def design_thumbnail(id: str, shop: Shop, asked: Request) -> Response:
    """The design as it stands, in material colours."""

    def draw() -> str:
        _, document = shop.designs.current(id)
        return thumbnail(shop.build(document, exact=False))

    text = await unless_gone(asked, draw)
    return Response(text, media_type="image/svg+xml", headers={"Cache-Control": "max-age=300"})


@router.get("/{id}/files", response_class=Response, responses={404: _PROBLEM})
async def design_files(id: str, shop: Shop, asked: Request) -> Response:
    """What the hand-over asks for: the file, or a zip of several. Given up when the browser no longer waits."""

    def make() -> tuple[str, bytes]:
        _, document = shop.designs.current(id)
        return download(shop.build(document, exact=True), shop.memo)

    return attached(*await unless_gone(asked, make))


@router.get("/{id}/job-sheet.pdf", response_class=Response, responses={404: _PROBLEM})
async def design_job_sheet(id: str, shop: Shop, asked: Request, paper: Paper = "a4") -> Response:
    """The job sheet, to be shown or saved. Given up when the browser no longer waits."""

    def make() -> tuple[str, bytes]:
        _, document = shop.designs.current(id)
        names = document.names
        rows = range(len(names.rows) if names else 0)
        listed = [job_sheet.Listed(k + 1, called(names, k), copies_of(names, k)) for k in rows] if names else []
        sheet = job_sheet.write(shop.build(document, exact=True), paper, listed, shop.memo)
        return f"{readable_name(document.name, 'design')} - job sheet.pdf", sheet

    name, made = await unless_gone(asked, make)
    return attached(name, made, shown=True)


def attached(name: str, content: bytes, *, shown: bool = False) -> Response:
    """A file to be saved under its name, or shown by the browser."""
    media = mimetypes.guess_type(name)[0] or "application/octet-stream"
    disposition = f"{'inline' if shown else 'attachment'}; filename*=UTF-8''{quote(name)}"
    return Response(
        content, media_type=media, headers={"Content-Disposition": disposition, "Cache-Control": "no-store"}
    )


def _state(state: State) -> StateReply:
    return StateReply.model_validate(state, from_attributes=True)
