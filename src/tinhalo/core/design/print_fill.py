"""What a printed layer is filled with, where that is not its plain colour: a pattern, or a picture of one's own."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field

from tinhalo.core.document.base import READABLE, Colour, Strict
from tinhalo.core.document.fields import LEAST, degrees, mm

#: Around a layer, in mm: least x and y, greatest x and y.
Bounds = tuple[float, float, float, float]
#: More often a pattern or picture is not printed on one layer: files of it could not be opened.
MOST_TIMES = 100_000
#: Our own patterns; the layer's colour is the ground of each.
Motif = Literal["stripes", "dots", "checks", "gingham", "diamonds", "stars", "waves"]


class PatternFill(Strict):
    """A pattern over the layer's colour; ``size`` is how soon it comes again."""

    kind: Literal["pattern"]
    motif: Motif = "stripes"
    colour: Colour = "#ffffff"
    size: Annotated[float, mm("until the pattern comes again", ge=0.5, le=500)] = 6
    turn: Annotated[float, degrees("of the pattern, counter-clockwise")] = 0

    def times(self, bounds: Bounds) -> float:
        """About how often it comes within bounds."""
        return _times(bounds, self.size)


class PictureFill(Strict):
    """A picture: over all of the layer, its middle on the layer's, or again and again; ``width`` is of one of these."""

    kind: Literal["picture"]
    file: Annotated[str, Field(min_length=1, max_length=64)]
    name: Annotated[str, Field(max_length=200), READABLE] = ""
    fit: Annotated[Literal["cover", "tile"], Field(description="over all of it once, or again and again")] = "cover"
    width: Annotated[float, mm("of one picture, where it comes again and again", ge=1, le=2_000)] = 40
    turn: Annotated[float, degrees("of the picture, counter-clockwise")] = 0

    def times(self, bounds: Bounds) -> float:
        """About how often it comes within bounds."""
        return _times(bounds, self.width) if self.fit == "tile" else 1.0

    def wide(self, columns: int, rows: int, bounds: Bounds) -> float:
        """How wide one picture of so many dots is, in mm: as set, or just so that it covers bounds as it is turned."""
        if self.fit == "tile":
            return self.width
        width, height = bounds[2] - bounds[0], bounds[3] - bounds[1]
        c, s = abs(math.cos(math.radians(self.turn))), abs(math.sin(math.radians(self.turn)))
        return max(width * c + height * s, (width * s + height * c) * columns / rows, LEAST)


def _times(bounds: Bounds, each: float) -> float:
    return (bounds[2] - bounds[0]) * (bounds[3] - bounds[1]) / each**2


PrintFill = Annotated[PatternFill | PictureFill, Field(discriminator="kind")]
