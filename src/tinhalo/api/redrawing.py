"""Outlines of their own: art turned into one and back, and what is done with its nodes, rings and stretches."""

from __future__ import annotations

from typing import Literal

import shapely
from fastapi import APIRouter, Request
from pydantic import BaseModel

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop
from tinhalo.core.artwork.outlines.edits import AnyEdit, owners_of, pieces_of
from tinhalo.core.artwork.outlines.outline_art import PathText
from tinhalo.core.artwork.outlines.path_text import read_outline, write_outline
from tinhalo.core.design.design import Design
from tinhalo.core.document.base import Factor
from tinhalo.core.engine.redrawing import to_original, to_outline
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.curves.reshaping import deviation
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.strokes.thinnest import thinnest_stroke

router = APIRouter(prefix="/api/outlines", tags=["outlines"])

Box = tuple[float, float, float, float]


class TurnRequest(BaseModel):
    """A document, and the art in it that is to be an outline, or what it was."""

    document: Design
    art: str
    to: Literal["outline", "original"]


class EditRequest(BaseModel):
    """The text of an outline, and what is to be done with it."""

    path: PathText
    edit: AnyEdit


class EditReply(BaseModel):
    """The text afterwards, how many nodes it has, and the largest distance from what it was, in mm."""

    path: str
    nodes: int
    nodes_before: int
    deviation_mm: float


class RingReply(BaseModel):
    """A ring of an outline: its nodes, whether it goes round an area or a hole, how large that is, and its box (y up).

    ``outside`` are holes that lie in no piece: they take nothing away.
    """

    kind: Literal["piece", "hole"]
    first: int
    nodes: int
    area_mm2: float
    box_mm: Box
    outside: bool


class OutlineReply(BaseModel):
    """What an outline is made of, in its own mm."""

    rings: list[RingReply]
    pieces: int
    nodes: int
    thinnest_mm: float | None


class OutlineRequest(BaseModel):
    """The text of an outline, and the scale that it stands at."""

    path: PathText
    scale_x: Factor = 1
    scale_y: Factor = 1


@router.post("/turn")
async def turn(request: TurnRequest, shop: Shop, asked: Request) -> Design:
    """Art turned into an outline of its own, or back. Given up when the browser no longer waits."""
    change = to_outline if request.to == "outline" else to_original
    return await unless_gone(asked, lambda: change(request.document, request.art, shop.library, shop.memo))


@router.post("/edit")
async def edit_outline(request: EditRequest, asked: Request) -> EditReply:
    """An outline changed at its nodes, rings or stretches. Given up when the browser no longer waits."""

    def change() -> EditReply:
        before = read_outline(request.path)
        # As it is written, so that what is told of it is so.
        path = write_outline(request.edit.made(before))
        after = read_outline(path)
        return EditReply(
            path=path,
            nodes=len(after.segments),
            nodes_before=len(before.segments),
            deviation_mm=deviation(before, after),
        )

    return await unless_gone(asked, change)


@router.post("/look")
async def look_at_outline(request: OutlineRequest, asked: Request) -> OutlineReply:
    """What an outline is made of. Given up when the browser no longer waits."""
    return await unless_gone(asked, lambda: _look(request))


def _look(request: OutlineRequest) -> OutlineReply:
    outline = read_outline(request.path)
    pieces = pieces_of(outline)
    scale = (abs(request.scale_x), abs(request.scale_y))
    area = shapely.transform(shapely.MultiPolygon(pieces), lambda points: points * scale)
    rings: list[RingReply] = []
    if len(outline.segments):
        owners = owners_of(outline)
        for i, contour in enumerate(outline.contours()):
            own = Outline.from_contours([contour])
            size = float(outline.areas[i]) * scale[0] * scale[1]
            rings.append(
                RingReply(
                    kind="piece" if size > 0 else "hole",
                    first=int(outline.starts[i]),
                    nodes=len(contour.segments),
                    area_mm2=abs(size),
                    box_mm=own.bounds(),
                    outside=size <= 0 and owners[i] < 0,
                )
            )
    return OutlineReply(
        rings=rings,
        pieces=len(pieces),
        nodes=len(outline.segments),
        thinnest_mm=thinnest_stroke(Region.of(area)),
    )
