"""What the maker added: ids of fonts and drawings, and a library of such files beside what is shipped."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping

from tinhalo.core.artwork.drawings.drawing_file import OWN_FILE, DrawingFile
from tinhalo.core.artwork.drawings.vet import vet as read_drawing
from tinhalo.core.artwork.lettering.face import OWN, Face
from tinhalo.core.artwork.lettering.licence import of_own
from tinhalo.core.artwork.lettering.shipped import NO_AXES, ShippedLibrary
from tinhalo.core.artwork.lettering.vet import VettedFont, vet
from tinhalo.core.artwork.pictures.picture_file import is_picture
from tinhalo.core.artwork.pictures.picture_file import vet as read_picture


def font_id(font: VettedFont) -> str:
    """The id of an added face: the same file gives the same id everywhere."""
    return f"{OWN}{hashlib.sha256(font.data).hexdigest()[:16]}"


def file_id(data: bytes) -> str:
    """The id of an added drawing or picture: the same file gives the same id everywhere."""
    return f"{OWN_FILE}{hashlib.sha256(data).hexdigest()[:24]}"


class OwnFiles:
    """Font and drawing files by name, read once, beside what is shipped.

    Raises:
        ArtError: with a sentence, for a file that cannot be used.
    """

    def __init__(self, files: Mapping[str, bytes], drawings: Mapping[str, bytes] | None = None) -> None:
        self._shipped = ShippedLibrary()
        self._pictures: dict[str, bytes] = {}
        self._drawings: dict[str, DrawingFile] = {}
        for name, data in (drawings or {}).items():
            if is_picture(data):
                self._pictures[file_id(data)] = read_picture(data, name)[0]
            else:
                self._drawings[file_id(data)] = read_drawing(data, name)
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

    def selling(self, font: str) -> str:
        """Whether what is made with the font may be sold, in a line with its licence's own words."""
        return of_own(self._own[font].facts) if font in self._own else self._shipped.selling(font)

    def picture(self, file: str) -> bytes:
        """The picture with that id, as a PNG of our own.

        Raises:
            DrawingError: when there is none.
        """
        return self._pictures[file] if file in self._pictures else self._shipped.picture(file)

    def drawing(self, file: str) -> DrawingFile:
        """The drawing with that id.

        Raises:
            DrawingError: when there is none.
        """
        return self._drawings[file] if file in self._drawings else self._shipped.drawing(file)
