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
    # A hole is weeded as one bit: only a small one is hard to get hold of.
    narrow = are_narrow(areas, width - SLACK)
    # A line is as wide as it was asked to be: it is told to be thin, not to be a sliver.
    asked = off_cuts or is_line(one)
    slim = [thin and not asked and a.area < _MANY * least for a, thin in zip(areas, narrow, strict=True)]
    doubtful = [a for a, thin in zip(areas, slim, strict=True) if a.area < least or thin]

    @cache
    def dropped(small: bool) -> tuple[Mend, ...]:
        if small:
            return _drop(one, f"under {one.area(least)}", Tidy(area=least, holes_too=True))
        return _drop(one, f"under {one.length(width)} wide", Tidy(area=None, width=width, holes_too=False))

    elsewhere = () if off_cuts else tuple(places(one))
    # What is told by its area needs no width, which is dear to find.
    small = [a.area < least for a in doubtful]
    widths = iter(widest([a for a, is_small in zip(doubtful, small, strict=True) if not is_small]).tolist())
    found: list[Finding] = []
    for area, is_small in zip(doubtful, small, strict=True):
        wide = 0.0 if is_small else next(widths)
        at = rounded(area.representative_point())
        what = f"a hole{one.at_letter(at)}" if off_cuts else one.called(area).name
        size = one.area(area.area) if is_small else f"nowhere wider than {one.length(wide)}"
        spot = None if off_cuts else one.anchor(at)
        alone = (Mend.by_step("Drop only this one", one.layer.id, Drop(pieces=(spot,)), here=True),) if spot else ()
        mends = dropped(True) if is_small else (*thickened(one, wide), *dropped(False))
        if mends and len(doubtful) > 1:
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


def _drop(one: Surveyed, what: str, step: Tidy) -> tuple[Mend, ...]:
    """A step that drops slivers, unless it would leave nothing."""
    if are_small(one.resting.pieces.tolist(), step.area, step.width).all():
        return ()
    return (Mend.by_step(f"Drop what is {what}", one.layer.id, step),)


def places(one: Surveyed) -> Iterator[Mend]:
    """Mends of a knockout: another place for what is cut away covers slivers, or makes them large enough."""
    limits = one.limits
    for number, index in enumerate(one.knockouts, start=1):
        find = FindPlace(layer=one.layer.id, step=index, least_area=limits.least_area, least_width=limits.least_width)
        which = f" (cut {number})" if len(one.knockouts) > 1 else ""
        yield Mend(title=f"Find another place for what is cut away{which}", changes=(find,))
