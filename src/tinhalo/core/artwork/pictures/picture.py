"""A traced picture as a piece of art."""

from __future__ import annotations

from functools import lru_cache
from typing import Annotated, ClassVar, Literal

import numpy as np
import shapely

from tinhalo.core.artwork.art import Distances, Drawn, Studio
from tinhalo.core.artwork.drawings.drawing import turned_right
from tinhalo.core.artwork.from_file import FromFile
from tinhalo.core.artwork.pictures.picture_file import pixels
from tinhalo.core.artwork.pictures.tracing import Traced, Tracing, traced
from tinhalo.core.artwork.place import place_matrix
from tinhalo.core.artwork.whole import DrawnWhole
from tinhalo.core.document.fields import mm
from tinhalo.core.geometry.curves.affine import after, shift
from tinhalo.core.geometry.curves.painted import area_of
from tinhalo.core.geometry.regions.region import Region


class TracedPicture(FromFile):
    """A picture, traced; its own origin is its middle. ``width`` is that of the whole picture, in mm."""

    noun: ClassVar[str] = "picture"

    kind: Literal["picture"] = "picture"
    width: Annotated[float, mm("of the whole picture, from side to side", gt=0, le=10_000)] = 100
    trace: Tracing = Tracing()

    def draw(self, studio: Studio) -> Drawn:
        """What tracing gives, at its place."""
        png = studio.library.picture(self.file)
        outline = once_traced(png, self.trace).outline
        scale = self.width / pixels(png).shape[1]
        placed = turned_right(outline.transformed(after(place_matrix(self.place), shift(0, 0, scale))))
        area = area_of(placed, studio.precision.chord, studio.precision.turn)
        return DrawnWhole(Region.of(shapely.union_all(np.array([area], object)), (placed,)), self.title)

    def scaled(self, factor: float, distances: Distances) -> TracedPicture:
        """Its width is a size of its own."""
        return super().scaled(factor, distances).model_copy(update={"width": self.width * factor})


def once_traced(png: bytes, how: Tracing) -> Traced:
    """The same as ``traced``: for the screen and for what leaves it is done once."""
    return _traced(png, how.model_dump_json())


@lru_cache(maxsize=24)
def _traced(png: bytes, how: str) -> Traced:
    return traced(pixels(png), Tracing.model_validate_json(how))
