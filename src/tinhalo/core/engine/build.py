"""The engine: ``build(design, library)`` gives every layer's region, measures and findings.

A pure function: the same document and fonts give the same result. Results are kept in a memo by content, so an
edit recomputes only what depends on it.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import Protocol

from shapely import MultiPolygon

from tinhalo.core.artwork.lettering.against import slide
from tinhalo.core.artwork.lettering.block import MOST_LETTERS, Lettering
from tinhalo.core.artwork.lettering.face import Face, FontError
from tinhalo.core.artwork.lettering.typeset import Typeset, graphemes, typeset
from tinhalo.core.design.design import Design, Layer
from tinhalo.core.design.problems import check_references
from tinhalo.core.document.anchor import Anchor
from tinhalo.core.engine.built import Build, BuiltArt, BuiltLayer, Measures, SetWords, spot_place
from tinhalo.core.findings.checks.nothing_left import check_nothing_left
from tinhalo.core.findings.checks.unknown_material import check_material
from tinhalo.core.findings.checks.words import check_against, check_words
from tinhalo.core.findings.finding import Finding
from tinhalo.core.geometry.curves.outline import XY, as_lines
from tinhalo.core.geometry.curves.precision import EXACT, SCREEN, Precision
from tinhalo.core.geometry.exact.recover import CutOutline, trace
from tinhalo.core.geometry.exact.shared_edges import CutLines, beside, without_shared
from tinhalo.core.geometry.regions.region import Region, wrapped
from tinhalo.core.geometry.strokes.widths import Measured
from tinhalo.core.recipe.evaluate import Evaluator, Named, digest, measured
from tinhalo.core.runtime.memo import Memo


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
        self._drawn = repr(precision)
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

    def _spot(self, spot: Anchor) -> XY | None:
        return spot_place(self._built_art[spot.art], spot) if spot.art in self._built_art else None

    def _art(self, art: Lettering) -> BuiltArt:
        """Typeset one block unless an equal one was set before, whatever it was called."""
        key = digest("lettering", self._drawn, art.model_dump_json(exclude={"id", "against"}))
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
            cut = self._memo.get(("cut", key), CutOutline, lambda: trace(region))
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
        serving = [built[id] for id in self._design.served_by(one.layer)]
        key = digest("leaving", str(self._exact), one.key, *[other.key for other in serving])

        def find() -> _Shared:
            contours = one.cut.outline.contours() if one.cut else [as_lines(ring) for _, ring in one.region.rings()]
            others = [other.region for other in serving if beside(one.region, other.region)]
            return _Shared(without_shared(contours, others))

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
class _Shared:
    lines: CutLines | None

    @property
    def nbytes(self) -> int:
        return 100 + (sum(s.nbytes for s, _ in (*self.lines.whole, *self.lines.runs)) if self.lines else 0)


def _measure(region: Region, cut: CutOutline | None) -> Measures:
    if cut is None or region.area.is_empty:
        area, length, bounds = region.area.area, region.area.length, region.bounds
    else:
        area, length = cut.area, cut.outline.length
        marks = Region(MultiPolygon(), (), region.marks).bounds
        bounds = wrapped([cut.outline.bounds(), *([marks] if marks else [])])
    marks_length = region.marks_length
    return Measures(area, length + marks_length, region.pieces, region.holes, len(region.marks), bounds)
