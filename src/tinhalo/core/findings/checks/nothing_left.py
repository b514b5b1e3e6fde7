"""Layers of which nothing is left."""

from __future__ import annotations

import shapely

from tinhalo.core.design.design import Design, Layer
from tinhalo.core.findings.finding import Finding, Kind
from tinhalo.core.findings.mends.mend import Mend, SetSources
from tinhalo.core.findings.surveyed import Surveyed
from tinhalo.core.recipe.offset_step import Offset
from tinhalo.core.units import length

#: So many pieces of art are offered for a layer that is made from nothing.
_OFFERED = 3
#: Shrunk by this share of half its widest stroke, something is left of a layer.
_SHARE = 0.5


def check_nothing_left(one: Surveyed) -> list[Finding]:
    """Tell which step used the layer up, or that nothing goes into it."""
    layer, unit = one.layer, one.design.unit
    if not one.region.is_empty:
        return []
    if not layer.recipe.sources:
        sentence = f"{one.title} is made from nothing yet: choose words or a shape for it."
        return [_finding("no_source", layer, sentence, *_sources(layer, one.design))]
    if one.emptied_by is None:
        if one.undrawn.issuperset(art.id for art in one.design.art if art.id in one.made_from):
            # That this cannot be drawn is told of the art.
            return []
        return [_finding("nothing_left", layer, f"Nothing is in {one.title}: {_empty(layer, one.design)}.")]
    index = one.emptied_by
    step, before = layer.recipe.steps[index], one.stages[index]
    out = Mend.by_step(f"Leave out step {index + 1}", layer.id, step.model_copy(update={"off": True}), index)
    if not isinstance(step, Offset):
        sentence = f"Nothing is left of {one.title} after step {index + 1}: everything was cut away."
        return [_finding("nothing_left", layer, sentence, out)]
    sentence = (
        f"Nothing is left of {one.title}: shrinking by {length(-step.by, unit)} is more than half of its "
        "widest stroke. Shrink it less."
    )
    widest = shapely.maximum_inscribed_circle(before.area, tolerance=0.05).length
    less = round(widest * _SHARE, 2)
    mends = (out,)
    if less > 0:
        shrunk = step.model_copy(update={"by": -less})
        mends = (Mend.by_step(f"Shrink it by {length(less, unit)}", layer.id, shrunk, index), out)
    return [_finding("nothing_left", layer, sentence, *mends)]


def _empty(layer: Layer, design: Design) -> str:
    """What a layer is made from that has nothing in it."""
    layers = {one.id: f"“{one.title}”" for one in design.layers}
    names = [layers.get(name) or f"“{design.art_title(name)}”" for name in layer.recipe.sources]
    if len(names) == 1:
        return f"{names[0]} is empty"
    return f"{', '.join(names[:-1])} and {names[-1]} are empty"


def _sources(layer: Layer, design: Design) -> list[Mend]:
    return [
        Mend(title=f"Make it from “{art.title[:30]}”", changes=(SetSources(layer=layer.id, sources=(art.id,)),))
        for art in [one for one in design.art[:_OFFERED] if one.title]
    ]


def _finding(kind: Kind, layer: Layer, sentence: str, *mends: Mend) -> Finding:
    return Finding(kind=kind, severity="error", layer=layer.id, sentence=sentence, mends=mends)
