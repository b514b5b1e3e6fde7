"""Practice machines: what they do, their panels, and the jobs that wait for them."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime
from itertools import groupby, pairwise
from typing import Annotated, Literal

import numpy as np
import shapely
from fastapi import APIRouter, HTTPException, Query, Request, Response
from pydantic import BaseModel, Field

from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop, Workshop
from tinhalo.core.artwork.error import ArtError
from tinhalo.core.design.design import Design
from tinhalo.core.engine.built import Build
from tinhalo.core.engine.carved import carved
from tinhalo.core.geometry.carving.heights import Grid, cut
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.materials import Material
from tinhalo.core.output import gcode, hpgl
from tinhalo.core.output.board import Board, boards_of, on_board
from tinhalo.core.output.drawing import Drawing
from tinhalo.core.output.lining_up import framed_drawing
from tinhalo.core.output.milling import work_of
from tinhalo.core.output.path_order import ordered
from tinhalo.core.output.relief import Fault, Relief
from tinhalo.core.output.sheets import sheets_of
from tinhalo.core.output.trial_cut import trial_cut
from tinhalo.core.tools import TOOLS
from tinhalo.shop.hall import Hall
from tinhalo.shop.machine import Machine, State, read
from tinhalo.shop.mill import is_mill_text
from tinhalo.shop.mill import profile as mill_profile
from tinhalo.shop.program import UNITS, Move
from tinhalo.store.jobs import CutState, Job, JobState, Traced

router = APIRouter(prefix="/api", tags=["machines"])

#: Between a design's name and which part of its carving a job is.
_CARVED = ": carving, part "
#: Cells along the longer side of what is carved so far.
_CELLS = 500
#: Thinner than this a knife cuts, in mm (common practice).
_KNIFE = 0.5


class JobReply(BaseModel):
    """A job: where it stands, how much of its way is done, its page and the length of its lines in mm."""

    id: int
    title: str
    material: str
    tool: str
    state: JobState
    cut: CutState | None
    share: float
    width_mm: float
    height_mm: float
    length_mm: float
    added: datetime
    carves: bool


class MachineReply(BaseModel):
    """A practice machine: what it does, what is set at it, its jobs, and the port that it listens at."""

    id: str
    name: str
    state: State
    tools: list[str]
    tool: str
    left_mm: float
    roll_mm: float | None
    bed_mm: tuple[float, float]
    pace: float
    port: int
    current: int | None
    jobs: list[JobReply]


class PanelRequest(BaseModel):
    """What is pressed at a machine's panel."""

    press: Literal["on", "off", "pause", "go_on", "stop", "anyway", "give_up", "load", "tool", "pace"]
    tool: Annotated[str, Field(max_length=32)] = ""
    pace: Annotated[float, Field(ge=0.1, le=1_000, allow_inf_nan=False)] = 1


class SendRequest(BaseModel):
    """A document, and which of its boards, or of its sheets, is to be cut; or its carving, a job for each tool.

    ``what`` sends the way around it with the tool lifted, or a test cut of its material, in place of the job.
    """

    document: Design
    board: Annotated[int, Field(ge=0, le=1_000)] = 0
    sheet: Annotated[int | None, Field(ge=0, le=2_000)] = None
    carving: bool = False
    what: Literal["job", "outline", "test"] = "job"
    origin: Literal["corner", "centre"] = "corner"


class CutTraceReply(BaseModel):
    """What was asked and what was cut so far, as path data in mm, y down, and how far they are apart at most.

    ``low_mm`` is the lower left corner of the job, from the machine's origin.
    """

    asked: str
    cut: str
    here_mm: tuple[float, float]
    low_mm: tuple[float, float]
    width_mm: float
    height_mm: float
    deviation_mm: float


@router.get("/machines")
def list_machines(shop: Shop) -> list[MachineReply]:
    """All practice machines."""
    return [_machine(one, shop) for one in _hall(shop).machines.values()]


@router.post("/machines/{id}/panel")
def press(id: str, request: PanelRequest, shop: Shop) -> MachineReply:
    """Press something at a machine's panel."""
    machine = _found(shop, id)
    if request.press == "tool" and request.tool not in machine.model.tools:
        raise HTTPException(422, f"{machine.model.name} has no such tool.")
    _PRESSED[request.press](machine, request)
    return _machine(machine, shop)


