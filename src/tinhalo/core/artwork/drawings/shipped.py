"""The drawings that ship with the app: a kite, gulls, a cloud, bunting."""

from __future__ import annotations

from functools import cache, lru_cache
from pathlib import Path

import tinhalo
from tinhalo.core.artwork.drawings.drawing_file import DrawingFile
from tinhalo.core.artwork.drawings.error import DrawingError

#: What is told where the file of some art is missing.
NOT_HERE = "The file of this art is not here: bring it in again, or another one in its place."

_FOLDER = Path(tinhalo.__file__).parent / "drawings"


@cache
def shipped_drawings() -> dict[str, Path]:
    """Every shipped drawing by its id."""
    return {path.stem: path for path in sorted(_FOLDER.glob("*.svg"))}


@lru_cache(maxsize=16)
def shipped_drawing(file: str) -> DrawingFile:
    """A shipped drawing by its id.

    Raises:
        DrawingError: when there is none.
    """
    # Only who draws one needs the readers.
    from tinhalo.core.artwork.drawings.svg_file import read_svg

    path = shipped_drawings().get(file)
    if path is None:
        raise DrawingError(NOT_HERE)
    return read_svg(path.read_bytes())
