"""Step: join pieces by bridges."""

from __future__ import annotations

from typing import Annotated, Literal

from tinhalo.core.geometry.bridge import bridged
from tinhalo.core.geometry.region import Region
from tinhalo.core.recipe.fields import mm
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
