"""What the stage asks when something on it is picked or to be placed."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Literal

from fastapi import APIRouter, Request
from pydantic import BaseModel, Field
from shapely import Point

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop
from tinhalo.core.build import spot_at
from tinhalo.core.design import Design
from tinhalo.core.geometry.find_place import Sliver
from tinhalo.core.knockout import seek_place
from tinhalo.core.output import svg_path
from tinhalo.core.recipe.spot import Spot

router = APIRouter(prefix="/api", tags=["picking"])


class PickRequest(BaseModel):
    """A place on the stage, in mm with y up, and the layer that is meant."""

    document: Design
    layer: str
    x: Annotated[float, Field(allow_inf_nan=False)]
    y: Annotated[float, Field(allow_inf_nan=False)]


class PickReply(BaseModel):
    """The piece or hole at that place, its outline (mm, y down), and the spot that stays with it."""

    kind: Literal["piece", "hole"]
    path: str
    area_mm2: float
    spot: Spot


@router.post("/pick")
def pick(request: PickRequest, shop: Shop) -> PickReply | None:
    """What of a layer is at a place; nothing beside its pieces and their holes."""
    built = shop.build(request.document, exact=False)
    region = next((one.region for one in built.layers if one.layer.id == request.layer), None)
    at = Point(request.x, request.y)
    spot = spot_at(built.art, request.x, request.y)
    if region is None or spot is None:
        return None
    piece = next((one for one in region.area.geoms if one.contains(at)), None)
    # In a hole may stand a piece with a hole: the smallest is meant.
    hole = min((one for one in region.hole_areas() if one.contains(at)), key=lambda one: one.area, default=None)
    held = piece or hole
    if held is None:
        return None
    kind = "piece" if piece else "hole"
    return PickReply(kind=kind, path=svg_path.polygons([held]), area_mm2=held.area, spot=spot)


class SeekRequest(BaseModel):
    """A layer's step that cuts words away, and what counts as a sliver."""

    document: Design
    layer: str
    step: Annotated[int, Field(ge=0)]
    least_area_mm2: Annotated[float, Field(gt=0, le=10_000, allow_inf_nan=False)] = 15
    least_width_mm: Annotated[float, Field(gt=0, le=100, allow_inf_nan=False)] = 1.5


class SeekReply(BaseModel):
    """Where to move the words by, what is there, and the same in a sentence."""

    art: str
    dx: float
    dy: float
    slivers: int
    slivers_now: int
    steady: bool
    covered: bool
    sentence: str


@router.post("/find-place")
async def find_place(request: SeekRequest, shop: Shop, asked: Request) -> SeekReply:
    """The nearest place without slivers for words in a knockout. Given up when the browser no longer waits."""
    sliver = Sliver(request.least_area_mm2, request.least_width_mm)

    def seek(gone: Callable[[], bool]) -> SeekReply:
        sought = seek_place(request.document, shop.library, request.layer, request.step, sliver, shop.memo, gone)
        found = sought.found
        return SeekReply(
            art=sought.art,
            dx=found.dx,
            dy=found.dy,
            slivers=found.slivers,
            slivers_now=sought.now,
            steady=found.steady,
            covered=found.covered,
            sentence=sought.sentence,
        )

    return await unless_gone(asked, seek)
