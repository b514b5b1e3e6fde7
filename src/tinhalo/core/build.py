"""The engine: ``build(design, library)`` gives every layer's region, measures and findings.

A pure function: the same document and fonts give the same result. Results are kept in a memo by content, so an
edit recomputes only what depends on it.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Protocol

import numpy as np
import shapely
from shapely import LineString, MultiPolygon, Point

from tinhalo.core.checks.finding import Finding
from tinhalo.core.checks.nothing_left import check_nothing_left
from tinhalo.core.checks.unknown_material import check_material
from tinhalo.core.checks.words import check_against, check_words
from tinhalo.core.design import Design, Layer
from tinhalo.core.geometry.left_out import CutLines, beside, without_shared
from tinhalo.core.geometry.outline import Floats, as_lines
from tinhalo.core.geometry.precision import EXACT, SCREEN, Precision
from tinhalo.core.geometry.region import Box, Region, wrapped
from tinhalo.core.geometry.sift import Place
from tinhalo.core.geometry.trace import CutOutline, trace
from tinhalo.core.geometry.widths import Measured
from tinhalo.core.lettering.against import slide
from tinhalo.core.lettering.art import MOST_LETTERS, Lettering
from tinhalo.core.lettering.face import Face, FontError
from tinhalo.core.lettering.parts import LetterParts
from tinhalo.core.lettering.pieces import WordPieces, pieces_by_word, seams
from tinhalo.core.lettering.placed import shift
from tinhalo.core.lettering.typeset import Typeset, graphemes, place_matrix, typeset
from tinhalo.core.materials import Material
from tinhalo.core.problems import check_references
from tinhalo.core.recipe.evaluate import Evaluator, Named, digest, measured
from tinhalo.core.recipe.memo import Memo
from tinhalo.core.recipe.spot import Spot
from tinhalo.core.recipe.step import StepNote


class Library(Protocol):
    """Where fonts come from."""

    def face(self, font: str, axes: Mapping[str, float] = ...) -> Face:
        """The face with that id, a variable one set to ``axes``.

        Raises:
            FontError: with a sentence, when there is none or it cannot be read.
        """
        ...

    def family(self, font: str) -> str:
        """What the font is called; the id itself when it is not known."""
        ...


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


def build(
    design: Design,
    library: Library,
    *,
    exact: bool = True,
    memo: Memo | None = None,
    precision: Precision | None = None,
    cancelled: Callable[[], bool] = lambda: False,
) -> Build:
    """Compute every layer of a design.

    Args:
        design: the document; its references are checked first.
        library: gives fonts by id.
        exact: at the precision of what leaves, with outlines as curves; or, quicker, for the screen.
        memo: results of earlier builds to use and add to.
        precision: another one than the usual for either purpose.
        cancelled: asked now and then whether the result is still wanted.
    Raises:
        DesignError: when the document refers to what is not there, or goes round in a circle.
        CancelledError: once ``cancelled`` says so.
    """
    check_references(design)
    usual = EXACT if exact else SCREEN
    return _Builder(design, library, precision or usual, exact, memo or Memo(), cancelled).build()


def layer_widths(built: BuiltLayer, memo: Memo) -> Measured:
    """Widths of a layer's strokes and gaps. They take longer than the layer itself: asked for apart, and kept."""
    return measured(built.key, built.region, memo)


def spot_place(built: BuiltArt, spot: Spot) -> Place | None:
    """Where a spot is, in mm; None when its letter is not there."""
    middle = _middle(built, spot.letter)
    if middle is None:
        return None
    x, y = (middle + _sizes(built.art) @ (spot.x, spot.y)).tolist()
    # Picked places need not be exact, but must not change with the last digit of a middle.
    return (round(x, 6), round(y, 6))


def spot_at(built: Sequence[BuiltArt], x: float, y: float) -> Spot | None:
    """The spot of a place (mm), on the nearest letter of any of the blocks; None when there is no letter."""
    near = [
        (MultiPolygon(parts.pieces).distance(Point(x, y)), one, letter)
        for one in built
        for letter, parts in one.letters.items()
        if parts.pieces
    ]
    if not near:
        return None
    _, one, letter = min(near, key=lambda found: found[0])
    return spot_on(one, letter, x, y)


def spot_on(built: BuiltArt, letter: int, x: float, y: float) -> Spot:
    """The spot of a place (mm) on one of its letters that has an outline."""
    middle = _middle(built, letter)
    along = np.linalg.solve(_sizes(built.art), np.array([x, y]) - middle)
    return Spot(art=built.art.id, letter=letter, x=round(float(along[0]), 5), y=round(float(along[1]), 5))


def _middle(built: BuiltArt, letter: int) -> Floats | None:
    """The middle of a letter's largest piece, in mm."""
    parts = built.letters.get(letter)
    return None if parts is None or not parts.pieces else shapely.get_coordinates(parts.pieces[0].centroid)[0]


def _sizes(art: Lettering) -> Floats:
    """What a step of one size along and across the line is on the drawing, shape (2, 2), in mm."""
    return place_matrix(art.place)[:, :2] * art.size


