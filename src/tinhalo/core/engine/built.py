"""What a build gives: every layer's and every block's result, and places beside letters."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import shapely
from shapely import LineString, MultiPolygon

from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.artwork.lettering.face import FontError
from tinhalo.core.artwork.lettering.parts import LetterParts
from tinhalo.core.artwork.lettering.pieces import WordPieces, pieces_by_word, seams
from tinhalo.core.artwork.lettering.typeset import Typeset
from tinhalo.core.artwork.place import place_matrix
from tinhalo.core.design.design import Design, Layer
from tinhalo.core.document.anchor import Anchor
from tinhalo.core.findings.finding import Finding
from tinhalo.core.geometry.curves.outline import XY, Floats
from tinhalo.core.geometry.exact.recover import CutOutline
from tinhalo.core.geometry.exact.shared_edges import CutLines
from tinhalo.core.geometry.regions.region import Box, Region, wrapped
from tinhalo.core.materials import Material
from tinhalo.core.recipe.evaluate import Named
from tinhalo.core.recipe.step import StepNote


@dataclass(frozen=True)
class Measures:
    """Of one layer: area in mm², cut length in mm with marks, counts, and (min x, min y, max x, max y) in mm."""

    area: float
    cut_length: float
    pieces: int
    holes: int
    marks: int
    bounds: tuple[float, float, float, float] | None


@dataclass(frozen=True)
class BuiltLayer:
    """One layer's result.

    Attributes:
        layer: the layer of the document.
        material: what it is made of.
        key: key of the region's content: equal keys mean equal regions.
        region: the flattened region.
        cut: the curves of its outline; only when built exactly.
        cut_lines: what leaves of that, where other layers' cuts serve the rest.
        measures: of what leaves, or of the flattened region on screen.
        notes: what each of its steps did, where there is something to tell.
        stages: the region before the first step and after each.
        findings: what to look at, those of the art it is made from included.
    """

    layer: Layer
    material: Material
    key: str
    region: Region
    cut: CutOutline | None
    cut_lines: CutLines | None
    measures: Measures
    notes: tuple[StepNote | None, ...]
    stages: tuple[Named, ...]
    findings: tuple[Finding, ...]


@dataclass(frozen=True)
class BuiltArt:
    """A block of words as it stands.

    Attributes:
        art: the block of the document.
        key: key of its content.
        made: what its words came to.
    """

    art: Lettering
    key: str
    made: SetWords

    @property
    def region(self) -> Region:
        """Its united letters."""
        return self.made.region

    @property
    def typeset(self) -> Typeset:
        """Its glyphs; none when the font cannot be used."""
        return self.made.typeset

    @property
    def letters(self) -> dict[int, LetterParts]:
        """Each letter's pieces, by its index."""
        return self.made.letters

    @property
    def words(self) -> tuple[WordPieces, ...]:
        """The pieces of every word."""
        return self.made.words

    @property
    def box(self) -> tuple[float, float, float, float] | None:
        """Bounds of the words before they were scaled, turned and moved, in mm."""
        linear = place_matrix(self.art.place)
        if self.region.is_empty or not np.linalg.det(linear[:, :2]):
            return None
        points = shapely.get_coordinates(self.region.area) - linear[:, 2]
        back = points @ np.linalg.inv(linear[:, :2]).T
        (x0, y0), (x1, y1) = back.min(axis=0).tolist(), back.max(axis=0).tolist()
        return (x0, y0, x1, y1)

    def seams(self) -> list[LineString]:
        """The stretches of letters' outlines that uniting removed."""
        return seams(self.letters.values())


@dataclass(frozen=True)
class Build:
    """The result for a whole design, its art and layers in the document's order."""

    design: Design
    art: tuple[BuiltArt, ...]
    layers: tuple[BuiltLayer, ...]
    findings: tuple[Finding, ...]

    def leaving(self) -> list[BuiltLayer]:
        """The layers that are handed over: neither hidden nor guides."""
        return [b for b in self.layers if b.layer.leaves]

    @property
    def bounds(self) -> Box | None:
        """Of everything that leaves, in mm; None when there is nothing."""
        return _around(self.leaving())

    @property
    def finished(self) -> Box | None:
        """Of what is made, in mm: a print that bleeds over the edge does not count, unless all is print."""
        return _around([b for b in self.leaving() if b.layer.process != "print"]) or self.bounds


@dataclass(frozen=True)
class SetWords:
    """A block of words as set; kept by its content, whatever it is called.

    Attributes:
        set_as: its glyphs, or why its font cannot be used.
        region: its united letters.
        letters: each letter's pieces, by its index.
        apart: indices of letters that stand alone on purpose.
    """

    set_as: Typeset | FontError
    region: Region
    letters: dict[int, LetterParts]
    apart: tuple[int, ...] = ()

    @cached_property
    def words(self) -> tuple[WordPieces, ...]:
        """The pieces of every word: found when somebody asks, as outlines do not need them."""
        return pieces_by_word(self.typeset, self.letters, self.apart)

    @property
    def typeset(self) -> Typeset:
        """Its glyphs; none when the font cannot be used."""
        return self.set_as if isinstance(self.set_as, Typeset) else Typeset((), (), ())

    @property
    def nbytes(self) -> int:
        """Memory held, in bytes, near enough for the memo's budget."""
        # The letters' polygons hold about as many vertices as the region.
        return 2 * self.region.nbytes

    def moved(self, dx: float, dy: float) -> SetWords:
        """The same words elsewhere."""
        letters = {i: parts.moved(dx, dy) for i, parts in self.letters.items()}
        return SetWords(self.typeset.moved(dx, dy), self.region.moved(dx, dy), letters, self.apart)


def _around(layers: Sequence[BuiltLayer]) -> Box | None:
    return wrapped([b.measures.bounds for b in layers if b.measures.bounds])


def spot_place(built: BuiltArt, spot: Anchor) -> XY | None:
    """Where a spot is, in mm; None when its letter is not there."""
    middle = _middle(built, spot.letter)
    if middle is None:
        return None
    x, y = (middle + _sizes(built.art) @ (spot.x, spot.y)).tolist()
    # Picked places need not be exact, but must not change with the last digit of a middle.
    return (round(x, 6), round(y, 6))


def spot_at(built: Sequence[BuiltArt], x: float, y: float) -> Anchor | None:
    """The spot of a place (mm), on the nearest letter of any of the blocks; None when there is no letter."""
    near = [
        (MultiPolygon(parts.pieces).distance(shapely.Point(x, y)), one, letter)
        for one in built
        for letter, parts in one.letters.items()
        if parts.pieces
    ]
    if not near:
        return None
    _, one, letter = min(near, key=lambda found: found[0])
    return spot_on(one, letter, x, y)


def spot_on(built: BuiltArt, letter: int, x: float, y: float) -> Anchor:
    """The spot of a place (mm) on one of its letters that has an outline."""
    middle = _middle(built, letter)
    along = np.linalg.solve(_sizes(built.art), np.array([x, y]) - middle)
    return Anchor(art=built.art.id, letter=letter, x=round(float(along[0]), 5), y=round(float(along[1]), 5))


def _middle(built: BuiltArt, letter: int) -> Floats | None:
    """The middle of a letter's largest piece, in mm."""
    parts = built.letters.get(letter)
    return None if parts is None or not parts.pieces else shapely.get_coordinates(parts.pieces[0].centroid)[0]


def _sizes(art: Lettering) -> Floats:
    """What a step of one size along and across the line is on the drawing, shape (2, 2), in mm."""
    return place_matrix(art.place)[:, :2] * art.size