@router.post("/machines/{id}/jobs", status_code=201)
async def send_job(id: str, request: SendRequest, shop: Shop, asked: Request) -> JobReply:
    """Send a board or a sheet of a design to a machine; it waits there until that is ready."""
    machine = _found(shop, id)
    send = _send_carving if request.carving else _send
    return await unless_gone(asked, lambda: send(machine, request, shop))


@router.post("/machines/fit")
async def list_refusals(request: SendRequest, shop: Shop, asked: Request) -> dict[str, str]:
    """By machine why it cannot make a board, sheet or carving, as a sentence; empty where it can."""
    return await unless_gone(asked, lambda: _refusals(request, shop))


def _refusals(request: SendRequest, shop: Workshop) -> dict[str, str]:
    built = shop.build(request.document, exact=True)
    models = [one.model for one in _hall(shop).machines.values()]
    if request.carving:
        one = carved(built)
        x0, y0, x1, y1 = one.stock if one else (0.0, 0.0, 0.0, 0.0)
        mills = tuple(tool.name for tool in TOOLS)
        return {model.id: model.refusal((x1 - x0, y1 - y0), mills, "a carving") for model in models}
    drawing, board = _wanted(built, request)
    material, tools = _needed(built, board)
    return {model.id: model.refusal(drawing.size, tools, material.name) for model in models}


@router.delete("/machines/{id}/jobs")
def clear_jobs(id: str, shop: Shop) -> int:
    """Forget a machine's jobs that are over; how many they were."""
    return shop.jobs.clear(_found(shop, id).model.id)


@router.delete("/jobs/{id}", status_code=204)
def cancel_job(id: int, shop: Shop) -> None:
    """Take back a job that waits."""
    if not shop.jobs.cancel(id):
        raise HTTPException(409, "This job does not wait any more: stop it at its machine.")


@router.post("/jobs/{id}/again", status_code=201)
def send_again(id: int, shop: Shop, machine: Annotated[str, Query(max_length=32)] = "") -> JobReply:
    """Send a job once more, to the same machine or another."""
    found = shop.jobs.job(id)
    if found is None:
        raise HTTPException(404, "This job is not here any more.")
    job, text = found
    there = _found(shop, machine or job.machine)
    sizes = job.width_mm, job.height_mm, job.length_mm
    made = shop.jobs.add(there.model.id, job.title, job.material, job.tool, text, sizes)
    return _job(_added(shop, made), None, None)


@router.get("/jobs/{id}/trace")
def look_at_trace(id: int, shop: Shop) -> CutTraceReply:
    """What was asked of a machine, and what it has cut so far."""
    found = shop.jobs.job(id)
    if found is None:
        raise HTTPException(404, "This job is not here any more.")
    job, text = found
    moves = read(text).moves
    # Where nothing is cut, as around an outline, the way itself is shown.
    asked = _asked(moves) or _asked(tuple(replace(one, down=True) for one in moves))
    at = next((m.at for m in _hall(shop).machines.values() if m.at and m.at.job == id), None)
    cut = at or shop.jobs.cut(id)
    traced = [list(line) for line in cut.traced] if cut else []
    last = moves[cut.done - 1] if cut and 0 < cut.done <= len(moves) else Move(0, 0, False, 0)
    here = traced[-1][-1] if traced else (round(last.x), round(last.y))
    # From a corner nothing lies before the origin.
    centred = any(one.x < 0 or one.y < 0 for one in moves)
    low = (-job.width_mm / 2, -job.height_mm / 2) if centred else (0.0, 0.0)
    return CutTraceReply(
        asked=_path(asked),
        cut=_path(traced),
        here_mm=(here[0] / UNITS, here[1] / UNITS),
        low_mm=low,
        width_mm=job.width_mm,
        height_mm=job.height_mm,
        deviation_mm=_apart(traced, asked),
    )


@router.get("/jobs/{id}/relief", response_class=Response)
async def look_at_relief(id: int, shop: Shop, asked: Request) -> Response:
    """What a mill has carved so far, the parts of the carving before it too; see ``Relief.packed``."""
    found = shop.jobs.job(id)
    if found is None or not is_mill_text(found[1]):
        raise HTTPException(404, "No mill carves this job.")
    return Response(
        await unless_gone(asked, lambda: _carved_so_far(shop, *found)), media_type="application/octet-stream"
    )


