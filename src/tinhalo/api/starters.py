"""Starters: those that come with the app and those that were saved, each drawn with the maker's own words."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, HTTPException, Query, Request, Response
from pydantic import BaseModel, Field

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop
from tinhalo.core.design.design import Design
from tinhalo.core.design.references import check_references
from tinhalo.core.output.thumbnail import thumbnail
from tinhalo.core.starters import STARTERS, with_words
from tinhalo.store.starters import OwnStarter

router = APIRouter(prefix="/api/starters", tags=["starters"])


class StarterReply(BaseModel):
    """A design to begin from."""

    id: str
    title: str
    does: str
    own: bool
    document: Design


class SaveStarterRequest(BaseModel):
    """A document to begin from later, and what it is called."""

    title: Annotated[str, Field(min_length=1, max_length=200)]
    document: Design


@router.get("")
def list_starters(shop: Shop) -> list[StarterReply]:
    """All starters, the maker's own first."""
    shipped = [StarterReply(id=s.id, title=s.title, does=s.does, own=False, document=s.document) for s in STARTERS]
    return [_own(one) for one in shop.starters.list()] + shipped


@router.get("/{id}/drawing.svg", response_class=Response)
async def draw_starter(
    id: str, shop: Shop, asked: Request, text: Annotated[str, Query(max_length=200)] = ""
) -> Response:
    """A picture of one starter, with other words in its first block if there are any."""
    found = next((s.document for s in (*STARTERS, *shop.starters.list()) if s.id == id), None)
    if found is None:
        raise HTTPException(404, "This starter is not here: it may have been removed.")
    document = with_words(found, text) if text.strip() else found
    svg = await unless_gone(asked, lambda: thumbnail(shop.build(document, exact=False)))
    return Response(svg, media_type="image/svg+xml", headers={"Cache-Control": "max-age=300"})


@router.post("", status_code=201)
def save_starter(request: SaveStarterRequest, shop: Shop) -> StarterReply:
    """Save a design as a starter."""
    check_references(request.document)
    return _own(shop.starters.add(request.title, request.document))


@router.delete("/{id}", status_code=204)
def remove_starter(id: str, shop: Shop) -> None:
    """Forget a saved starter."""
    if not shop.starters.remove(id):
        raise HTTPException(404, "This starter is not here: it may have been removed already.")


def _own(own: OwnStarter) -> StarterReply:
    does = "Saved from a design of yours"
    return StarterReply(id=own.id, title=own.title, does=does, own=True, document=own.document)
