"""Fonts that the maker added: their ids, and a library of font files beside the shipped fonts."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping

from tinhalo.core.artwork.lettering.face import OWN, Face
from tinhalo.core.artwork.lettering.shipped import NO_AXES, ShippedLibrary
from tinhalo.core.artwork.lettering.vet import VettedFont, vet


def font_id(font: VettedFont) -> str:
    """The id of an added face: the same file gives the same id everywhere."""
    return f"{OWN}{hashlib.sha256(font.data).hexdigest()[:16]}"


class OwnFiles:
    """Font files by name, read once, beside the shipped fonts.

    Raises:
        FontError: with a sentence, for a file that cannot be used.
    """

    def __init__(self, files: Mapping[str, bytes]) -> None:
        self._shipped = ShippedLibrary()
        self._own = {font_id(font): font for name, data in files.items() for font in vet(data, name)}

    def face(self, font: str, axes: Mapping[str, float] = NO_AXES) -> Face:
        """The face with that id, set to ``axes`` if it is a variable font.

        Raises:
            FontError: when no font has it.
        """
        if font in self._own:
            return Face(self._own[font].data, self._own[font].facts.family, axes)
        return self._shipped.face(font, axes)

    def family(self, font: str) -> str:
        """The font's family name, or the id when it is not known."""
        return self._own[font].facts.family if font in self._own else self._shipped.family(font)
