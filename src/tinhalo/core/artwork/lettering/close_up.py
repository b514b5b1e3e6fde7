"""Close up: the smallest moves along the line after which each word holds together.

Every letter is moved towards the one before it until their bodies overlap as deep as asked; letters that overlap
already stay. Dots and accents ride along. A letter that shares no height with its neighbour (an apostrophe) is passed
over, and the next one closes up to the one before it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import lru_cache

from shapely import MultiPolygon
from shapely.affinity import translate

from tinhalo.core.artwork.lettering.letter_shape import LetterShape, polygons_of
from tinhalo.core.artwork.lettering.parts import LetterParts
from tinhalo.core.artwork.lettering.placed import PlacedGlyph
from tinhalo.core.artwork.lettering.settings import Join
from tinhalo.core.geometry.placement.approach import Profile, closing_shift


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
    before: tuple[LetterShape, float] | None = None
    for index, glyphs in letters.items():
        letter, x = LetterShape.of(texts[index], glyphs)
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
def _closing(left: LetterShape, right: LetterShape, distance: float, depth: float) -> float | None:
    return closing_shift(Profile.of(_body(left)), Profile.of(translate(_body(right), distance)), depth)


@lru_cache(maxsize=4_000)
def _body(letter: LetterShape) -> MultiPolygon:
    parts = LetterParts.of(0, letter.text, polygons_of(letter.placed()))
    return MultiPolygon(parts.pieces[: parts.body])


def forget() -> None:
    """Drop what is kept of pairs of letters, as for a first use."""
    _closing.cache_clear()
    _body.cache_clear()
