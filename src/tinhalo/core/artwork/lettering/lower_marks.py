"""Dots and accents moved straight up or down until they overlap their letter: it becomes one piece."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon
from shapely.affinity import translate
from shapely.geometry.base import BaseGeometry

from tinhalo.core.artwork.lettering.face import GlyphOutline
from tinhalo.core.artwork.lettering.letter_shape import LetterShape, polygons_of
from tinhalo.core.artwork.lettering.parts import LetterParts, has_marks
from tinhalo.core.artwork.lettering.placed import PlacedGlyph
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.affine import after, shift
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.placement.approach import Profile, closing_shift
from tinhalo.core.geometry.regions.proximity import connected

#: Contours are flattened this finely to see which hang together, in font units.
_GRAIN = 1.0


def lowered(glyphs: Sequence[PlacedGlyph], text: str, overlap: float) -> list[PlacedGlyph]:
    """A letter's glyphs with its dots and accents as deep in its body as asked.

    Args:
        glyphs: of one letter, placed on its line, in mm.
        text: the letter.
        overlap: how deep they overlap, in mm: pulled back by any less, they still touch. What is that deep already
            stays where it is, and so does what stands beside the body, so that it cannot reach it.
    """
    if not glyphs or not has_marks(text):
        return list(glyphs)
    made: list[PlacedGlyph] = []
    for glyph, moves in zip(glyphs, _moves(LetterShape.of(text, glyphs)[0], overlap), strict=True):
        if not any(moves):
            made.append(glyph)
            continue
        for part, dy in zip(_parts(glyph.glyph), moves, strict=True):
            made.append(PlacedGlyph(glyph.letter, part, after(shift(0, dy), glyph.matrix)))
    return made


def can_lower(letter: LetterParts, placed: Floats) -> bool:
    """Whether every dot and accent of a letter stands above or below its body, so that it can reach it.

    Args:
        letter: its pieces as they stand on the drawing.
        placed: the map from its line to the drawing, shape (2, 3).
    """
    ahead = np.linalg.inv(placed[:, :2])[0]
    along = [shapely.get_coordinates(piece)[:, :2] @ ahead for piece in letter.pieces]
    body, marks = along[: letter.body], along[letter.body :]
    return bool(marks) and all(any(m.min() < b.max() and m.max() > b.min() for b in body) for m in marks)


@lru_cache(maxsize=4_000)
def _moves(letter: LetterShape, overlap: float) -> tuple[tuple[float, ...], ...]:
    """How far each part of each glyph moves along y, in mm."""
    glyphs = letter.placed()
    owners = [(g, k) for g, glyph in enumerate(glyphs) for k in range(len(_parts(glyph.glyph)))]
    areas = [_area(PlacedGlyph(0, _parts(glyphs[g].glyph)[k], glyphs[g].matrix)) for g, k in owners]
    moves = [[0.0] * len(_parts(glyph.glyph)) for glyph in glyphs]
    largest = max(range(len(areas)), key=lambda i: areas[i].area)
    body = areas[largest]
    # What is next to the body comes first: what stands above it may rest on it.
    for i in sorted(range(len(areas)), key=lambda i: areas[i].distance(areas[largest])):
        if i == largest or areas[i].is_empty:
            continue
        dy = 0.0 if areas[i].intersects(body) else _closing(body, areas[i], overlap)
        g, k = owners[i]
        moves[g][k] = dy
        body = _multi(shapely.union(body, translate(areas[i], 0, dy)))
    return tuple(tuple(of_glyph) for of_glyph in moves)


def _closing(body: MultiPolygon, mark: MultiPolygon, overlap: float) -> float:
    up = 1 if mark.centroid.y > body.centroid.y else -1

    def turned(area: MultiPolygon) -> Profile:
        # Shapes close up along x, the second one towards smaller x.
        return Profile.of(_multi(shapely.transform(area, lambda points: points[:, ::-1] * (up, 1))))

    return up * (closing_shift(turned(body), turned(mark), overlap) or 0.0)


def _area(glyph: PlacedGlyph) -> MultiPolygon:
    return _multi(shapely.union_all(polygons_of([glyph])))


def _multi(area: BaseGeometry) -> MultiPolygon:
    return MultiPolygon([part for part in shapely.get_parts(area) if isinstance(part, Polygon)])


@lru_cache(maxsize=4_000)
def _parts(glyph: GlyphOutline) -> tuple[GlyphOutline, ...]:
    """A glyph taken apart into what hangs together, each part a glyph."""
    contours = glyph.outline.contours()
    rings = glyph.outline.flattened(_GRAIN)
    areas = np.array([Polygon(ring).buffer(0) if len(ring) >= 3 else Polygon() for ring in rings], object)
    group: list[int] = connected(areas).tolist()
    found: list[GlyphOutline] = []
    for number in dict.fromkeys(group):
        own = [i for i, one in enumerate(group) if one == number]
        at = {contour: k for k, contour in enumerate(own)}
        pieces = glyph.pieces and tuple(
            (at[shell], tuple(at[hole] for hole in holes)) for shell, holes in glyph.pieces if shell in at
        )
        found.append(GlyphOutline(Outline.from_contours([contours[i] for i in own]), pieces))
    return tuple(found)
