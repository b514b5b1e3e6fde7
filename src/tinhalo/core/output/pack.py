"""The cut pack: a file per layer, one per board, one of all of it, in each format wanted; and a manifest."""

from __future__ import annotations

import io
import json
import re
from collections.abc import Mapping, Sequence
from typing import Any

from tinhalo.core.design.hand_over import Format
from tinhalo.core.engine.built import Build, BuiltArt, BuiltLayer
from tinhalo.core.engine.widths import layer_widths
from tinhalo.core.findings.causes import Cause, causes_of
from tinhalo.core.findings.finding import Finding
from tinhalo.core.findings.survey import survey
from tinhalo.core.geometry.arrays import Box
from tinhalo.core.output import key_picture
from tinhalo.core.output.archive import write_zip
from tinhalo.core.output.board import Board, all_mirrored, boards_of, on_board, print_and_cut, registers_of
from tinhalo.core.output.drawing import Drawing, drawing_of, kerf_of, style_of
from tinhalo.core.output.formats import FORMATS
from tinhalo.core.output.gcode import mill_files, told_of_mill
from tinhalo.core.output.job import time_of
from tinhalo.core.output.lining_up import framed_drawing, leaving_page, marked
from tinhalo.core.output.names import Names, plain
from tinhalo.core.output.png import density
from tinhalo.core.output.sheets import Sheet, files_of, sheets_of
from tinhalo.core.output.solid_files import SolidFile, solid_files
from tinhalo.core.runtime.cancellation import checkpoint
from tinhalo.core.runtime.memo import Memo

MANIFEST = "manifest.json"


def pack_files(build: Build, memo: Memo | None = None, formats: Sequence[Format] = ()) -> dict[str, bytes]:
    """All files of the pack, by name; ``build`` must be exact.

    Hidden layers and guides do not leave; the manifest names them under ``left_out``.

    Args:
        build: the built design.
        memo: keeps widths and findings.
        formats: which formats; those that the design says where none is given.
    """
    memo = memo or Memo()
    wanted = formats or build.design.hand_over.formats
    names = Names.of(build)
    bare = framed_drawing(build)
    drawing = marked(bare, build.design.hand_over.lining_up)
    files: dict[str, bytes] = {}
    boards = boards_of(build)

    def add(stem: str, part: Drawing) -> None:
        for format in wanted:
            checkpoint()
            files[f"{stem}.{FORMATS[format].ending}"] = FORMATS[format].write(part, build.design.hand_over)

    for one in build.leaving():
        part = drawing.only(one.layer.title, [one.layer.id])
        add(names.layers[one.layer.id], part.mirrored() if _is_mirrored(one.layer.id, boards) else part)
    for board in boards:
        laid = on_board(build, bare, board)
        add(names.boards[board.layers[0]], laid)
        for way, ids in print_and_cut(build, board).items():
            stem = names.boards[board.layers[0]].removeprefix("board-")
            add(f"{way}-{stem}", laid.only(f"{board.title}, {way}", ids))
    sheets = sheets_of(build)
    for sheet in sheets:
        for after, laid in files_of(sheet).items():
            for format in wanted:
                checkpoint()
                written = FORMATS[format].write(laid, build.design.hand_over)
                files[f"{_sheet_stem(names, sheet)}{after}.{FORMATS[format].ending}"] = written
    add(names.combined, drawing.mirrored() if all_mirrored(boards) else drawing)
    if build.design.hand_over.lining_up.key:
        files["key.pdf"] = key_picture.write(drawing_of(build))
    solids = solid_files(build, names)
    files |= {name: one.content for name, one in solids.items()}
    files |= mill_files(build, memo)
    told = json.dumps(manifest(build, memo, wanted, sheets, solids), ensure_ascii=False, indent=1) + "\n"
    files[MANIFEST] = told.encode()
    return files


def manifest(
    build: Build,
    memo: Memo | None = None,
    formats: Sequence[Format] = (),
    sheets: Sequence[Sheet] | None = None,
    solids: Mapping[str, SolidFile] | None = None,
) -> dict[str, Any]:
    """What the pack holds: its art, boards and layers with their files, measures (mm, mm²) and findings."""
    memo = memo or Memo()
    wanted = list(formats or build.design.hand_over.formats)
    first = FORMATS[wanted[0]].ending
    findings = survey(build, memo)
    names = Names.of(build)
    boards = boards_of(build)
    sheets = sheets_of(build) if sheets is None else sheets
    kept = {b.layer.id for b in build.leaving()}
    return {
        "format": build.design.format,
        "name": build.design.name,
        "unit": "mm",
        "formats": wanted,
        "dots_per_inch": density(leaving_page(build), build.design.hand_over.picture.dots_per_inch),
        "bounds_mm": _rounded(build.bounds),
        "sheet_mm": _rounded(build.design.sheet.box if build.design.sheet else None),
        "thickness_mm": round(build.stack.height, 4),
        "combined": f"{names.combined}.{first}",
        "mirrored": all_mirrored(boards),
        "art": [_art(one) for one in build.art],
        "sheets": [_sheet(one, f"{_sheet_stem(names, one)}.{first}") for one in sheets],
        "solids": [
            _solid(name, one) for name, one in (solid_files(build, names) if solids is None else solids).items()
        ],
        "mill": told_of_mill(build, memo),
        "boards": [_board(build, one, f"{names.boards[one.layers[0]]}.{first}") for one in boards],
        "layers": [
            _layer(build, b, f"{names.layers[b.layer.id]}.{first}", memo, findings)
            | {"mirrored": _is_mirrored(b.layer.id, boards)}
            for b in build.leaving()
        ],
        "left_out": [
            {"id": b.layer.id, "name": b.layer.title, "why": "hidden" if b.layer.hidden else "guide"}
            for b in build.layers
            if b.layer.id not in kept
        ],
        "summary": [_told(one) for one in causes_of(findings, build.design)],
        "findings": _plain(findings),
    }


