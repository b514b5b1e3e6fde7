"""The lettering block of the design document."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, ClassVar, Literal, Self

from pydantic import Field, model_validator

from tinhalo.core.artwork.art import Art, Distances, Drawn, Studio
from tinhalo.core.artwork.error import ArtError
from tinhalo.core.artwork.lettering.set_words import SetWords, set_words, settled
from tinhalo.core.artwork.lettering.settings import Into, Join, LetterIndex, LetterMove, Line, Overlap, Tag
from tinhalo.core.artwork.place import check_extent
from tinhalo.core.document.base import READABLE, Millimetres
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.regions.region import Region

#: Sizes of letters that can be made, in mm.
LEAST_SIZE, MOST_SIZE = 0.5, 5_000


class Lettering(Art):
    """Words in a font.

    The block's own origin is on the baseline of its first line: at the left end, the middle or the right end of
    the lines, as ``align`` says.
    """

    relations: ClassVar[tuple[str, ...]] = ("against", "into")
    noun: ClassVar[str] = "words"
    is_words: ClassVar[bool] = True

    kind: Literal["lettering"] = "lettering"
    text: Annotated[str, Field(max_length=20_000), READABLE] = ""
    font: Annotated[str, Field(min_length=1, max_length=200)]
    size: Annotated[
        float, Field(ge=LEAST_SIZE, le=MOST_SIZE, allow_inf_nan=False, description="size of the em, in mm")
    ] = 24
    letter_spacing: Annotated[Millimetres, Field(description="added between letters, in mm")] = 0
    line_spacing: Annotated[
        Annotated[float, Field(ge=0, le=10, allow_inf_nan=False)] | None,
        Field(description="distance of baselines, in ems; where it is not said, from the ink of the lines"),
    ] = None
    align: Literal["left", "center", "right"] = "center"
    line: Annotated[Line | None, Field(description="the curve they stand on; straight where it is not said")] = None
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
    into: Annotated[Into | None, Field(description="the shape that they are set into")] = None

    @model_validator(mode="after")
    def _fits_a_page(self) -> Self:
        check_extent(self.place, self.size, self.size)
        return self

    @model_validator(mode="after")
    def _one_relation(self) -> Self:
        if self.against and self.into:
            raise ValueError("words are set either into a shape or against other art")
        return self

    @property
    def set_into(self) -> str | None:
        """See ``Art``."""
        return self.into and self.into.art

    @property
    def title(self) -> str:
        """The words, on one line."""
        return " ".join(self.text.split())

    def draw(self, studio: Studio) -> Drawn:
        """Set the words; see ``set_words``."""
        return set_words(self, studio)

    def undrawn(self, error: ArtError) -> Drawn:
        """No words, and why."""
        return SetWords(Region.empty(), self, error, {})

    def settle(self, drawn: Drawn, others: Mapping[str, Region], studio: Studio) -> Drawn:
        """Set into their shape, or slid against other art."""
        assert isinstance(drawn, SetWords)
        return settled(drawn, self, others, studio)

    def basis(self) -> Floats:
        """A size is the em."""
        return super().basis() * self.size

    def scaled(self, factor: float, distances: Distances) -> Self:
        """Words with everything that was set for them; how deep letters overlap is a distance."""
        made = super().scaled(factor, distances)
        moves = {
            k: one.model_copy(update={"dx": one.dx * factor, "dy": one.dy * factor}) for k, one in self.moves.items()
        }
        join, lowered, line, into = self.join, self.lowered, self.line, self.into
        if distances == "scaled":
            join = join and join.model_copy(update={"overlap": join.overlap * factor})
            lowered = {at: overlap * factor for at, overlap in lowered.items()}
            into = into and into.model_copy(update={"depth": into.depth * factor, "frame": into.frame * factor})
        if line:
            lengths = {
                name: value and value * factor
                for name, value in (("radius", line.radius), ("height", line.height), ("length", line.length))
            }
            line = line.model_copy(update=lengths)
        return made.model_copy(
            update={
                "size": self.size * factor,
                "letter_spacing": self.letter_spacing * factor,
                "nudges": {at: by * factor for at, by in self.nudges.items()},
                "moves": moves,
                "join": join,
                "lowered": lowered,
                "line": line,
                "into": into,
            }
        )
