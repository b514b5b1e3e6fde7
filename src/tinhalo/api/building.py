"""Build a design as it stands in the browser."""

from __future__ import annotations

from typing import Annotated, Literal

import shapely
from fastapi import APIRouter, Request
from pydantic import BaseModel, Field
from shapely import MultiPolygon, Polygon

from tinhalo.api.painting import PaintReply, paint_reply
from tinhalo.api.waiting import unless_gone
from tinhalo.api.workshop import Shop, Workshop
from tinhalo.core.artwork.art import Distances, Group, Part
from tinhalo.core.artwork.lettering.set_words import SetWords
from tinhalo.core.artwork.lettering.typeset import Typeset
from tinhalo.core.artwork.seams import seams as seams_of
from tinhalo.core.design.design import Design
from tinhalo.core.engine.built import Build, BuiltArt, BuiltLayer
from tinhalo.core.engine.resize import Side, resize
from tinhalo.core.engine.widths import layer_widths
from tinhalo.core.findings.causes import Cause, causes_of
from tinhalo.core.findings.finding import Finding
from tinhalo.core.geometry.exact.shared_edges import CutLines
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.output import svg_path
from tinhalo.core.runtime.memo import Memo

router = APIRouter(prefix="/api", tags=["build"])

Bounds = tuple[float, float, float, float]


class StageRequest(BaseModel):
    """A document, and a step of a layer's recipe."""

    document: Design
    layer: str
    step: Annotated[int, Field(ge=0)]


class StageReply(BaseModel):
    """Outlines (mm, y down) before and after a step; empty where there is no such step."""

    before: str
    after: str


class BuildRequest(BaseModel):
    """A document, how exactly it is wanted, and the keys of outlines the browser already holds.

    ``parts_of`` asks for the single parts of one piece of art, ``seams`` for the lines that uniting removed,
    ``checks`` for all findings (those of the outlines that leave, also while it is not ``exact``), and ``widths`` for
    each layer's narrowest stroke: these take longer than the outlines, so ask once those are shown.
    """

    document: Design
    exact: bool = False
    have: list[str] = []
    parts_of: str | None = None
    seams: bool = False
    checks: bool = False
    widths: bool = False


class TabReply(BaseModel):
    """Where a tab's hole is (y up), and the box that its direction is measured in."""

    at_mm: tuple[float, float]
    box_mm: Bounds


class HolesReply(BaseModel):
    """Where the holes of a step are (y up), and the box that their places are shares of."""

    at_mm: list[tuple[float, float]]
    box_mm: Bounds


class NoteReply(BaseModel):
    """What a step did: see ``StepNote`` of the core."""

    step: int
    wider_mm: float | None
    closed_mm: list[float]
    new_holes: int
    dropped: int
    filled: int
    pieces: int | None
    missing: int
    tab: TabReply | None
    holes: HolesReply | None


class NarrowestReply(BaseModel):
    """A layer's narrowest stroke, and where it is (y up)."""

    width_mm: float
    at_mm: tuple[float, float]


class LayerReply(BaseModel):
    """One layer: ``path`` is SVG path data in mm with y down, left out when the browser holds ``key``.

    ``notes`` tell what its steps did. ``cut_path`` is what leaves, where that is not the whole outline,
    ``paint`` what it is printed with over its colour.
    """

    id: str
    key: str
    path: str | None
    cut_path: str | None
    paint: PaintReply | None
    area_mm2: float
    cut_length_mm: float
    pieces: int
    holes: int
    marks: int
    bounds_mm: Bounds | None
    notes: list[NoteReply]
    narrowest: NarrowestReply | None


class LooseReply(BaseModel):
    """A piece that does not hold to its word: what it is called, why, its parts and its outline."""

    name: str
    why: Literal["mark", "letters", "apart"]
    parts: list[int]
    path: str