def _carved_so_far(shop: Workshop, job: Job, text: str) -> bytes:
    title = job.title.split(_CARVED)[0]
    before = [one for one in shop.jobs.jobs(job.machine) if one.id < job.id and one.title.startswith(title + _CARVED)]
    number = int(job.title.split(_CARVED)[1].split()[0])
    # Those right before it, so many as it says.
    parts = [(one, found[1]) for one in before[-(number - 1) :] if number > 1 and (found := shop.jobs.job(one.id))]
    grid = Grid.over((0, 0, job.width_mm, job.height_mm), max(job.width_mm, job.height_mm) / _CELLS)
    heights = grid.flat()
    for one, its in [*parts, (job, text)]:
        at = next((m.at for m in _hall(shop).machines.values() if m.at and m.at.job == one.id), None)
        cut_so_far = at or shop.jobs.cut(one.id)
        shape = mill_profile(its)
        if cut_so_far is None or shape is None:
            continue
        moves = read(its).moves[: cut_so_far.done]
        way = np.array([(0, 0, 0), *((m.x / UNITS, m.y / UNITS, m.z) for m in moves)], float)
        lowered = np.flatnonzero([m.down for m in moves])
        cut(heights, grid, [way[k : k + 2] for k in lowered.tolist()], shape)
    none = Fault(0, 0, None)
    return Relief(grid, heights, np.zeros_like(heights), none, none).packed()


_PRESSED = {
    "on": lambda machine, _: machine.set_online(True),
    "off": lambda machine, _: machine.set_online(False),
    "pause": lambda machine, _: machine.pause(),
    "go_on": lambda machine, _: machine.go_on(),
    "stop": lambda machine, _: machine.stop(),
    "anyway": lambda machine, _: machine.go_on(anyway=True),
    "give_up": lambda machine, _: machine.give_up(),
    "load": lambda machine, _: machine.load(),
    "tool": lambda machine, request: machine.put_in(request.tool),
    "pace": lambda machine, request: machine.quicken(request.pace),
}


def _hall(shop: Workshop) -> Hall:
    return shop.hall


def _found(shop: Workshop, id: str) -> Machine:
    machine = _hall(shop).machines.get(id)
    if machine is None:
        raise HTTPException(404, "There is no such machine.")
    return machine


def _send(machine: Machine, request: SendRequest, shop: Workshop) -> JobReply:
    built = shop.build(request.document, exact=True)
    drawing, board = _wanted(built, request)
    centred = request.origin == "centre"
    title = f"{request.document.name}: {drawing.title}"
    if request.what == "test":
        drawing = trial_cut(drawing)
        title += ", test cut"
    strokes = ordered(drawing)
    if not strokes:
        raise ArtError("No tool follows anything of it: what is printed leaves as PDF, PNG or SVG.")
    material, tools = _needed(built, board)
    if refusal := machine.model.refusal(drawing.size, tools, material.name):
        raise ArtError(refusal)
    # Plotters are told their speed in cm a second (HP 7475A manual, VS).
    speed = f"IN;\nVS{material.limits.speed / 10:g};\n"
    if request.what == "outline":
        written, length, title = hpgl.outline(drawing, centred=centred), 0.0, f"{title}, outline"
    else:
        written = hpgl.write(drawing, request.document.hand_over, centred=centred)
        length = Outline.from_contours([one.contour for one in strokes]).length
    text = written.decode("ascii").replace("IN;\n", speed, 1)
    sizes = (*drawing.size, length)
    tool = next(one for one in tools if one in machine.model.tools)
    return _job(
        _added(shop, shop.jobs.add(machine.model.id, title[:200], material.name, tool, text, sizes)), None, None
    )


