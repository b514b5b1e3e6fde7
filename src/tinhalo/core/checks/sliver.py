"""Pieces, and in weeded materials holes, that are too small to handle."""

from __future__ import annotations

from collections.abc import Sequence

from shapely import Polygon

from tinhalo.core.checks.finding import Finding, Mend, beginning, mm, outline_of, rounded
from tinhalo.core.checks.surveyed import SLACK, Surveyed
from tinhalo.core.geometry.sift import widest
from tinhalo.core.recipe.pick_steps import Tidy


def check_slivers(one: Surveyed) -> list[Finding]:
    """Pieces under the material's least area, or nowhere as wide as its least width; and what is weeded out of it."""
    limits = one.limits
    found = _too_small(one, list(one.region.area.geoms), limits.least_width, off_cuts=False)
    if limits.weeded:
        found += _too_small(one, one.region.hole_areas(), limits.least_gap, off_cuts=True)
    return found


def _too_small(one: Surveyed, areas: Sequence[Polygon], width: float, *, off_cuts: bool) -> list[Finding]:
    least = one.limits.least_area
    # An area of A mm² with an edge of P mm always holds a circle of radius A / P: most need no closer look.
    doubtful = [a for a in areas if a.area < least or a.area < a.length * width / 2]
    found: list[Finding] = []
    for area, wide in zip(doubtful, widest(doubtful).tolist(), strict=True):
        narrow = wide < width - SLACK
        # A hole is weeded as one bit: only a small one is hard to get hold of.
        if area.area >= least and (off_cuts or not narrow):
            continue
        what = "a hole" if off_cuts else one.called(area).name
        size = f"{area.area:.2g} mm²" if area.area < least else f"nowhere wider than {mm(wide)}"
        step = Tidy(area=least, holes_too=True) if area.area < least else Tidy(area=None, width=width, holes_too=False)
        title = f"Drop what is under {least:g} mm²" if area.area < least else f"Drop what is under {mm(width)} wide"
        found.append(
            Finding(
                kind="sliver",
                severity="warning",
                layer=one.layer.id,
                sentence=(
                    f"{beginning(what)} in {one.title} is a sliver, {size}: "
                    + ("too small to weed." if one.limits.weeded else "it gets lost.")
                ),
                at=rounded(area.representative_point()),
                outline=outline_of(area),
                measure=round(area.area if area.area < least else wide, 3),
                limit=least if area.area < least else width,
                unit="mm2" if area.area < least else "mm",
                mends=(Mend(title=title, layer=one.layer.id, step=step),),
            )
        )
    return found
