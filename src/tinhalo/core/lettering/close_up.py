"""Close up: the smallest moves along the line after which each word holds together.

Every letter is moved towards the one before it until their bodies overlap as deep as asked; letters that overlap
already stay. Dots and accents ride along. A letter that shares no height with its neighbour (an apostrophe) is passed
over, and the next one closes up to the one before it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from shapely import MultiPolygon
from shapely.affinity import translate

from tinhalo.core.geometry.approach import Shape, closing_shift
from tinhalo.core.geometry.outline import Floats
from tinhalo.core.geometry.precision import Precision
from tinhalo.core.lettering.art import Join
from tinhalo.core.lettering.face import GlyphOutline
from tinhalo.core.lettering.parts import LetterParts
from tinhalo.core.lettering.placed import PlacedGlyph, filled, joined

#: The same for the screen and for what leaves, so that letters stand at the same places in both.
_PRECISION = Precision(chord=0.004, turn=6.0, arc_turn=6.0)


@dataclass(frozen=True)
class _Letter:
    """A letter's glyphs relative to the first one's x, so that equal letters are equal wherever they stand."""

    text: str
    glyphs: tuple[tuple[GlyphOutline, tuple[float, ...]], ...]

    @staticmethod
    def of(text: str, placed: Sequence[PlacedGlyph]) -> tuple[_Letter, float]:
        """The letter, and its x on the line."""
        x = float(placed[0].matrix[0, 2])
        return _Letter(text, tuple((p.glyph, _relative(p.matrix, x)) for p in placed)), x


def _relative(matrix: Floats, x: float) -> tuple[float, ...]:
    moved = matrix - [[0, 0, x], [0, 0, 0]]
    return tuple(round(v, 7) for v in moved.ravel().tolist())


def close_up(
    placed: Sequence[PlacedGlyph], texts: Sequence[str], word_of: Mapping[int, int], join: Join
) -> dict[int, float]:
    """Moves of the letters of one line.

    Args:
        placed: the line's glyphs from left to right, in mm.
        texts: the block's letters; glyphs name theirs by index.
        word_of: which word each letter belongs to.
        join: how deep letters overlap, and which stand apart.
    Returns:
        the move along the line in mm by letter, for every letter with an outline.
    """
    letters: dict[int, list[PlacedGlyph]] = {}
    for glyph in placed:
        letters.setdefault(glyph.letter, []).append(glyph)
    apart = set(join.apart)
    moves: dict[int, float] = {}
    total = 0.0
    word: int | None = None
    before: tuple[_Letter, float] | None = None
    for index, glyphs in letters.items():
        letter, x = _Letter.of(texts[index], glyphs)
        if word_of.get(index) != word:
            word, before = word_of.get(index), None
        if index in apart:
            before = None
        elif before is None:
            before = (letter, x + total)
        else:
            shift = _closing(before[0], letter, round(x + total - before[1], 6), join.overlap)
            if shift is not None:
                total += shift
                before = (letter, x + total)
        moves[index] = total
    return moves


@lru_cache(maxsize=20_000)
def _closing(left: _Letter, right: _Letter, distance: float, depth: float) -> float | None:
    return closing_shift(Shape.of(_body(left)), Shape.of(translate(_body(right), distance)), depth)


@lru_cache(maxsize=4_000)
def _body(letter: _Letter) -> MultiPolygon:
    glyphs = [PlacedGlyph(0, glyph, np.reshape(matrix, (2, 3))) for glyph, matrix in letter.glyphs]
    parts = LetterParts.of(0, letter.text, [p for one in filled(glyphs, joined(glyphs), _PRECISION) for p in one])
    return MultiPolygon(parts.pieces[: parts.body])


def forget() -> None:
    """Drop what is kept of pairs of letters, as for a first use."""
    _closing.cache_clear()
    _body.cache_clear()
