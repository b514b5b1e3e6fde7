"""Pages for customers: proofs, and several designs or colour ways side by side."""

from __future__ import annotations

import base64
import binascii
from collections.abc import Sequence
from datetime import date
from typing import Annotated, Literal
from urllib.parse import quote

from fastapi import APIRouter, Request, Response
from pydantic import BaseModel, Field, field_validator

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop
from tinhalo.core.artwork.drawings.error import DrawingError
from tinhalo.core.artwork.pictures import picture_file
from tinhalo.core.design.design import Design
from tinhalo.core.document.base import READABLE
from tinhalo.core.output import contact_sheet
from tinhalo.core.output.contact_sheet import MOST_SHOWN, Shown
from tinhalo.core.output.names import readable_name
from tinhalo.core.output.page_picture import painted
from tinhalo.core.output.proof import Paper, Proof, write
from tinhalo.core.runtime.progress import each

router = APIRouter(prefix="/api/proof", tags=["proof"])


class _Page(BaseModel):
    """A page and how it leaves."""

    paper: Paper = "a4"
    format: Literal["pdf", "png"] = "pdf"
    dots_per_inch: Annotated[float, Field(ge=50, le=600, allow_inf_nan=False)] = 150


class ProofRequest(_Page):
    """A document and its revision, a picture of it in the round (PNG or JPEG, base64), and words to the customer."""

    document: Design
    revision: Annotated[int, Field(ge=0, le=2**53)] = 0
    picture: Annotated[str, Field(max_length=8_000_000)] = ""
    shop: Annotated[str, Field(max_length=80), READABLE] = ""
    price: Annotated[str, Field(max_length=40), READABLE] = ""
    note: Annotated[str, Field(max_length=400), READABLE] = ""


class _SideBySide(_Page):
    one_scale: Annotated[bool, Field(description="all at one scale, or each as large as there is room")] = False


class ContactSheetRequest(_SideBySide):
    """Designs of the shelf that are to be seen on one page."""

    ids: Annotated[tuple[str, ...], Field(min_length=1, max_length=10_000)]

    @field_validator("ids")
    @classmethod
    def _fit(cls, ids: tuple[str, ...]) -> tuple[str, ...]:
        if len(ids) > MOST_SHOWN:
            raise ValueError(f"At most {MOST_SHOWN} designs fit on one page: {len(ids)} are picked.")
        return ids


class WaysSheetRequest(_SideBySide):
    """A document that is to be seen in all of its colour ways on one page."""

    document: Design


@router.post("", response_class=Response)
async def make_proof(request: ProofRequest, shop: Shop, asked: Request) -> Response:
    """One page. Given up when the browser no longer waits."""

    def make() -> bytes:
        document = request.document
        ways = tuple((way.name, shop.build(document.dressed(way), exact=True)) for way in document.colour_ways)
        built = shop.build(document, exact=True)
        picture = _picture(request.picture)
        words = (request.shop, request.price, request.note)
        page = write(Proof(built, request.revision, date.today(), picture, ways, request.paper, *words))
        return page if request.format == "pdf" else painted(page, request.dots_per_inch)

    return _file(request, f"{request.document.name} proof", await unless_gone(asked, make))


@router.post("/side-by-side", response_class=Response)
async def make_contact_sheet(request: ContactSheetRequest, shop: Shop, asked: Request) -> Response:
    """Designs of the shelf on one page, as they stand. Given up when the browser no longer waits."""

    def make() -> bytes:
        documents = [shop.designs.current(id)[1] for id in request.ids]
        shown = [Shown.of(one.name, shop.build(one, exact=True)) for one in each(documents)]
        title = documents[0].name if len(documents) == 1 else f"{len(documents)} designs"
        return _side_by_side(request, title, shown)

    return _file(request, "contact sheet", await unless_gone(asked, make))


@router.post("/colour-ways", response_class=Response)
async def make_ways_sheet(request: WaysSheetRequest, shop: Shop, asked: Request) -> Response:
    """A design in all of its colour ways on one page, and as it is where that is none of them."""
    document = request.document

    def make() -> bytes:
        dressed = [(way.name, document.dressed(way)) for way in document.colour_ways]
        if all(one.layers != document.layers for _, one in dressed):
            dressed.insert(0, ("as it is", document))
        shown = [Shown.of(name, shop.build(one, exact=True)) for name, one in each(dressed)]
        return _side_by_side(request, document.name, shown)

    return _file(request, f"{document.name} colour ways", await unless_gone(asked, make))


def _side_by_side(request: _SideBySide, title: str, shown: Sequence[Shown]) -> bytes:
    page = contact_sheet.write(title, shown, date.today(), request.paper, one_scale=request.one_scale)
    return page if request.format == "pdf" else painted(page, request.dots_per_inch)


def _file(request: _Page, name: str, data: bytes) -> Response:
    stem = readable_name(name, "design")
    disposition = f"attachment; filename*=UTF-8''{quote(f'{stem}.{request.format}')}"
    media = "application/pdf" if request.format == "pdf" else "image/png"
    return Response(data, media_type=media, headers={"Content-Disposition": disposition})


def _picture(text: str) -> bytes:
    """The picture as a PNG of our own; empty where there is none."""
    if not text:
        return b""
    try:
        data = base64.b64decode(text, validate=True)
    except binascii.Error as error:
        raise DrawingError("the picture of the proof is damaged") from error
    return picture_file.vet(data, "The picture")[0]
