"""How far a long request is, by the name that its browser gave it."""

from __future__ import annotations

from fastapi import APIRouter, Request
from pydantic import BaseModel

from tinhalo.api.waiting import Shares

router = APIRouter(prefix="/api/progress", tags=["progress"])


class ProgressReply(BaseModel):
    """The share that is done, 0 to 1; none where nothing is known of that request, or it is over."""

    share: float | None


@router.get("/{name}")
async def ask_progress(name: str, asked: Request) -> ProgressReply:
    """How much of a request is done: of that which came with this name as its ``X-Progress``."""
    shares: Shares = asked.app.state.shares
    return ProgressReply(share=shares.of(name))