class _Builder:
    def __init__(
        self,
        design: Design,
        library: Library,
        precision: Precision,
        exact: bool,
        memo: Memo,
        cancelled: Callable[[], bool],
    ) -> None:
        self._design = design
        self._library = library
        self._precision = precision
        self._exact = exact
        self._memo = memo
        self._sources: dict[str, Named] = {}
        self._word_findings: dict[str, list[Finding]] = {}
        self._built_art: dict[str, BuiltArt] = {}
        self._evaluator = Evaluator(self._sources.__getitem__, precision, memo, cancelled, self._spot)

    def build(self) -> Build:
        for one in self._design.art_order():
            self._built_art[one.id] = self._art(one)
        built = {layer.id: self._layer(layer) for layer in self._design.layer_order()}
        layers = tuple(self._less_shared(built[layer.id], built) for layer in self._design.layers)
        every = dict.fromkeys(
            [f for one in self._design.art for f in self._word_findings[one.id]]
            + [f for b in layers for f in b.findings if f.art is None]
        )
        return Build(self._design, tuple(self._built_art[one.id] for one in self._design.art), layers, tuple(every))

    def _spot(self, spot: Spot) -> Place | None:
        return spot_place(self._built_art[spot.art], spot) if spot.art in self._built_art else None

    def _art(self, art: Lettering) -> BuiltArt:
        """Typeset one block unless an equal one was set before, whatever it was called."""
        key = digest("lettering", repr(self._precision), art.model_dump_json(exclude={"id", "against"}))
        try:
            made = self._memo.get(key, SetWords, lambda: self._words(art))
        except FontError as error:
            # Not kept, and under a key of its own: the font may be added yet.
            key, made = digest("no font", key), SetWords(error, Region.empty(), {})
        findings = check_words(art, self._library.family(art.font), made.set_as, self._library.face)
        if art.against and not made.region.is_empty:
            against, other = art.against, self._sources[art.against.art]
            key = digest("against", key, other.key, against.model_dump_json(exclude={"art"}))
            slid = slide(made.region, other.region, against)
            if slid:
                moved = made
                made = self._memo.get(key, SetWords, lambda: moved.moved(*slid))
            else:
                findings += check_against(art, self._design)
        self._word_findings[art.id] = findings
        self._sources[art.id] = Named(key, made.region)
        return BuiltArt(art, key, made)

    def _words(self, art: Lettering) -> SetWords:
        if len(art.text) > MOST_LETTERS and len(letters := graphemes(art.text)) > MOST_LETTERS:
            return SetWords(Typeset((), (), tuple(letters)), Region.empty(), {})
        made = typeset(art, self._library.face(art.font, art.axes))
        parts = made.parts(self._precision)
        return SetWords(made, made.united(parts), parts, art.join.apart if art.join else ())

    def _layer(self, layer: Layer) -> BuiltLayer:
        cooked = self._evaluator.evaluate(layer.recipe)
        region, key = cooked.region, cooked.key
        self._sources[layer.id] = Named(key, region)
        cut = None
        if self._exact:
            cut = self._memo.get(digest("cut", key), CutOutline, lambda: trace(region))
        steps = zip(layer.recipe.steps, cooked.stages[:-1], cooked.stages[1:], strict=True)
        notes = tuple(self._evaluator.note(step, before, after) for step, before, after in steps)
        findings = [found.model_copy(update={"layer": layer.id}) for found in self._findings_of_words(layer)]
        findings += check_nothing_left(layer, cooked, self._design) + check_material(layer, self._design)
        material = self._design.material_of(layer)
        return BuiltLayer(
            layer, material, key, region, cut, None, _measure(region, cut), notes, cooked.stages, tuple(findings)
        )

    def _less_shared(self, one: BuiltLayer, built: Mapping[str, BuiltLayer]) -> BuiltLayer:
        """The layer without those of its edges that leave with other layers."""
        if not one.layer.cut_with:
            return one
        others = [built[id] for id in self._design.served_by(one.layer) if beside(one.region, built[id].region)]
        if not others:
            return one
        key = digest("leaving", str(self._exact), one.key, *[other.key for other in others])

        def find() -> _Shared:
            contours = one.cut.outline.contours() if one.cut else [as_lines(ring) for _, ring in one.region.rings()]
            return _Shared(without_shared(contours, [other.region for other in others]))

        lines = self._memo.get(key, _Shared, find).lines
        if lines is None:
            return one
        length = lines.length + one.region.marks_length
        return replace(one, cut_lines=lines, measures=replace(one.measures, cut_length=length))

    def _findings_of_words(self, layer: Layer) -> list[Finding]:
        """Those of all words a layer is made from, directly or through other layers, in the document's order."""
        told = [art.id for art in self._design.art if self._word_findings[art.id]]
        made_from = self._design.ancestors(layer) if told else set[str]()
        return [found for art in told if art in made_from for found in self._word_findings[art]]


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
        return SetWords(self.typeset.moved(shift(dx, dy)), self.region.moved(dx, dy), letters, self.apart)


@dataclass(frozen=True)
class _Shared:
    lines: CutLines | None

    @property
    def nbytes(self) -> int:
        return 100 + (sum(s.nbytes for s, _ in (*self.lines.whole, *self.lines.runs)) if self.lines else 0)


def _around(layers: Sequence[BuiltLayer]) -> Box | None:
    return wrapped([b.measures.bounds for b in layers if b.measures.bounds])


def _measure(region: Region, cut: CutOutline | None) -> Measures:
    if cut is None or region.area.is_empty:
        area, length, bounds = region.area.area, region.area.length, region.bounds
    else:
        area, length = cut.area, cut.outline.length
        marks = Region(MultiPolygon(), (), region.marks).bounds
        bounds = wrapped([cut.outline.bounds(), *([marks] if marks else [])])
    marks_length = region.marks_length
    return Measures(area, length + marks_length, region.pieces, region.holes, len(region.marks), bounds)
