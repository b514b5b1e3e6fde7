"""Kinds of art that an outline can be made of: all but outlines themselves."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Any, cast

from pydantic import Discriminator, Tag

from tinhalo.core.artwork.art import Art
from tinhalo.core.artwork.drawings.drawing import Drawing
from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.artwork.pictures.picture import TracedPicture
from tinhalo.core.artwork.shapes.kinds import AnyShape


def kind_of(art: Any) -> Any:
    """Which kind some data is meant to be: words, where it does not say."""
    if isinstance(art, Art):
        return getattr(art, "kind", None)
    given: Mapping[str, Any] = cast("Mapping[str, Any]", art) if isinstance(art, Mapping) else {}
    return given.get("kind", "shape" if "shape" in given else "lettering")


AnyOriginal = Annotated[
    Annotated[Lettering, Tag("lettering")]
    | Annotated[AnyShape, Tag("shape")]
    | Annotated[Drawing, Tag("drawing")]
    | Annotated[TracedPicture, Tag("picture")],
    Discriminator(kind_of),
]
