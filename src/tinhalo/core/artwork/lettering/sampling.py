"""Words in a font, to choose it by: what they look like, whether they hold together, what the font can do with them."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from tinhalo.core.artwork.art import Group
from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.artwork.lettering.face import Face
from tinhalo.core.artwork.lettering.lines import codepoints, graphemes, is_break
from tinhalo.core.artwork.lettering.pieces import pieces_by_word
from tinhalo.core.artwork.lettering.settings import Join
from tinhalo.core.artwork.lettering.typeset import typeset
from tinhalo.core.geometry.curves.precision import SCREEN
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.strokes.thinnest import thinnest_stroke

#: OpenType features that a maker chooses; the others are the font's own business.
CHOICES = {
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
#: Those of them that are on unless somebody switches them off.
USUALLY_ON = frozenset({"calt", "liga"})


@dataclass(frozen=True)
class Sample:
    """Words in a font.

    Attributes:
        region: their outlines in mm.
        narrowest: narrowest stroke in mm; None where there is none, or very many.
        whole: whether every word comes out in one piece, its dots and accents with it.
        whole_closed_up: whether it does once closed up, dots and accents too.
        missing: characters that the font lacks.
    """

    region: Region
    narrowest: float | None
    whole: bool
    whole_closed_up: bool
    missing: tuple[str, ...]


@dataclass(frozen=True)
class Switched:
    """Words with one feature switched over: its tag and name, whether it usually is on, and their outlines in mm."""

    tag: str
    name: str
    usually_on: bool
    region: Region


def sample(text: str, font: str, size: float, face: Face) -> Sample:
    """Words in one font, at a size in mm."""
    made = typeset(Lettering(id="words", text=text, font=font, size=size), face)
    made.check_size()
    parts = made.parts(SCREEN)
    made.check_crossings(parts)
    region = made.united(parts)
    joined = typeset(Lettering(id="words", text=text, font=font, size=size, join=Join(marks=True)), face)
    return Sample(
        region,
        thinnest_stroke(region),
        _whole(pieces_by_word(made, parts)),
        _whole(pieces_by_word(joined, joined.parts(SCREEN))),
        made.missing,
    )


def switched(text: str, font: str, size: float, face: Face, tags: Iterable[str]) -> list[Switched]:
    """Of a font's features those that change these words, each switched over."""
    plain = _glyphs(face, text, {})
    found: list[Switched] = []
    for tag in tags:
        way = {tag: 0 if tag in USUALLY_ON else 1}
        if tag in CHOICES and _glyphs(face, text, way) != plain:
            made = typeset(Lettering(id="words", text=text, font=font, size=size, features=way), face)
            found.append(Switched(tag, CHOICES[tag], tag in USUALLY_ON, made.region(SCREEN)))
    return found


def _glyphs(face: Face, text: str, way: Mapping[str, int]) -> list[int]:
    codes = codepoints([letter for letter in graphemes(text) if not is_break(letter)])
    return [g.glyph for g in face.shape(codes, [(tag, on, 0, len(codes)) for tag, on in way.items()])]


def _whole(words: tuple[Group, ...]) -> bool:
    return all(not word.loose for word in words)
