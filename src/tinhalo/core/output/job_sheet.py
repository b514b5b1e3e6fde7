"""The job sheet: one or two pages for whoever makes the piece, from its picture to the order of work."""

from __future__ import annotations

import io
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any
from xml.sax.saxutils import escape

from reportlab.lib.colors import HexColor
from reportlab.lib.styles import ParagraphStyle
from reportlab.platypus import Flowable, Image, KeepTogether, Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

from tinhalo.core.design.hand_over import CUTS, LINES, Process
from tinhalo.core.engine.built import Build, BuiltLayer
from tinhalo.core.engine.carved import carved
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.materials import Material
from tinhalo.core.output.board import Board, boards_of, is_mirrored, on_board
from tinhalo.core.output.drawing import Drawing, style_of
from tinhalo.core.output.job import job_of, time_of
from tinhalo.core.output.lining_up import framed_drawing
from tinhalo.core.output.milling import work_of
from tinhalo.core.output.paper_text import DARK, FONT, PALE, SOFT, make_ready, spelt
from tinhalo.core.output.pdf import POINTS
from tinhalo.core.output.png import picture_of
from tinhalo.core.output.proof import PAPERS, Paper
from tinhalo.core.output.sheets import sheets_of
from tinhalo.core.output.shown import seen
from tinhalo.core.runtime.memo import Memo
from tinhalo.core.units import Unit, length

#: What is done by each process, as one says it of a layer.
DONE: dict[Process, str] = {
    "cut": "cut",
    "through": "cut through",
    "score": "scored",
    "draw": "drawn",
    "engrave": "engraved",
    "print": "printed",
    "carve": "carved",
    "guide": "a guide",
}
_EDGE, _PICTURE = 14.0, 62.0
_DOTS = 200
_BODY = ParagraphStyle("body", fontName=FONT, fontSize=8.5, leading=11, textColor=HexColor(DARK))
_HEAD = ParagraphStyle("head", parent=_BODY, fontSize=11, leading=14, spaceBefore=7, spaceAfter=3)
_TITLE = ParagraphStyle("title", parent=_BODY, fontSize=17, leading=21)
_SMALL = ParagraphStyle("small", parent=_BODY, fontSize=7.5, leading=9.5, textColor=HexColor(SOFT))


@dataclass(frozen=True)
class Listed:
    """One name of a list, for its line: which row it is, the name, and how many are made."""

    row: int
    name: str
    copies: int


def write(build: Build, paper: Paper = "a4", listed: Sequence[Listed] = (), memo: Memo | None = None) -> bytes:
    """The sheet as PDF; ``build`` must be exact. ``memo`` keeps what the mill does."""
    make_ready()
    held = io.BytesIO()
    width, height = PAPERS[paper]
    edge = _EDGE * POINTS
    page = SimpleDocTemplate(
        held,
        pagesize=(width * POINTS, height * POINTS),
        leftMargin=edge,
        rightMargin=edge,
        topMargin=edge,
        bottomMargin=edge,
        title=f"{build.design.name}: job sheet",
        creator="Tin Halo",
        invariant=1,
    )
    # A frame keeps six points free on either side.
    room = (width - 2 * _EDGE) * POINTS - 12
    story: list[Flowable] = [_text(build.design.name, _TITLE), _text(_size_of(build), _BODY), Spacer(0, 6)]
    story += _picture(build, room)
    story += [_text("Layers, top to bottom", _HEAD), _layers(build, room)]
    memo = memo or Memo()
    story += [_text("Stock", _HEAD), *_stock(build, room, memo)]
    story += _mill(build, room, memo)
    steps = [_text(f"{number}. {sentence}", _BODY) for number, sentence in enumerate(order_of_work(build), 1)]
    story.append(KeepTogether([_text("Order of work", _HEAD), *steps]))
    story += _fonts(build)
    if listed:
        story += [_text("Names", _HEAD), _names(listed, room)]
    page.build(story)
    return held.getvalue()


def order_of_work(build: Build) -> list[str]:
    """What is done first to last: printing, cutting board by board, weeding, and laying layer on layer."""
    boards = boards_of(build)
    by_id = {one.layer.id: one for one in build.leaving()}
    steps: list[str] = []
    for board in boards:
        layers = [by_id[id] for id in board.layers]
        printed = [one for one in layers if one.layer.process == "print"]
        if printed:
            steps.append(f"Print {_listed(printed)} for {board.title}.")
    for board in boards:
        layers = [by_id[id] for id in reversed(board.layers) if by_id[id].layer.process != "print"]
        if layers:
            ways = [_work_on(process, layers) for process in ("draw", "engrave", "carve", "score", "cut", "through")]
            mirrored = ", mirrored" if board.mirrored else ""
            steps.append(f"{board.title}{mirrored}: {'; '.join(way for way in ways if way)}.")
    weeded = [one for one in by_id.values() if one.layer.process in CUTS and one.material.limits.weeded]
    if weeded:
        steps.append(f"Weed {_listed(weeded)}: lift off what is not part of the design.")
    solid = [one for one in by_id.values() if one.layer.process in CUTS]
    for upper, lower in zip(reversed(solid[:-1]), reversed(solid[1:]), strict=True):
        lines = [
            one.layer.title
            for one in by_id.values()
            if one.layer.process in LINES and one.layer.material == lower.layer.material
        ]
        guided = f", by the lines of {' and '.join(lines)}" if lines else ""
        steps.append(f"Lay {upper.layer.title} on {lower.layer.title}{guided}.")
    return steps


