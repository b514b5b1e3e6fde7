"""Steps that change a region's shape or place: rounded corners, moves, shadows, plates."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

import numpy as np
from pydantic import Field, field_validator

from tinhalo.core.document.fields import degrees, mm, plain
from tinhalo.core.geometry.curves.affine import after, shift, turn
from tinhalo.core.geometry.features.plate import PlateShape, plate
from tinhalo.core.geometry.regions.at_places import changed_at
from tinhalo.core.geometry.regions.fillet import corner_count, reach_of, round_off
from tinhalo.core.geometry.regions.minkowski import drop_shadow, sweep
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.recipe.picked import Only, places_of
from tinhalo.core.recipe.step import Step, StepContext

#: What a corner costs, in vertices of a plain offset.
_A_CORNER = 100


class RoundOff(Step):
    """Corners softened; nothing gets larger, and no stroke is lost. 0 leaves corners as they are."""

    weight: ClassVar[int] = 10

    op: Literal["round_off"] = "round_off"
    outer: Annotated[float, mm("radius of corners that stick out", ge=0)] = 1
    inner: Annotated[float, mm("radius of corners that go in", ge=0)] = 0
    only: Only = None

    def apply(self, region: Region, context: StepContext) -> Region:
        """See ``geometry.regions.fillet``."""
        rounded = round_off(region, self.outer, self.inner, context.precision)
        return rounded if self.only is None else changed_at(region, rounded, places_of(self.only, context))

    def cost(self, region: Region) -> int:
        """See ``Step``: letters of straight lines have few vertices, but all of them are corners."""
        return max(super().cost(region), _A_CORNER * corner_count(region))

    @property
    def depends_within(self) -> float | None:
        """See ``Step``: a place stands for a stretch of any length."""
        return reach_of(self.outer, self.inner) if self.only is None else None


class PlaceStep(Step):
    """Stretched, mirrored, turned, then moved; about the middle of its own box, of all art, or the design's origin.

    Where it is not said about what, mirrored layers go about the middle of all art, so that they stay in register.
    """

    op: Literal["place"] = "place"
    handles_marks: ClassVar[bool] = True
    dx: Annotated[float, mm("to the right", ge=-10_000, le=10_000)] = 0
    dy: Annotated[float, mm("upwards", ge=-10_000, le=10_000)] = 0
    turn: Annotated[float, degrees("counter-clockwise")] = 0
    scale_x: Annotated[float, plain("stretched across", ge=-100, le=100)] = 1
    scale_y: Annotated[float, plain("stretched upwards", ge=-100, le=100)] = 1
    mirror: Annotated[bool, Field(description="swapped left for right, as for iron-on vinyl")] = False
    about: Literal["itself", "middle", "design"] | None = None

    @field_validator("scale_x", "scale_y")
    @classmethod
    def _not_flat(cls, scale: float) -> float:
        if abs(scale) < 1e-3:
            raise ValueError("stretched to less than a thousandth nothing is left")
        return scale

    @property
    def pivot(self) -> Literal["itself", "middle", "design"]:
        """What it is done about."""
        return self.about or ("middle" if self.mirror else "itself")

    @property
    def goes_by_middle(self) -> bool:
        """Whether that is the middle of all art."""
        return self.pivot == "middle"

    def apply(self, region: Region, context: StepContext) -> Region:
        """The region after that affine map; curves stay curves."""
        if region.bounds is None:
            return region
        x, y = 0.0, 0.0
        if self.pivot == "itself":
            x0, y0, x1, y1 = region.bounds
            x, y = (x0 + x1) / 2, (y0 + y1) / 2
        elif self.pivot == "middle":
            x, y = context.middle
        own = turn(self.turn, -self.scale_x if self.mirror else self.scale_x, self.scale_y)
        matrix = after(shift(x + self.dx, y + self.dy), after(own, shift(-x, -y)))
        if np.array_equal(matrix, shift(0, 0)):
            return region
        return region.transformed(matrix)


class DropShadow(Step):
    """The region moved aside, to lie behind its source; or only what is seen of it, and a little under its source."""

    op: Literal["drop_shadow"] = "drop_shadow"
    dx: Annotated[float, mm("to the right", ge=-1_000)] = 1.5
    dy: Annotated[float, mm("upwards", ge=-1_000)] = -1.5
    underlap: Annotated[float, mm("how far the visible part reaches under its source", ge=0)] = 0.3
    visible_only: Annotated[bool, Field(description="only what its source does not cover")] = False

    def apply(self, region: Region, context: StepContext) -> Region:
        """See ``geometry.regions.minkowski.drop_shadow``."""
        underlap = self.underlap if self.visible_only else None
        return drop_shadow(region, self.dx, self.dy, underlap, context.precision)


class BlockShadow(Step):
    """Everything the region passes over on a straight way: a solid shadow."""

    op: Literal["block_shadow"] = "block_shadow"
    dx: Annotated[float, mm("to the right", ge=-1_000)] = 3
    dy: Annotated[float, mm("upwards", ge=-1_000)] = -3

    def apply(self, region: Region, context: StepContext) -> Region:
        """See ``geometry.regions.minkowski.sweep``."""
        return sweep(region, self.dx, self.dy)


class Plate(Step):
    """A plate behind the art: as large as the art and a margin, or of a fixed size."""

    asks_for_holes_closed: ClassVar[bool] = True

    op: Literal["plate"] = "plate"
    shape: PlateShape = "rounded"
    margin: Annotated[float, mm("around the art", ge=-1_000)] = 6
    width: Annotated[float | None, mm("of the plate; follows the art where it is not said", gt=0)] = None
    height: Annotated[float | None, mm("of the plate; follows the art where it is not said", gt=0)] = None
    corner_radius: Annotated[float, mm("of a rounded plate's corners", ge=0)] = 5

    def apply(self, region: Region, context: StepContext) -> Region:
        """See ``geometry.features.plate``."""
        size = self.width, self.height
        return plate(region, self.shape, self.margin, *size, self.corner_radius, context.precision)
