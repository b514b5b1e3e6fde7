"""Pieces and holes that were picked by places beside letters, among those that a step meets."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated

import numpy as np
from numpy.typing import NDArray
from pydantic import Field
from shapely import Polygon

from tinhalo.core.document.anchor import Anchor
from tinhalo.core.geometry.arrays import XY
from tinhalo.core.geometry.regions.selection import holding
from tinhalo.core.recipe.step import StepContext

#: Places that a step keeps to; None for everywhere.
Only = Annotated[tuple[Anchor, ...] | None, Field(max_length=2_000, description="only at these places")]


def places_of(anchors: Sequence[Anchor], context: StepContext) -> list[XY]:
    """Where anchors are, in mm, without those whose part is gone."""
    return [place for anchor in anchors if (place := context.place(anchor))]


def picked(areas: Sequence[Polygon], anchors: Sequence[Anchor], context: StepContext) -> NDArray[np.bool_]:
    """Which areas were picked."""
    return holding(areas, places_of(anchors, context))


def missing(areas: Sequence[Polygon], anchors: Sequence[Anchor], context: StepContext) -> int:
    """How many picked ones are not there any more."""
    places = [context.place(anchor) for anchor in anchors]
    return sum(place is None or not holding(areas, [place]).any() for place in places)
