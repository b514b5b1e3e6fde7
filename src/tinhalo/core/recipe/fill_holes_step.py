"""Step: fill all holes."""

from __future__ import annotations

from typing import Literal

from tinhalo.core.geometry.combine import fill_holes
from tinhalo.core.geometry.region import Region
from tinhalo.core.recipe.step import Kitchen, Step


class FillHoles(Step):
    """The region without its holes."""

    op: Literal["fill_holes"] = "fill_holes"

    def apply(self, region: Region, kitchen: Kitchen) -> Region:
        """See ``geometry.combine.fill_holes``."""
        return fill_holes(region)
