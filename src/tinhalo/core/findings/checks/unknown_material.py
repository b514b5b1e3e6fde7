"""Layers made of something that is not in the material list."""

from __future__ import annotations

from tinhalo.core.findings.finding import Finding
from tinhalo.core.findings.surveyed import Surveyed
from tinhalo.core.materials import find_material


def check_material(one: Surveyed) -> list[Finding]:
    """Tell that the thickness and colour of a layer's material are not known."""
    material = one.layer.material
    if find_material(material, one.design.materials):
        return []
    sentence = (
        f"{one.title} is made of “{material}”, which is not in the material list. "
        "Its thickness is not known, so the stack counts it as 1 mm."
    )
    return [Finding(kind="unknown_material", severity="warning", layer=one.layer.id, sentence=sentence)]
