"""Another font for words that theirs cannot draw."""

from __future__ import annotations

from collections.abc import Callable

from tinhalo.core.artwork.lettering.face import Face
from tinhalo.core.artwork.lettering.lines import codepoints, graphemes, is_break
from tinhalo.core.artwork.lettering.shipped import ShippedFont, shipped_fonts


def substitute(text: str, font: str, face: Callable[[str], Face]) -> ShippedFont | None:
    """The first shipped font that has every character of a text, one of the same kind if there is any.

    Args:
        text: the words.
        font: id of their own font.
        face: gives a shipped font's face by its id.
    """
    fonts = shipped_fonts()
    kind = next((one.kind for one in fonts if one.id == font), None)
    needed = codepoints([letter for letter in graphemes(text) if not is_break(letter)])
    for one in sorted(fonts, key=lambda other: other.kind != kind):
        if one.id != font and all(glyph.glyph for glyph in face(one.id).shape(needed, [])):
            return one
    return None