class WordReply(BaseModel):
    """A word and how many pieces it falls into."""

    text: str
    pieces: int
    loose: list[LooseReply]


class PartReply(BaseModel):
    """One part as it stands, a letter of words: its index, what is typed for it, its outline and bounds."""

    index: int
    text: str
    path: str
    bounds_mm: Bounds


class LinesReply(BaseModel):
    """How the lines of a block of words stand before it is placed: their distance, and the measures of their curve."""

    distance_mm: float
    radius_mm: float | None
    wave_mm: float | None


class ArtReply(BaseModel):
    """A piece of art: outline and bounds as it stands (y up), and its box before it was placed."""

    id: str
    bounds_mm: Bounds | None
    box_mm: Bounds | None
    lines: LinesReply | None
    words: list[WordReply]
    parts: list[PartReply] | None
    seams: str | None


class LevelReply(BaseModel):
    """How a layer lies in the stack: heights over the table, and ids of what it lies on."""

    layer: str
    bottom_mm: float
    top_mm: float
    rests_on: list[str]


class StackReply(BaseModel):
    """The stack from the top to the bottom."""

    height_mm: float
    levels: list[LevelReply]


class BuildReply(BaseModel):
    """Art and layers in the document's order, the bounds of all that leaves and of what is made (y up), and findings,
    also by their causes.

    Those that look at shapes are among them once ``checked``, and the stack is there then.
    """

    art: list[ArtReply]
    layers: list[LayerReply]
    bounds_mm: Bounds | None
    finished_mm: Bounds | None
    findings: list[Finding]
    causes: list[Cause]
    checked: bool
    stack: StackReply | None


@router.post("/build")
async def build_design(request: BuildRequest, shop: Shop, asked: Request) -> BuildReply:
    """Outlines, measures and findings of a document. Given up when the browser no longer waits for them."""
    return await unless_gone(asked, lambda: _build(request, shop))


def _build(request: BuildRequest, shop: Workshop) -> BuildReply:
    built = shop.build(request.document, exact=request.exact)
    have = set(request.have)
    findings = shop.findings(built, shapes=request.checks)
    return BuildReply(
        art=[_art(one, parts=one.art.id == request.parts_of, seams=request.seams) for one in built.art],
        layers=[_layer(built, b, have, shop.memo if request.widths else None) for b in built.layers],
        bounds_mm=built.bounds,
        finished_mm=built.finished,
        findings=findings,
        causes=list(causes_of(findings, request.document)),
        stack=_stack(built) if request.checks else None,
        checked=request.checks,
    )


@router.post("/stage")
async def step_outlines(request: StageRequest, shop: Shop, asked: Request) -> StageReply:
    """The outlines before and after one step, as on screen. Given up when the browser no longer waits."""
    return await unless_gone(asked, lambda: _stage(request, shop))


def _stage(request: StageRequest, shop: Workshop) -> StageReply:
    built = shop.build(request.document, exact=False)
    stages = next((one.stages for one in built.layers if one.layer.id == request.layer), ())
    if request.step + 1 >= len(stages):
        return StageReply(before="", after="")
    before, after = stages[request.step], stages[request.step + 1]
    return StageReply(before=_flat(before.region), after=_flat(after.region))


class ResizeRequest(BaseModel):
    """A document, the side of everything that leaves, its wanted length, and what becomes of distances."""

    document: Design
    side: Side
    to_mm: Annotated[float, Field(gt=0, le=10_000, allow_inf_nan=False)]
    distances: Distances


@router.post("/resize")
async def resize_design(request: ResizeRequest, shop: Shop, asked: Request) -> Design:
    """The document with another finished size. Given up when the browser no longer waits."""
    wanted = request.side, request.to_mm, request.distances
    return await unless_gone(asked, lambda: resize(request.document, shop.library, *wanted, shop.memo))


