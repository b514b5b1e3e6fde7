"""Where two layers should meet: the places to look at, one after the other."""

from __future__ import annotations

from fastapi import APIRouter, Request
from pydantic import BaseModel

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop
from tinhalo.core.design.design import Design
from tinhalo.core.geometry.stacking.meeting import meetings

router = APIRouter(prefix="/api", tags=["build"])

#: More places than this nobody looks at.
_MOST = 200


class MeetingRequest(BaseModel):
    """A document."""

    document: Design


class MeetingReply(BaseModel):
    """A stretch along which the edges of two layers run close by each other; lengths in mm."""

    upper: str
    lower: str
    at_mm: tuple[float, float]
    length_mm: float
    gap_mm: float


@router.post("/meetings")
async def layers_meet(request: MeetingRequest, shop: Shop, asked: Request) -> list[MeetingReply]:
    """All such places among the layers that leave, those with the widest slits first."""

    def look() -> list[MeetingReply]:
        leaving = shop.build(request.document, exact=True).leaving()
        return [
            MeetingReply(
                upper=leaving[one.upper].layer.id,
                lower=leaving[one.lower].layer.id,
                at_mm=one.at,
                length_mm=one.length,
                gap_mm=one.gap,
            )
            for one in meetings([built.region.simple for built in leaving])[:_MOST]
        ]

    return await unless_gone(asked, look)
