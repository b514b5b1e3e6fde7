"""Prints on a material that no layer cuts, and names that do not touch what they are cut from."""

from __future__ import annotations

from tinhalo.core.design.hand_over import CUTS
from tinhalo.core.findings.checks.sliver import places
from tinhalo.core.findings.finding import Finding
from tinhalo.core.findings.surveyed import Surveyed
from tinhalo.core.geometry.regions.region import CRUMB_AREA
from tinhalo.core.recipe.combine_steps import Subtract


def check_uncut_print(one: Surveyed) -> list[Finding]:
    """Tell that no layer cuts out what is printed; stitches and other marks alone are no print that is cut out."""
    cut = {layer.material for layer in one.design.layers if layer.process in CUTS and layer.leaves}
    if one.region.area.is_empty or not one.layer.leaves or one.layer.material in cut:
        return []
    name = one.material.name
    sentence = f"{one.title} is printed on {name}, and no layer cuts {name}."
    return [Finding(kind="nothing_cuts_it", severity="warning", layer=one.layer.id, sentence=sentence)]


def check_cuts_nothing(one: Surveyed) -> list[Finding]:
    """Tell of steps that cut art away which does not touch what it is cut from."""
    found: list[Finding] = []
    for index, step in enumerate(one.layer.recipe.steps):
        if not isinstance(step, Subtract) or step.off or index + 1 >= len(one.stages):
            continue
        before, after = one.stages[index].area, one.stages[index + 1].area
        if before.is_empty or before.area - after.area > CRUMB_AREA:
            continue
        names = ", ".join(dict.fromkeys(one.design.art_title(id) for id in step.operand.named())) or "What is cut away"
        found.append(
            Finding(
                kind="cuts_nothing",
                severity="warning",
                layer=one.layer.id,
                sentence=f"“{names}” does not touch {one.title}, so nothing is cut away.",
                mends=tuple(places(one, index)),
            )
        )
    return found
