"""A place that stays with a letter, however the words around it change."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from tinhalo.core.document.base import Identifier, Strict
from tinhalo.core.document.fields import plain


class Anchor(Strict):
    """A place on the drawing: so far from the middle of a letter, in sizes of the words, along and across its line."""

    art: Identifier
    letter: Annotated[int, Field(ge=0, le=20_000, description="index of the letter in the text")]
    x: Annotated[float, plain("to the right, in sizes", ge=-1_000, le=1_000)] = 0
    y: Annotated[float, plain("upwards, in sizes", ge=-1_000, le=1_000)] = 0
