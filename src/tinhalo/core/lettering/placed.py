"""Glyphs at their places, and the areas they fill."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from shapely import Polygon

from tinhalo.core.geometry.fill import filled_nonzero
from tinhalo.core.geometry.outline import Floats, Outline
from tinhalo.core.geometry.precision import Precision
from tinhalo.core.lettering.face import GlyphOutline


@dataclass(frozen=True)
class PlacedGlyph:
    """A glyph at its place: the letter it belongs to and the map from font units to mm, shape (2, 3)."""

    letter: int
    glyph: GlyphOutline
    matrix: Floats

    def moved(self, outer: Floats) -> PlacedGlyph:
        """The glyph after one more affine map, shape (2, 3)."""
        return PlacedGlyph(self.letter, self.glyph, after(outer, self.matrix))


def joined(glyphs: Sequence[PlacedGlyph]) -> Outline:
    """All contours of the glyphs in mm, overlapping where they overlap."""
    return Outline.joined([g.glyph.outline.transformed(g.matrix) for g in glyphs])


def filled(glyphs: Sequence[PlacedGlyph], outline: Outline, precision: Precision) -> list[list[Polygon]]:
    """The polygons that each glyph fills, given all their contours; those of one glyph do not overlap."""
    rings = outline.flattened(precision.chord, precision.turn)
    made: list[list[Polygon]] = []
    first = 0
    for placed in glyphs:
        count = len(placed.glyph.outline.starts) - 1
        made.append(_glyph_filled(rings[first : first + count], placed.glyph.pieces))
        first += count
    return made


def _glyph_filled(rings: list[Floats], pieces: tuple[tuple[int, tuple[int, ...]], ...] | None) -> list[Polygon]:
    if pieces is not None:
        made = [
            Polygon(rings[shell], [rings[h] for h in holes if len(rings[h]) >= 3])
            for shell, holes in pieces
            if len(rings[shell]) >= 3
        ]
        # Contours that only just miss each other in the font may cross once flattened.
        if bool(np.all(shapely.is_valid(made))):
            return made
    return filled_nonzero(rings)


def shift(dx: float, dy: float, scale: float = 1.0) -> Floats:
    """The affine map that scales, then moves by (dx, dy) mm, shape (2, 3)."""
    return np.array([[scale, 0, dx], [0, scale, dy]], float)


def turn(degrees: float, scale_x: float, scale_y: float) -> Floats:
    """The affine map that scales, then turns counter-clockwise about the origin, shape (2, 3)."""
    angle = np.radians(degrees)
    c, s = np.cos(angle), np.sin(angle)
    return np.array([[c * scale_x, -s * scale_y, 0], [s * scale_x, c * scale_y, 0]], float)


def after(outer: Floats, inner: Floats) -> Floats:
    """The affine map that applies ``inner`` first, then ``outer``; both shape (2, 3)."""
    linear = outer[:, :2] @ inner
    linear[:, 2] += outer[:, 2]
    return linear
