"""What a printed layer is filled with, for every format: one tile and where it lies."""

from __future__ import annotations

import io
from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
from PIL import Image

from tinhalo.core.artwork.drawings.error import DrawingError
from tinhalo.core.artwork.library import Library
from tinhalo.core.artwork.pictures.picture_file import pixels, size_of
from tinhalo.core.design.print_fill import MOST_TIMES, PatternFill, PictureFill, PrintFill
from tinhalo.core.geometry.arrays import Box, Floats
from tinhalo.core.geometry.curves.affine import after, shift, turn
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.output.motifs import tile

#: How far pictures side by side reach over each other, in mm.
_OVER = 0.02


@dataclass(frozen=True)
class Figure:
    """Outlines in a colour, in a tile's own mm, y up."""

    colour: str
    contours: tuple[Contour, ...]


@dataclass(frozen=True)
class Paint:
    """A tile, from its lower left corner, with what is on it.

    Attributes:
        size: its width and height in mm.
        matrix: from the tile to the drawing, shape (2, 3).
        figures: what is drawn on it, in painting order.
        file: id of the picture on it, if it is one.
        own: that picture as a PNG, empty where there is none.
        ground: the layer's colour, which shows where the picture is see-through.
        repeated: whether it comes again side by side, or once.
    """

    size: tuple[float, float]
    matrix: Floats
    figures: tuple[Figure, ...] = ()
    file: str = ""
    own: bytes = b""
    ground: str = ""
    repeated: bool = True

    @property
    def picture(self) -> bytes:
        """The picture as a PNG, laid over its ground; empty where there is none. Only files need it: it takes long."""
        return _laid_over(self.own, self.ground) if self.own else b""

    def transformed(self, matrix: Floats) -> Paint:
        """The same after an affine map of the drawing, shape (2, 3)."""
        return replace(self, matrix=after(matrix, self.matrix))

    @property
    def down(self) -> Floats:
        """The same map where y points down on both sides, shape (2, 3)."""
        return self.matrix * [[1, -1, 1], [-1, 1, -1]]

    @property
    def picture_size(self) -> tuple[float, float]:
        """Width and height of the picture on it in mm: a hair over the tile, so that no seam shows between two."""
        over = _OVER if self.repeated else 0.0
        return self.size[0] + over, self.size[1] + over

    def tiles_over(self, box: Box) -> tuple[range, range]:
        """Columns and rows of tiles that cover a box of the drawing, in mm."""
        if not self.repeated:
            return range(1), range(1)
        linear, moved = self.matrix[:, :2], self.matrix[:, 2]
        corners = np.array([[x, y] for x in (box[0], box[2]) for y in (box[1], box[3])], float)
        there = (corners - moved) @ np.linalg.inv(linear).T / self.size
        (c0, r0), (c1, r1) = np.floor(there.min(axis=0)), np.ceil(there.max(axis=0))
        return range(int(c0), int(c1)), range(int(r0), int(r1))


def paint_of(fill: PrintFill | None, ground: str, bounds: Box | None, library: Library) -> Paint | None:
    """The paint of a layer in these bounds (mm) and colour; None where it is plain, or its picture is not here."""
    # The findings say so where there is none for what is wanted.
    if fill is None or bounds is None or fill.times(bounds) > MOST_TIMES:
        return None
    middle = shift((bounds[0] + bounds[2]) / 2, (bounds[1] + bounds[3]) / 2)
    way = after(middle, turn(fill.turn, 1, 1))
    if isinstance(fill, PatternFill):
        return _patterned(fill, ground, way)
    try:
        picture = library.picture(fill.file)
    except DrawingError:
        # The findings say that it is not here.
        return None
    return _pictured(fill, picture, ground, bounds, way)


def _patterned(fill: PatternFill, ground: str, way: Floats) -> Paint:
    height, figures = tile(fill.motif)
    drawn = tuple(
        Figure(_mixed(ground, fill.colour, share), tuple(one.transformed(shift(0, 0, fill.size)) for one in contours))
        for share, contours in figures
    )
    size = (fill.size, height * fill.size)
    return Paint(size, after(way, shift(-size[0] / 2, -size[1] / 2)), drawn)


def _pictured(fill: PictureFill, picture: bytes, ground: str, bounds: Box, way: Floats) -> Paint:
    columns, rows = size_of(picture)
    wide = fill.wide(columns, rows, bounds)
    size = (wide, wide * rows / columns)
    matrix = after(way, shift(-size[0] / 2, -size[1] / 2))
    return Paint(size, matrix, file=fill.file, own=picture, ground=ground, repeated=fill.fit == "tile")


@lru_cache(maxsize=4)
def _laid_over(picture: bytes, ground: str) -> bytes:
    """A picture without anything see-through: what is, shows the ground."""
    dots = pixels(picture)
    if (dots[:, :, 3] == 255).all():
        return picture
    seen = Image.fromarray(dots)
    flat = Image.new("RGBA", seen.size, ground)
    flat.alpha_composite(seen)
    held = io.BytesIO()
    flat.convert("RGB").save(held, "PNG", compress_level=3)
    return held.getvalue()


def _mixed(ground: str, colour: str, share: float) -> str:
    pairs = zip(_channels(ground), _channels(colour), strict=True)
    return "#" + "".join(f"{round(a + (b - a) * share):02x}" for a, b in pairs)


def _channels(colour: str) -> Iterator[int]:
    return (int(colour[k : k + 2], 16) for k in (1, 3, 5))
