"""Layers made of something that is not in the material list."""

from __future__ import annotations

from tinhalo.core.design.design import Design, Layer
from tinhalo.core.findings.finding import Finding
from tinhalo.core.materials import find_material


def check_material(layer: Layer, design: Design) -> list[Finding]:
    """Tell that the thickness and colour of a layer's material are not known."""
    if find_material(layer.material, design.materials):
        return []
    sentence = (
        f"“{layer.title}” is made of “{layer.material}”, which is not in the material list. "
        "Its thickness is not known, so the stack counts it as 1 mm."
    )
    return [Finding(kind="unknown_material", severity="warning", layer=layer.id, sentence=sentence)]
