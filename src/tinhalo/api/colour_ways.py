"""Colour ways seen side by side."""

from __future__ import annotations

from fastapi import APIRouter, Request
from pydantic import BaseModel

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop
from tinhalo.core.design.design import Design
from tinhalo.core.output.thumbnail import thumbnail

router = APIRouter(prefix="/api/colour-ways", tags=["colour ways"])


class WaysRequest(BaseModel):
    """A document with its colour ways."""

    document: Design


class WaysReply(BaseModel):
    """Pictures (SVG) of the design as it is, and in each of its colour ways."""

    now: str
    ways: list[str]


@router.post("/pictures")
async def show_colour_ways(request: WaysRequest, shop: Shop, asked: Request) -> WaysReply:
    """Each colour way as a small picture. Given up when the browser no longer waits."""

    def make() -> WaysReply:
        document = request.document
        # Shapes are the same in all of them, and kept: only colours are painted anew.
        made = [shop.build(one, exact=False) for one in (document, *map(document.dressed, document.colour_ways))]
        now, *ways = [thumbnail(one) for one in made]
        return WaysReply(now=now, ways=ways)

    return await unless_gone(asked, make)
