"""Solids as they would leave: what each comes to, and what may go wrong with it."""

from __future__ import annotations

from fastapi import APIRouter, Request
from pydantic import BaseModel

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop
from tinhalo.core.design.design import Design
from tinhalo.core.output.solids import Solid, solids_of

router = APIRouter(prefix="/api/solids", tags=["solids"])


class SolidsRequest(BaseModel):
    """A document; its solids are made as its hand-over says."""

    document: Design


class SolidReply(BaseModel):
    """One object: of which layer (empty of all as one), its size and volume, and what to know of it."""

    layer: str
    title: str
    size_mm: tuple[float, float, float]
    bottom_mm: float
    volume_mm3: float
    triangles: int
    told: list[str]


@router.post("/look")
async def look_at_solids(request: SolidsRequest, shop: Shop, asked: Request) -> list[SolidReply]:
    """The solids of a document, the lowest first. Given up when the browser no longer waits."""
    return await unless_gone(
        asked, lambda: [_reply(one) for one in solids_of(shop.build(request.document, exact=True))]
    )


def _reply(one: Solid) -> SolidReply:
    low, high = one.mesh.bounds
    width, depth, height = (high - low).tolist()
    return SolidReply(
        layer=one.id,
        title=one.title,
        size_mm=(width, depth, height),
        bottom_mm=float(low[2]),
        volume_mm3=one.mesh.volume,
        triangles=len(one.mesh.triangles),
        told=list(one.told),
    )
