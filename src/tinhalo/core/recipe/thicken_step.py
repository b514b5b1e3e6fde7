"""Step: make strokes thicker."""

from __future__ import annotations

from typing import Annotated, Any, ClassVar, Literal

from pydantic import model_validator

from tinhalo.core.document.fields import mm
from tinhalo.core.geometry.regions.at_places import changed_at
from tinhalo.core.geometry.regions.offset import offset
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.regions.selection import holes_without, widest
from tinhalo.core.geometry.strokes.growth import growth_for, keep_holes_open
from tinhalo.core.geometry.strokes.thicken import reach_of, thicken_thin
from tinhalo.core.recipe.picked import Only, places_of
from tinhalo.core.recipe.step import Step, StepContext, StepNote

#: Holes that are only opened by a beam or a knife of the usual width (common practice).
OPEN = 0.3


class Thicken(Step):
    """Strokes made thicker: all of them ``by`` mm, or up ``to`` a least width in mm.

    ``where`` is for ``to``: only where strokes are thinner, or everywhere by the smallest growth that brings the
    thinnest to that width. Where only thin strokes grow, holes and gaps stay open at least ``keep_open`` mm (0.3 if it
    is not said); otherwise holes may close unless it is said, all or with
    ``keep_only`` those at some places. With ``only`` the thin strokes at those places are meant.
    """

    weight: ClassVar[int] = 10

    starts_with: ClassVar[dict[str, Any]] = {"to": 1, "where": "everywhere"}

    op: Literal["thicken"] = "thicken"
    by: Annotated[float | None, mm("added to the width of every stroke", gt=0, le=100)] = None
    to: Annotated[float | None, mm("least width of a stroke", gt=0, le=100)] = None
    where: Literal["thin", "everywhere"] = "thin"
    keep_open: Annotated[float | None, mm("least width of holes", ge=0, le=100)] = None
    keep_only: Only = None
    only: Only = None

    @model_validator(mode="after")
    def _one_amount(self) -> Thicken:
        if (self.by is None) == (self.to is None):
            raise ValueError("say either by how much to thicken, or to what width")
        if self.only is not None and (self.to is None or self.where == "everywhere"):
            raise ValueError("single places can only be thickened to a width, and where strokes are thin")
        if self.keep_only is not None and (self.keep_open is None or (self.to is not None and self.where == "thin")):
            raise ValueError("single holes can only be kept open where all strokes grow, and by a width")
        return self

    def apply(self, region: Region, context: StepContext) -> Region:
        """See ``geometry.strokes.thicken``."""
        if region.is_empty:
            return region
        if self.to is not None and self.where == "thin":
            near = None
            if self.only is not None:
                near = places_of(self.only, context)
            return thicken_thin(region, context.measure, self.to, self._least_gap, context.precision, near)
        by = context.growth(self) or 0.0
        grown = offset(region, by, context.precision)
        if not self.keep_open:
            return grown
        kept = keep_holes_open(region, grown, context.measure(region), by, self.keep_open, context.precision)
        return kept if self.keep_only is None else changed_at(grown, kept, places_of(self.keep_only, context))

    @property
    def measures_growth(self) -> bool:
        """See ``Step``."""
        return self.to is not None and self.where == "everywhere"

    @property
    def depends_within(self) -> float | None:
        """See ``Step``: pieces may join without gaps between them, and a place stands for a stretch of any length."""
        if self.to is None or self.where == "everywhere" or self.only is not None or self._least_gap == 0:
            return None
        return reach_of(self.to, self._least_gap)

    @property
    def _least_gap(self) -> float:
        return OPEN if self.keep_open is None else self.keep_open

    def note(self, before: Region, after: Region, context: StepContext) -> StepNote | None:
        """How much wider strokes are, and which holes closed or are new."""
        gone, new = holes_without(before, after), holes_without(after, before)
        growth = context.growth(self)
        # A hole closes once strokes are wider by as much as its widest circle is.
        return StepNote(None if growth is None else 2 * growth, tuple(sorted(widest(gone).tolist())), len(new))

    def find_growth(self, region: Region, context: StepContext) -> float | None:
        """Half of what is added to every stroke; None where strokes are only thickened in places."""
        if self.by is not None:
            return self.by / 2
        if self.to is None or not self.measures_growth:
            return None
        return growth_for(region, context.measure, self.to, context.precision, self.keep_open or 0.0)
