"""What happened to the data when the app started, until somebody has read it."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import BaseModel

from tinhalo.api.workshop import Shop

router = APIRouter(prefix="/api/notice", tags=["designs"])


class NoticeReply(BaseModel):
    """A sentence; none when nothing happened."""

    sentence: str | None


@router.get("")
def read_notice(shop: Shop) -> NoticeReply:
    """What there is to tell."""
    return NoticeReply(sentence=shop.notice.read())


@router.delete("", status_code=204)
def forget_notice(shop: Shop) -> None:
    """It was read."""
    shop.notice.forget()
