"""An outline of its own as a piece of art: its nodes stand in the document."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

import numpy as np
from pydantic import AfterValidator, Field

from tinhalo.core.artwork.art import Drawn, Studio
from tinhalo.core.artwork.originals import AnyOriginal
from tinhalo.core.artwork.outlines.path_text import PathTextError, read_outline
from tinhalo.core.artwork.place import place_matrix
from tinhalo.core.artwork.whole import DrawnWhole, SizedByPlace
from tinhalo.core.document.base import READABLE
from tinhalo.core.geometry.curves.fill import filled_positive
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.regions.region import Region


def _is_outline(text: str) -> str:
    try:
        read_outline(text)
    except PathTextError as error:
        raise ValueError(f"the outline cannot be read: {error}") from error
    return text


#: The text of an outline; see ``path_text``.
PathText = Annotated[
    str,
    Field(max_length=2_000_000, description="path data with M, L, C and Z, in mm, y up; shells counter-clockwise"),
    AfterValidator(_is_outline),
]


class OutlineArt(SizedByPlace):
    """An outline whose nodes are edited by hand. Areas run counter-clockwise, their holes clockwise.

    ``made_of`` is the art that it was made of, with its text, to go back to.
    """

    noun: ClassVar[str] = "outline"

    kind: Literal["outline"] = "outline"
    path: PathText = ""
    name: Annotated[str, Field(max_length=200), READABLE] = ""
    made_of: AnyOriginal | None = None

    @property
    def title(self) -> str:
        """What it was called, or was made of."""
        return self.name.strip() or (self.made_of.title if self.made_of else "") or "outline"

    @property
    def _called(self) -> str:
        """“the outline “Fenna””: words turned into one are no thing of that name."""
        return "outline" if self.title == "outline" else f"outline “{self.title}”"

    def draw(self, studio: Studio) -> Drawn:
        """What its contours go round, at its place."""
        matrix = place_matrix(self.place)
        outline = read_outline(self.path).transformed(matrix)
        if np.linalg.det(matrix[:, :2]) < 0:
            outline = Outline.from_contours([one.reversed() for one in outline.contours()])
        rings = outline.flattened(studio.precision.chord, studio.precision.turn)
        return DrawnWhole(Region.of(np.array(filled_positive(rings), object), (outline,)), self._called)
