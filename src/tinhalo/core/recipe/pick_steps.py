"""Steps that keep or drop pieces that were picked, or that are too small."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field, model_validator

from tinhalo.core.document.anchor import Anchor
from tinhalo.core.document.fields import mm, mm2
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.regions.selection import are_small, without_holes, without_pieces
from tinhalo.core.recipe.picked import missing, picked
from tinhalo.core.recipe.step import Step, StepContext, StepNote


class _Picked(Step):
    asks_for_holes_closed: ClassVar[bool] = True

    pieces: Annotated[tuple[Anchor, ...], Field(max_length=2_000, description="a place on each picked piece")] = ()

    def _held(self, region: Region, context: StepContext) -> NDArray[np.bool_]:
        return picked(list(region.area.geoms), self.pieces, context)

    def note(self, before: Region, after: Region, context: StepContext) -> StepNote | None:
        """How many pieces are gone, and how many picked ones are not there."""
        gone = missing(list(before.area.geoms), self.pieces, context)
        return StepNote(dropped=before.pieces - after.pieces, missing=gone)


class Keep(_Picked):
    """Only the picked pieces."""

    op: Literal["keep"] = "keep"

    def apply(self, region: Region, context: StepContext) -> Region:
        """See ``geometry.regions.selection``."""
        return without_pieces(region, ~self._held(region, context))


class Drop(_Picked):
    """All but the picked pieces."""

    op: Literal["drop"] = "drop"

    def apply(self, region: Region, context: StepContext) -> Region:
        """See ``geometry.regions.selection``."""
        return without_pieces(region, self._held(region, context))


class Tidy(Step):
    """Without the pieces, and the holes if wanted, that are under an area or nowhere as wide as a width."""

    asks_for_holes_closed: ClassVar[bool] = True

    op: Literal["tidy"] = "tidy"
    area: Annotated[float | None, mm2("smaller pieces are dropped")] = 4
    width: Annotated[float | None, mm("pieces nowhere this wide are dropped", gt=0)] = None
    holes_too: Annotated[bool, Field(description="fill holes that are as small")] = False

    @model_validator(mode="after")
    def _some_limit(self) -> Tidy:
        if self.area is None and self.width is None:
            raise ValueError("say under which area or width pieces are dropped")
        return self

    def apply(self, region: Region, context: StepContext) -> Region:
        """See ``geometry.regions.selection``."""
        if self.holes_too:
            region = without_holes(region, are_small(region.hole_areas(), self.area, self.width))
        return without_pieces(region, are_small(list(region.area.geoms), self.area, self.width))

    def note(self, before: Region, after: Region, context: StepContext) -> StepNote | None:
        """How many pieces were dropped and holes filled."""
        holes = before.hole_areas()
        filled = int(are_small(holes, self.area, self.width).sum()) if self.holes_too and holes else 0
        return StepNote(dropped=before.pieces - after.pieces, filled=filled)
