"""Set a lettering block: lines, spacing, alignment, single letters' moves; give its region.

Letters are counted as ``lines`` does, so that an index into ``nudges`` or ``moves`` means what a maker would point at.
"""

from __future__ import annotations

import unicodedata
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import groupby, pairwise
from typing import TYPE_CHECKING

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import Polygon

from tinhalo.core.artwork.lettering.along import SetLine, bent
from tinhalo.core.artwork.lettering.close_up import close_up
from tinhalo.core.artwork.lettering.face import Face, Feature, FontError, ShapedGlyph
from tinhalo.core.artwork.lettering.lines import codepoints, graphemes, lines_of, words_of
from tinhalo.core.artwork.lettering.lower_marks import lowered
from tinhalo.core.artwork.lettering.parts import LetterParts, has_marks
from tinhalo.core.artwork.lettering.placed import PlacedGlyph, filled, joined, mapped, moved
from tinhalo.core.artwork.lettering.settings import FixedLine, LetterMove
from tinhalo.core.artwork.place import Place, place_matrix
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.affine import after, shift, turn
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.curves.precision import Precision
from tinhalo.core.geometry.regions.proximity import meet_often
from tinhalo.core.geometry.regions.region import Region

if TYPE_CHECKING:
    from tinhalo.core.artwork.lettering.block import Lettering

_UNMOVED = Place()
#: Words of fewer vertices are united in no time, however they cross; others may cross in so many places.
_MANY, _MOST_CROSSINGS = 5_000, 2_000
#: Words in a font that a maker added have so many curves at most.
MOST_CURVES = 200_000
#: Lines whose distance is not said are so far apart that the ink of those that come nearest leaves this gap, in ems:
#: with capitals of 0.7 em, the line height of about 0.9 em that is usual for display sizes (common practice).
LINE_GAP = 0.2


@dataclass(frozen=True)
class Typeset:
    """A set block.

    Attributes:
        glyphs: everything with an outline, placed.
        missing: characters the font has no glyph for, each once, in order.
        letters: the text's user-perceived characters.
        overrun: how much longer than its own curve the longest line is, in mm.
        line_distance: from one line's baseline to the next one's, in mm, before the block is placed.
        line: the curve that its lines stand on; None where they are straight.
    """

    glyphs: tuple[PlacedGlyph, ...]
    missing: tuple[str, ...]
    letters: tuple[str, ...]
    overrun: float = 0.0
    line_distance: float = 0.0
    line: FixedLine | None = None

    @cached_property
    def outline(self) -> Outline:
        """All glyphs' contours in mm, overlapping where letters overlap."""
        return joined(self.glyphs)

    def parts(self, precision: Precision) -> dict[int, LetterParts]:
        """The flattened pieces of each letter that has an outline, by its index."""
        polygons: dict[int, list[Polygon]] = {}
        for glyph, found in zip(self.glyphs, filled(self.glyphs, self.outline, precision), strict=True):
            polygons.setdefault(glyph.letter, []).extend(found)
        return {i: LetterParts.of(i, self.letters[i], found) for i, found in sorted(polygons.items())}

    def check_size(self) -> None:
        """Refuse letters that are drawn with far more curves than any lettering is: for fonts of strangers.

        Raises:
            FontError: with a sentence.
        """
        if sum(len(one.glyph.outline.segments) for one in self.glyphs) > MOST_CURVES:
            raise FontError(f"{self._letters} have more than {MOST_CURVES:,} curves: choose another font for them.")

    def check_crossings(self, parts: Mapping[int, LetterParts]) -> None:
        """Refuse letters that cross each other far more often than any lettering does: for fonts of strangers.

        Raises:
            FontError: with a sentence.
        """
        polygons = np.array([piece for one in parts.values() for piece in one.pieces], object)
        rings = shapely.get_rings(polygons)
        if len(shapely.get_coordinates(polygons)) < _MANY:
            return
        if meet_often([ring[:-1] for ring in _points_of(rings)], _MOST_CROSSINGS):
            told = f"{self._letters} cross each other in more than {_MOST_CROSSINGS:,} places"
            raise FontError(f"{told}: choose another font for them.")

    @property
    def _letters(self) -> str:
        return f"The letters of “{''.join(self.letters)[:20]}”"

    def united(self, parts: Mapping[int, LetterParts]) -> Region:
        """The letters' pieces as one region; the font's own curves stay known to it."""
        return Region.of(
            shapely.disjoint_subset_union_all([p for one in parts.values() for p in one.pieces]), (self.outline,)
        )

    def region(self, precision: Precision) -> Region:
        """The united letters, flattened."""
        return self.united(self.parts(precision))

    def moved(self, dx: float, dy: float) -> Typeset:
        """The block moved by (dx, dy) mm."""
        return replace(self, glyphs=tuple(moved(self.glyphs, np.array([dx, dy]))))

    def mapped(self, by_letter: Mapping[int, Floats]) -> Typeset:
        """The block after one more affine map, shape (2, 3), of each letter; letters without one stay."""
        return replace(
            self,
            glyphs=tuple(
                glyph._replace(matrix=after(by_letter[glyph.letter], glyph.matrix))
                if glyph.letter in by_letter
                else glyph
                for glyph in self.glyphs
            ),
        )


