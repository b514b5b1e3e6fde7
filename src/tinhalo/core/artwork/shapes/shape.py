"""What every shape is: a width, a height, and an outline of that size."""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Sequence
from typing import Annotated, Any, ClassVar, Literal, Self

import numpy as np
from pydantic import model_validator

from tinhalo.core.artwork.art import Distances, Drawn, Studio
from tinhalo.core.artwork.place import check_extent, place_matrix
from tinhalo.core.artwork.whole import DrawnWhole, WholeArt
from tinhalo.core.document.fields import mm, unit_of
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.fill import filled_nonzero
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.regions.region import Region


class Shape(WholeArt):
    """Base of all shapes. A shape's own origin is the middle of its box."""

    #: What the maker calls it.
    called: ClassVar[str]
    noun: ClassVar[str] = "shape"

    kind: Literal["shape"] = "shape"
    width: Annotated[float, mm("from side to side", gt=0, le=10_000)] = 60
    height: Annotated[float, mm("from foot to top", gt=0, le=10_000)] = 40

    @model_validator(mode="after")
    def _fits_a_page(self) -> Self:
        check_extent(self.place, self.width, self.height)
        return self

    @abstractmethod
    def outline(self) -> Outline:
        """Its contours in mm about the middle of its box, to be filled by the non-zero rule."""

    @property
    def title(self) -> str:
        """“heart”."""
        return self.called

    def draw(self, studio: Studio) -> Drawn:
        """The outline at its place."""
        matrix = place_matrix(self.place)
        outline = self.outline().transformed(matrix)
        rings = outline.flattened(studio.precision.chord, studio.precision.turn)
        return DrawnWhole(Region.of(np.array(filled_nonzero(rings), object), (outline,)), self.called)

    def basis(self) -> Floats:
        """A size is the shape's width along and its height across."""
        return super().basis() * np.array([self.width, self.height])

    def scaled(self, factor: float, distances: Distances) -> Self:
        """The shape with all its lengths."""
        lengths: dict[str, Any] = {
            name: getattr(self, name) * factor for name in type(self).model_fields if unit_of(type(self), name) == "mm"
        }
        return super().scaled(factor, distances).model_copy(update=lengths)


def points_about(count: int, radii: Sequence[float]) -> list[tuple[float, float]]:
    """Points all round, from the top on counter-clockwise, at the given radii in turn."""
    angles = np.pi / 2 + 2 * np.pi * np.arange(count) / count
    reach = np.resize(np.array(radii, float), count)
    return [(float(r * np.cos(a)), float(r * np.sin(a))) for a, r in zip(angles, reach, strict=True)]
