"""All kinds of art. Add a new kind's class to ``AnyOriginal``, or here; nothing else lists them."""

from __future__ import annotations

from typing import Annotated

from pydantic import Discriminator, Tag

from tinhalo.core.artwork.drawings.drawing import Drawing
from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.artwork.originals import kind_of
from tinhalo.core.artwork.outlines.outline_art import OutlineArt
from tinhalo.core.artwork.pictures.picture import TracedPicture
from tinhalo.core.artwork.shapes.kinds import AnyShape

AnyArt = Annotated[
    Annotated[Lettering, Tag("lettering")]
    | Annotated[AnyShape, Tag("shape")]
    | Annotated[Drawing, Tag("drawing")]
    | Annotated[TracedPicture, Tag("picture")]
    | Annotated[OutlineArt, Tag("outline")],
    Discriminator(kind_of),
]