def typeset(art: Lettering, face: Face) -> Typeset:
    """Set a block of lettering in a face."""
    letters = graphemes(art.text)
    setter = _Setter(art, face, letters)
    stands = art.place != _UNMOVED
    placed: list[PlacedGlyph] = []
    overrun = 0.0
    lines = [setter.line(line) for line in lines_of(letters)]
    distance = _line_distance(art, lines)
    line = art.line and art.line.following([one.width for one in lines], distance, art.size)
    for number, set_line in enumerate(lines):
        glyphs, width = set_line.glyphs, set_line.width
        left = {"left": 0.0, "center": -width / 2, "right": -width}[art.align]
        below = number * distance
        if line:
            glyphs, over = bent(set_line, left, line.baseline(below), art.join, setter.word_of)
            overrun = max(overrun, over)
        elif left or number:
            glyphs = moved(glyphs, np.array([left, -below]))
        placed += mapped(glyphs, place_matrix(art.place)) if stands else glyphs
    return Typeset(tuple(placed), tuple(setter.missing), tuple(letters), overrun, distance, line)


def _line_distance(art: Lettering, lines: Sequence[SetLine]) -> float:
    """From one baseline to the next, in mm; where the block does not say it, from the ink, the same for all lines."""
    if art.line_spacing is not None:
        return art.line_spacing * art.size
    inks = [line.ink for line in lines]
    # Of lines that follow each other; before a second one is typed, as if it were like the first.
    pairs = [(one[0], other[1]) for one, other in pairwise(inks) if one and other] or [one for one in inks if one]
    return max(0.0, max((high - low for low, high in pairs), default=art.size) + LINE_GAP * art.size)


def _points_of(rings: NDArray[np.object_]) -> list[Floats]:
    """The points of each ring, shape (k, 2), the first one again at the end."""
    points, owner = shapely.get_coordinates(rings, return_index=True)
    return np.split(points, np.flatnonzero(np.diff(owner)) + 1)


