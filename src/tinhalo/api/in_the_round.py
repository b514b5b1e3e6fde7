"""The stack as meshes, for the look in the round."""

from __future__ import annotations

from fastapi import APIRouter, Request, Response
from pydantic import BaseModel

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop
from tinhalo.core.design.design import Design
from tinhalo.core.output.rounded_view import packed

router = APIRouter(prefix="/api/round", tags=["round"])


class RoundRequest(BaseModel):
    """A document, whether it is wanted as exactly as it leaves, and the keys of meshes that the browser holds."""

    document: Design
    exact: bool = False
    have: list[str] = []


@router.post("", response_class=Response)
async def show_in_the_round(request: RoundRequest, shop: Shop, asked: Request) -> Response:
    """All layers that leave, as ``rounded_view.packed`` has them. Given up when the browser no longer waits."""

    def make() -> bytes:
        return packed(shop.build(request.document, exact=request.exact), shop.memo, frozenset(request.have))

    return Response(await unless_gone(asked, make), media_type="application/octet-stream")