def _work_on(process: Process, layers: Sequence[BuiltLayer]) -> str:
    own = [one for one in layers if one.layer.process == process]
    verb = {"draw": "draw", "engrave": "engrave", "carve": "carve", "score": "score", "cut": "cut"}.get(
        process, "cut through"
    )
    return f"{verb} {_listed(own)}" if own else ""


def _listed(layers: Sequence[BuiltLayer]) -> str:
    return ", ".join(one.layer.title for one in layers)


def _size_of(build: Build) -> str:
    if build.finished is None:
        return "Nothing leaves."
    x0, y0, x1, y1 = build.finished
    unit = build.design.unit
    return f"Finished size {_sides(x1 - x0, y1 - y0, unit)}, {length(build.stack.height, unit)} thick"


def _sides(width: float, height: float, unit: Unit) -> str:
    return f"{length(width, unit).removesuffix(f' {unit}')} × {length(height, unit)}"


def _picture(build: Build, room: float) -> list[Flowable]:
    drawing = seen(build)
    width, height = drawing.size
    if min(width, height) <= 0:
        return []
    scale = min(room / POINTS / width, _PICTURE / height)
    picture = picture_of(drawing, _DOTS * scale)
    return [Image(io.BytesIO(picture), width * scale * POINTS, height * scale * POINTS)]


def _layers(build: Build, room: float) -> Table:
    boards = boards_of(build)
    unit = build.design.unit
    heads = ["", "Layer", "Material", "Thick", "Done", "Size", "Pieces", "Lines", "Time"]
    rows: list[list[Flowable | str]] = [[_text(one, _SMALL) for one in heads]]
    fills: list[tuple[Any, ...]] = []
    for built in build.leaving():
        layer, measures = built.layer, built.measures
        x0, y0, x1, y1 = measures.bounds or (0.0, 0.0, 0.0, 0.0)
        style = style_of(build, built)
        mirrored = " (mirrored)" if is_mirrored(layer.id, boards) else ""
        told = [
            layer.title,
            built.material.name,
            length(built.material.thickness, unit) if layer.process in CUTS else "–",
            DONE[layer.process] + mirrored,
            _sides(x1 - x0, y1 - y0, unit),
            str(measures.pieces),
            f"{measures.cut_length / 1000:.2f} m" if style.stroke else "–",
            minutes(time_of(built.material, style, measures.cut_length, measures.area))
            if layer.process not in ("print", "carve")
            else "–",
        ]
        fills.append(("BACKGROUND", (0, len(rows)), (0, len(rows)), HexColor(built.material.colour)))
        rows.append(["", *(_cell(one) for one in told)])
    return _table(rows, [0.03, 0.2, 0.17, 0.08, 0.13, 0.19, 0.06, 0.07, 0.07], room, fills)


def _stock(build: Build, room: float, memo: Memo) -> list[Flowable]:
    unit = build.design.unit
    costs = build.design.hand_over.costs
    prices = {one.layer.material: one.material for one in build.leaving()}
    counted = costs.per_minute > 0 or any(one.price > 0 for one in prices.values())
    heads = ["Board", "Needed", "Used", "Waste", "Time", *(["Cost"] if counted else [])]
    rows: list[list[Flowable | str]] = [[_text(one, _SMALL) for one in heads]]
    drawing = framed_drawing(build)
    sheets = sheets_of(build)
    whole = 0.0
    for board in boards_of(build):
        laid = [one for one in sheets if one.board.board.layers == board.layers]
        if laid:
            sizes = Counter(_sides(*one.size, unit) for one in laid)
            needed = ", ".join(f"{count} of {size}" for size, count in sizes.items())
            stock = sum(one.size[0] * one.size[1] for one in laid)
            used = sum(one.used for one in laid) / len(laid)
            seconds = sum(job_of(build, one.drawing).seconds for one in laid)
        else:
            part = on_board(build, drawing, board)
            width, height = part.size
            needed = _sides(width, height, unit)
            stock = width * height
            used = _area(part, board, build) / max(stock, 1e-9)
            milled = any(layer.process == "carve" for layer in part.layers)
            seconds = _milling(build, memo) if milled else job_of(build, part).seconds
        told = [board.title, needed, f"{used:.0%}", f"{1 - used:.0%}", minutes(seconds) if seconds else "–"]
        if counted:
            cost = cost_of(prices[board.material], stock) + costs.per_minute * seconds / 60
            whole += cost
            told.append(f"{cost:.2f} {costs.currency}")
        rows.append([_cell(one) for one in told])
    if not counted:
        return [_table(rows, [0.36, 0.3, 0.1, 0.1, 0.14], room)]
    rows.append([_cell(one) for one in ("In all", "", "", "", "", f"{whole:.2f} {costs.currency}")])
    unpriced = ", ".join(dict.fromkeys(one.name for one in prices.values() if one.price == 0))
    told = [_text(f"Without a price of their own: {unpriced}.", _SMALL)] if unpriced else []
    return [_table(rows, [0.32, 0.28, 0.08, 0.08, 0.12, 0.12], room), *told]