def _send_carving(machine: Machine, request: SendRequest, shop: Workshop) -> JobReply:
    """A job for each tool, in order; the first of them."""
    built = shop.build(request.document, exact=True)
    one = carved(built)
    if one is None:
        raise ArtError("Nothing of this design is carved.")
    work = work_of(one, request.document.unit, shop.memo)
    each = one.set.model_copy(update={"change": "files"})
    texts = list(gcode.files(request.document.name, replace(one, set=each), work).values())
    if not texts:
        raise ArtError("Nothing of it is carved.")
    x0, y0, x1, y1 = one.stock
    mills = tuple(op.tool.name for op in work.operations)
    if refusal := machine.model.refusal((x1 - x0, y1 - y0), mills, "a carving"):
        raise ArtError(refusal)
    runs = [list(ops) for _, ops in groupby(work.operations, key=lambda op: op.tool)]
    made: list[int] = []
    for number, (text, ops) in enumerate(zip(texts, runs, strict=True), 1):
        title = f"{request.document.name[:150]}{_CARVED}{number} of {len(texts)}"
        sizes = (x1 - x0, y1 - y0, sum(op.cut_mm for op in ops))
        board = next(b for b in built.layers if b.layer.id == one.set.board).material.name
        made.append(shop.jobs.add(machine.model.id, title, board, ops[0].tool.name[:32], text.decode("ascii"), sizes))
    return _job(_added(shop, made[0]), None, None)


def _wanted(built: Build, request: SendRequest) -> tuple[Drawing, Board]:
    if request.sheet is not None:
        sheets = sheets_of(built)
        if request.sheet >= len(sheets):
            raise ArtError("That sheet is not there: lay the pieces out anew.")
        return sheets[request.sheet].drawing, sheets[request.sheet].board.board
    boards = boards_of(built)
    if request.board >= len(boards):
        raise ArtError("That board is not there: nothing of it leaves.")
    board = boards[request.board]
    return on_board(built, framed_drawing(built), board), board


def _needed(built: Build, board: Board) -> tuple[Material, tuple[str, ...]]:
    """The board's material, and the tools that it can be cut with, the usual one first."""
    ground = next(one for one in built.layers if one.layer.id == board.layers[-1]).material
    if ground.limits.tool:
        return ground, (f"{ground.limits.tool:g} mm mill",)
    if ground.limits.weeded:
        return ground, ("knife",)
    return ground, ("knife", "beam") if ground.thickness < _KNIFE else ("beam",)


def _added(shop: Workshop, id: int) -> Job:
    found = shop.jobs.job(id)
    assert found
    return found[0]


def _machine(machine: Machine, shop: Workshop) -> MachineReply:
    settings, at = machine.settings, machine.at
    cuts = shop.jobs.states(machine.model.id)
    jobs = [_job(one, cuts.get(one.id), machine) for one in shop.jobs.jobs(machine.model.id, 60)]
    return MachineReply(
        id=machine.model.id,
        name=machine.model.name,
        state=machine.state,
        tools=list(machine.model.tools),
        tool=settings.tool,
        left_mm=settings.left_mm,
        roll_mm=machine.model.roll_mm,
        bed_mm=machine.model.bed_mm,
        pace=settings.pace,
        port=machine.port,
        current=at.job if at else None,
        jobs=jobs,
    )


def _job(job: Job, cut: CutState | None, machine: Machine | None) -> JobReply:
    at = machine.at if machine else None
    going = at if at and at.job == job.id else None
    share = 1.0 if cut == "done" else going.done / max(going.moves, 1) if going else 0.0
    return JobReply(
        id=job.id,
        title=job.title,
        material=job.material,
        tool=job.tool,
        state=job.state,
        cut=going.state if going else cut,
        share=share,
        width_mm=job.width_mm,
        height_mm=job.height_mm,
        length_mm=job.length_mm,
        added=job.added,
        carves=_CARVED in job.title,
    )


def _asked(moves: tuple[Move, ...]) -> Traced:
    lines: Traced = []
    here = (0, 0)
    for move in moves:
        there = (round(move.x), round(move.y))
        if move.down and there != here:
            if not lines or lines[-1][-1] != here:
                lines.append([here])
            lines[-1].append(there)
        here = there
    return lines


def _path(lines: Traced) -> str:
    return "".join("M" + "L".join(f"{x / UNITS:g},{-y / UNITS:g}" for x, y in line) for line in lines if len(line) > 1)


def _apart(traced: Traced, asked: Traced) -> float:
    """How far what was cut lies from what was asked, at most, in mm."""
    cut = [np.array(line) / UNITS for line in traced if len(line) > 1]
    if not cut or not asked:
        return 0.0
    edges = [pair for line in asked for pair in pairwise(line)]
    tree = shapely.STRtree(np.asarray(shapely.linestrings(np.array(edges) / UNITS)))
    _, far = tree.query_nearest(shapely.points(np.concatenate(cut)), return_distance=True, all_matches=False)
    return float(far.max())
