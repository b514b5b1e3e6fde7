"""What helps to lay layers upon each other: marks common to all files, a frame to weed by, a numbered picture."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tinhalo.core.document.base import Strict
from tinhalo.core.document.fields import mm

#: None; crosses at three corners, so that none is laid the wrong way round; or holes for pins there.
Marks = Literal["none", "crosses", "pins"]


class LiningUp(Strict):
    """Marks at the same places in all files, a frame around what is weeded, and a picture with numbers."""

    marks: Marks = "none"
    beside: Annotated[float, mm("of the marks from the job", ge=1, le=200)] = 8
    frame: Annotated[float, mm("of a cut frame from what is weeded; 0 for none", ge=0, le=200)] = 0
    frame_around: Annotated[
        Literal["all", "groups"], Field(description="one frame around all of it, or one around each group of pieces")
    ] = "all"
    key: Annotated[bool, Field(description="a picture of all pieces with their numbers, at true size")] = False
