"""The fonts that ship with the app."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files
from pathlib import Path
from types import MappingProxyType

from tinhalo.core.artwork.drawings.drawing_file import DrawingFile
from tinhalo.core.artwork.drawings.error import DrawingError
from tinhalo.core.artwork.drawings.shipped import NOT_HERE, shipped_drawing
from tinhalo.core.artwork.lettering.face import Face, FontError
from tinhalo.core.artwork.lettering.licence import SHIPPED


@dataclass(frozen=True)
class ShippedFont:
    """A font file that comes with the app.

    Attributes:
        id: what designs call it.
        family, style: its names.
        kind: script, heavy, stencil, slab, athletic, rounded or sans.
        path: the font file.
        licence: the file with its licence text.
    """

    id: str
    family: str
    style: str
    kind: str
    path: Path
    licence: Path


@lru_cache(maxsize=1)
def shipped_fonts() -> tuple[ShippedFont, ...]:
    """All shipped fonts, in the order of the catalogue."""
    folder = Path(str(files("tinhalo").joinpath("fonts")))
    catalogue = json.loads((folder / "catalog.json").read_text("utf-8"))
    return tuple(
        ShippedFont(
            entry["id"],
            entry["family"],
            entry["style"],
            entry["kind"],
            folder / entry["id"] / f"{entry['id']}.ttf",
            folder / entry["id"] / "OFL.txt",
        )
        for entry in catalogue
    )


#: The default of every axis.
NO_AXES: Mapping[str, float] = MappingProxyType({})


class ShippedLibrary:
    """The library of shipped fonts; each face is parsed once."""

    def __init__(self) -> None:
        self._fonts = {font.id: font for font in shipped_fonts()}
        self._face = lru_cache(maxsize=64)(self._read)

    def face(self, font: str, axes: Mapping[str, float] = NO_AXES) -> Face:
        """The face with that id, set to ``axes`` if it is a variable font.

        Raises:
            FontError: when no font has it.
        """
        if font not in self._fonts:
            raise FontError(f"There is no font “{font}” here. Choose another one for these words.")
        return self._face(font, tuple(sorted(axes.items())))

    def family(self, font: str) -> str:
        """The font's family name, or the id when it is not known."""
        return self._fonts[font].family if font in self._fonts else font

    def selling(self, font: str) -> str:
        """Whether what is made with the font may be sold, in a line with its licence's own words."""
        return SHIPPED if font in self._fonts else f"There is no font “{font}” here."

    def _read(self, font: str, axes: tuple[tuple[str, float], ...]) -> Face:
        found = self._fonts[font]
        return Face(found.path.read_bytes(), found.family, axes=dict(axes))

    def picture(self, file: str) -> bytes:
        """No pictures are shipped.

        Raises:
            DrawingError: always.
        """
        raise DrawingError(NOT_HERE)

    def drawing(self, file: str) -> DrawingFile:
        """The shipped drawing with that id.

        Raises:
            DrawingError: when there is none.
        """
        return shipped_drawing(file)
