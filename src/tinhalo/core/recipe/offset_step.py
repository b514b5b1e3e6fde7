"""Step: grow or shrink by a distance."""

from __future__ import annotations

from typing import Annotated, Any, ClassVar, Literal

from tinhalo.core.document.fields import mm, plain
from tinhalo.core.geometry.regions.offset import Corners, offset
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.recipe.step import Step, StepContext


class Offset(Step):
    """Everything within ``by`` mm of the region; for a negative ``by``, what lies that far inside it."""

    starts_with: ClassVar[dict[str, Any]] = {"by": 4}

    op: Literal["offset"] = "offset"
    by: Annotated[float, mm("outwards; negative inwards", ge=-1_000)]
    corners: Corners = "round"
    miter_limit: Annotated[float, plain("longest tip, as a multiple of the distance", ge=1, le=100)] = 4

    def apply(self, region: Region, context: StepContext) -> Region:
        """See ``geometry.regions.offset``."""
        return offset(region, self.by, context.precision, self.corners, self.miter_limit)
