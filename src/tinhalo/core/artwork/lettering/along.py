"""Lines of words along a curve: every letter stands upright on it, and none changes its shape.

A letter is turned and moved as a whole, so that the middle of its foot is on the curve. Letters that are closed up are
closed up once more there: on a bend their feet or heads come apart.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

import shapely
from shapely import MultiPolygon, Polygon

from tinhalo.core.artwork.lettering.baseline import Baseline
from tinhalo.core.artwork.lettering.letter_shape import polygons_of
from tinhalo.core.artwork.lettering.parts import LetterParts
from tinhalo.core.artwork.lettering.placed import PlacedGlyph
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.affine import after, shift, turn

if TYPE_CHECKING:
    from tinhalo.core.artwork.lettering.settings import Join

#: Letters are pushed together along the curve in steps of this, then to within the other, in mm.
_STEP, _FINE = 0.1, 0.001


@dataclass(frozen=True)
class SetLine:
    """A line as it is set straight.

    Attributes:
        glyphs: in mm from its own start.
        width: of it in mm.
        feet: where the middle of each letter's foot is, in mm from the line's start.
        texts: all letters of the block, by their index.
        ink: how low and how high its letters reach from the line, in mm, wherever some were moved; None without any.
    """

    glyphs: list[PlacedGlyph]
    width: float
    feet: Mapping[int, float]
    texts: Sequence[str]
    ink: tuple[float, float] | None


def bent(
    line: SetLine, left: float, baseline: Baseline, join: Join | None, word_of: Mapping[int, int]
) -> tuple[list[PlacedGlyph], float]:
    """A line's glyphs along a curve, and how much longer than the curve it is, in mm.

    Args:
        line: as set straight.
        left: where it begins, in mm along the curve from its middle.
        baseline: the curve.
        join: how letters are closed up, if they are.
        word_of: which word each letter belongs to.
    """
    letters: dict[int, list[PlacedGlyph]] = {}
    for glyph in line.glyphs:
        letters.setdefault(glyph.letter, []).append(glyph)
    overrun = max(0.0, line.width - baseline.length)
    at = {letter: left + line.feet[letter] for letter in letters}
    if join is not None:
        at = _closed_up(letters, line, at, baseline, join, word_of)
    placed: list[PlacedGlyph] = []
    for letter, glyphs in letters.items():
        matrix = _onto(baseline, at[letter], line.feet[letter])
        placed += [glyph._replace(matrix=after(matrix, glyph.matrix)) for glyph in glyphs]
    return placed, overrun


def _onto(baseline: Baseline, s: float, foot: float) -> Floats:
    """The map from a straight line to a curve for the letter whose foot is ``foot`` mm along that line."""
    x, y, angle = baseline.at(s)
    return after(shift(x, y), after(turn(angle, 1, 1), shift(-foot, 0)))


def _closed_up(
    letters: Mapping[int, list[PlacedGlyph]],
    line: SetLine,
    at: Mapping[int, float],
    baseline: Baseline,
    join: Join,
    word_of: Mapping[int, int],
) -> dict[int, float]:
    """Where letters stand along the curve after each moved towards the one before, as little as it takes."""
    closed: dict[int, float] = {}
    total = 0.0
    before: tuple[int | None, MultiPolygon, float] | None = None
    for letter, glyphs in letters.items():
        body = _body(line.texts[letter], glyphs)
        foot = line.feet[letter]

        def stand(s: float, body: MultiPolygon = body, foot: float = foot) -> MultiPolygon:
            matrix = _onto(baseline, s, foot)
            return shapely.transform(body, lambda points: points @ matrix[:, :2].T + matrix[:, 2])

        s = at[letter] + total
        word = word_of.get(letter)
        if letter in join.apart:
            word = None
        elif before is not None and before[0] == word:
            s = _touching(before[1], stand, s, before[2], join.overlap)
            total = s - at[letter]
        before = (word, stand(s), s)
        closed[letter] = s
    middle = total / 2
    return {letter: s - middle for letter, s in closed.items()}


def _touching(
    before: MultiPolygon, stand: Callable[[float], MultiPolygon], s: float, least: float, overlap: float
) -> float:
    """The place nearest to ``s`` that is that deep in the letter before; ``s`` where there is none."""

    def deep(place: float) -> bool:
        return bool(before.intersects(stand(place)) and before.intersects(stand(place + overlap)))

    if deep(s):
        return s
    place = s
    while place - _STEP > least:
        place -= _STEP
        if deep(place):
            low, high = place, place + _STEP
            while high - low > _FINE:
                half = (low + high) / 2
                low, high = (half, high) if deep(half) else (low, half)
            return low
    return s


def _body(text: str, glyphs: Sequence[PlacedGlyph]) -> MultiPolygon:
    polygons: list[Polygon] = polygons_of(glyphs)
    parts = LetterParts.of(0, text, polygons)
    return MultiPolygon(parts.pieces[: parts.body])
