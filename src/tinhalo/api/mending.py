"""Mends of findings, and what they bring along."""

from __future__ import annotations

from collections.abc import Callable
from time import monotonic

from fastapi import APIRouter, Request
from pydantic import BaseModel

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop
from tinhalo.core.design.design import Design
from tinhalo.core.findings.finding import Finding
from tinhalo.core.findings.mends.changes import mended
from tinhalo.core.findings.mends.following import follow_up
from tinhalo.core.findings.mends.mend import Mend
from tinhalo.core.findings.mends.outlook import outlook

router = APIRouter(prefix="/api/mend", tags=["mending"])

#: Seconds after which no further mends are tried: in very long texts each takes as long as all checks.
_LONG = 10.0


def _patience() -> Callable[[], bool]:
    """Whether it has been long enough since now."""
    until = monotonic() + _LONG
    return lambda: monotonic() > until


class MendRequest(BaseModel):
    """A document, and what one of its findings offers."""

    document: Design
    mend: Mend


class MendReply(BaseModel):
    """The document after it, if that changes anything."""

    document: Design | None


class FollowRequest(BaseModel):
    """A document before and after a change, and the cause of the findings that it was to end."""

    before: Design
    after: Design
    cause: str | None = None


class FollowReply(BaseModel):
    """What the change brought along.

    ``document`` has that mended, where it can be; ``also`` are the mends this took. ``brought`` is still new.
    """

    document: Design | None
    also: list[str]
    brought: list[Finding]


class OutlookRequest(BaseModel):
    """A document, what one of its findings offers, and the cause of the findings that it is for."""

    document: Design
    mend: Mend
    cause: str


class OutlookReply(BaseModel):
    """What a mend will do: how many findings it leaves and why, what is mended with it, what it brings.

    ``known`` is false where only a search would tell.
    """

    known: bool
    left: int
    why: str | None
    also: list[str]
    brings: list[str]


@router.post("")
async def mend(request: MendRequest, shop: Shop, asked: Request) -> MendReply:
    """Make the changes of a mend. Given up when the browser no longer waits."""

    def make() -> MendReply:
        made = mended(request.document, request.mend, shop.library, shop.memo)
        return MendReply(document=None if made == request.document else made)

    return await unless_gone(asked, make)


@router.post("/follow")
async def follow(request: FollowRequest, shop: Shop, asked: Request) -> FollowReply:
    """Mend what a change brought along. Given up when the browser no longer waits."""
    enough = _patience()

    def look() -> FollowReply:
        made = follow_up(request.before, request.after, shop.library, shop.memo, enough, request.cause)
        return FollowReply(
            document=made.design if made.also else None, also=list(made.also), brought=list(made.brought)
        )

    return await unless_gone(asked, look)


@router.post("/outlook")
async def look_ahead(request: OutlookRequest, shop: Shop, asked: Request) -> OutlookReply:
    """What a mend will do, before it is made. Given up when the browser no longer waits."""
    enough = _patience()

    def look() -> OutlookReply:
        seen = outlook(request.document, request.mend, request.cause, shop.library, shop.memo, enough)
        if seen is None:
            return OutlookReply(known=False, left=0, why=None, also=[], brings=[])
        return OutlookReply(known=True, left=seen.left, why=seen.why, also=list(seen.also), brings=list(seen.brings))

    return await unless_gone(asked, look)
