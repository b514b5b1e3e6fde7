"""The lettering block of the design document."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tinhalo.core.artwork.place import Place
from tinhalo.core.document.base import Degrees, Identifier, Millimetres, Strict

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
    """

    overlap: Overlap = 0.3
    apart: Annotated[tuple[Annotated[int, Field(ge=0, le=20_000)], ...], Field(max_length=MOST_LETTERS)] = ()


class Against(Strict):
    """A block set against another one: it slides straight towards it until they overlap by that much, in mm.

    A negative overlap leaves a gap. ``place`` still says where the block stands along the other one.
    """

    art: Identifier
    side: Literal["below", "above", "left", "right"] = "below"
    overlap: Millimetres = 0.3


class Lettering(Strict):
    """Words in a font.

    The block's own origin is on the baseline of its first line: at the left end, the middle or the right end of
    the lines, as ``align`` says.
    """

    id: Identifier
    kind: Literal["lettering"] = "lettering"
    text: Annotated[str, Field(max_length=20_000)] = ""
    font: Annotated[str, Field(min_length=1, max_length=200)]
    size: Annotated[float, Field(gt=0, le=2_000, allow_inf_nan=False, description="size of the em, in mm")] = 24
    letter_spacing: Annotated[Millimetres, Field(description="added between letters, in mm")] = 0
    line_spacing: Annotated[
        float, Field(ge=0, le=10, allow_inf_nan=False, description="distance of baselines, in ems")
    ] = 1.2
    align: Literal["left", "center", "right"] = "center"
    nudges: Annotated[
        dict[LetterIndex, Millimetres],
        Field(description="space added before the letter at that index, in mm"),
    ] = Field(default_factory=dict)
    moves: dict[LetterIndex, LetterMove] = Field(default_factory=dict)
    join: Join | None = None
    lowered: Annotated[
        dict[LetterIndex, Overlap],
        Field(description="how deep the dots and accents of the letter at that index reach into it, in mm"),
    ] = Field(default_factory=dict)
    features: Annotated[
        dict[Tag, Annotated[int, Field(ge=0, le=100)]],
        Field(max_length=40, description="OpenType features switched on or off, by tag"),
    ] = Field(default_factory=dict)
    axes: Annotated[
        dict[Tag, Annotated[float, Field(ge=-100_000, le=100_000, allow_inf_nan=False)]],
        Field(max_length=40, description="settings of a variable font, by axis tag"),
    ] = Field(default_factory=dict)
    place: Place = Place()
    against: Against | None = None
