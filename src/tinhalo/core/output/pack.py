"""The cut pack: a file per layer, one per board, one of all of it, in each format wanted; and a manifest."""

from __future__ import annotations

import io
import json
from collections.abc import Collection, Mapping, Sequence
from typing import Any

from tinhalo.core.design.hand_over import Format
from tinhalo.core.engine.built import Build, BuiltArt, BuiltLayer
from tinhalo.core.engine.widths import layer_widths
from tinhalo.core.findings.causes import Cause, causes_of
from tinhalo.core.findings.finding import Finding
from tinhalo.core.findings.survey import survey
from tinhalo.core.geometry.arrays import Box
from tinhalo.core.output import job_sheet, key_picture
from tinhalo.core.output.archive import write_zip
from tinhalo.core.output.board import Board, all_mirrored, boards_of, is_mirrored, registers_of
from tinhalo.core.output.drawing import drawing_of, kerf_of, style_of
from tinhalo.core.output.formats import FORMATS
from tinhalo.core.output.gcode import mill_files, told_of_mill
from tinhalo.core.output.job import time_of
from tinhalo.core.output.lining_up import leaving_page
from tinhalo.core.output.names import Names, readable_name
from tinhalo.core.output.parts import Part, download_parts, parts_of
from tinhalo.core.output.png import density
from tinhalo.core.output.sheets import Sheet, sheets_of
from tinhalo.core.output.solid_files import SolidFile, solid_files
from tinhalo.core.runtime.cancellation import checkpoint
from tinhalo.core.runtime.memo import Memo
from tinhalo.core.runtime.progress import each

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
    sheets = sheets_of(build)
    files = _written(build, parts_of(build, names, sheets), wanted)
    solids = solid_files(build, names)
    files |= _others(build, solids, memo)
    told = json.dumps(manifest(build, memo, wanted, sheets, solids), ensure_ascii=False, indent=1) + "\n"
    files[MANIFEST] = told.encode()
    return files


def download_files(build: Build, memo: Memo | None = None) -> dict[str, bytes]:
    """The files that a maker downloads, by names that say what they are; ``build`` must be exact.

    Several have a job sheet and a manifest with them.
    """
    names = Names.for_people(build)
    memo = memo or Memo()
    solids = solid_files(build, Names.of(build))
    files = _written(build, download_parts(build, names), build.design.hand_over.formats)
    files |= {names.before + name: content for name, content in _others(build, solids, memo).items()}
    if len(files) > 1:
        told = manifest(build, memo, solids=solids, names=names, present=files)
        files[f"{names.before}job sheet.pdf"] = job_sheet.write(build, memo=memo)
        files[f"{names.before}manifest.json"] = json.dumps(told, ensure_ascii=False, indent=1).encode()
    return files


def download(build: Build, memo: Memo | None = None) -> tuple[str, bytes]:
    """What a maker downloads, under its name: the file where it is one, or else a zip file."""
    files = download_files(build, memo)
    if len(files) == 1:
        ((name, content),) = files.items()
        return name, content
    held = io.BytesIO()
    write_zip(held, files.items())
    return f"{readable_name(build.design.name, 'design')}.zip", held.getvalue()


def _written(build: Build, parts: Sequence[Part], formats: Sequence[Format]) -> dict[str, bytes]:
    """The parts in each format, by file name."""
    files: dict[str, bytes] = {}
    wanted: list[tuple[Part, Format]] = [(part, format) for part in parts for format in formats]
    for part, format in each(wanted):
        checkpoint()
        name = FORMATS[format].file_name(part.stem, part.drawing)
        files[name] = FORMATS[format].write(part.drawing, build.design.hand_over)
    return files


def _others(build: Build, solids: Mapping[str, SolidFile], memo: Memo) -> dict[str, bytes]:
    """What is no drawing of the job: the numbered picture, solids, programs for the mill."""
    key = {"key.pdf": key_picture.write(drawing_of(build))} if build.design.hand_over.lining_up.key else {}
    return key | {name: one.content for name, one in solids.items()} | mill_files(build, memo)


def manifest(
    build: Build,
    memo: Memo | None = None,
    formats: Sequence[Format] = (),
    sheets: Sequence[Sheet] | None = None,
    solids: Mapping[str, SolidFile] | None = None,
    names: Names | None = None,
    present: Collection[str] | None = None,
) -> dict[str, Any]:
    """What the pack holds: its art, boards and layers with their files, measures (mm, mm²) and findings.

    Files that are not ``present`` are not named, where that is said.
    """
    memo = memo or Memo()
    wanted = list(formats or build.design.hand_over.formats)
    page = leaving_page(build)

    def named(stem: str) -> dict[str, Any]:
        every: dict[Format, str] = {format: FORMATS[format].file_name(stem, page) for format in wanted}
        files = {format: name for format, name in every.items() if present is None or name in present}
        return {"file": next(iter(files.values()), ""), "files": files}

    findings = survey(build, memo)
    names = names or Names.of(build)
    boards = boards_of(build)
    sheets = sheets_of(build) if sheets is None else sheets
    kept = {b.layer.id for b in build.leaving()}
    return {
        "format": build.design.format,
        "name": build.design.name,
        "unit": "mm",
        "formats": wanted,
        "dots_per_inch": density(page, build.design.hand_over.picture.dots_per_inch),
        "bounds_mm": _rounded(build.bounds),
        "sheet_mm": _rounded(build.design.sheet.box if build.design.sheet else None),
        "thickness_mm": round(build.stack.height, 4),
        "combined": named(names.combined)["file"],
        "combined_files": named(names.combined)["files"],
        "mirrored": all_mirrored(boards),
        "art": [_art(one) for one in build.art],
        "sheets": [named(names.sheet(one.board.board.layers[0], *one.called)) | _sheet(one) for one in sheets],
        "solids": [
            _solid(name, one) for name, one in (solid_files(build, names) if solids is None else solids).items()
        ],
        "mill": told_of_mill(build, memo),
        "boards": [named(names.boards[one.layers[0]]) | _board(build, one) for one in boards],
        "layers": [
            _layer(build, b, memo, findings)
            | named(names.layers[b.layer.id])
            | {"mirrored": is_mirrored(b.layer.id, boards)}
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


def _art(built: BuiltArt) -> dict[str, Any]:
    """What is told of a piece of art: as its document has it what it is, and how its words hold together."""
    told = built.art.model_dump(include={"id", "kind", "text", "font", "shape"})
    groups = built.drawn.groups
    return told | {
        "pieces_by_word": [
            {"word": one.text, "pieces": one.pieces, "loose": [loose.name for loose in one.loose]} for one in groups
        ],
    }


def _sheet(sheet: Sheet) -> dict[str, Any]:
    return {
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


def _board(build: Build, board: Board) -> dict[str, Any]:
    told = {"material": board.material, "colour": board.colour, "name": board.title}
    laid = {"mirrored": board.mirrored, "layers": list(board.layers), "in_register": registers_of(build, board)}
    return told | laid


def _layer(build: Build, built: BuiltLayer, memo: Memo, findings: Sequence[Finding]) -> dict[str, Any]:
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
