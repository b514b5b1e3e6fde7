"""Layers of which nothing is left."""

from __future__ import annotations

from tinhalo.core.checks.finding import Finding
from tinhalo.core.design import Layer
from tinhalo.core.recipe.evaluate import Cooked
from tinhalo.core.recipe.offset_step import Offset


def check_nothing_left(layer: Layer, cooked: Cooked) -> list[Finding]:
    """Tell which step used the layer up, or that nothing goes into it."""
    if not cooked.region.is_empty:
        return []
    if not layer.recipe.sources:
        return [_finding("no_source", layer, f"“{layer.title}” is made from nothing yet: choose words for it.")]
    if cooked.emptied_by is None:
        return []
    step = layer.recipe.steps[cooked.emptied_by]
    if isinstance(step, Offset):
        sentence = (
            f"Nothing is left of “{layer.title}”: shrinking by {-step.by:g} mm is more than half of its widest "
            "stroke. Shrink it less."
        )
    else:
        number = cooked.emptied_by + 1
        sentence = f"Nothing is left of “{layer.title}” after step {number}: everything was cut away."
    return [_finding("nothing_left", layer, sentence)]


def _finding(kind: str, layer: Layer, sentence: str) -> Finding:
    return Finding.model_validate({"kind": kind, "severity": "error", "layer": layer.id, "sentence": sentence})
