"""Starters: those that come with the app and those that were saved, each drawn with the maker's own words."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, HTTPException, Query, Request, Response
from pydantic import BaseModel, Field

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop, Workshop
from tinhalo.core.design.design import Design
from tinhalo.core.design.references import check_references
from tinhalo.core.output.thumbnail import thumbnail
from tinhalo.core.starters import STARTERS, begun
from tinhalo.store.starters import OwnStarter

router = APIRouter(prefix="/api/starters", tags=["starters"])


class StarterReply(BaseModel):
    """A design to begin from."""

    id: str
    title: str
    does: str
    own: bool
    document: Design


class BeginRequest(BaseModel):
    """The words to begin with."""

    text: Annotated[str, Field(max_length=200)] = ""


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
    starter = _document(shop, id)

    def draw() -> str:
        return thumbnail(shop.build(begun(starter, text, shop.library, shop.memo), exact=False))

    svg = await unless_gone(asked, draw)
    return Response(svg, media_type="image/svg+xml", headers={"Cache-Control": "max-age=300"})


@router.post("/{id}/begin")
async def begin(id: str, request: BeginRequest, shop: Shop, asked: Request) -> Design:
    """The document to begin with: a starter's, with other words if there are any. Given up when nobody waits."""
    starter = _document(shop, id)
    return await unless_gone(asked, lambda: begun(starter, request.text, shop.library, shop.memo))


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


def _document(shop: Workshop, id: str) -> Design:
    found = next((one.document for one in (*STARTERS, *shop.starters.list()) if one.id == id), None)
    if found is None:
        raise HTTPException(404, "This starter is not here: it may have been removed.")
    return found


def _own(own: OwnStarter) -> StarterReply:
    does = "Saved from a design of yours"
    return StarterReply(id=own.id, title=own.title, does=does, own=True, document=own.document)
