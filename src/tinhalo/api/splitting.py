"""A block of words as several."""

from __future__ import annotations

from typing import Literal

from fastapi import APIRouter, Request
from pydantic import BaseModel

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop
from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.design.design import Design
from tinhalo.core.engine.splitting import split_words

router = APIRouter(prefix="/api/words", tags=["words"])


class SplitRequest(BaseModel):
    """A document, the words in it, and what each gets a block of its own of."""

    document: Design
    art: str
    by: Literal["line", "word"]


@router.post("/split")
async def split(request: SplitRequest, shop: Shop, asked: Request) -> list[Lettering]:
    """One block for each line or word, all under the id of the whole. Given up when the browser no longer waits."""
    return await unless_gone(
        asked, lambda: split_words(request.document, request.art, request.by, shop.library, shop.memo)
    )
