"""What every shape is: a width, a height, and an outline of that size."""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Annotated, Any, ClassVar, Literal, Self

import numpy as np
from pydantic import model_validator
from shapely import Polygon

from tinhalo.core.artwork.against import slide
from tinhalo.core.artwork.art import Art, Distances, Drawn, Held, Part, Studio
from tinhalo.core.artwork.place import check_extent, place_matrix
from tinhalo.core.document.fields import mm, unit_of
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.fill import filled_nonzero
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.regions.region import Region


@dataclass(frozen=True)
class Whole:
    """All of a shape as its only part.

    Attributes:
        called: what the shape is called, “heart”.
        pieces: its areas in mm, the largest first.
    """

    called: str
    pieces: tuple[Polygon, ...]
    index: int = 0
    text: str = ""

    @property
    def body(self) -> int:
        """Every piece is the shape itself."""
        return len(self.pieces)

    def name(self, piece: int) -> str:
        """“the heart”, or “a part of the heart” where it has several."""
        return self.name_of_owner(piece) if self.body == 1 else f"a part of {self.name_of_owner(piece)}"

    def name_of_owner(self, piece: int) -> str:
        """“the heart”."""
        return f"the {self.called}"


@dataclass(frozen=True)
class DrawnShape(Drawn):
    """A shape at its place.

    Attributes:
        called: what it is called, “heart”.
    """

    called_as: str

    @property
    def parts(self) -> Mapping[int, Part]:
        """The whole, unless nothing of it is left."""
        pieces = sorted(self.region.area.geoms, key=lambda piece: -piece.area)
        return {0: Whole(self.called_as, tuple(pieces))} if pieces else {}

    @property
    def ends(self) -> Floats:
        """Its leftmost and rightmost points."""
        if self.region.bounds is None:
            return np.zeros((0, 2))
        points = np.concatenate([ring for _, ring in self.region.rings()])
        return points[[points[:, 0].argmin(), points[:, 0].argmax()]]

    def called(self, held: Held) -> str:
        """“the heart”."""
        part, piece = held[0]
        return part.name(piece) if len(held) == 1 else part.name_of_owner(piece)

    def moved(self, dx: float, dy: float) -> DrawnShape:
        """The same shape elsewhere."""
        return replace(self, region=self.region.moved(dx, dy))


class Shape(Art):
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
        return DrawnShape(Region.of(np.array(filled_nonzero(rings), object), (outline,)), self.called)

    def settle(self, drawn: Drawn, others: Mapping[str, Region], studio: Studio) -> Drawn:
        """Slid against other art; where it would pass that by it stays."""
        move = slide(drawn.region, others[self.against.art], self.against) if self.against else None
        return drawn.moved(*move) if move else drawn

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
