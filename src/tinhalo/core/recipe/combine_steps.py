"""Steps that take a second region: unite, cut away, keep what both have, bleed over its edge, reach under it."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

import numpy as np
import shapely
from shapely import STRtree

from tinhalo.core.document.fields import mm
from tinhalo.core.geometry.regions.overlay import intersect, subtract, union
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.stacking.bleed import bled
from tinhalo.core.geometry.stacking.underlap import underlapped
from tinhalo.core.recipe.recipe import Recipe
from tinhalo.core.recipe.step import Step, StepContext, StepNote

#: Wider than this (mm) a slit is meant to be seen; where edges meet within it, nobody lays them down so exactly.
SLIT = 0.2
#: What is laid over an edge by hand covers it if it reaches this far under, in mm (common practice).
UNDERLAP = 0.3


class _WithOperand(Step):
    handles_marks: ClassVar[bool] = True

    operand: Recipe

    def note(self, before: Region, after: Region, context: StepContext) -> StepNote | None:
        """How many pieces there are afterwards, and how many vanished whole."""
        left = STRtree(shapely.get_parts(after.area)).query(shapely.get_parts(before.area), predicate="intersects")[0]
        return StepNote(pieces=after.pieces, dropped=before.pieces - len(np.unique(left)))


class Union(_WithOperand):
    """The region together with the operand; where they overlap they become one."""

    op: Literal["union"] = "union"

    def apply(self, region: Region, context: StepContext) -> Region:
        """See ``geometry.regions.overlay.union``."""
        return union([region, context.cook(self.operand)])


class Subtract(_WithOperand):
    """The region without the operand."""

    op: Literal["subtract"] = "subtract"

    def apply(self, region: Region, context: StepContext) -> Region:
        """See ``geometry.regions.overlay.subtract``."""
        return subtract(region, context.cook(self.operand))


class Intersect(_WithOperand):
    """What the region and the operand share."""

    op: Literal["intersect"] = "intersect"

    def apply(self, region: Region, context: StepContext) -> Region:
        """See ``geometry.regions.overlay.intersect``."""
        return intersect(region, context.cook(self.operand))


class Underlap(_WithOperand):
    """The region, reaching under the operand where their edges meet, or nearly; elsewhere it stays as it is."""

    op: Literal["underlap"] = "underlap"
    handles_marks: ClassVar[bool] = False
    by: Annotated[float, mm("under the edge", gt=0)] = UNDERLAP
    within: Annotated[float, mm("widest slit that is bridged", gt=0)] = SLIT

    def apply(self, region: Region, context: StepContext) -> Region:
        """See ``geometry.stacking.underlap``."""
        return underlapped(region, context.cook(self.operand), self.by, self.within, context.precision)

    def note(self, before: Region, after: Region, context: StepContext) -> StepNote | None:
        """Nothing: it says itself what it does."""
        return None


class Bleed(_WithOperand):
    """The region, going over the operand's edge where it reaches that; further inside it stays as it is."""

    op: Literal["bleed"] = "bleed"
    handles_marks: ClassVar[bool] = False
    by: Annotated[float, mm("over the edge", gt=0)] = 1

    def apply(self, region: Region, context: StepContext) -> Region:
        """See ``geometry.stacking.bleed``."""
        return bled(region, context.cook(self.operand), self.by, context.precision)

    def note(self, before: Region, after: Region, context: StepContext) -> StepNote | None:
        """Nothing: it says itself what it does."""
        return None
