"""Carving: what is carved how, with the reason for each number; the surface that comes of it; and tools."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, HTTPException, Request, Response
from pydantic import BaseModel, Field

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop, Workshop
from tinhalo.core.artwork.error import ArtError
from tinhalo.core.design.design import Design
from tinhalo.core.engine.carved import Carved, carved
from tinhalo.core.output.gcode import file_names
from tinhalo.core.output.milling import Work, work_of
from tinhalo.core.output.relief import Relief, relief, section
from tinhalo.core.runtime.memo import digest
from tinhalo.core.runtime.progress import part
from tinhalo.core.tools import TOOLS, Tool, VBit
from tinhalo.core.units import MM_PER_INCH, length

router = APIRouter(prefix="/api", tags=["carving"])

#: Cells along the longer side of a relief, at most.
_CELLS = 2_000
#: About the share of a relief's time that its paths take.
_PATHS = 0.75
_Coordinate = Annotated[float, Field(ge=-100_000, le=100_000, allow_inf_nan=False)]


class CarvingRequest(BaseModel):
    """A document that is carved."""

    document: Design


class PassReply(BaseModel):
    """One pass: where it starts and how deep it goes, in mm; and by how much what stands higher has grown by then."""

    title: str
    start_mm: float
    depth_mm: float
    grown_mm: list[float]
    reasons: list[str]


class OperationReply(BaseModel):
    """One thing that is done with one tool."""

    title: str
    tool: str
    cut_mm: float
    seconds: float


class CarvingReply(BaseModel):
    """How a design is carved."""

    stock_mm: tuple[float, float, float, float]
    thickness_mm: float
    depth_mm: float
    passes: list[PassReply]
    operations: list[OperationReply]
    files: list[str]
    told: list[str]


class ReliefRequest(BaseModel):
    """A document, which of its levels (all where none are named), and cells along the longer side."""

    document: Design
    levels: Annotated[list[int], Field(max_length=6)] = []
    cells: Annotated[int, Field(ge=10, le=_CELLS)] = 600


class SectionRequest(BaseModel):
    """A document, which of its levels, and the line that is cut along, in mm."""

    document: Design
    levels: Annotated[list[int], Field(max_length=6)] = []
    start: tuple[_Coordinate, _Coordinate]
    end: tuple[_Coordinate, _Coordinate]
    places: Annotated[int, Field(ge=2, le=2_000)] = 600


class SectionReply(BaseModel):
    """Along the line: how far, and the heights as carved and as wanted, in mm."""

    along_mm: list[float]
    carved_mm: list[float]
    wanted_mm: list[float]


class ToolReply(BaseModel):
    """A tool; ``own`` ones can be changed and removed."""

    tool: Tool
    own: bool


@router.post("/carving")
async def look_at_carving(request: CarvingRequest, shop: Shop, asked: Request) -> CarvingReply:
    """How a document is carved. Given up when the browser no longer waits."""
    return await unless_gone(asked, lambda: _reply(request.document, *_worked_out(shop, request.document)))


@router.post("/carving/relief", response_class=Response)
async def show_relief(request: ReliefRequest, shop: Shop, asked: Request) -> Response:
    """The carved surface, as ``Relief.packed`` has it. Given up when the browser no longer waits."""

    def make() -> bytes:
        with part(0, _PATHS):
            one, work = _worked_out(shop, request.document)
        key = digest("relief", one.key, str(sorted(request.levels)), str(request.cells))
        with part(_PATHS, 1):
            made = shop.memo.get(key, Relief, lambda: relief(one, work, request.cells, request.levels or None))
        return made.packed()

    return Response(await unless_gone(asked, make), media_type="application/octet-stream")


@router.post("/carving/section")
async def cut_through(request: SectionRequest, shop: Shop, asked: Request) -> SectionReply:
    """A cut through the relief along a line."""

    def make() -> SectionReply:
        found = section(
            *_worked_out(shop, request.document), request.start, request.end, request.places, request.levels or None
        )
        return SectionReply(
            along_mm=found.along.round(4).tolist(),
            carved_mm=found.carved.round(4).tolist(),
            wanted_mm=found.wanted.round(4).tolist(),
        )

    return await unless_gone(asked, make)


@router.get("/tools")
def list_tools(shop: Shop) -> list[ToolReply]:
    """The maker's own tools, then those that come with the app."""
    own, shipped = shop.tools.list(), TOOLS
    return [ToolReply(tool=one, own=True) for one in own] + [ToolReply(tool=one, own=False) for one in shipped]


@router.put("/tools")
def save_tool(tool: Tool, shop: Shop) -> ToolReply:
    """Save an own tool under its name, new or changed."""
    if any(one.name == tool.name for one in TOOLS):
        raise HTTPException(409, "A tool that comes with the app is called so: give yours another name.")
    shop.tools.put(tool)
    return ToolReply(tool=tool, own=True)


@router.delete("/tools/{name:path}", status_code=204)
def remove_tool(name: str, shop: Shop) -> None:
    """Forget an own tool. Designs that use it keep it."""
    if not shop.tools.remove(name):
        raise HTTPException(404, "This tool is not among yours: it may have been removed already.")


def _worked_out(shop: Workshop, document: Design) -> tuple[Carved, Work]:
    one = carved(shop.build(document, exact=True))
    if one is None:
        raise ArtError("Nothing of this design is carved: set a layer to “Carve” first.")
    return one, work_of(one, document.unit, shop.memo)


def _reply(document: Design, one: Carved, work: Work) -> CarvingReply:
    return CarvingReply(
        stock_mm=one.stock,
        thickness_mm=one.thickness,
        depth_mm=one.depth,
        passes=[
            PassReply(
                title=each.title,
                start_mm=each.start,
                depth_mm=each.depth,
                grown_mm=list(each.grown),
                reasons=[
                    _reason(document, one.set.bit, each.start - higher.start, by)
                    for higher, by in zip(one.passes, each.grown, strict=False)
                ],
            )
            for each in one.passes
        ],
        operations=[
            OperationReply(title=op.title, tool=op.tool.name, cut_mm=op.cut_mm, seconds=op.seconds(one.set.safe))
            for op in work.operations
        ],
        files=file_names(one, work),
        told=[*one.told, *work.told],
    )


def _reason(document: Design, bit: VBit, depth: float, grown: float) -> str:
    """“2.5 mm × tan(60° / 2) = 1.44 mm”: a number and where it comes from."""
    unit = document.unit
    # Four places of an inch, as tables for carvers have it.
    told = length(grown) if unit == "mm" else f"{grown / MM_PER_INCH:.4f} in"
    return f"{length(depth, unit)} × tan({bit.angle:g}° / 2) = {told}"
