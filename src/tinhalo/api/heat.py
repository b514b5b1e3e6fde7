"""How wide every stroke of a layer is, in bands."""

from __future__ import annotations

import math

from fastapi import APIRouter, Request
from pydantic import BaseModel

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop, Workshop
from tinhalo.core.design.design import Design
from tinhalo.core.engine.widths import width_bands
from tinhalo.core.output import svg_path

router = APIRouter(prefix="/api", tags=["build"])


class HeatRequest(BaseModel):
    """A document and a layer of it."""

    document: Design
    layer: str


class BandReply(BaseModel):
    """The middle lines (path data, mm, y down) of strokes from one width up to another, in mm; None has no end."""

    from_mm: float
    up_to_mm: float | None
    path: str


class HeatReply(BaseModel):
    """Bands from the narrowest: strokes in the first are too thin for the layer's material."""

    bands: list[BandReply]


@router.post("/heat")
async def layer_heat(request: HeatRequest, shop: Shop, asked: Request) -> HeatReply:
    """The least width along every stroke of a layer; no bands where there is no such layer."""
    return await unless_gone(asked, lambda: _heat(request, shop))


def _heat(request: HeatRequest, shop: Workshop) -> HeatReply:
    built = shop.build(request.document, exact=True)
    layer = next((one for one in built.layers if one.layer.id == request.layer), None)
    if layer is None:
        return HeatReply(bands=[])
    return HeatReply(
        bands=[
            BandReply(
                from_mm=band.begin,
                up_to_mm=None if math.isinf(band.end) else band.end,
                path=svg_path.lines(band.middles),
            )
            for band in width_bands(layer, shop.memo)
        ]
    )
