"""How wide every stroke of a layer is, in bands."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable

from fastapi import APIRouter, Request
from pydantic import BaseModel

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop, Workshop
from tinhalo.core.design.design import Design
from tinhalo.core.engine.build import layer_widths
from tinhalo.core.output import svg_path

router = APIRouter(prefix="/api", tags=["build"])

#: Where a band ends and the next begins, in least widths of the material.
_EDGES = (1.0, 1.5, 2.5)


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
    return await unless_gone(asked, lambda gone: _heat(request, shop, gone))


def _heat(request: HeatRequest, shop: Workshop, cancelled: Callable[[], bool]) -> HeatReply:
    built = shop.build(request.document, exact=True, cancelled=cancelled)
    layer = next((one for one in built.layers if one.layer.id == request.layer), None)
    if layer is None:
        return HeatReply(bands=[])
    strokes = layer_widths(layer, shop.memo).strokes
    least = layer.material.limits.least_width
    edges = [0.0, *(share * least for share in _EDGES), math.inf]
    return HeatReply(
        bands=[
            BandReply(
                from_mm=start,
                up_to_mm=None if math.isinf(end) else end,
                path=svg_path.lines(strokes.between(start, end)),
            )
            for start, end in itertools.pairwise(edges)
        ]
    )
