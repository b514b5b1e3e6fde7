"""Fonts to choose from: the shipped ones and the maker's own, each shown with the maker's words."""

from __future__ import annotations

from functools import lru_cache
from typing import Annotated

from fastapi import APIRouter, Body, HTTPException, Query, Response
from fastapi.responses import FileResponse
from fontTools.ttLib import TTFont
from pydantic import BaseModel

from tinhalo.api.workshop import Shop, Workshop
from tinhalo.core.artwork.lettering.block import Join, Lettering
from tinhalo.core.artwork.lettering.face import Face
from tinhalo.core.artwork.lettering.font_file import FontFacts, facts
from tinhalo.core.artwork.lettering.pieces import WordPieces, pieces_by_word
from tinhalo.core.artwork.lettering.shipped import ShippedFont, shipped_fonts
from tinhalo.core.artwork.lettering.typeset import typeset
from tinhalo.core.artwork.lettering.vet import MOST_BYTES, vet
from tinhalo.core.geometry.curves.precision import SCREEN
from tinhalo.core.geometry.strokes.widths import measure
from tinhalo.core.output import svg_path
from tinhalo.store.fonts import OwnFont

router = APIRouter(prefix="/api/fonts", tags=["fonts"])

Bounds = tuple[float, float, float, float]
Text = Annotated[str, Query(max_length=60)]
Size = Annotated[float, Query(gt=0, le=2_000)]

#: OpenType features that a maker chooses; the others are the font's own business.
_CHOICES = {
    "swsh": "Swashes",
    "cswh": "Swashes in context",
    "salt": "Other forms",
    "calt": "Forms that fit their neighbours",
    "titl": "Titling forms",
    "hist": "Historical forms",
    "smcp": "Small capitals",
    "case": "Forms for capitals",
    "liga": "Joined letters",
    "dlig": "More joined letters",
    "onum": "Old-style figures",
    "init": "Forms at the start",
    "fina": "Forms at the end",
} | {f"ss{number:02}": f"Set {number}" for number in range(1, 21)}
_USUALLY_ON = {"calt", "liga"}


class FontReply(BaseModel):
    """A font to choose. ``facts`` is what the file says of itself."""

    id: str
    family: str
    style: str
    kind: str
    own: bool
    facts: FontFacts


class SampleReply(BaseModel):
    """The maker's words in a font: outline (y down) and bounds in mm, narrowest stroke, and what the font lacks.

    ``whole`` tells whether every word comes out in one piece, dots and accents apart; ``whole_closed_up`` whether it
    does once closed up.
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
        FontReply(id=f.id, family=f.family, style=f.style, kind=f.kind, own=False, facts=_shipped_facts(f))
        for f in shipped_fonts()
    ]


@router.post("")
def add_font(
    shop: Shop,
    name: Annotated[str, Query(max_length=200)],
    data: Annotated[bytes, Body(media_type="application/octet-stream", max_length=MOST_BYTES + 1)],
) -> list[FontReply]:
    """Add the faces of a font file."""
    added = shop.fonts.add(name, vet(data, name))
    shop.library.forget()
    return [_own(f) for f in added]


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
def sample(font: str, text: Text, size: Size, shop: Shop) -> SampleReply:
    """The maker's words in one font."""
    face = shop.library.face(font)
    made = typeset(Lettering(id="words", text=text, font=font, size=size), face)
    parts = made.parts(SCREEN)
    region = made.united(parts)
    joined = typeset(Lettering(id="words", text=text, font=font, size=size, join=Join()), face)
    return SampleReply(
        path=svg_path.polygons(region.area.geoms, 2),
        bounds_mm=region.bounds,
        narrowest_mm=measure(region).strokes.narrowest,
        whole=_whole(pieces_by_word(made, parts)),
        whole_closed_up=_whole(pieces_by_word(joined, joined.parts(SCREEN))),
        missing=list(made.missing),
    )


@router.get("/{font}/features")
def features(font: str, text: Text, shop: Shop) -> list[FeatureReply]:
    """The features that change these words, each with a picture of what it does."""
    face = shop.library.face(font)
    plain = _glyphs(face, text, {})
    found: list[FeatureReply] = []
    for tag in _facts(font, shop).features:
        switched = {tag: 0 if tag in _USUALLY_ON else 1}
        if tag in _CHOICES and _glyphs(face, text, switched) != plain:
            made = typeset(Lettering(id="words", text=text, font=font, size=20, features=switched), face)
            region = made.region(SCREEN)
            found.append(
                FeatureReply(
                    tag=tag,
                    name=_CHOICES[tag],
                    usually_on=tag in _USUALLY_ON,
                    path=svg_path.polygons(region.area.geoms, 2),
                    bounds_mm=region.bounds,
                )
            )
    return found


def _own(font: OwnFont) -> FontReply:
    facts = font.facts
    return FontReply(id=font.id, family=facts.family, style=facts.style, kind="own", own=True, facts=facts)


def _glyphs(face: Face, text: str, switched: dict[str, int]) -> list[int]:
    codepoints = [ord(c) for c in text if c not in "\r\n"]
    return [g.glyph for g in face.shape(codepoints, [(tag, on, 0, len(codepoints)) for tag, on in switched.items()])]


def _whole(words: tuple[WordPieces, ...]) -> bool:
    return all(one.why == "mark" for word in words for one in word.loose)


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
