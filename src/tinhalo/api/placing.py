"""A search for a place, told as it goes on."""

from __future__ import annotations

from collections.abc import AsyncIterator

from fastapi import APIRouter, Request
from fastapi.responses import StreamingResponse
from pydantic import BaseModel

from tinhalo.api.waiting import in_turn
from tinhalo.api.workshop import Shop
from tinhalo.core.design.design import Design
from tinhalo.core.findings.mends.mend import FindPlace, Mend
from tinhalo.core.findings.mends.placing import GoOn, Looking, Placed, find_place

router = APIRouter(prefix="/api/places", tags=["mending"])


class PlaceRequest(BaseModel):
    """A document, what to look for in it, and where an earlier search of the same came to."""

    document: Design
    find: FindPlace
    go_on: GoOn | None = None


class PlacedReply(BaseModel):
    """The document with the art at the best place, if that is another one; what was found, and what would help.

    ``go_on`` goes with the next request for another place; none once every place was looked at.
    """

    document: Design | None
    sentence: str
    offers: list[Mend]
    faults: int
    go_on: GoOn | None


class PlaceLine(BaseModel):
    """A line of the answer: how far the search is, or, in the last one, what it came to.

    ``shown`` is the map (a, b, c, d, e, f), as in SVG, that shows ``art`` at the place that is looked at.
    """

    share: float
    art: list[str]
    shown: tuple[float, float, float, float, float, float] | None
    best: PlacedReply | None
    ended: bool


@router.post("", response_class=StreamingResponse, responses={200: {"model": PlaceLine}})
async def look_for_place(request: PlaceRequest, shop: Shop, asked: Request) -> StreamingResponse:
    """Look for a place for what a step cuts away: a line of JSON for each batch of places. It ends with the request."""
    lines = find_place(request.document, request.find, shop.library, shop.memo, request.go_on)
    # What cannot be looked for is refused before the answer begins.
    first = await in_turn(asked, lambda: next(lines))

    async def told() -> AsyncIterator[str]:
        line: Looking | Placed | None = first
        while line is not None:
            yield _line(line).model_dump_json(by_alias=True) + "\n"
            line = await in_turn(asked, lambda: next(lines, None))

    return StreamingResponse(told(), media_type="application/x-ndjson")


def _line(line: Looking | Placed) -> PlaceLine:
    if isinstance(line, Placed):
        return PlaceLine(share=1, art=[], shown=None, best=_reply(line), ended=True)
    (a, c, e), (b, d, f) = line.shown.tolist()
    best = _reply(line.best) if line.best else None
    return PlaceLine(share=line.share, art=list(line.art), shown=(a, b, c, d, e, f), best=best, ended=False)


def _reply(placed: Placed) -> PlacedReply:
    return PlacedReply(
        document=placed.design,
        sentence=placed.sentence,
        offers=list(placed.offers),
        faults=placed.faults,
        go_on=placed.go_on,
    )
