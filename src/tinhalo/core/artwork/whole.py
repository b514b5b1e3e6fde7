"""Art that is one whole: it has no letters or other parts that are told apart."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Self

import numpy as np
from shapely import Polygon

from tinhalo.core.artwork.against import slide
from tinhalo.core.artwork.art import Art, Distances, Drawn, Held, Part, Studio, Trouble
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.regions.region import Region

if TYPE_CHECKING:
    from tinhalo.core.artwork.library import Library


@dataclass(frozen=True)
class Whole:
    """All of a piece of art as its only part.

    Attributes:
        called: what it is called, “heart”.
        pieces: its areas in mm, the largest first.
    """

    called: str
    pieces: tuple[Polygon, ...]
    index: int = 0
    text: str = ""

    @property
    def body(self) -> int:
        """Every piece is the art itself."""
        return len(self.pieces)

    def name(self, piece: int) -> str:
        """“the heart”, or “a part of the heart” where it has several."""
        return self.name_of_owner(piece) if self.body == 1 else f"a part of {self.name_of_owner(piece)}"

    def name_of_owner(self, piece: int) -> str:
        """“the heart”."""
        return f"the {self.called}"


@dataclass(frozen=True)
class DrawnWhole(Drawn):
    """A shape or drawing at its place.

    Attributes:
        called_as: what it is called, “heart”.
        passes: id of the art that it should stand against and would slide past; it stays where it is then.
    """

    called_as: str
    passes: str = ""

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

    def moved(self, dx: float, dy: float) -> Self:
        """The same elsewhere."""
        return replace(self, region=self.region.moved(dx, dy))

    def troubles(self, library: Library, title: Callable[[str], str]) -> list[Trouble]:
        """That it would slide past what it should stand against."""
        if not self.passes:
            return []
        other = f"“{title(self.passes)}”"
        sentence = (
            f"The {self.called_as} stands beside {other} as it would slide, and would pass it: move it, "
            "or set it against another side."
        )
        return [Trouble("cannot_touch", "warning", sentence)]


class WholeArt(Art):
    """Base of art that is one whole. Where it would slide past what it should stand against it stays."""

    def settle(self, drawn: Drawn, others: Mapping[str, Region], studio: Studio) -> Drawn:
        """Slid against the other art that it names."""
        assert isinstance(drawn, DrawnWhole)
        if not self.against:
            return drawn
        move = slide(drawn.region, others[self.against.art], self.against)
        return drawn.moved(*move) if move else replace(drawn, passes=self.against.art)


class SizedByPlace(WholeArt):
    """Base of art whose own size is fixed: another size is another scale at its place."""

    def scaled(self, factor: float, distances: Distances) -> Self:
        """The same, larger or smaller by a factor."""
        made = super().scaled(factor, distances)
        place = made.place
        scales = {"scale_x": place.scale_x * factor, "scale_y": place.scale_y * factor}
        return made.model_copy(update={"place": place.model_copy(update=scales)})
