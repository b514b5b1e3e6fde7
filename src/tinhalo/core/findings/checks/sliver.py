"""Pieces, and in weeded materials holes, that are too small to handle."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import cache

from shapely import Polygon

from tinhalo.core.findings.finding import Finding, beginning, outline_of, rounded
from tinhalo.core.findings.mends.mend import FindPlace, Mend
from tinhalo.core.findings.mends.thicker import is_line, thickened
from tinhalo.core.findings.surveyed import SLACK, Surveyed
from tinhalo.core.geometry.regions.selection import are_narrow, are_small, widest
from tinhalo.core.recipe.pick_steps import Drop, Tidy

#: A slim piece of more than so many least areas is no sliver, only thin (common practice).
_MANY = 10


def check_slivers(one: Surveyed) -> list[Finding]:
    """Pieces under the material's least area, or nowhere as wide as its least width; and what is weeded out of it."""
    limits = one.limits
    found = _too_small(one, one.resting.pieces.tolist(), limits.least_width, off_cuts=False)
    if limits.weeded:
        found += _too_small(one, one.region.hole_areas(), limits.least_gap, off_cuts=True)
    return found


def _too_small(one: Surveyed, areas: Sequence[Polygon], width: float, *, off_cuts: bool) -> list[Finding]:
    least = one.limits.least_area
    # A hole is weeded as one bit: only a small one is hard to get hold of. And a line is as wide as it was asked
    # to be: it is told to be thin, not to be a sliver.
    by_width = not off_cuts and not is_line(one)
    slim = [a for a in areas if least <= a.area < _MANY * least] if by_width else []
    thin = [a for a, narrow in zip(slim, are_narrow(slim, width - SLACK), strict=True) if narrow]
    doubtful = [a for a in areas if a.area < least] + thin
    lost = {id(a) for a in thin}
    large = [a for a in one.resting.pieces.tolist() if a.area >= least]
    sound = [a for a in large if id(a) not in lost]

    @cache
    def dropped(small: bool) -> tuple[Mend, ...]:
        if small:
            return _drop(one, f"under {one.area(least)}", Tidy(area=least, holes_too=True), large)
        step = Tidy(area=None, width=width, holes_too=False)
        return _drop(one, f"under {one.length(width)} wide", step, sound)

    elsewhere = () if off_cuts else tuple(places(one))
    # What is told by its area needs no width, which is dear to find.
    widths = [0.0] * (len(doubtful) - len(thin)) + widest(thin).tolist()
    found: list[Finding] = []
    for area, wide in zip(doubtful, widths, strict=True):
        is_small = area.area < least
        at = rounded(area.representative_point())
        what = f"a hole{one.at_letter(at)}" if off_cuts else one.called(area).name
        size = one.area(area.area) if is_small else f"nowhere wider than {one.length(wide)}"
        spot = None if off_cuts else one.anchor(at)
        alone = (Mend.by_step("Drop only this one", one.layer.id, Drop(pieces=(spot,)), here=True),) if spot else ()
        mends = dropped(True) if is_small else (*thickened(one, wide), *dropped(False))
        # Beside what mends all of them, or where that would take more than slivers.
        if (mends and len(doubtful) > 1) or (not mends and sound):
            mends += alone
        found.append(
            Finding(
                kind="sliver",
                severity="warning",
                layer=one.layer.id,
                sentence=(
                    f"{beginning(what)} in {one.title} is a sliver, {size}: "
                    + ("too small to weed." if one.limits.weeded else "it gets lost.")
                    + ("" if mends or elsewhere else " Make it larger.")
                ),
                at=at,
                outline=outline_of(area),
                measure=round(area.area if is_small else wide, 3),
                limit=least if is_small else width,
                unit="mm2" if is_small else "mm",
                mends=(*mends, *elsewhere),
            )
        )
    return found


def _drop(one: Surveyed, what: str, step: Tidy, left: Sequence[Polygon]) -> tuple[Mend, ...]:
    """A step that drops slivers, unless nothing is left then, or it takes some of what should be left as well."""
    # One after the other, as the first that would go answers it.
    if not left or any(are_small([piece], step.area, step.width)[0] for piece in left):
        return ()
    return (Mend.by_step(f"Drop what is {what}", one.layer.id, step),)


def places(one: Surveyed, step: int | None = None) -> Iterator[Mend]:
    """Mends of a knockout: another place for what a step cuts away, or for what each does."""
    limits = one.limits
    for number, index in enumerate(one.knockouts, start=1):
        if step is not None and index != step:
            continue
        find = FindPlace(layer=one.layer.id, step=index, least_area=limits.least_area, least_width=limits.least_width)
        which = f" (cut {number})" if len(one.knockouts) > 1 else ""
        yield Mend(title=f"Find a place{which}", changes=(find,))