def _art(built: BuiltArt, *, parts: bool, seams: bool) -> ArtReply:
    drawn = built.drawn
    return ArtReply(
        id=built.art.id,
        bounds_mm=built.region.bounds,
        box_mm=built.box,
        lines=_lines(drawn.typeset) if isinstance(drawn, SetWords) else None,
        words=[_word(word, parts or drawn.meant_to_hold) for word in drawn.groups],
        parts=[_part(part) for part in drawn.parts.values() if part.pieces] if parts else None,
        seams=svg_path.lines(seams_of(drawn.parts.values())) if seams else None,
    )


def _lines(words: Typeset) -> LinesReply:
    line = words.line
    return LinesReply(distance_mm=words.line_distance, radius_mm=line and line.radius, wave_mm=line and line.length)


def _word(word: Group, outlined: bool) -> WordReply:
    return WordReply(
        text=word.text,
        pieces=word.pieces,
        loose=[
            LooseReply(
                name=one.name,
                why=one.why,
                parts=list(one.parts),
                path=svg_path.polygons(one.polygons) if outlined else "",
            )
            for one in word.loose
        ],
    )


def _part(part: Part) -> PartReply:
    return PartReply(
        index=part.index,
        text=part.text,
        path=svg_path.polygons(part.pieces),
        bounds_mm=MultiPolygon(part.pieces).bounds,
    )


def _stack(built: Build) -> StackReply:
    levels = [
        LevelReply(layer=one.layer.id, bottom_mm=one.bottom, top_mm=one.top, rests_on=list(one.rests_on))
        for one in built.stack.levels
    ]
    return StackReply(height_mm=built.stack.height, levels=levels)


def _layer(made: Build, built: BuiltLayer, have: set[str], memo: Memo | None) -> LayerReply:
    measures = built.measures
    path = None
    if built.key not in have:
        path = _flat(built.region)
        if built.cut:
            path = svg_path.curves(built.cut.outline.contours()) + svg_path.marks(built.region.marks)
    return LayerReply(
        id=built.layer.id,
        key=built.key,
        path=path,
        cut_path=_cut_path(built.cut_lines) if built.cut_lines else None,
        paint=paint_reply(made, built),
        area_mm2=measures.area,
        cut_length_mm=measures.cut_length,
        pieces=measures.pieces,
        holes=measures.holes,
        marks=measures.marks,
        bounds_mm=measures.bounds,
        notes=[
            NoteReply(
                step=index,
                wider_mm=note.wider,
                closed_mm=list(note.closed),
                new_holes=note.new_holes,
                dropped=note.dropped,
                filled=note.filled,
                pieces=note.pieces,
                missing=note.missing,
                tab=TabReply(at_mm=(note.tab.x, note.tab.y), box_mm=note.tab.box) if note.tab else None,
                holes=HolesReply(at_mm=note.holes.middles.tolist(), box_mm=note.holes.box) if note.holes else None,
            )
            for index, note in enumerate(built.notes)
            if note
        ],
        narrowest=_narrowest(built, memo) if memo else None,
    )


def _cut_path(lines: CutLines) -> str:
    return svg_path.curves([*lines.whole, *lines.runs])


def _flat(region: Region) -> str:
    # Arcs upon arcs have far more vertices than a screen shows: fewer are sent and painted several times as fast.
    areas = shapely.get_parts(shapely.simplify(region.area, _ON_SCREEN, preserve_topology=False))
    return svg_path.polygons([one for one in areas if isinstance(one, Polygon)]) + svg_path.marks(region.marks)


#: Half a pixel at twenty-five pixels a millimetre, in mm.
_ON_SCREEN = 0.02


def _narrowest(built: BuiltLayer, memo: Memo) -> NarrowestReply | None:
    strokes = layer_widths(built, memo).strokes
    if strokes.narrowest is None or strokes.narrowest_at is None:
        return None
    return NarrowestReply(width_mm=strokes.narrowest, at_mm=strokes.narrowest_at)
