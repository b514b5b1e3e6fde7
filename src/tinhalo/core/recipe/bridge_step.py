"""Steps that join pieces by bridges."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from tinhalo.core.document.anchor import Anchor
from tinhalo.core.document.fields import degrees, mm
from tinhalo.core.geometry.features.bridge import bridged
from tinhalo.core.geometry.features.stencil import held
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.recipe.picked import missing, picked
from tinhalo.core.recipe.step import Step, StepContext, StepNote


class _Joining(Step):
    weight: ClassVar[int] = 5
    only: Annotated[tuple[Anchor, ...] | None, Field(max_length=2_000, description="only the pieces there")] = None

    def _chosen(self, region: Region, context: StepContext) -> NDArray[np.bool_] | None:
        """Which pieces are joined; None for all."""
        return None if self.only is None else picked(list(region.area.geoms), self.only, context)

    def note(self, before: Region, after: Region, context: StepContext) -> StepNote | None:
        """How many pieces there are now, and how many picked ones are not there."""
        return StepNote(pieces=after.pieces, missing=missing(list(before.area.geoms), tuple(self.anchors()), context))


class Bridge(_Joining):
    """Pieces joined by short straight bars, where the gap between them is not too wide.

    All that can be joined is; or each picked piece is joined to the one next to it.
    """

    op: Literal["bridge"] = "bridge"
    width: Annotated[float, mm("of each bridge", gt=0)] = 2
    up_to: Annotated[float, mm("widest gap that is bridged", gt=0)] = 10

    def apply(self, region: Region, context: StepContext) -> Region:
        """See ``geometry.features.bridge``."""
        return bridged(region, self.width, self.up_to, context.precision, self._chosen(region, context))


class Stencil(_Joining):
    """Pieces that stand in holes held by bars, as the islands of a stencil are: all of them, or picked ones."""

    op: Literal["stencil"] = "stencil"
    count: Annotated[int, Field(ge=1, le=24, description="bars of each piece")] = 2
    width: Annotated[float, mm("of each bar", gt=0)] = 2
    angle: Annotated[float, degrees("direction of the first, counter-clockwise from the right")] = 90

    def apply(self, region: Region, context: StepContext) -> Region:
        """See ``geometry.features.stencil``."""
        return held(region, self.count, self.width, self.angle, self._chosen(region, context))
