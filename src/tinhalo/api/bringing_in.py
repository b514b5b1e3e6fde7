"""Files that are brought in as art: drawings, shipped ones among them."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Body, Query, Request
from pydantic import BaseModel

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop
from tinhalo.core.artwork.drawings.drawing import middle_of
from tinhalo.core.artwork.drawings.drawing_file import DrawingFile, Element
from tinhalo.core.artwork.drawings.shipped import shipped_drawings
from tinhalo.core.artwork.drawings.vet import MOST_BYTES, vet
from tinhalo.core.geometry.curves.affine import shift
from tinhalo.core.output import svg_path

router = APIRouter(prefix="/api/files", tags=["files"])

#: Elements that are listed one by one.
MOST_LISTED = 400


class ElementReply(BaseModel):
    """An element of a drawing: its number in the file, what it looks like (y down, in mm), and why it is hidden."""

    number: int
    name: str
    colour: str
    line_mm: float
    ends: int
    hidden: str
    path: str
    bounds_mm: tuple[float, float, float, float] | None


class FileReply(BaseModel):
    """A file that was brought in.

    ``sized`` tells whether it says how large it is; ``told`` what of it was left out. Of very many elements only the
    first are listed; ``count`` is how many there are.
    """

    id: str
    kind: Literal["drawing"]
    name: str
    sized: bool
    width_mm: float
    height_mm: float
    told: list[str]
    count: int
    elements: list[ElementReply]


@router.get("/shipped")
def list_shipped(shop: Shop) -> list[FileReply]:
    """The drawings that come with the app."""
    return [_reply(id, f"{id}.svg", shop.library.drawing(id)) for id in shipped_drawings()]


@router.post("")
async def bring_in(
    shop: Shop,
    asked: Request,
    name: Annotated[str, Query(max_length=200)],
    data: Annotated[bytes, Body(media_type="application/octet-stream", max_length=MOST_BYTES + 1)],
) -> FileReply:
    """Read a drawing file and keep it."""

    def add() -> FileReply:
        read = vet(data, name)
        return _reply(shop.files.add(name, "drawing", data, read.to_bytes()), name, read)

    return await unless_gone(asked, add)


@router.get("/{id}")
def get_file(id: str, shop: Shop) -> FileReply:
    """A file that was brought in."""
    read = shop.library.drawing(id)
    return _reply(id, shop.files.name(id) or f"{id}.svg", read)


def _reply(id: str, name: str, read: DrawingFile) -> FileReply:
    boxes = [one.painted.bounds() for one in read.elements if len(one.painted.segments)]
    width = max((box[2] for box in boxes), default=0.0) - min((box[0] for box in boxes), default=0.0)
    height = max((box[3] for box in boxes), default=0.0) - min((box[1] for box in boxes), default=0.0)
    return FileReply(
        id=id,
        kind="drawing",
        name=name,
        sized=read.sized,
        width_mm=width,
        height_mm=height,
        told=list(read.told),
        count=len(read.elements),
        elements=[_element(number, one, read) for number, one in enumerate(read.elements[:MOST_LISTED])],
    )


def _element(number: int, one: Element, read: DrawingFile) -> ElementReply:
    x, y = middle_of(read)
    shown = one.painted.transformed(shift(-x, -y))
    return ElementReply(
        number=number,
        name=one.name,
        colour=one.colour,
        line_mm=round(one.line, 3),
        ends=one.ends,
        hidden=one.hidden,
        path=svg_path.curves(shown.contours()),
        bounds_mm=shown.bounds() if len(shown.segments) else None,
    )
