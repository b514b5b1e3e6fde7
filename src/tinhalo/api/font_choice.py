"""Fonts to choose from: the shipped ones and the maker's own, each shown with the maker's words."""

from __future__ import annotations

from functools import lru_cache
from typing import Annotated

from fastapi import APIRouter, Body, HTTPException, Query, Request, Response
from fastapi.responses import FileResponse
from fontTools.ttLib import TTFont
from pydantic import BaseModel, Field

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop, Workshop
from tinhalo.core.artwork.lettering import sampling
from tinhalo.core.artwork.lettering.font_file import FontFacts, facts
from tinhalo.core.artwork.lettering.licence import of_own
from tinhalo.core.artwork.lettering.shipped import ShippedFont, shipped_fonts
from tinhalo.core.artwork.lettering.vet import MOST_BYTES, vet
from tinhalo.core.document.base import READABLE
from tinhalo.core.output import svg_path
from tinhalo.store.fonts import OwnFont

router = APIRouter(prefix="/api/fonts", tags=["fonts"])

Bounds = tuple[float, float, float, float]
Text = Annotated[str, Query(max_length=60)]
Size = Annotated[float, Query(gt=0, le=2_000)]


class FontReply(BaseModel):
    """A font to choose.

    ``facts`` is what the file says of itself, ``selling`` whether what is made with it may be sold, in a line, and
    ``licence_note`` what the maker noted of a licence that was bought.
    """

    id: str
    family: str
    style: str
    kind: str
    own: bool
    facts: FontFacts
    selling: str
    licence_note: str = ""


class LicenceRequest(BaseModel):
    """What is noted of a licence that was bought; nothing where the note is taken away."""

    note: Annotated[str, Field(max_length=200), READABLE]


class SampleReply(BaseModel):
    """The maker's words in a font: outline (y down) and bounds in mm, narrowest stroke, and what the font lacks.

    ``whole`` tells whether every word comes out in one piece, its dots and accents with it; ``whole_closed_up``
    whether it does once closed up.
    """

    path: str
    bounds_mm: Bounds | None
    narrowest_mm: float | None
    whole: bool
    whole_closed_up: bool
    missing: list[str]


class FeatureReply(BaseModel):
    """An OpenType feature that changes the words: its tag and name, and the words with it switched over."""

    tag: str
    name: str
    usually_on: bool
    path: str
    bounds_mm: Bounds | None


@router.get("")
def list_fonts(shop: Shop) -> list[FontReply]:
    """The maker's own fonts, then the shipped ones in the catalogue's order."""
    return [_own(f) for f in shop.fonts.list()] + [
        FontReply(
            id=f.id,
            family=f.family,
            style=f.style,
            kind=f.kind,
            own=False,
            facts=_shipped_facts(f),
            selling=shop.library.selling(f.id),
        )
        for f in shipped_fonts()
    ]


@router.post("")
async def add_font(
    shop: Shop,
    asked: Request,
    name: Annotated[str, Query(max_length=200)],
    data: Annotated[bytes, Body(media_type="application/octet-stream", max_length=MOST_BYTES + 1)],
) -> list[FontReply]:
    """Add the faces of a font file."""

    def add() -> list[FontReply]:
        added = shop.fonts.add(name, vet(data, name))
        shop.library.forget()
        return [_own(f) for f in added]

    return await unless_gone(asked, add)


@router.put("/{font}/licence", status_code=204)
def note_licence(font: str, request: LicenceRequest, shop: Shop) -> None:
    """Note a licence that was bought for one of the maker's own fonts."""
    if not shop.fonts.note_licence(font, request.note):
        raise HTTPException(404, "There is no such font among your own.")


@router.delete("/{font}", status_code=204)
def remove_font(font: str, shop: Shop) -> None:
    """Forget one of the maker's own fonts."""
    if not shop.fonts.remove(font):
        raise HTTPException(404, "There is no such font among your own.")
    shop.library.forget()


@router.get("/{font}/file", response_class=FileResponse)
def font_file(font: str, shop: Shop) -> Response:
    """The font file, to show its name in its own letters."""
    for f in shipped_fonts():
        if f.id == font:
            return FileResponse(f.path, media_type="font/ttf", headers={"Cache-Control": "max-age=86400"})
    found = shop.fonts.data(font)
    if found is None:
        raise HTTPException(404, "There is no such font.")
    return Response(found[0], media_type="font/ttf")


@router.get("/{font}/sample")
async def sample(font: str, text: Text, size: Size, shop: Shop, asked: Request) -> SampleReply:
    """The maker's words in one font. Given up when the browser no longer waits."""
    return await unless_gone(asked, lambda: _sample(font, text, size, shop))


def _sample(font: str, text: str, size: float, shop: Workshop) -> SampleReply:
    made = sampling.sample(text, font, size, shop.library.face(font))
    return SampleReply(
        path=svg_path.polygons(made.region.area.geoms, 2),
        bounds_mm=made.region.bounds,
        narrowest_mm=made.narrowest,
        whole=made.whole,
        whole_closed_up=made.whole_closed_up,
        missing=list(made.missing),
    )


@router.get("/{font}/features")
async def features(font: str, text: Text, shop: Shop, asked: Request) -> list[FeatureReply]:
    """The features that change these words, each with a picture of what it does."""
    return await unless_gone(asked, lambda: _features(font, text, shop))


def _features(font: str, text: str, shop: Workshop) -> list[FeatureReply]:
    made = sampling.switched(text, font, 20, shop.library.face(font), _facts(font, shop).features)
    return [
        FeatureReply(
            tag=one.tag,
            name=one.name,
            usually_on=one.usually_on,
            path=svg_path.polygons(one.region.area.geoms, 2),
            bounds_mm=one.region.bounds,
        )
        for one in made
    ]


def _own(font: OwnFont) -> FontReply:
    facts = font.facts
    return FontReply(
        id=font.id,
        family=facts.family,
        style=facts.style,
        kind="own",
        own=True,
        facts=facts,
        selling=of_own(facts, font.licence_note),
        licence_note=font.licence_note,
    )


def _facts(font: str, shop: Workshop) -> FontFacts:
    for f in shipped_fonts():
        if f.id == font:
            return _shipped_facts(f)
    for own in shop.fonts.list():
        if own.id == font:
            return own.facts
    raise HTTPException(404, "There is no such font.")


@lru_cache(maxsize=100)
def _shipped_facts(font: ShippedFont) -> FontFacts:
    with TTFont(font.path, lazy=True) as opened:
        return facts(opened, font.family)
