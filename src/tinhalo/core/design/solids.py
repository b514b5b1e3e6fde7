"""What leaves as solids, for those who print in layers of plastic or resin."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from tinhalo.core.document.base import Identifier, Strict
from tinhalo.core.document.fields import mm

SolidFormat = Literal["3mf", "stl"]


class LayerHeight(Strict):
    """How high a layer is as a solid, where that is not its material's thickness."""

    layer: Identifier
    height: Annotated[float, mm("from its underside to its upper side", ge=0.1, le=500)]


class Solids(Strict):
    """How layers become solids.

    ``formats`` are none where nothing leaves so. Layers that are let in lie ``let_in`` deep in what is under them, in
    pockets that are larger by ``clearance`` all round; what is engraved or scored is cut ``engraved`` deep.
    """

    formats: Annotated[tuple[SolidFormat, ...], Field(max_length=2)] = ()
    heights: Annotated[tuple[LayerHeight, ...], Field(max_length=100)] = ()
    as_one: Annotated[bool, Field(description="all layers united into one solid")] = False
    flat: Annotated[bool, Field(description="filled down to the table, so that nothing hangs in the air")] = False
    edge: Annotated[Literal["sharp", "chamfer", "round"], Field(description="the upper edge")] = "sharp"
    edge_size: Annotated[float, mm("of a chamfered or rounded edge", gt=0, le=50)] = 0.4
    let_in: Annotated[float, mm("that layers lie in what is under them; 0 for not at all", ge=0, le=500)] = 0
    clearance: Annotated[float, mm("around what is let in", ge=0, le=10)] = 0.1
    engraved: Annotated[float, mm("deep, of what is engraved or scored", gt=0, le=100)] = 0.4
    line_width: Annotated[float, mm("of scored lines", gt=0, le=50)] = 0.5
    least: Annotated[float, mm("that a part should be wide at least", gt=0, le=100)] = 0.8

    def height_of(self, layer: str, usual: float) -> float:
        """Of a layer, in mm."""
        return next((one.height for one in self.heights if one.layer == layer), usual)
