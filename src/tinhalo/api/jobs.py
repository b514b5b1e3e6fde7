"""The order in which machines follow what leaves, to be looked at before it is cut."""

from __future__ import annotations

from fastapi import APIRouter, Request
from pydantic import BaseModel

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop, Workshop
from tinhalo.core.design.design import Design
from tinhalo.core.design.hand_over import Use
from tinhalo.core.output import svg_path
from tinhalo.core.output.board import boards_of, on_board
from tinhalo.core.output.drawing import kerf_of
from tinhalo.core.output.job import job_of
from tinhalo.core.output.lining_up import framed_drawing

router = APIRouter(prefix="/api", tags=["jobs"])

Box = tuple[float, float, float, float]


class PathRequest(BaseModel):
    """A document; the order is that of each of its boards."""

    document: Design


class LineReply(BaseModel):
    """A line as it is followed: its outline (mm, y down), where it begins and ends, how long it is and takes."""

    layer: str
    process: Use
    path: str
    start_mm: tuple[float, float]
    end_mm: tuple[float, float]
    length_mm: float
    seconds: float


class PathReply(BaseModel):
    """A board in order: its page (y up), its lines, the way between them, and about how long all of it takes.

    ``kerf_mm`` is by layer how wide what cuts is, where lines leave beside the outline for that.
    """

    title: str
    page_mm: Box | None
    lines: list[LineReply]
    travel_mm: float
    seconds: float
    kerf_mm: dict[str, float]


@router.post("/paths")
async def list_paths(request: PathRequest, shop: Shop, asked: Request) -> list[PathReply]:
    """How machines would follow each board. Given up when the browser no longer waits."""
    return await unless_gone(asked, lambda: _paths(request.document, shop))


def _paths(document: Design, shop: Workshop) -> list[PathReply]:
    built = shop.build(document, exact=True)
    drawing = framed_drawing(built)
    kerfs = {one.layer.id: kerf_of(one) for one in built.leaving()}
    found: list[PathReply] = []
    carves = {one.layer.id for one in built.leaving() if one.layer.process == "carve"}
    for board in boards_of(built):
        if carves & {*board.layers}:
            # A mill follows its own programs, whose times are told with them.
            continue
        part = on_board(built, drawing, board)
        job = job_of(built, part)
        lines = [
            LineReply(
                layer=stroke.layer,
                process=stroke.process,
                path=svg_path.curves([stroke.contour]),
                start_mm=(float(stroke.start[0]), float(stroke.start[1])),
                end_mm=(float(stroke.end[0]), float(stroke.end[1])),
                length_mm=length,
                seconds=length / speed,
            )
            for stroke, length, speed in zip(job.strokes, job.lengths, job.speeds, strict=True)
        ]
        kerf = {id: kerfs[id] for id in board.layers if kerfs[id]}
        found.append(
            PathReply(
                title=board.title,
                page_mm=part.page,
                lines=lines,
                travel_mm=job.travel,
                seconds=job.seconds,
                kerf_mm=kerf,
            )
        )
    return found
