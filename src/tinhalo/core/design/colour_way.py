"""Colour ways: what layers are made of, and in which colours, kept under a name."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from tinhalo.core.design.print_fill import PrintFill
from tinhalo.core.document.base import READABLE, Colour, Identifier, Strict


class Dress(Strict):
    """What one layer is made of in a colour way; fields as a layer has them."""

    layer: Identifier
    material: Annotated[str, Field(max_length=64)]
    colour: Colour | None = None
    fill: PrintFill | None = None


class ColourWay(Strict):
    """Materials and colours of all layers by name. Layers that it does not name stay as they are."""

    name: Annotated[str, Field(min_length=1, max_length=80), READABLE]
    layers: Annotated[tuple[Dress, ...], Field(max_length=100)] = ()
