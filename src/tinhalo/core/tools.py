"""The tools that come with the app: V-bits and end mills with how fast they go.

Sizes are those that are sold (1/8 in is 3.175 mm); speeds are what small routers keep to in wood (common practice).
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tinhalo.core.document.base import READABLE, Strict
from tinhalo.core.document.fields import mm, plain


class Speeds(Strict):
    """How a tool is driven: along its way and straight down in mm a minute, turns a minute, and how deep in one go."""

    name: Annotated[str, Field(min_length=1, max_length=80), READABLE]
    feed: Annotated[float, plain("along its way, in mm a minute", ge=1, le=50_000)] = 1_200
    plunge: Annotated[float, plain("straight down, in mm a minute", ge=1, le=50_000)] = 400
    turns: Annotated[float, plain("turns a minute", ge=1, le=100_000)] = 18_000
    down: Annotated[float, mm("deep in one pass", gt=0, le=100)] = 2


class VBit(Speeds):
    """A bit with a point: its included angle, how wide the tip is, and how wide it cuts at most."""

    kind: Literal["v_bit"] = "v_bit"
    angle: Annotated[float, plain("of its point, in degrees", ge=5, le=170)] = 60
    tip: Annotated[float, mm("wide at its tip", ge=0, le=20)] = 0
    diameter: Annotated[float, mm("wide where it cuts widest", gt=0, le=100)] = 12.7


class EndMill(Speeds):
    """A mill that cuts flat floors and upright walls."""

    kind: Literal["end_mill"] = "end_mill"
    diameter: Annotated[float, mm("wide", gt=0, le=100)] = 3.175


Tool = Annotated[VBit | EndMill, Field(discriminator="kind")]

TOOLS: tuple[VBit | EndMill, ...] = (
    VBit(name="60° V-bit", angle=60, down=3),
    VBit(name="90° V-bit", angle=90, down=3),
    VBit(name="45° V-bit", angle=45, tip=0.1, diameter=6.35, feed=1_000, down=2),
    VBit(name="30° V-bit", angle=30, tip=0.2, diameter=6.35, feed=800, plunge=300, down=2),
    EndMill(name="1/8 in end mill"),
    EndMill(name="1/16 in end mill", diameter=1.5875, feed=700, plunge=250, down=0.8),
    EndMill(name="1/4 in end mill", diameter=6.35, feed=1_800, plunge=600, down=3),
    EndMill(name="1 mm end mill", diameter=1, feed=500, plunge=200, down=0.5),
    EndMill(name="2 mm end mill", diameter=2, feed=800, plunge=300, down=1),
    EndMill(name="3 mm end mill", diameter=3),
    EndMill(name="4 mm end mill", diameter=4, feed=1_400, plunge=450, down=2),
    EndMill(name="6 mm end mill", diameter=6, feed=1_800, plunge=600, down=3),
)
