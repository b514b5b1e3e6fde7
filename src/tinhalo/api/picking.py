"""What the stage asks when something on it is picked or to be placed."""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal

from fastapi import APIRouter
from pydantic import BaseModel
from shapely import Polygon

from tinhalo.api.workshop import Shop
from tinhalo.core.design.design import Design
from tinhalo.core.document.anchor import Anchor
from tinhalo.core.engine.built import spot_at
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.output import svg_path

router = APIRouter(prefix="/api", tags=["picking"])


class PiecesRequest(BaseModel):
    """A document and the layer whose pieces and holes are to be picked."""

    document: Design
    layer: str


class PieceReply(BaseModel):
    """A piece or hole: its outline (mm, y down), and a spot in it that stays with the nearest letter."""

    kind: Literal["piece", "hole"]
    path: str
    area_mm2: float
    spot: Anchor


@router.post("/pieces")
def list_pieces(request: PiecesRequest, shop: Shop) -> list[PieceReply]:
    """The pieces and holes of a layer, the largest first; no more of each than can be picked one by one."""
    built = shop.build(request.document, exact=False)
    region = next((one.region for one in built.layers if one.layer.id == request.layer), Region.empty())
    made: list[PieceReply] = []
    for kind, areas in _KINDS:
        for one in sorted(areas(region), key=lambda area: -area.area)[:_MOST]:
            inside = one.representative_point()
            spot = spot_at(built.art, inside.x, inside.y)
            if spot is not None:
                made.append(PieceReply(kind=kind, path=svg_path.polygons([one]), area_mm2=one.area, spot=spot))
    return made


_MOST = 300
_KINDS: tuple[tuple[Literal["piece", "hole"], Callable[[Region], list[Polygon]]], ...] = (
    ("piece", lambda region: list(region.area.geoms)),
    ("hole", Region.hole_areas),
)
