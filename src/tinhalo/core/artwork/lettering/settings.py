"""What can be set for a block of words and for its letters."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
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


#: The share of a circle that words on an arc take whose radius follows them, and the gap between the end of words round
#: a circle and their beginning, in ems: about a blank's width.
_ARC, _PARTED = 1 / 6, 0.3


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
    """Words set into a shape, drawing or outline: stretched until they overlap its frame on both sides.

    To the ``width`` every line is stretched by itself; to the ``height`` all lines together. With ``size`` all lines
    first grow or shrink in proportion until one holds, and only the others are stretched. The frame is what the recipe
    of a layer makes of the shape before the words are added; where no layer does, it is what lies between the shape's
    edge and ``frame`` mm inside it. A shape with a hole (a ring) is its own frame.
    """

    art: Identifier
    fit: Literal["width", "height", "both", "size"] = "width"
    depth: Annotated[float, mm("how deep the words reach into the frame", gt=0, le=100)] = 1
    frame: Annotated[float, mm("how wide the frame is, inside the shape's edge", ge=0)] = 4


class Line(Strict):
    """The line that words stand on; letters stay as they are, each upright on it.

    An arc has the block's origin at its middle; a circle has it at the circle's, and its words begin to both sides of
    the top. ``radius`` is of arcs and circles; ``height`` and ``length`` are of waves. A radius or a length of waves
    that is not said follows the words: they go once round a circle, a sixth of the way round an arc's, or over one
    wave.
    """

    path: Literal["arc_above", "arc_below", "circle", "wave"] = "arc_above"
    radius: Annotated[float | None, mm("of the circle; else as the words need", gt=0, le=10_000)] = None
    height: Annotated[float, mm("from trough to crest", ge=0)] = 8
    length: Annotated[float | None, mm("from crest to crest; else that of the words", gt=0)] = None

    def following(self, widths: Sequence[float], distance: float, size: float) -> FixedLine:
        """The line with the measures that follow the words.

        Args:
            widths: of the lines of words, in mm, from the first one.
            distance: from one line's baseline to the next one's, in mm.
            size: of the words' em, in mm: what parts the end of a circle's words from their beginning is a share of it.
        """
        share, parted = (1.0, _PARTED * size) if self.path == "circle" else (_ARC, 0.0)
        # Lines further in have a smaller circle, those of an arc through a foot a larger one.
        inwards = -distance if self.path == "arc_below" else distance
        needed = [(width + parted) / (2 * math.pi * share) + k * inwards for k, width in enumerate(widths) if width]
        return FixedLine(
            path=self.path,
            radius=self.radius or max(needed, default=size),
            height=self.height,
            length=self.length or max(widths, default=0) or size,
        )


@dataclass(frozen=True)
class FixedLine:
    """A line that words stand on, with all of its measures in mm; see ``Line``."""

    path: Literal["arc_above", "arc_below", "circle", "wave"]
    radius: float
    height: float
    length: float

    def baseline(self, below: float) -> Baseline:
        """The curve of a line that stands ``below`` mm under the first one."""
        least = 0.01
        match self.path:
            case "arc_above":
                return ArcBaseline(max(least, self.radius - below), -self.radius, below=False)
            case "arc_below":
                return ArcBaseline(self.radius + below, self.radius, below=True)
            case "circle":
                return ArcBaseline(max(least, self.radius - below), 0, below=False)
            case "wave":
                return WaveBaseline(self.height, self.length, below)
