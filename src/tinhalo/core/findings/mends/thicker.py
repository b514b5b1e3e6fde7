"""What makes strokes as wide as the material needs them."""

from __future__ import annotations

from tinhalo.core.findings.mends.mend import Mend, SetStep
from tinhalo.core.findings.surveyed import SLACK, Surveyed
from tinhalo.core.recipe.border_steps import OutlineRing, Wall
from tinhalo.core.recipe.thicken_step import Thicken


def thickened(one: Surveyed, width: float) -> tuple[Mend, ...]:
    """Mends for strokes of a layer that are too thin, ``width`` mm at the least: a wider line, or thickening."""
    least, this = one.limits.least_width, one.layer.id
    there = Thicken(to=least, keep_open=one.limits.least_gap)
    applied = [(index, step) for index, step in enumerate(one.layer.recipe.steps) if not step.off]
    if applied and isinstance(line := applied[-1][1], OutlineRing | Wall) and line.width < least - SLACK:
        # Thickened on both sides, a line would come nearer to what it goes round.
        wider = SetStep(layer=this, step=line.model_copy(update={"width": least}), at=applied[-1][0])
        if width > line.width - SLACK:
            return (Mend(title=f"Make the line {one.length(least)} wide", changes=(wider,)),)
        # Where it meets itself it is thinner than it was made.
        title = f"Make the line {one.length(least)} wide, thickened where it is less"
        return (Mend(title=title, changes=(wider, SetStep(layer=this, step=there))),)
    everywhere = there.model_copy(update={"where": "everywhere"})
    return (
        Mend.by_step(f"Thicken to {one.length(least)} there", this, there),
        Mend.by_step(f"Thicken all, to {one.length(least)} at least", this, everywhere),
    )
