"""What makes strokes as wide as the material needs them."""

from __future__ import annotations

import math

from tinhalo.core.findings.mends.mend import Mend, ScaleArt, SetStep
from tinhalo.core.findings.surveyed import SLACK, Surveyed
from tinhalo.core.geometry.arrays import XY
from tinhalo.core.recipe.border_steps import OutlineRing, Wall
from tinhalo.core.recipe.offset_step import Offset
from tinhalo.core.recipe.thicken_step import Thicken

#: Letters that had to be so many times as large are another piece of work.
_LARGEST = 4.0


def is_line(one: Surveyed) -> bool:
    """Whether the recipe ends with a line or wall, which is as wide as it was asked to be."""
    applied = [step for step in one.layer.recipe.steps if not step.off]
    return bool(applied) and isinstance(applied[-1], OutlineRing | Wall)


def _shrunk_less(one: Surveyed, width: float) -> tuple[Mend, ...]:
    """Less of the shrinking that made strokes too thin, where that is enough."""
    shrinks = [
        (index, step)
        for index, step in enumerate(one.layer.recipe.steps)
        if isinstance(step, Offset) and step.by < 0 and not step.off
    ]
    less = (one.limits.least_width - width) / 2 + SLACK / 2
    if not shrinks or less > -shrinks[-1][1].by:
        return ()
    index, step = shrinks[-1]
    # Rounded up to a hundredth, so that what is shown is what is done.
    by = min(0.0, step.by + math.ceil(100 * less) / 100)
    if by == 0:
        return (Mend.by_step("Do not shrink it", one.layer.id, step.model_copy(update={"off": True}), index),)
    shrunk = step.model_copy(update={"by": round(by, 4)})
    return (Mend.by_step(f"Shrink it by {one.length(-by)} only", one.layer.id, shrunk, index),)


def thickened(one: Surveyed, width: float, at: XY | None = None) -> tuple[Mend, ...]:
    """Mends for strokes of a layer that are too thin, ``width`` mm at the least: a wider line, or thickening.

    With ``at`` there are other places, too: one of the mends is for that one only.
    """
    least, this = one.limits.least_width, one.layer.id
    there = Thicken(to=least, keep_open=one.limits.opening)
    applied = [(index, step) for index, step in enumerate(one.layer.recipe.steps) if not step.off]
    if applied and isinstance(line := applied[-1][1], OutlineRing | Wall) and line.width < least - SLACK:
        # Thickened on both sides, a line would come nearer to what it goes round.
        wider = SetStep(layer=this, step=line.model_copy(update={"width": least}), at=applied[-1][0])
        if width > line.width - SLACK:
            return (Mend(title=f"Make the line {one.length(least)} wide", changes=(wider,)),)
        # Where it meets itself it is thinner than it was made.
        title = f"Make the line {one.length(least)} wide, thickened where it is less"
        return (Mend(title=title, changes=(wider, SetStep(layer=this, step=there))),)
    # Between gaps there may be no room for that width.
    closing = there.model_copy(update={"keep_open": 0})
    everywhere = there.model_copy(update={"where": "everywhere"})
    return (
        *_shrunk_less(one, width),
        Mend.by_step(f"Thicken to {one.length(least)} there", this, there),
        Mend.by_step(f"Thicken all, to {one.length(least)} at least", this, everywhere),
        Mend.by_step(f"Thicken to {one.length(least)}, even where a gap closes", this, closing),
        *_larger(one, width),
        *_only_here(one, there, at),
    )


def _larger(one: Surveyed, width: float) -> tuple[Mend, ...]:
    """Letters so large that their thinnest stroke is wide enough, where the layer is made from them as they are."""
    recipe = one.layer.recipe
    words = [art for art in one.design.art if art.id in recipe.sources and art.is_words and not art.named()]
    plain = words and len(words) == len(recipe.sources) and all(step.off for step in recipe.steps)
    if not plain or width <= 0:
        return ()
    # Rounded up to a thousandth.
    factor = math.ceil(1000 * one.limits.least_width / width) / 1000
    if factor > _LARGEST:
        return ()
    sizes = {float(art.model_dump(include={"size"})["size"]) for art in words}
    size = one.length(round(factor * sizes.pop(), 1)) if len(sizes) == 1 else f"{100 * factor:.0f} %"
    changes = tuple(ScaleArt(art=art.id, factor=factor) for art in words)
    return (Mend(title=f"Larger letters: {size}", changes=changes),)


def _only_here(one: Surveyed, step: Thicken, at: XY | None) -> tuple[Mend, ...]:
    spot = one.anchor(at) if at else None
    if spot is None:
        return ()
    alone = step.model_copy(update={"only": (spot,)})
    return (Mend.by_step("Thicken only here", one.layer.id, alone, here=True),)
