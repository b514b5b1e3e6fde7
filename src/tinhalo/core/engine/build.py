"""The engine: ``build(design, library)`` gives every layer's region and measures.

A pure function: the same document and fonts give the same result. Results are kept in a memo by content, so an
edit recomputes only what depends on it.
"""

from __future__ import annotations

import logging
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import partial

from shapely import MultiPolygon

from tinhalo.core.artwork.art import Art, Drawn, Studio
from tinhalo.core.artwork.error import ArtError
from tinhalo.core.artwork.library import Library
from tinhalo.core.design.design import Design, Layer
from tinhalo.core.design.references import check_references
from tinhalo.core.document.anchor import Anchor
from tinhalo.core.engine.anchoring import anchor_place
from tinhalo.core.engine.built import Build, BuiltArt, BuiltLayer, Measures, middle_of
from tinhalo.core.engine.framing import frame_of
from tinhalo.core.geometry.arrays import XY
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.courses import courses
from tinhalo.core.geometry.curves.precision import EXACT, SCREEN, Precision
from tinhalo.core.geometry.exact.recover import CutOutline, trace
from tinhalo.core.geometry.exact.shared_edges import CutLines, beside, without_shared
from tinhalo.core.geometry.regions.region import Region, wrapped
from tinhalo.core.recipe.evaluate import Cooked, Evaluator, Named
from tinhalo.core.recipe.failure import PATIENCE
from tinhalo.core.runtime import threads
from tinhalo.core.runtime.cancellation import CancelledError, checkpoint
from tinhalo.core.runtime.elsewhere import is_apart, sizes
from tinhalo.core.runtime.memo import Memo, digest

_log = logging.getLogger(__name__)


def build(
    design: Design,
    library: Library,
    *,
    exact: bool = True,
    memo: Memo | None = None,
    precision: Precision | None = None,
    patience: float = PATIENCE,
) -> Build:
    """Compute every layer of a design.

    Args:
        design: the document; its references are checked first.
        library: gives fonts by id.
        exact: at the precision of what leaves, with outlines as curves; or, quicker, for the screen.
        memo: results of earlier builds to use and add to.
        precision: another one than the usual for either purpose.
        patience: seconds that a step may take before it is given up.

    Raises:
        DesignError: when the document refers to what is not there, or goes round in a circle.
        CancelledError: once nobody waits for it, see ``runtime.cancellation``.
    """
    check_references(design)
    usual = EXACT if exact else SCREEN
    return _Builder(design, library, precision or usual, exact, memo or Memo(), patience).build()


