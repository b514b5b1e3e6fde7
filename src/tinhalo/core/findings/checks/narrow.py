"""Strokes too thin for the material, and gaps too tight for the cutter."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import shapely
from shapely import Polygon

from tinhalo.core.findings.finding import Finding, outline_of, rounded
from tinhalo.core.findings.mends.filling import filling_one, is_backing
from tinhalo.core.findings.mends.mend import Mend
from tinhalo.core.findings.mends.thicker import thickened
from tinhalo.core.findings.surveyed import SLACK, Surveyed
from tinhalo.core.geometry.arrays import XY
from tinhalo.core.geometry.regions.selection import holding
from tinhalo.core.geometry.strokes.narrow_places import narrow_gaps
from tinhalo.core.geometry.strokes.notches import gaps_at
from tinhalo.core.geometry.strokes.stretches import stretches_of, weak_strokes
from tinhalo.core.recipe.border_steps import CloseGaps, OpenGaps

#: What misses a limit by less than this share of it is not told.
_SHARE = 0.05
#: A gap on film under this width (mm) that the font itself has closes again as it is weeded (common practice).
_FAINT = 0.1


def check_thin_spots(one: Surveyed) -> list[Finding]:
    """Each stretch of a stroke that is narrower than the material's least width."""
    least = one.limits.least_width
    found = [(weak.width, rounded(weak.at), stretch.around) for stretch, weak in weak_strokes(one.region, least, SLACK)]
    return [
        Finding(
            kind="thin_spot",
            severity="warning",
            layer=one.layer.id,
            sentence=(
                f"{one.title} is only {one.length(width)} wide{one.at_letter(at, ' here')}: {one.material.name} needs "
                f"{one.length(least)}, or it breaks."
            ),
            at=at,
            outline=outline_of(around),
            measure=round(width, 3),
            limit=least,
            unit="mm",
            mends=thickened(one, width, at if len(found) > 1 else None),
        )
        for width, at, around in found
    ]


def check_tight_gaps(one: Surveyed) -> list[Finding]:
    """Each stretch of a gap that is narrower than can be cut."""
    least = one.limits.opening
    why = f"in {one.material.name} it needs {one.length(least)} to stay open"
    if least > one.limits.least_gap:
        why = f"a tool {one.length(least)} wide does not get in"
    stretches = stretches_of(narrow_gaps(one.region.simple, least - min(SLACK, _SHARE * least)), least, None)
    gaps = gaps_at(one.region, [stretch.narrowest.at for stretch in stretches], least)
    # Into a notch no tool has to get, and there is nothing in it that could tear.
    narrow = [
        (stretch.narrowest.width, rounded(stretch.narrowest.at), stretch.around)
        for stretch, gap in zip(stretches, gaps, strict=True)
        if not gap.notch
    ]
    closed = [gap.filled for gap in gaps if not gap.notch]
    inside = holding(one.region.hole_areas(), [at for _, at, _ in narrow])
    strays = [area for area, held in zip(one.region.hole_areas(), inside, strict=True) if held]
    widen = Mend.by_step(f"Widen to {one.length(least)}", one.layer.id, OpenGaps(to=least))
    close = Mend.by_step(f"Close gaps up to {one.length(least)}", one.layer.id, CloseGaps(up_to=least))

    def mends(at: XY, joined: bool) -> Iterator[Mend]:
        yield from _filling(one, strays, at)
        yield widen
        if joined:
            yield close
        if len(narrow) > 1 and (spot := one.anchor(at)):
            yield Mend.by_step("Widen only here", one.layer.id, OpenGaps(to=least, only=(spot,)), here=True)
            if joined:
                yield Mend.by_step("Close only here", one.layer.id, CloseGaps(up_to=least, only=(spot,)), here=True)

    return [
        Finding(
            kind="tight_gap",
            severity="note" if _of_the_font(one, width, at) else "warning",
            layer=one.layer.id,
            sentence=f"The gap in {one.title} is only {one.length(width)} wide{one.at_letter(at, ' here')}: {why}.",
            at=at,
            outline=outline_of(around),
            measure=round(width, 3),
            limit=least,
            unit="mm",
            mends=tuple(mends(at, joined)),
        )
        for (width, at, around), joined in zip(narrow, closed, strict=True)
    ]


def _of_the_font(one: Surveyed, width: float, at: XY) -> bool:
    """Whether a gap on weeded film is one of a few hundredths inside a letter: it stays closed, and nobody sees it."""
    return one.limits.weeded and width < _FAINT and one.parts_near(at, width) == 1


def _filling(one: Surveyed, strays: Sequence[Polygon], at: XY) -> Iterator[Mend]:
    """Behind a face an opening that is a hole is filled first of all."""
    if is_backing(one) and any(stray.contains(shapely.Point(at)) for stray in strays):
        yield from filling_one(one, at)
