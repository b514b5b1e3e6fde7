"""Files that are brought in as art: drawings, shipped ones among them."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Body, Query, Request, Response
from pydantic import BaseModel

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop, Workshop
from tinhalo.core.artwork.drawings.drawing_file import DrawingFile, Element
from tinhalo.core.artwork.drawings.error import DrawingError
from tinhalo.core.artwork.drawings.shipped import shipped_drawings
from tinhalo.core.artwork.drawings.vet import vet
from tinhalo.core.artwork.pictures import picture_file
from tinhalo.core.artwork.pictures.picture import TracedPicture, once_traced
from tinhalo.core.artwork.pictures.picture_file import COARSE, density_of, is_picture, pixels, size_of
from tinhalo.core.geometry.curves.affine import shift
from tinhalo.core.geometry.curves.painted import area_of
from tinhalo.core.geometry.curves.precision import SCREEN
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.strokes.thinnest import thinnest_stroke
from tinhalo.core.output import svg_path

router = APIRouter(prefix="/api/files", tags=["files"])

#: Elements that are listed one by one.
MOST_LISTED = 400
#: Of pictures that do not say their size, in mm.
USUAL_WIDTH = 100.0


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


class EmbeddedReply(BaseModel):
    """A picture that lies in a drawing: its number, and its middle (from the drawing's own) and width there, in mm."""

    number: int
    x_mm: float
    y_mm: float
    width_mm: float


class FileReply(BaseModel):
    """A file that was brought in.

    ``sized`` tells whether it says how large it is; ``told`` what of it was left out; ``texts`` what is written in it.
    Of very many elements only the first are listed; ``count`` is how many there are. A picture has none, and its size
    in dots.
    """

    id: str
    kind: Literal["drawing", "picture"]
    name: str
    sized: bool
    width_mm: float
    height_mm: float
    told: list[str]
    count: int
    elements: list[ElementReply]
    texts: list[str] = []
    pictures: list[EmbeddedReply] = []
    width_px: int = 0
    height_px: int = 0


class TraceReply(BaseModel):
    """What tracing a picture gives: its outline (y down, in pixels from the upper left corner), and what it came to.

    ``told`` says what to know about it; ``specks`` and ``filled`` are how many were left out.
    """

    path: str
    bounds_px: tuple[float, float, float, float] | None
    threshold: float
    smooth: float
    pieces: int
    holes: int
    specks: int
    filled: int
    thinnest_mm: float | None
    told: list[str]
    width_px: int
    height_px: int


@router.get("/shipped")
def list_shipped(shop: Shop) -> list[FileReply]:
    """The drawings that come with the app."""
    return [_reply(id, f"{id}.svg", shop.library.drawing(id)) for id in shipped_drawings()]


@router.post("")
async def bring_in(
    shop: Shop,
    asked: Request,
    name: Annotated[str, Query(max_length=200)],
    data: Annotated[bytes, Body(media_type="application/octet-stream", max_length=picture_file.MOST_BYTES + 1)],
) -> FileReply:
    """Read a drawing or a picture and keep it."""

    def add() -> FileReply:
        if is_picture(data):
            png, density = picture_file.vet(data, name)
            return _picture(shop.files.add(name, "picture", data, png), name, png, density)
        read = vet(data, name)
        return _reply(shop.files.add(name, "drawing", data, read.to_bytes()), name, read)

    return await unless_gone(asked, add)


@router.get("/{id}")
def get_file(id: str, shop: Shop) -> FileReply:
    """A file that was brought in."""
    kind, name = shop.files.listed(id) or ("drawing", f"{id}.svg")
    if kind == "picture":
        png = shop.library.picture(id)
        return _picture(id, name, png, density_of(png))
    return _reply(id, name, shop.library.drawing(id))


@router.post("/{id}/pictures/{number}")
async def bring_embedded(id: str, number: int, shop: Shop, asked: Request) -> FileReply:
    """Keep a picture that lies in a drawing as a file of its own, to be traced; as wide as it is there."""

    def add() -> FileReply:
        pictures = shop.library.drawing(id).pictures
        if not 0 <= number < len(pictures):
            raise DrawingError("that picture is not in the drawing")
        _, drawing = shop.files.listed(id) or ("", id)
        name = f"{drawing.rpartition('.')[0] or drawing}, picture {number + 1}.png"
        data = pictures[number].bytes()
        png, _ = picture_file.vet(data, name)
        wide = pictures[number].width
        return _picture(shop.files.add(name, "picture", data, png), name, png, pixels(png).shape[1] / wide * 25.4)

    return await unless_gone(asked, add)


@router.get("/{id}/picture", response_class=Response)
def get_picture(id: str, shop: Shop) -> Response:
    """A picture as it is traced: upright, as a PNG."""
    return Response(shop.library.picture(id), media_type="image/png", headers={"Cache-Control": "max-age=86400"})


@router.post("/trace")
async def trace(art: TracedPicture, shop: Shop, asked: Request) -> TraceReply:
    """What a picture comes to, and what is worth knowing of it. Given up when the browser no longer waits."""
    return await unless_gone(asked, lambda: _trace(art, shop))


def _trace(art: TracedPicture, shop: Workshop) -> TraceReply:
    png = shop.library.picture(art.file)
    height, width = pixels(png).shape[:2]
    made = once_traced(png, art.trace)
    per_dot = art.width * abs(art.place.scale_x) / width
    # In mm, as layers are measured: so both say the same.
    area = area_of(made.outline.transformed(shift(0, 0, per_dot)), SCREEN.chord, SCREEN.turn)
    down = made.outline.transformed(shift(width / 2, -height / 2))
    told: list[str] = []
    if per_dot > COARSE:
        told.append(
            f"At this size each of its dots is {per_dot:.2f} mm: edges will look rough. "
            "A larger scan, or a smaller piece, comes out better."
        )
    if made.two_valued:
        told.append("It is in black and white only, without greys: its stair steps are evened out.")
    bounds = made.outline.bounds() if len(made.outline.segments) else None
    return TraceReply(
        path=svg_path.curves(down.contours()),
        bounds_px=bounds,
        threshold=made.threshold,
        smooth=made.smooth,
        pieces=len(area.geoms),
        holes=sum(len(one.interiors) for one in area.geoms),
        specks=made.specks,
        filled=made.filled,
        thinnest_mm=thinnest_stroke(Region.of(area)),
        told=told,
        width_px=width,
        height_px=height,
    )


def _picture(id: str, name: str, png: bytes, density: float | None) -> FileReply:
    width, height = size_of(png)
    per_dot = 25.4 / density if density else USUAL_WIDTH / width
    return FileReply(
        id=id,
        kind="picture",
        name=name,
        sized=density is not None,
        width_mm=width * per_dot,
        height_mm=height * per_dot,
        told=[] if density else ["It does not say how large it is: set its width."],
        count=0,
        elements=[],
        width_px=width,
        height_px=height,
    )


def _reply(id: str, name: str, read: DrawingFile) -> FileReply:
    x0, y0, x1, y1 = read.bounds
    x, y = read.middle
    return FileReply(
        id=id,
        kind="drawing",
        name=name,
        sized=read.sized,
        width_mm=x1 - x0,
        height_mm=y1 - y0,
        told=list(read.told),
        count=len(read.elements),
        texts=list(read.texts),
        pictures=[
            EmbeddedReply(number=number, x_mm=one.x - x, y_mm=one.y - y, width_mm=one.width)
            for number, one in enumerate(read.pictures)
        ],
        elements=[_element(number, one, read) for number, one in enumerate(read.elements[:MOST_LISTED])],
    )


def _element(number: int, one: Element, read: DrawingFile) -> ElementReply:
    x, y = read.middle
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
