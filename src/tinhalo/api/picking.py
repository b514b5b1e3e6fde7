"""What the stage asks when something on it is picked."""

from __future__ import annotations

from typing import Literal

from fastapi import APIRouter, Request
from pydantic import BaseModel

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop
from tinhalo.core.design.design import Design
from tinhalo.core.document.anchor import Anchor
from tinhalo.core.engine.picking import pickable
from tinhalo.core.output import svg_path

router = APIRouter(prefix="/api", tags=["picking"])


class PiecesRequest(BaseModel):
    """A document and the layer whose pieces and holes are to be picked."""

    document: Design
    layer: str


class PieceReply(BaseModel):
    """A piece or hole: its outline (mm, y down), and a place in it that stays with the nearest part of some art."""

    kind: Literal["piece", "hole"]
    path: str
    area_mm2: float
    spot: Anchor


@router.post("/pieces")
async def list_pieces(request: PiecesRequest, shop: Shop, asked: Request) -> list[PieceReply]:
    """The pieces and holes of a layer, the largest first; no more of each than can be picked one by one.

    Given up when the browser no longer waits.
    """

    def look() -> list[PieceReply]:
        return [
            PieceReply(kind=one.kind, path=svg_path.polygons([one.area]), area_mm2=one.area.area, spot=one.anchor)
            for one in pickable(shop.build(request.document, exact=False), request.layer)
        ]

    return await unless_gone(asked, look)
