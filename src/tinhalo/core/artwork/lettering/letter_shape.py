"""A letter's glyphs relative to where it stands, so that equal letters are equal wherever that is."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from shapely import Polygon

from tinhalo.core.artwork.lettering.face import GlyphOutline
from tinhalo.core.artwork.lettering.placed import PlacedGlyph, filled, joined
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.precision import Precision

#: The same for the screen and for what leaves, so that letters stand at the same places in both.
_PRECISION = Precision(chord=0.004, turn=6.0, arc_turn=6.0, needless=0.0005)


@dataclass(frozen=True)
class LetterShape:
    """A letter's character and its glyphs, relative to the first one's x; matrices by rows."""

    text: str
    glyphs: tuple[tuple[GlyphOutline, tuple[float, ...]], ...]

    @staticmethod
    def of(text: str, placed: Sequence[PlacedGlyph]) -> tuple[LetterShape, float]:
        """The letter, and its x on the line in mm."""
        x = float(placed[0].matrix[0, 2])
        return LetterShape(text, tuple((p.glyph, _relative(p.matrix, x)) for p in placed)), x

    def placed(self) -> list[PlacedGlyph]:
        """Its glyphs as they stand at x = 0."""
        return [PlacedGlyph(0, glyph, np.reshape(matrix, (2, 3))) for glyph, matrix in self.glyphs]


def polygons_of(glyphs: Sequence[PlacedGlyph]) -> list[Polygon]:
    """What glyphs fill, as finely as letters' places depend on."""
    return [polygon for one in filled(glyphs, joined(glyphs), _PRECISION) for polygon in one]


def _relative(matrix: Floats, x: float) -> tuple[float, ...]:
    moved = matrix - [[0, 0, x], [0, 0, 0]]
    return tuple(round(v, 7) for v in moved.ravel().tolist())
