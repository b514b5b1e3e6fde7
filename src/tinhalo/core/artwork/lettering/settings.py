"""What can be set for a block of words and for its letters."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tinhalo.core.artwork.lettering.baseline import ArcBaseline, Baseline, WaveBaseline
from tinhalo.core.document.base import Degrees, Identifier, Millimetres, Strict
from tinhalo.core.document.fields import mm

Overlap = Annotated[float, Field(gt=0, le=20, allow_inf_nan=False)]
LetterIndex = Annotated[str, Field(pattern=r"^\d{1,5}$")]
Tag = Annotated[str, Field(pattern=r"^[A-Za-z0-9]{4}$")]

#: Letters of one block that are still drawn; longer text is kept, and told.
MOST_LETTERS = 2_000


class LetterMove(Strict):
    """A move of one letter alone: dx and dy in mm; turn and scale about the middle of its foot."""

    dx: Millimetres = 0
    dy: Millimetres = 0
    turn: Degrees = 0
    scale: Annotated[float, Field(gt=0, le=100, allow_inf_nan=False)] = 1


class Join(Strict):
    """Letters moved closer until each word holds together.

    Attributes:
        overlap: how deep neighbours overlap at least, in mm: moved apart by less, whichever way, they still touch.
        apart: indices of letters that stand alone on purpose.
        marks: whether dots and accents are moved straight to their letters, too, until they overlap them as deep.
    """

    overlap: Overlap = 0.3
    apart: Annotated[tuple[Annotated[int, Field(ge=0, le=20_000)], ...], Field(max_length=MOST_LETTERS)] = ()
    marks: bool = False


class Into(Strict):
    """Words set into a shape: stretched until they overlap its frame on both sides, whatever is typed.

    To the ``width`` every line is stretched by itself; to the ``height`` all lines together. The frame is what lies
    between the shape's edge and ``frame`` mm inside it; a shape with a hole (a ring) is its own frame.
    """

    art: Identifier
    fit: Literal["width", "height", "both"] = "width"
    depth: Annotated[float, mm("how deep the words reach into the frame", gt=0, le=100)] = 1
    frame: Annotated[float, mm("how wide the frame is, inside the shape's edge", ge=0)] = 4


class Line(Strict):
    """The line that words stand on; letters stay as they are, each upright on it.

    An arc has the block's origin at its middle; a circle has it at the circle's, with the words spread evenly all
    round, unless they are closed up. ``radius`` is of arcs and circles; ``height`` and ``length`` are of waves.
    """

    path: Literal["arc_above", "arc_below", "circle", "wave"] = "arc_above"
    radius: Annotated[float, mm("of the circle", gt=0, le=10_000)] = 60
    height: Annotated[float, mm("from trough to crest", ge=0)] = 8
    length: Annotated[float, mm("from crest to crest", gt=0)] = 80

    def baseline(self, below: float) -> Baseline:
        """The curve of a line that stands ``below`` mm under the first one."""
        least = 0.01
        match self.path:
            case "arc_above":
                return ArcBaseline(max(least, self.radius - below), -self.radius, below=False)
            case "arc_below":
                return ArcBaseline(self.radius + below, self.radius, below=True)
            case "circle":
                return ArcBaseline(max(least, self.radius - below), 0, below=False, spread=True)
            case "wave":
                return WaveBaseline(self.height, self.length, below)
