"""A block of words as several."""

from __future__ import annotations

from typing import Literal

from fastapi import APIRouter, Request
from pydantic import BaseModel

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop, Workshop
from tinhalo.core.artwork.error import ArtError
from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.artwork.lettering.set_words import SetWords
from tinhalo.core.artwork.lettering.splitting import split_words
from tinhalo.core.artwork.lettering.typeset import Typeset
from tinhalo.core.design.design import Design

router = APIRouter(prefix="/api/words", tags=["words"])


class SplitRequest(BaseModel):
    """A document, the words in it, and what each gets a block of its own of."""

    document: Design
    art: str
    by: Literal["line", "word"]


@router.post("/split")
async def split(request: SplitRequest, shop: Shop, asked: Request) -> list[Lettering]:
    """One block for each line or word, all under the id of the whole. Given up when the browser no longer waits."""

    def blocks() -> list[Lettering]:
        block = next((one for one in request.document.art if one.id == request.art), None)
        if not isinstance(block, Lettering):
            raise ArtError("These words are not in the design any more.")
        stood = _typeset(request.document, request.art, shop)
        format = request.document.format
        return split_words(
            block, stood, request.by, lambda part: _typeset(Design(format=format, art=(part,)), part.id, shop)
        )

    return await unless_gone(asked, blocks)


def _typeset(document: Design, art: str, shop: Workshop) -> Typeset:
    drawn = next(one.drawn for one in shop.build(document, exact=True).art if one.art.id == art)
    assert isinstance(drawn, SetWords)
    return drawn.typeset
