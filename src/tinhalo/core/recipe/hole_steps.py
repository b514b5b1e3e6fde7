"""Steps that make holes: a tab with a ring hole, a hole, a row of holes."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tinhalo.core.document.base import Strict
from tinhalo.core.document.fields import degrees, mm, plain
from tinhalo.core.geometry.features.tab import HoleRow, TabPlace, hole_box, hole_places, tab_place, with_holes, with_tab
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.recipe.recipe import Recipe
from tinhalo.core.recipe.step import Step, StepContext, StepNote


class Tab(Step):
    """A tab with a hole for a ring, at a place along the outline.

    The place is a direction from the middle of the outline's box, where 45 degrees is always its corner: it stays
    there when the words change. With ``along``, the place is on that recipe's outline instead of the region's own: so
    the holes of several layers line up.
    """

    op: Literal["tab"] = "tab"
    hole: Annotated[float, mm("diameter of the hole", gt=0, le=200)] = 4
    rim: Annotated[float, mm("material around the hole", gt=0, le=200)] = 2.5
    reach: Annotated[float, mm("from the outline to the hole's middle", ge=-200, le=200)] = 2.5
    at: Annotated[float, degrees("direction from the middle, counter-clockwise from the right")] = 135
    along: Annotated[Recipe | None, Field(description="the outline it goes by, where that is not its own")] = None

    def apply(self, region: Region, context: StepContext) -> Region:
        """See ``geometry.features.tab``."""
        place = self._place(region, context)
        if place is None:
            return region
        return with_tab(region, (place.x, place.y), self.hole, self.rim, context.precision)

    def _place(self, region: Region, context: StepContext) -> TabPlace | None:
        along = region if self.along is None else context.cook(self.along)
        return tab_place(along, self.reach, self.at, context.precision)

    def note(self, before: Region, after: Region, context: StepContext) -> StepNote | None:
        """Where the tab's hole is."""
        return StepNote(tab=self._place(before, context))


class HoleAt(Strict):
    """Where a hole is: shares of the way across and up the region's box, ``inset`` mm inside it on every side."""

    x: Annotated[float, plain("share of the way from left to right", ge=-1, le=2)] = 0.5
    y: Annotated[float, plain("share of the way from foot to top", ge=-1, le=2)] = 1
    inset: Annotated[float, mm("inside the box", ge=-1_000)] = 4


class Row(Strict):
    """Several holes in a row, its middle where one hole would be."""

    count: Annotated[int, Field(ge=1, le=200)] = 2
    dx: Annotated[float, mm("from one to the next, to the right", ge=-1_000)] = 20
    dy: Annotated[float, mm("from one to the next, upwards", ge=-1_000)] = 0


_ONE = Row(count=1)


class Hole(Step):
    """A round hole, or a row of them."""

    op: Literal["hole"] = "hole"
    diameter: Annotated[float, mm("of each hole", gt=0)] = 4
    at: HoleAt = HoleAt()
    row: Row | None = None

    def apply(self, region: Region, context: StepContext) -> Region:
        """See ``geometry.features.tab``."""
        row = self._row(region)
        return region if row is None else with_holes(region, row.middles, self.diameter, context.precision)

    def _row(self, region: Region) -> HoleRow | None:
        box = hole_box(region, self.at.inset)
        if box is None:
            return None
        row = self.row or _ONE
        return HoleRow(hole_places(box, self.at.x, self.at.y, row.count, row.dx, row.dy), box)

    def note(self, before: Region, after: Region, context: StepContext) -> StepNote | None:
        """Where the holes are."""
        return StepNote(holes=self._row(before))
