"""Glyphs at their places, and the areas they fill."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import Polygon

from tinhalo.core.artwork.lettering.face import GlyphOutline
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.affine import after
from tinhalo.core.geometry.curves.fill import filled_nonzero
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.curves.precision import Precision


class PlacedGlyph(NamedTuple):
    """A glyph at its place: the letter it belongs to and the map from font units to mm, shape (2, 3)."""

    letter: int
    glyph: GlyphOutline
    matrix: Floats


def mapped(glyphs: Sequence[PlacedGlyph], outer: Floats) -> list[PlacedGlyph]:
    """The glyphs after one more affine map, shape (2, 3)."""
    return _with_matrices(glyphs, after(outer, _matrices(glyphs)))


def moved(glyphs: Sequence[PlacedGlyph], by: Floats) -> list[PlacedGlyph]:
    """The glyphs moved by (dx, dy) mm, shape (2,), or each by its own, shape (n, 2)."""
    matrices = _matrices(glyphs)
    matrices[..., 2] += by
    return _with_matrices(glyphs, matrices)


def _matrices(glyphs: Sequence[PlacedGlyph]) -> Floats:
    return np.array([g.matrix for g in glyphs], float).reshape(-1, 2, 3)


def _with_matrices(glyphs: Sequence[PlacedGlyph], matrices: Floats) -> list[PlacedGlyph]:
    return [PlacedGlyph(g.letter, g.glyph, matrix) for g, matrix in zip(glyphs, matrices, strict=True)]


def joined(glyphs: Sequence[PlacedGlyph]) -> Outline:
    """All contours of the glyphs in mm, overlapping where they overlap."""
    own = Outline.joined([g.glyph.outline for g in glyphs])
    if not len(own.segments):
        return own
    # One call for all letters: its own cost is that of mapping several of them.
    matrix = np.repeat([g.matrix for g in glyphs], [len(g.glyph.outline.segments) for g in glyphs], axis=0)[:, None]
    x, y = own.segments[..., 0], own.segments[..., 1]
    # Written out: numpy multiplies many small matrices slowly.
    segments = np.empty_like(own.segments)
    segments[..., 0] = x * matrix[..., 0, 0] + y * matrix[..., 0, 1] + matrix[..., 0, 2]
    segments[..., 1] = x * matrix[..., 1, 0] + y * matrix[..., 1, 1] + matrix[..., 1, 2]
    return Outline(segments, own.degree, own.starts)


def filled(glyphs: Sequence[PlacedGlyph], outline: Outline, precision: Precision) -> list[list[Polygon]]:
    """The polygons that each glyph fills, given all their contours; those of one glyph do not overlap."""
    rings = outline.flattened(precision.chord, precision.turn)
    # One call for all letters: a call's own cost is that of filling several of them.
    shells: list[tuple[int, int, tuple[int, ...]]] = []
    whole: list[list[Floats]] = []
    first = 0
    for number, placed in enumerate(glyphs):
        own = rings[first : first + len(placed.glyph.outline.starts) - 1]
        whole.append(own)
        for shell, holes in placed.glyph.pieces or ():
            if len(own[shell]) >= 3:
                shells.append((number, first + shell, tuple(first + hole for hole in holes if len(own[hole]) >= 3)))
        first += len(own)
    made: list[list[Polygon]] = [[] for _ in glyphs]
    # Contours that only just miss each other in the font may cross once flattened.
    crossed = {number for number, placed in enumerate(glyphs) if placed.glyph.pieces is None}
    polygons = _polygons([[rings[shell], *(rings[h] for h in holes)] for _, shell, holes in shells])
    for (number, _, _), polygon, valid in zip(shells, polygons, shapely.is_valid(polygons), strict=True):
        made[number].append(polygon)
        if not valid:
            crossed.add(number)
    for number in crossed:
        made[number] = filled_nonzero(whole[number])
    return made


def _polygons(rings: Sequence[Sequence[Floats]]) -> NDArray[np.object_]:
    """A polygon of each list of rings, its shell's first."""
    every = [ring for one in rings for ring in one]
    if not every:
        return np.empty(0, object)
    vertices = np.repeat(np.arange(len(every)), [len(ring) for ring in every])
    linear = np.asarray(shapely.linearrings(np.concatenate(every), indices=vertices), object)
    polygons = np.repeat(np.arange(len(rings)), [len(one) for one in rings])
    return np.asarray(shapely.polygons(linear, indices=polygons), object)
