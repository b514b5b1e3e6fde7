"""Proofs for customers."""

from __future__ import annotations

import base64
import binascii
from datetime import date
from typing import Annotated, Literal
from urllib.parse import quote

from fastapi import APIRouter, Request, Response
from pydantic import BaseModel, Field

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop
from tinhalo.core.artwork.drawings.error import DrawingError
from tinhalo.core.artwork.pictures import picture_file
from tinhalo.core.design.design import Design
from tinhalo.core.output.names import plain
from tinhalo.core.output.proof import Paper, Proof, write
from tinhalo.core.output.proof_files import as_pdf, as_png
from tinhalo.store.portable import packed

router = APIRouter(prefix="/api/proof", tags=["proof"])


class ProofRequest(BaseModel):
    """A document and its revision, a picture of it in the round (PNG or JPEG, base64), and what is wanted."""

    document: Design
    revision: Annotated[int, Field(ge=0, le=2**53)] = 0
    picture: Annotated[str, Field(max_length=8_000_000)] = ""
    paper: Paper = "a4"
    format: Literal["pdf", "png"] = "pdf"
    dots_per_inch: Annotated[float, Field(ge=50, le=600, allow_inf_nan=False)] = 150


@router.post("", response_class=Response)
async def make_proof(request: ProofRequest, shop: Shop, asked: Request) -> Response:
    """One page, with the design in it. Given up when the browser no longer waits."""

    def make() -> bytes:
        document = request.document
        ways = tuple((way.name, shop.build(document.dressed(way), exact=True)) for way in document.colour_ways)
        built = shop.build(document, exact=True)
        picture = _picture(request.picture)
        page = write(Proof(built, request.revision, date.today(), picture, ways, request.paper))
        design = packed(document, shop.fonts, shop.files)
        return as_pdf(page, design) if request.format == "pdf" else as_png(page, design, request.dots_per_inch)

    data = await unless_gone(asked, make)
    stem = plain(request.document.name, r"\w \-", "design")
    disposition = f"attachment; filename*=UTF-8''{quote(f'{stem} proof.{request.format}')}"
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