class _Setter:
    """Sets one line after the other, and collects what the font lacks."""

    def __init__(self, art: Lettering, face: Face, letters: Sequence[str]) -> None:
        self._art = art
        self._face = face
        self._letters = letters
        self._scale = art.size / face.units_per_em
        self.missing: dict[str, None] = {}

    @cached_property
    def word_of(self) -> dict[int, int]:
        """Which word each letter belongs to."""
        return {i: number for number, word in enumerate(words_of(self._letters)) for i in word}

    def line(self, line: Sequence[int]) -> SetLine:
        """One line's glyphs in mm from its own start."""
        art, scale = self._art, self._scale
        letter_at = [index for index in line for _ in self._letters[index]]
        shaped = self._shaped(codepoints([self._letters[index] for index in line]), letter_at) if line else []
        placed: list[PlacedGlyph] = []
        feet: dict[int, float] = {}
        matrices = np.zeros((len(shaped), 2, 3))
        matrices[:, 0, 0] = matrices[:, 1, 1] = scale
        along = end = 0.0
        ink: list[tuple[float, float]] = []
        last: int | None = None
        for glyph in shaped:
            letter = letter_at[glyph.cluster]
            if letter != last:
                along += (art.letter_spacing if last is not None else 0.0) + art.nudges.get(str(letter), 0.0)
                last = letter
            if glyph.glyph == 0:
                self.missing.setdefault(self._letters[letter])
                along -= glyph.advance * scale
                continue
            end = max(end, along + (glyph.x + glyph.advance) * scale)
            outline = self._face.glyph(glyph.glyph)
            if len(outline.outline.segments):
                feet.setdefault(letter, along + (glyph.x + glyph.advance / 2) * scale)
                matrix = matrices[len(placed)]
                matrix[0, 2], matrix[1, 2] = along + glyph.x * scale, glyph.y * scale
                move = self._art.moves.get(str(letter))
                if move is not None:
                    matrix = after(_moved(move, along + (glyph.x + glyph.advance / 2) * scale), matrix)
                placed.append(PlacedGlyph(letter, outline, matrix))
                low, high = outline.vertical_extent
                ink.append(((glyph.y + low) * scale, (glyph.y + high) * scale))
        if art.lowered or (art.join and art.join.marks):
            placed = self._lowered(placed)
        if art.join and placed:
            moves = close_up(placed, self._letters, self.word_of, art.join)
            end += moves[placed[-1].letter]
            placed = moved(placed, np.array([(moves[g.letter], 0) for g in placed]))
            feet = {letter: foot + moves[letter] for letter, foot in feet.items()}
        reach = (min(low for low, _ in ink), max(high for _, high in ink)) if ink else None
        return SetLine(placed, end, feet, self._letters, reach)

    def _lowered(self, placed: Sequence[PlacedGlyph]) -> list[PlacedGlyph]:
        found: list[PlacedGlyph] = []
        for letter, glyphs in groupby(placed, key=lambda glyph: glyph.letter):
            own, overlap = list(glyphs), self._art.lowered.get(str(letter)) or self._marks_overlap(letter)
            found += lowered(own, self._letters[letter], overlap) if overlap else own
        return found

    def _marks_overlap(self, letter: int) -> float | None:
        """How deep the dots and accents of a letter overlap it that closes up with the others; None where they stay."""
        join = self._art.join
        return join.overlap if join and join.marks and letter not in join.apart else None

    def _shaped(self, codepoints: list[int], letter_at: Sequence[int]) -> list[ShapedGlyph]:
        features = self._features(letter_at)
        shaped = self._face.shape(codepoints, features)
        if self._art.join:
            apart = self._ligatures_in_pieces(shaped, letter_at)
            if apart:
                shaped = self._face.shape(codepoints, features + apart)
        return shaped

    def _ligatures_in_pieces(self, shaped: Sequence[ShapedGlyph], letter_at: Sequence[int]) -> list[Feature]:
        """Switches off the ligatures whose letters do not touch: as one glyph they could not close up."""
        starts = [*sorted({g.cluster for g in shaped}), len(letter_at)]
        end_of = dict(pairwise(starts))
        features: list[Feature] = []
        for glyph in shaped:
            letters = dict.fromkeys(letter_at[glyph.cluster : end_of[glyph.cluster]])
            marked = any(has_marks(self._letters[i]) for i in letters)
            pieces = self._face.glyph(glyph.glyph).pieces
            if len(letters) > 1 and not marked and pieces is not None and len(pieces) > 1:
                features += _no_ligatures(glyph.cluster, end_of[glyph.cluster])
        return features

    def _features(self, letter_at: Sequence[int]) -> list[Feature]:
        """The maker's own features. Ligatures are off where letters are moved one by one: a joined shape could not."""
        art = self._art
        features: list[Feature] = [(tag, value, 0, len(letter_at)) for tag, value in art.features.items()]
        if art.letter_spacing:
            return features + _no_ligatures(0, len(letter_at))
        single = {int(k) for k in (*art.nudges, *art.moves)} | set(art.join.apart if art.join else ())
        for position, letter in enumerate(letter_at):
            # A nudge parts its letter from the one before, so that pair must not be one glyph either.
            if letter in single or letter + 1 in single:
                features += _no_ligatures(position, position + 1)
        return features


def _moved(move: LetterMove, foot: float) -> Floats:
    """The map of a letter's own move, which turns and grows about its foot, ``foot`` mm along the line."""
    turned = turn(move.turn, move.scale, move.scale)
    return after(shift(foot + move.dx, move.dy), after(turned, shift(-foot, 0)))


def _no_ligatures(start: int, end: int) -> list[Feature]:
    return [(tag, 0, start, end) for tag in ("liga", "clig", "dlig")]


def describe(character: str) -> str:
    """A character for a message: itself and, where it has one, its Unicode name."""
    name = unicodedata.name(character[0], "")
    return f"“{character}” ({name.lower()})" if name else f"U+{ord(character[0]):04X}"
