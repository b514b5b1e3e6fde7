"""Where fonts, drawings and pictures come from."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Protocol

from tinhalo.core.artwork.drawings.drawing_file import DrawingFile
from tinhalo.core.artwork.lettering.face import Face


class Library(Protocol):
    """What art is drawn with, by id."""

    def face(self, font: str, axes: Mapping[str, float] = ...) -> Face:
        """The face with that id, a variable one set to ``axes``.

        Raises:
            FontError: with a sentence, when there is none or it cannot be read.
        """
        ...

    def family(self, font: str) -> str:
        """What the font is called; the id itself when it is not known."""
        ...

    def selling(self, font: str) -> str:
        """Whether what is made with the font may be sold, in a line with its licence's own words."""
        ...

    def picture(self, file: str) -> bytes:
        """The picture with that id, as a PNG of our own.

        Raises:
            DrawingError: with a sentence, when there is none.
        """
        ...

    def drawing(self, file: str) -> DrawingFile:
        """The drawing with that id.

        Raises:
            DrawingError: with a sentence, when there is none.
        """
        ...