class _Builder:
    """Builds one design; it is also the studio that its art is drawn in."""

    def __init__(
        self, design: Design, library: Library, precision: Precision, exact: bool, memo: Memo, patience: float
    ) -> None:
        self._design = design
        self.library = library
        self.precision = precision
        self._fineness = repr(precision)
        self._exact = exact
        self._memo = memo
        self._sources: dict[str, Named] = {}
        self._art: dict[str, BuiltArt] = {}
        self._evaluator = Evaluator(self._sources.__getitem__, precision, memo, self._place, self._middle, patience)

    def build(self) -> Build:
        for art in self._design.art_order():
            checkpoint()
            built = self._drawn(art)
            self._art[art.id] = built
            self._sources[art.id] = Named(built.key, built.region)
        order = self._design.layer_order()
        with threads.beside(*self._ahead(order), at_once=1):
            built = {layer.id: self._layer(layer) for layer in order}
        layers = tuple(self._less_shared(built[layer.id], built) for layer in self._design.layers)
        return Build(self._design, self.library, tuple(self._art[one.id] for one in self._design.art), layers)

    def _ahead(self, order: Sequence[Layer]) -> list[Callable[[], object]]:
        """Layers that are made from art alone, from the last one: what this thread comes to later, it finds kept."""
        if not is_apart() or sum(one.region.vertices for one in self._art.values()) < sizes().vertices:
            return []
        layers = {layer.id for layer in order}
        return [partial(self._cooked, one) for one in reversed(order[1:]) if not layers & self._design.ancestors(one)]

    def _cooked(self, layer: Layer) -> tuple[Cooked, CutOutline | None]:
        """What its recipe gives, with the outline that leaves."""
        cooked = self._evaluator.evaluate(layer.recipe)
        if not self._exact:
            return cooked, None
        return cooked, self._memo.get(("cut", cooked.key), CutOutline, lambda: trace(cooked.region))

    def _place(self, anchor: Anchor) -> XY | None:
        return anchor_place(self._art[anchor.art], anchor) if anchor.art in self._art else None

    def _middle(self) -> XY:
        return middle_of(self._art.values())

    def _drawn(self, art: Art) -> BuiltArt:
        """Draw one piece of art unless an equal one was drawn before, whatever it was called."""
        key = digest("art", self._fineness, art.content())
        try:
            drawn = self._memo.get(key, Drawn, lambda: _drawing(art, self))
        except ArtError as error:
            # Not kept, and under a key of its own: the font may be added yet.
            return BuiltArt(art, digest("not drawn", key), art.undrawn(error))
        others = {name: self._sources[name] for name in art.named()} | self._frame(art)
        if others:
            alone, regions = drawn, {name: one.region for name, one in others.items()}
            key = digest("settled", key, art.settling(), *[one.key for one in others.values()])
            drawn = self._memo.get(key, Drawn, lambda: art.settle(alone, regions, self))
        return BuiltArt(art, key, drawn)

    def _frame(self, art: Art) -> dict[str, Named]:
        """The frame that words are set into, by the id of the shape that it is made from; none without an opening."""
        frame = frame_of(self._design, art)
        if frame is None:
            return {}
        for layer in frame.layers:
            made = self._evaluator.evaluate(layer.recipe)
            self._sources[layer.id] = Named(made.key, made.region)
        made = self._evaluator.evaluate(frame.recipe)
        return {shape: Named(made.key, made.region) for shape in art.named() if made.region.holes}

    def _layer(self, layer: Layer) -> BuiltLayer:
        cooked, cut = self._cooked(layer)
        region, key = cooked.region, cooked.key
        self._sources[layer.id] = Named(key, region)
        steps = zip(layer.recipe.steps, cooked.stages[:-1], cooked.stages[1:], strict=True)
        # What was left out did nothing.
        left_out = {failure.step for failure in cooked.failures}
        notes = tuple(
            None if index in left_out else self._evaluator.note(step, before, after)
            for index, (step, before, after) in enumerate(steps)
        )
        material, measures = self._design.material_of(layer), _measure(region, cut)
        stages, emptied_by, failures = cooked.stages, cooked.emptied_by, cooked.failures
        return BuiltLayer(layer, material, key, region, cut, None, measures, notes, stages, emptied_by, failures)

    def _less_shared(self, one: BuiltLayer, built: Mapping[str, BuiltLayer]) -> BuiltLayer:
        """The layer without those of its edges that leave with other layers."""
        if not one.layer.cut_with:
            return one
        serving = [built[id] for id in self._design.served_by(one.layer)]
        key = digest("leaving", str(self._exact), one.key, *[other.key for other in serving])

        def find() -> _Shared:
            contours = one.cut.outline.contours() if one.cut else [Contour.of_ring(r) for _, r in one.region.rings()]
            others = [other.region for other in serving if beside(one.region, other.region)]
            return _Shared(without_shared(contours, others))

        lines = self._memo.get(key, _Shared, find).lines
        if lines is None:
            return one
        length = lines.length + one.region.marks_length
        return replace(one, cut_lines=lines, measures=replace(one.measures, cut_length=length))


def _drawing(art: Art, studio: Studio) -> Drawn:
    """Art drawn; what a library trips over is told as art that cannot be drawn."""
    try:
        return art.draw(studio)
    except (ArtError, CancelledError):
        raise
    except Exception as error:
        _log.exception("Art could not be drawn: %s", art.model_dump_json()[:500])
        raise ArtError(f"“{art.title[:60]}” cannot be drawn like this: change its size or its letters.") from error


@dataclass(frozen=True)
class _Shared:
    lines: CutLines | None

    @property
    def nbytes(self) -> int:
        return 100 + (sum(one.nbytes for one in (*self.lines.whole, *self.lines.runs)) if self.lines else 0)


def _measure(region: Region, cut: CutOutline | None) -> Measures:
    if cut is None or region.area.is_empty:
        area, length, bounds = region.area.area, region.area.length, region.bounds
    else:
        area, length = cut.area, cut.outline.length
        marks = Region(MultiPolygon(), (), region.marks).bounds
        bounds = wrapped([cut.outline.bounds(), *([marks] if marks else [])])
    marks_length = region.marks_length
    return Measures(area, length + marks_length, region.pieces, region.holes, len(courses(region.marks)), bounds)
