"""Set a lettering block: lines, spacing, alignment, single letters' moves; give its region.

Letters are counted in user-perceived characters (extended grapheme clusters of Unicode Annex 29), line breaks
included, so that an index into ``nudges`` or ``moves`` means what a maker would point at.
"""

from __future__ import annotations

import unicodedata
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import regex
import shapely
from shapely import Polygon

from tinhalo.core.geometry.fill import filled_nonzero
from tinhalo.core.geometry.outline import Floats, Outline
from tinhalo.core.geometry.precision import Precision
from tinhalo.core.geometry.region import Region
from tinhalo.core.lettering.art import Lettering, Place
from tinhalo.core.lettering.face import Face, Feature, GlyphOutline, ShapedGlyph

_GRAPHEME = regex.compile(r"\X")
_LINE_BREAKS = "\r\n\v\f\x85\u2028\u2029"


@dataclass(frozen=True)
class PlacedGlyph:
    """A glyph at its place: the letter it belongs to and the map from font units to mm, shape (2, 3)."""

    letter: int
    glyph: GlyphOutline
    matrix: Floats


@dataclass(frozen=True)
class Typeset:
    """A set block.

    Attributes:
        glyphs: everything with an outline, placed.
        missing: characters the font has no glyph for, each once, in order.
        letters: number of user-perceived characters.
    """

    glyphs: tuple[PlacedGlyph, ...]
    missing: tuple[str, ...]
    letters: int

    @cached_property
    def outline(self) -> Outline:
        """All glyphs' contours in mm, overlapping where letters overlap."""
        return Outline.joined([g.glyph.outline.transformed(g.matrix) for g in self.glyphs])

    def region(self, precision: Precision) -> Region:
        """The united letters, flattened; the fonts' own curves stay known to it."""
        outline = self.outline
        rings = outline.flattened(precision.chord, precision.turn)
        polygons: list[Polygon] = []
        first = 0
        for placed in self.glyphs:
            count = len(placed.glyph.outline.starts) - 1
            polygons += _filled(rings[first : first + count], placed.glyph.pieces)
            first += count
        return Region.of(shapely.union_all(polygons), (outline,))


def _filled(rings: list[Floats], pieces: tuple[tuple[int, tuple[int, ...]], ...] | None) -> list[Polygon]:
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


def graphemes(text: str) -> list[str]:
    """User-perceived characters of a text, in order."""
    return _GRAPHEME.findall(text)


def typeset(art: Lettering, face: Face) -> Typeset:
    """Set a block of lettering in a face."""
    letters = graphemes(art.text)
    scale = art.size / face.units_per_em
    lines: list[list[tuple[int, str]]] = [[]]
    for index, letter in enumerate(letters):
        if letter[0] in _LINE_BREAKS:
            lines.append([])
        else:
            lines[-1].append((index, " " if letter == "\t" else letter))
    missing: dict[str, None] = {}
    placed: list[PlacedGlyph] = []
    block = _place_matrix(art.place)
    for number, line in enumerate(lines):
        glyphs, width = _set_line(line, art, face, scale, missing)
        left = {"left": 0.0, "center": -width / 2, "right": -width}[art.align]
        to_block = _moved(left, -number * art.line_spacing * art.size)
        placed += [PlacedGlyph(g.letter, g.glyph, _after(block, _after(to_block, g.matrix))) for g in glyphs]
    return Typeset(tuple(placed), tuple(missing), len(letters))


def _set_line(
    line: Sequence[tuple[int, str]], art: Lettering, face: Face, scale: float, missing: dict[str, None]
) -> tuple[list[PlacedGlyph], float]:
    """One line's glyphs in mm from its own start, and its width."""
    codepoints: list[int] = []
    letter_at: list[int] = []
    text_of: dict[int, str] = {}
    for index, letter in line:
        codepoints += [ord(c) for c in letter]
        letter_at += [index] * len(letter)
        text_of[index] = letter
    shaped = face.shape(codepoints, _features(art, letter_at)) if codepoints else []
    placed: list[PlacedGlyph] = []
    shift = end = 0.0
    last: int | None = None
    for glyph in shaped:
        letter = letter_at[glyph.cluster]
        if letter != last:
            shift += (art.letter_spacing if last is not None else 0.0) + art.nudges.get(str(letter), 0.0)
            last = letter
        if glyph.glyph == 0:
            missing.setdefault(text_of[letter])
            shift -= glyph.advance * scale
            continue
        end = max(end, shift + (glyph.x + glyph.advance) * scale)
        outline = face.glyph(glyph.glyph)
        if len(outline.outline.segments):
            matrix = _moved(shift + glyph.x * scale, glyph.y * scale, scale)
            placed.append(PlacedGlyph(letter, outline, _after(_move(art, letter, glyph, shift, scale), matrix)))
    return placed, end


def _features(art: Lettering, letter_at: Sequence[int]) -> list[Feature]:
    """Ligatures are off where letters are spaced or moved one by one: a joined shape could not follow."""
    if art.letter_spacing:
        return [(tag, 0, 0, len(letter_at)) for tag in ("liga", "clig")]
    single = {int(k) for k in art.nudges} | {int(k) for k in art.moves}
    features: list[Feature] = []
    for position, letter in enumerate(letter_at):
        # A nudge parts its letter from the one before, so that pair must not be one glyph either.
        if letter in single or letter + 1 in single:
            features += [(tag, 0, position, position + 1) for tag in ("liga", "clig")]
    return features


def _move(art: Lettering, letter: int, glyph: ShapedGlyph, shift: float, scale: float) -> Floats:
    move = art.moves.get(str(letter))
    if move is None:
        return _moved(0, 0)
    foot = shift + (glyph.x + glyph.advance / 2) * scale
    turned = _turned(move.turn, move.scale, move.scale)
    return _after(_moved(foot + move.dx, move.dy), _after(turned, _moved(-foot, 0)))


def _place_matrix(place: Place) -> Floats:
    return _after(_moved(place.x, place.y), _turned(place.rotate, place.scale_x, place.scale_y))


def _moved(dx: float, dy: float, scale: float = 1.0) -> Floats:
    return np.array([[scale, 0, dx], [0, scale, dy]], float)


def _turned(degrees: float, scale_x: float, scale_y: float) -> Floats:
    angle = np.radians(degrees)
    c, s = np.cos(angle), np.sin(angle)
    return np.array([[c * scale_x, -s * scale_y, 0], [s * scale_x, c * scale_y, 0]], float)


def _after(outer: Floats, inner: Floats) -> Floats:
    """The affine map that applies ``inner`` first, then ``outer``; both shape (2, 3)."""
    linear = outer[:, :2] @ inner
    linear[:, 2] += outer[:, 2]
    return linear


def describe(character: str) -> str:
    """A character for a message: itself and, where it has one, its Unicode name."""
    name = unicodedata.name(character[0], "")
    return f"“{character}” ({name.lower()})" if name else f"U+{ord(character[0]):04X}"
