"""What a font file says of itself: names, licence, axes, features. Read with fontTools."""

from __future__ import annotations

import io
from typing import Any, cast

from fontTools.ttLib import TTFont  # pyright: ignore[reportMissingTypeStubs]
from fontTools.ttLib.ttCollection import TTCollection  # pyright: ignore[reportMissingTypeStubs]
from pydantic import BaseModel, ConfigDict

from tinhalo.core.artwork.lettering.face import FontError

#: First bytes of the formats that can be read (OpenType 1.9, WOFF 1.0 and 2.0).
_SIGNATURES = (b"\x00\x01\x00\x00", b"OTTO", b"true", b"ttcf", b"wOFF", b"wOF2")
MOST_FACES = 40

#: OS/2 fsType, OpenType 1.9: its lowest four bits, the most permissive one counting.
_EMBEDDING = (
    (0x0008, "May be embedded in documents that are edited."),
    (0x0004, "May be embedded in documents for looking at and printing only."),
    (0x0002, "May not be embedded in documents without the maker's permission."),
)


class Axis(BaseModel):
    """An axis of a variable font: its tag, what the font calls it, and its range."""

    model_config = ConfigDict(frozen=True)

    tag: str
    name: str
    least: float
    usual: float
    most: float


class FontFacts(BaseModel):
    """What a font says of itself.

    ``licence`` is the licence text or its address as the font gives it, ``embedding`` its OS/2 embedding bits in plain
    words, ``features`` the tags of its OpenType substitutions.
    """

    model_config = ConfigDict(frozen=True)

    family: str
    style: str
    copyright: str
    licence: str
    embedding: str
    axes: tuple[Axis, ...]
    features: tuple[str, ...]


def check_signature(data: bytes, name: str) -> None:
    """Refuse what is no font file at all.

    Raises:
        FontError: with a sentence.
    """
    if not data.startswith(_SIGNATURES):
        raise FontError(f"{name} is not a font file. TTF, OTF, TTC, WOFF and WOFF2 files can be read.")


def read_faces(data: bytes, name: str) -> list[tuple[FontFacts, bytes]]:
    """All faces of a font file: their facts, and each as the bytes of a plain font file of its own.

    Raises:
        FontError: with a sentence, for what cannot be read. Damaged files may also raise anything else, take long or
            ask for much memory: strange files are read by ``vet``.
    """
    check_signature(data, name)
    if data.startswith(b"ttcf"):
        faces: list[TTFont] = cast(Any, TTCollection(io.BytesIO(data), lazy=True)).fonts
        if len(faces) > MOST_FACES:
            raise FontError(f"{name} holds {len(faces)} fonts; {MOST_FACES} in one file is the most.")
        return [(facts(face, name), _plain(face)) for face in faces]
    font = TTFont(io.BytesIO(data), lazy=True)
    return [(facts(font, name), _plain(font) if font.flavor else data)]


def _plain(font: TTFont) -> bytes:
    plain = io.BytesIO()
    font.flavor = None
    # The same file gives the same bytes whenever it is read: fonts are named by them.
    font.recalcTimestamp = False
    font.save(plain, reorderTables=None)
    return plain.getvalue()


def facts(font: TTFont, name: str) -> FontFacts:
    """The facts of one opened face; ``name`` stands in for a family it does not name."""
    tables: Any = font
    names = tables["name"] if "name" in font else None

    def said(*ids: int) -> str:
        texts = (names.getDebugName(i) for i in ids) if names else ()
        return next((text.strip() for text in texts if text and text.strip()), "")[:2000]

    axes: tuple[Axis, ...] = ()
    if "fvar" in font:
        axes = tuple(
            Axis(
                tag=axis.axisTag,
                name=said(axis.axisNameID) or axis.axisTag,
                least=axis.minValue,
                usual=axis.defaultValue,
                most=axis.maxValue,
            )
            for axis in tables["fvar"].axes[:40]
        )
    features: set[str] = set()
    if "GSUB" in font and tables["GSUB"].table.FeatureList:
        features = {record.FeatureTag for record in tables["GSUB"].table.FeatureList.FeatureRecord}
    return FontFacts(
        family=said(16, 1)[:100] or name,
        style=said(17, 2)[:100] or "Regular",
        copyright=said(0),
        licence=said(13, 14),
        embedding=_embedding(tables["OS/2"].fsType if "OS/2" in font else None),
        axes=axes,
        features=tuple(sorted(features)),
    )


def _embedding(bits: int | None) -> str:
    if bits is None:
        return "Does not say whether it may be embedded."
    for bit, words in _EMBEDDING:
        if bits & bit:
            return words
    return "May be embedded in documents freely."
