"""Step: stitches along the outline."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

import shapely
from pydantic import Field
from shapely import MultiPolygon

from tinhalo.core.document.fields import degrees, mm
from tinhalo.core.geometry.features.stitch import Pattern, along, as_slots, count_along, stitches
from tinhalo.core.geometry.regions.offset import offset
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.recipe.recipe import Recipe
from tinhalo.core.recipe.step import Step, StepContext, StepError

#: Stitches of one step; and a motif with so many points counts for one.
MOST, _PLAIN = 20_000, 50


class Stitch(Step):
    """Stitches along every outline, evenly spaced, ``inset`` mm inside it; the outline itself does not leave.

    Open strokes, or slim closed marks when a width is given, or a motif: any art or layer, turned along the outline.
    The spacing is changed a little, so that the last stitch meets the first; or there are ``count`` of them along each
    outline. In pairs, two stitches of opposite slants meet in a V.
    """

    weight: ClassVar[int] = 10

    op: Literal["stitch"] = "stitch"
    length: Annotated[float, mm("of a stitch", gt=0)] = 3
    spacing: Annotated[float, mm("between stitches", ge=0)] = 1.5
    count: Annotated[int | None, Field(ge=1, le=5_000, description="along each outline, however far apart that is")] = (
        None
    )
    pairs: Annotated[bool, Field(description="two of opposite slants meet in a V")] = False
    slant: Annotated[float, degrees("of every stitch against the outline")] = 0
    inset: Annotated[float, mm("inside the outline; negative outside", ge=-1_000)] = 2
    width: Annotated[float | None, mm("of closed marks; open strokes where it is not said", gt=0, le=100)] = None
    outer_only: Annotated[bool, Field(description="none along holes")] = False
    motif: Annotated[Recipe | None, Field(description="what stands in place of stitches")] = None

    def apply(self, region: Region, context: StepContext) -> Region:
        """See ``geometry.features.stitch``."""
        base = offset(region, -self.inset, context.precision)
        if self.motif is not None:
            motif = context.cook(self.motif)
            x0, _, x1, _ = motif.bounds or (0.0, 0.0, 0.0, 0.0)
            self._check(base, x1 - x0, max(1, len(shapely.get_coordinates(motif.area)) // _PLAIN))
            return along(base, motif, self.spacing, self.count, self.slant, self.outer_only)
        pattern = Pattern(self.length, self.spacing, self.count, self.slant, self.pairs)
        self._check(base, pattern.wide, 2 if self.pairs else 1)
        marks = stitches(base, pattern, self.outer_only)
        if self.width is None:
            return Region(MultiPolygon(), (), marks)
        return as_slots(marks, self.width, context.precision.quarter_segments(self.width / 2))

    def _check(self, base: Region, wide: float, weight: int) -> None:
        """Refuse more of them than anybody cuts; ``weight`` says what one of them is worth."""
        many = weight * count_along(base, wide, self.spacing, self.count, self.outer_only)
        if many > MOST:
            raise StepError(f"would make {many:,} stitches, and {MOST:,} is the most: set them further apart")