def cost_of(material: Material, area: float) -> float:
    """What so many mm² of a material cost, by the price of its sheet."""
    return material.price * area / (material.limits.sheet_width * material.limits.sheet_height)


def _milling(build: Build, memo: Memo) -> float:
    """How long the mill takes for what is carved, in seconds."""
    one = carved(build)
    return sum(op.seconds(one.set.safe) for op in work_of(one, build.design.unit, memo).operations) if one else 0.0


def _mill(build: Build, room: float, memo: Memo) -> list[Flowable]:
    """What a mill does, where a board is carved: its tools in order, and how long each takes."""
    one = carved(build)
    if one is None:
        return []
    rows: list[list[Flowable | str]] = [[_text(head, _SMALL) for head in ("Carving", "Tool", "Time")]]
    for op in work_of(one, build.design.unit, memo).operations:
        told = (op.title, op.tool.name, minutes(op.seconds(one.set.safe)))
        rows.append([_cell(text) for text in told])
    return [_text("Mill", _HEAD), _table(rows, [0.5, 0.36, 0.14], room)]


def _area(part: Drawing, board: Board, build: Build) -> float:
    """The area in mm² of what is cut of a board."""
    cut = {one.layer.id for one in build.leaving() if one.layer.process in CUTS}
    pieces = [piece for layer in part.layers if layer.id in cut for piece in layer.pieces]
    return sum(abs(float(Outline.from_contours(piece).areas.sum())) for piece in pieces)


def _fonts(build: Build) -> list[Flowable]:
    fonts = dict.fromkeys(str(font) for one in build.design.art if (font := getattr(one, "font", None)))
    by_answer: dict[str, list[str]] = {}
    for font in fonts:
        by_answer.setdefault(build.library.selling(font), []).append(build.library.family(font))
    told = [f"{', '.join(families)}: {answer}" for answer, families in by_answer.items()]
    if not told:
        return []
    return [_text("May it be sold?", _HEAD), *(_text(one, _BODY) for one in told)]


def _names(listed: Sequence[Listed], room: float) -> Table:
    rows: list[list[Flowable | str]] = [[_text(one, _SMALL) for one in ("Row", "Name", "Copies", "Done")]]
    for one in listed:
        rows.append([*(_cell(told) for told in (str(one.row), one.name, str(one.copies))), ""])
    return _table(rows, [0.1, 0.6, 0.15, 0.15], room)


def _table(
    rows: list[list[Flowable | str]],
    shares: Sequence[float],
    room: float,
    more: Sequence[tuple[Any, ...]] = (),
) -> Table:
    style: list[Any] = [
        ("LINEBELOW", (0, 0), (-1, -1), 0.4, HexColor(PALE)),
        ("VALIGN", (0, 0), (-1, -1), "MIDDLE"),
        ("LEFTPADDING", (0, 0), (-1, -1), 3),
        ("RIGHTPADDING", (0, 0), (-1, -1), 3),
        ("TOPPADDING", (0, 0), (-1, -1), 2),
        ("BOTTOMPADDING", (0, 0), (-1, -1), 2),
        *more,
    ]
    return Table(rows, colWidths=[share * room for share in shares], style=TableStyle(style), repeatRows=1)


def _text(text: str, style: ParagraphStyle, most: int = 400) -> Paragraph:
    """A paragraph; of very long names the beginning, so that each has room on a page."""
    told = spelt(text)
    return Paragraph(escape(told if len(told) <= most else told[: most - 1] + "…"), style)


def _cell(text: str) -> Paragraph:
    return _text(text, _BODY, 80)


def minutes(seconds: float) -> str:
    """A time as one says it: seconds under two minutes, then minutes, from an hour on with hours."""
    if seconds < 120:
        return f"{max(1, round(seconds))} s"
    whole = round(seconds / 60)
    return f"{whole} min" if whole < 60 else f"{whole // 60} h {whole % 60} min"
