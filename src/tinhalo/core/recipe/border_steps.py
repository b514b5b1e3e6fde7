"""Steps that make borders: filled outlines, rings, walls, backers."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from tinhalo.core.document.fields import mm
from tinhalo.core.geometry.regions import morphology
from tinhalo.core.geometry.regions.at_places import changed_at
from tinhalo.core.geometry.regions.offset import Corners
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.strokes.widen import open_gaps, reach_of
from tinhalo.core.recipe.picked import Only, places_of
from tinhalo.core.recipe.step import Step, StepContext


class OutlineRing(Step):
    """A line around the region: the ring between ``gap`` and ``gap`` + ``width`` from its edge.

    It starts with what is usual for film (common practice).
    """

    weight: ClassVar[int] = 2

    asks_for_holes_closed: ClassVar[bool] = True

    op: Literal["outline"] = "outline"
    gap: Annotated[float, mm("from the edge to the line; negative inside", ge=-1_000)] = 1.3
    width: Annotated[float, mm("of the line", gt=0)] = 2
    corners: Corners = "round"

    def apply(self, region: Region, context: StepContext) -> Region:
        """See ``geometry.regions.morphology.ring``."""
        return morphology.ring(region, self.gap, self.gap + self.width, context.precision, self.corners)


class CloseGaps(Step):
    """Gaps, slots and holes up to a width closed, so that separate letters get one backer."""

    weight: ClassVar[int] = 5

    asks_for_holes_closed: ClassVar[bool] = True

    op: Literal["close_gaps"] = "close_gaps"
    up_to: Annotated[float, mm("widest gap that is closed", gt=0)] = 3
    only: Only = None

    def apply(self, region: Region, context: StepContext) -> Region:
        """See ``geometry.regions.morphology.close_gaps``."""
        closed = morphology.close_gaps(region, self.up_to, context.precision)
        return closed if self.only is None else changed_at(region, closed, places_of(self.only, context))


class OpenGaps(Step):
    """Gaps, slots and holes that are narrower than a width brought up to it, so that they can be cut."""

    weight: ClassVar[int] = 10

    op: Literal["open_gaps"] = "open_gaps"
    to: Annotated[float, mm("least width of gaps", gt=0, le=100)] = 0.3
    only: Only = None

    def apply(self, region: Region, context: StepContext) -> Region:
        """See ``geometry.strokes.widen.open_gaps``."""
        opened = open_gaps(region, self.to, context.precision)
        if self.only is None:
            return opened
        # A place is in the middle of its gap: what is taken off lies on both sides of it.
        return changed_at(region, opened, places_of(self.only, context), self.to / 2)

    @property
    def depends_within(self) -> float | None:
        """See ``Step``: a place stands for a gap of any length."""
        return reach_of(self.to) if self.only is None else None


class Wall(Step):
    """A wall along the region's edge, such as that of a cutter for dough or clay."""

    weight: ClassVar[int] = 2

    asks_for_holes_closed: ClassVar[bool] = True

    op: Literal["wall"] = "wall"
    width: Annotated[float, mm("of the wall", gt=0)] = 0.8
    side: Literal["inside", "centred", "outside"] = "outside"

    def apply(self, region: Region, context: StepContext) -> Region:
        """See ``geometry.regions.morphology.wall``."""
        return morphology.wall(region, self.width, self.side, context.precision)
