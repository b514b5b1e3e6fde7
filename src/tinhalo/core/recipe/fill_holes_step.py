"""Step: fill holes, all or some."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from tinhalo.core.document.anchor import Anchor
from tinhalo.core.document.fields import mm, mm2
from tinhalo.core.geometry.regions.overlay import fill_holes
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.regions.selection import are_small, without_holes
from tinhalo.core.recipe.picked import missing, picked
from tinhalo.core.recipe.step import Step, StepContext, StepNote


class FillHoles(Step):
    """The region without its holes, or without some: those under an area, narrower than a width, or picked ones.

    With several of these limits, a hole that meets one of them is filled. With all of them filled only outer edges are
    left, as a border around words with counters needs.
    """

    asks_for_holes_closed: ClassVar[bool] = True

    op: Literal["fill_holes"] = "fill_holes"
    smaller_than: Annotated[float | None, mm2("only holes under this area")] = None
    narrower_than: Annotated[float | None, mm("only holes nowhere this wide", gt=0)] = None
    only: Annotated[tuple[Anchor, ...] | None, Field(max_length=2_000, description="only the holes there")] = None

    def apply(self, region: Region, context: StepContext) -> Region:
        """See ``geometry.regions.selection`` and ``geometry.regions.overlay.fill_holes``."""
        if self.smaller_than is None and self.narrower_than is None and self.only is None:
            return fill_holes(region)
        return without_holes(region, self._chosen(region, context))

    def _chosen(self, region: Region, context: StepContext) -> NDArray[np.bool_]:
        holes = region.hole_areas()
        small = are_small(holes, self.smaller_than, self.narrower_than)
        return small | picked(holes, self.only or (), context)

    def note(self, before: Region, after: Region, context: StepContext) -> StepNote | None:
        """How many holes were filled, and how many picked ones are not there."""
        gone = missing(before.hole_areas(), tuple(self.anchors()), context)
        return StepNote(filled=before.holes - after.holes, missing=gone)
