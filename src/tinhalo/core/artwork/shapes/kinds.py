"""All shapes. Add a new one's class to ``AnyShape``; nothing else lists them."""

from __future__ import annotations

from typing import Annotated, get_args

from pydantic import Field

from tinhalo.core.artwork.shapes.figures import Banner, Cloud, Heart, SpeechBubble, Tag
from tinhalo.core.artwork.shapes.plain import Arch, Ellipse, Polygon, Rectangle, Ring, Star
from tinhalo.core.artwork.shapes.shape import Shape

AnyShape = Annotated[
    Rectangle | Ellipse | Polygon | Star | Heart | Arch | Ring | Banner | SpeechBubble | Tag | Cloud,
    Field(discriminator="shape"),
]

#: The class of every shape there is, by its ``shape``.
SHAPES: dict[str, type[Shape]] = {
    get_args(one.model_fields["shape"].annotation)[0]: one for one in get_args(get_args(AnyShape)[0])
}