def pack_zip(build: Build, memo: Memo | None = None, formats: Sequence[Format] = ()) -> bytes:
    """The pack as one zip file."""
    held = io.BytesIO()
    write_zip(held, pack_files(build, memo, formats).items())
    return held.getvalue()


def pack_name(build: Build) -> str:
    """A file name for the zip that every system takes."""
    kept = re.sub(r"[^\w\- ]", "", build.design.name)
    return plain(kept, r"\w \-", "design") + " cut pack.zip"


def _art(built: BuiltArt) -> dict[str, Any]:
    """What is told of a piece of art: as its document has it what it is, and how its words hold together."""
    told = built.art.model_dump(include={"id", "kind", "text", "font", "shape"})
    groups = built.drawn.groups
    return told | {
        "pieces_by_word": [
            {"word": one.text, "pieces": one.pieces, "loose": [loose.name for loose in one.loose]} for one in groups
        ],
    }


def _sheet_stem(names: Names, sheet: Sheet) -> str:
    board = names.boards[sheet.board.board.layers[0]]
    return f"sheet-{board.removeprefix('board-')}-{sheet.number + 1}"


def _sheet(sheet: Sheet, file: str) -> dict[str, Any]:
    return {
        "file": file,
        "material": sheet.board.board.material,
        "size_mm": list(sheet.size),
        "pieces": len(sheet.placed),
        "used": round(sheet.used, 4),
        "wrong": list(sheet.wrong),
    }


def _solid(name: str, file: SolidFile) -> dict[str, Any]:
    told = {"file": name, "layers": [one.id for one in file.solids if one.id]}
    return told | {
        "volume_mm3": round(sum(one.mesh.volume for one in file.solids), 4),
        "told": [sentence for one in file.solids for sentence in one.told],
    }


def _board(build: Build, board: Board, file: str) -> dict[str, Any]:
    told = {"material": board.material, "colour": board.colour, "name": board.title, "file": file}
    laid = {"mirrored": board.mirrored, "layers": list(board.layers), "in_register": registers_of(build, board)}
    return told | laid


def _is_mirrored(layer: str, boards: Sequence[Board]) -> bool:
    return any(board.mirrored for board in boards if layer in board.layers)


def _layer(build: Build, built: BuiltLayer, file: str, memo: Memo, findings: Sequence[Finding]) -> dict[str, Any]:
    measures = built.measures
    narrowest = layer_widths(built, memo).strokes.narrowest
    style = style_of(build, built)
    level = next(level for level in build.stack.levels if level.layer.id == built.layer.id)
    return {
        "id": built.layer.id,
        "name": built.layer.title,
        "process": built.layer.process,
        "material": built.layer.material,
        "colour": built.material.colour,
        "file": file,
        "stroke": style.stroke,
        "fill": style.fill,
        "line_width_mm": style.line_width,
        "kerf_mm": kerf_of(built),
        "time_s": round(time_of(built.material, style, measures.cut_length, measures.area), 1),
        "cut_with": build.design.served_by(built.layer),
        "bottom_mm": round(level.bottom, 4),
        "thickness_mm": round(level.thickness, 4),
        "rests_on": list(level.rests_on),
        "shadow_on": [lower for upper, lower in build.stack.shadows if upper == built.layer.id],
        "area_mm2": round(measures.area, 4),
        "cut_length_mm": round(measures.cut_length, 4),
        "pieces": measures.pieces,
        "holes": measures.holes,
        "marks": measures.marks,
        "bounds_mm": _rounded(measures.bounds),
        "narrowest_mm": None if narrowest is None else round(narrowest, 3),
        "findings": _plain([f for f in findings if _concerns(build, f, built)]),
    }


def _concerns(build: Build, finding: Finding, built: BuiltLayer) -> bool:
    """Whether a finding is the layer's own, or one of the art it is made from."""
    if finding.layer is None:
        return finding.art in build.design.ancestors(built.layer)
    return finding.layer == built.layer.id


def _told(cause: Cause) -> dict[str, Any]:
    return cause.model_dump(exclude={"id", "mends"})


def _plain(findings: Sequence[Finding]) -> list[dict[str, Any]]:
    return [finding.model_dump() for finding in findings]


def _rounded(bounds: Box | None) -> list[float] | None:
    return None if bounds is None else [round(v, 4) for v in bounds]
