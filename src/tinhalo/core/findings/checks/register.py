"""Layers that are mirrored about their own middle, and so no longer lie on the others as they are drawn."""

from __future__ import annotations

from tinhalo.core.findings.finding import Finding, rounded
from tinhalo.core.findings.mends.mend import Mend
from tinhalo.core.findings.surveyed import Surveyed
from tinhalo.core.recipe.shape_steps import PlaceStep

#: Layers that are off by less (mm) still lie on each other well enough (common practice).
_OFF = 1.0


def check_register(one: Surveyed) -> list[Finding]:
    """Tell by how much a layer that is mirrored by itself is off the others."""
    found: list[Finding] = []
    if not (one.over or one.under) or one.region.bounds is None:
        return found
    for index, step in enumerate(one.layer.recipe.steps):
        box = one.stages[index].bounds
        if step.off or not isinstance(step, PlaceStep) or not step.mirror or step.pivot != "itself" or box is None:
            continue
        # Mirrored about another line, everything ends twice as far off as the lines are apart.
        off = 2 * abs((box[0] + box[2]) / 2 - one.middle[0])
        if off <= _OFF:
            continue
        mended = step.model_copy(update={"about": "middle"})
        x0, y0, x1, y1 = one.region.bounds
        found.append(
            Finding(
                kind="out_of_register",
                severity="warning",
                layer=one.layer.id,
                sentence=(
                    f"{one.title} is mirrored about its own middle: it is {one.length(off)} off the other layers."
                ),
                at=rounded(((x0 + x1) / 2, (y0 + y1) / 2)),
                outline=(((x0, y0), (x1, y0), (x1, y1), (x0, y1)),),
                measure=round(off, 3),
                limit=_OFF,
                unit="mm",
                mends=(Mend.by_step("Mirror it about the middle of all", one.layer.id, mended, index),),
            )
        )
    return found
