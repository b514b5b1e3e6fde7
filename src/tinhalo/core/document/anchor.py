"""A place that stays with a piece of art, however that changes."""

from __future__ import annotations

from typing import Annotated

from pydantic import AliasChoices, Field

from tinhalo.core.document.base import Identifier, Strict
from tinhalo.core.document.fields import plain


class Anchor(Strict):
    """A place on the drawing: so far from the middle of a part of some art, in the art's sizes, along and across it.

    A part is a letter of words, counted in user-perceived characters; other art may have parts of its own, or only the
    whole. (Designs of before call a part ``letter``.)
    """

    art: Identifier
    part: Annotated[
        int,
        Field(
            ge=0,
            le=20_000,
            validation_alias=AliasChoices("part", "letter"),
            description="index of the letter in the text; 0 of art that has only the whole",
        ),
    ] = 0
    x: Annotated[float, plain("to the right, in sizes", ge=-1_000, le=1_000)] = 0
    y: Annotated[float, plain("upwards, in sizes", ge=-1_000, le=1_000)] = 0
