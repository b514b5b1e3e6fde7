"""What the stage asks when something on it is picked or to be placed."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Literal

from fastapi import APIRouter, Request
from pydantic import BaseModel, Field
from shapely import Polygon

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop
from tinhalo.core.built import spot_at
from tinhalo.core.design import Design
from tinhalo.core.geometry.find_place import Sliver
from tinhalo.core.geometry.region import Region
from tinhalo.core.knockout import seek_place
from tinhalo.core.output import svg_path
from tinhalo.core.recipe.spot import Spot

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
    spot: Spot


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
