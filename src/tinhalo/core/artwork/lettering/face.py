"""One font face: shaping and glyph outlines through HarfBuzz, kept once drawn."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import NamedTuple

import numpy as np
import shapely
import uharfbuzz as hb
from shapely import Polygon

from tinhalo.core.artwork.error import ArtError
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.curves.recorder import Recorder
from tinhalo.core.geometry.regions.proximity import meet_often

#: What the ids of fonts that a maker added begin with.
OWN = "own-"
#: What one letter may be drawn with. Rough and worn lettering has up to a few thousand curves a letter.
MOST_SEGMENTS, MOST_CONTOURS = 4_000, 1_000
#: How often the outlines of one letter may cross or touch: uniting them takes a time that grows with it.
MOST_CROSSINGS = 300


class FontError(ArtError):
    """The font file cannot be read; the message is a sentence for the maker."""


@dataclass(frozen=True, eq=False)
class GlyphOutline:
    """A glyph as the font draws it, in font units; equal to another one that is drawn the same.

    Attributes:
        outline: its contours, filled by the non-zero rule.
        pieces: per piece the index of its shell's contour and those of its holes; None where contours touch or
            cross, so that only the filling tells what is inside.
    """

    outline: Outline
    pieces: tuple[tuple[int, tuple[int, ...]], ...] | None

    @cached_property
    def vertical_extent(self) -> tuple[float, float]:
        """The lowest and the highest y of its contours, of which it must have some."""
        _, low, _, high = self.outline.bounds()
        return low, high

    @cached_property
    def _content(self) -> bytes:
        return hashlib.blake2b(self.outline.segments.tobytes() + self.outline.starts.tobytes()).digest()

    def __eq__(self, other: object) -> bool:
        return self is other or (isinstance(other, GlyphOutline) and self._content == other._content)

    def __hash__(self) -> int:
        return hash(self._content)


class ShapedGlyph(NamedTuple):
    """One glyph of a shaped line: glyph id, index of its first code point, and its place in font units."""

    glyph: int
    cluster: int
    x: float
    y: float
    advance: float


Feature = tuple[str, int, int, int]
"""OpenType tag, value, and the half-open range of code points it holds for."""


class Face:
    """A parsed font face. Safe to share between threads: HarfBuzz faces are immutable once made.

    Args:
        data: bytes of a TTF or OTF file.
        name: what the maker calls it, for messages.
        axes: settings of a variable font by axis tag; axes it does not have are ignored.
    Raises:
        FontError: when the bytes are no font.
    """

    def __init__(self, data: bytes, name: str, axes: Mapping[str, float] | None = None) -> None:
        self.name = name
        try:
            face = hb.Face(data)
            glyphs = face.glyph_count
        except Exception as error:
            raise FontError(f"The font file of {name} cannot be read.") from error
        if glyphs == 0:
            raise FontError(f"The font file of {name} cannot be read: it holds no glyphs.")
        self._font = hb.Font(face)
        if axes:
            self._font.set_variations(dict(axes))
        self.units_per_em: int = face.upem
        self.glyph = lru_cache(maxsize=4096)(self._glyph)

    def shape(self, codepoints: list[int], features: list[Feature]) -> list[ShapedGlyph]:
        """Shape one line: kerning, ligatures and contextual forms as the font has them.

        Args:
            codepoints: the line's Unicode code points, without line breaks.
            features: OpenType features to switch on or off over a range.
        Returns:
            the glyphs in visual order, left to right, in font units from the line's start.
        """
        buffer = hb.Buffer()
        buffer.add_codepoints(codepoints)
        buffer.guess_segment_properties()
        by_tag: dict[str, list[tuple[int, int, int]]] = {}
        for tag, value, start, end in features:
            by_tag.setdefault(tag, []).append((start, end, value))
        hb.shape(self._font, buffer, by_tag)
        glyphs: list[ShapedGlyph] = []
        x = 0.0
        for info, position in zip(buffer.glyph_infos or [], buffer.glyph_positions or [], strict=True):
            glyphs.append(
                ShapedGlyph(
                    info.codepoint,
                    info.cluster,
                    x + position.x_offset,
                    float(position.y_offset),
                    float(position.x_advance),
                )
            )
            x += position.x_advance
        return glyphs

    def draw(self, glyph: int) -> Outline:
        """A glyph's contours in font units.

        Raises:
            FontError: when they are more than ``MOST_SEGMENTS`` or ``MOST_CONTOURS``.
        """
        pen = Recorder(MOST_SEGMENTS)
        self._font.draw_glyph_with_pen(glyph, pen)
        outline = pen.outline()
        if pen.is_full:
            raise FontError(f"{self.name} cannot be used: a letter of it has more than {MOST_SEGMENTS:,} curves.")
        if len(outline.starts) - 1 > MOST_CONTOURS:
            raise FontError(f"{self.name} cannot be used: a letter of it has more than {MOST_CONTOURS:,} outlines.")
        return outline

    def _glyph(self, glyph: int) -> GlyphOutline:
        drawn = self.draw(glyph)
        pieces = _nesting(drawn, self.units_per_em)
        if pieces is None and meet_often(_flat(drawn, self.units_per_em), MOST_CROSSINGS):
            raise FontError(
                f"{self.name} cannot be used: the outlines of a letter cross in more than {MOST_CROSSINGS:,} places."
            )
        return GlyphOutline(drawn, pieces)


def _flat(outline: Outline, units_per_em: int) -> list[Floats]:
    return outline.flattened(units_per_em / 2000)


def _nesting(outline: Outline, units_per_em: int) -> tuple[tuple[int, tuple[int, ...]], ...] | None:
    """Shells and holes of an outline filled by the non-zero rule; None if contours cross."""
    rings = _flat(outline, units_per_em)
    usable = [i for i, ring in enumerate(rings) if len(ring) >= 3 and abs(outline.areas[i]) > 0]
    areas = {i: Polygon(rings[i]) for i in usable}
    if not all(p.is_valid for p in areas.values()):
        return None
    order = sorted(usable, key=lambda i: -areas[i].area)
    by_size = np.array([areas[i] for i in order], object)
    edges = np.array([areas[i].exterior for i in order], object)
    one, other = np.asarray(shapely.STRtree(edges).query(edges, predicate="intersects"), np.intp)
    if (one != other).any():
        return None
    # None cross: a point of a contour inside another one says that all of it is.
    starts = np.asarray(shapely.get_point(edges, 0), object)  # pyright: ignore[reportUnknownMemberType]
    inner, outer = np.asarray(shapely.STRtree(by_size).query(starts, predicate="within"), np.intp)
    inside: dict[int, list[int]] = {}
    pairs: list[tuple[int, int]] = sorted(zip(inner.tolist(), outer.tolist(), strict=True))
    for k, j in pairs:
        if j < k:
            inside.setdefault(order[k], []).append(order[j])
    winding: dict[int, int] = {}
    parent: dict[int, int | None] = {}
    for i in order:
        around = inside.get(i)
        parent[i] = around[-1] if around else None
        winding[i] = (winding[around[-1]] if around else 0) + (1 if outline.areas[i] > 0 else -1)
    pieces: dict[int, list[int]] = {}
    shell_of: dict[int, int] = {}
    for i in order:
        above = parent[i]
        filled_above = above is not None and winding[above] != 0
        if winding[i] != 0 and not filled_above:
            pieces[i] = []
            shell_of[i] = i
        elif above is not None:
            shell_of[i] = shell_of[above]
            if winding[i] == 0 and filled_above:
                pieces[shell_of[i]].append(i)
    return tuple((shell, tuple(holes)) for shell, holes in pieces.items())
