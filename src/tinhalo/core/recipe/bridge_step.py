"""Steps that join pieces by bridges."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tinhalo.core.geometry.bridge import bridged
from tinhalo.core.geometry.region import Region
from tinhalo.core.geometry.stencil import held
from tinhalo.core.recipe.fields import degrees, mm
from tinhalo.core.recipe.step import Kitchen, Step, StepNote


class Bridge(Step):
    """Pieces joined by short straight bars, where the gap between them is not too wide."""

    op: Literal["bridge"] = "bridge"
    width: Annotated[float, mm("of each bridge", gt=0)] = 2
    up_to: Annotated[float, mm("widest gap that is bridged", gt=0)] = 10

    def apply(self, region: Region, kitchen: Kitchen) -> Region:
        """See ``geometry.bridge``."""
        return bridged(region, self.width, self.up_to, kitchen.precision)

    def note(self, before: Region, after: Region, kitchen: Kitchen) -> StepNote | None:
        """How many pieces there are now."""
        return StepNote(pieces=after.pieces)


class Stencil(Step):
    """Pieces that stand in holes held by bars, as the islands of a stencil are."""

    op: Literal["stencil"] = "stencil"
    count: Annotated[int, Field(ge=1, le=24, description="bars of each piece")] = 2
    width: Annotated[float, mm("of each bar", gt=0)] = 2
    angle: Annotated[float, degrees("direction of the first, counter-clockwise from the right")] = 90

    def apply(self, region: Region, kitchen: Kitchen) -> Region:
        """See ``geometry.stencil``."""
        return held(region, self.count, self.width, self.angle)

    def note(self, before: Region, after: Region, kitchen: Kitchen) -> StepNote | None:
        """How many pieces there are now."""
        return StepNote(pieces=after.pieces)
