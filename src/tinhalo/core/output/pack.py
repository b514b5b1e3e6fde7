"""The cut pack: one file per layer, a combined one, and a manifest."""

from __future__ import annotations

import io
import json
import re
import zipfile
from collections.abc import Sequence
from typing import Any

from tinhalo.core.engine.build import layer_widths
from tinhalo.core.engine.built import Build, BuiltArt, BuiltLayer
from tinhalo.core.findings.finding import Finding
from tinhalo.core.findings.survey import survey
from tinhalo.core.geometry.regions.region import Box, wrapped
from tinhalo.core.output.svg import layer_svg
from tinhalo.core.runtime.memo import Memo

COMBINED = "combined.svg"
MANIFEST = "manifest.json"


def pack_files(build: Build, memo: Memo | None = None) -> dict[str, str]:
    """All files of the pack as text, by name; ``build`` must be exact.

    Hidden layers and guides do not leave; the manifest names them under ``left_out``.
    """
    names = _file_names(build)
    page = _page(build)
    files = {names[b.layer.id]: layer_svg(b.layer.title, [b], page) for b in build.leaving()}
    files[COMBINED] = layer_svg(build.design.name, build.leaving(), page)
    files[MANIFEST] = json.dumps(manifest(build, memo), ensure_ascii=False, indent=1) + "\n"
    return files


def manifest(build: Build, memo: Memo | None = None) -> dict[str, Any]:
    """What the pack holds: per block of words its pieces; per layer its file, measures (mm, mm²) and findings."""
    memo = memo or Memo()
    findings = survey(build, memo)
    names = _file_names(build)
    kept = {b.layer.id for b in build.leaving()}
    return {
        "format": build.design.format,
        "name": build.design.name,
        "unit": "mm",
        "bounds_mm": _rounded(build.bounds),
        "sheet_mm": _rounded(build.design.sheet.box if build.design.sheet else None),
        "combined": COMBINED,
        "art": [_words(one) for one in build.art],
        "layers": [_entry(build, b, names[b.layer.id], memo, findings) for b in build.leaving()],
        "left_out": [
            {"id": b.layer.id, "name": b.layer.title, "why": "hidden" if b.layer.hidden else "guide"}
            for b in build.layers
            if b.layer.id not in kept
        ],
        "findings": _plain(findings),
    }


def pack_zip(build: Build, memo: Memo | None = None) -> bytes:
    """The pack as one zip file."""
    held = io.BytesIO()
    with zipfile.ZipFile(held, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, text in pack_files(build, memo).items():
            # A fixed date: the same design gives the same bytes.
            info = zipfile.ZipInfo(name, (2000, 1, 1, 0, 0, 0))
            info.compress_type = zipfile.ZIP_DEFLATED
            archive.writestr(info, text)
    return held.getvalue()


def _page(build: Build) -> Box | None:
    """The sheet, and what reaches over its edge; without one, what leaves."""
    sheet = build.design.sheet
    return wrapped([box for box in (sheet.box if sheet else None, build.bounds) if box])


def pack_name(build: Build) -> str:
    """A file name for the zip that every system takes."""
    kept = re.sub(r"[^\w\- ]", "", build.design.name).strip() or "design"
    return f"{kept[:80]} cut pack.zip"


def _words(built: BuiltArt) -> dict[str, Any]:
    return {
        "id": built.art.id,
        "text": built.art.text,
        "font": built.art.font,
        "pieces_by_word": [
            {"word": word.text, "pieces": word.pieces, "loose": [one.name for one in word.loose]}
            for word in built.words
        ],
    }


def _entry(build: Build, built: BuiltLayer, file: str, memo: Memo, findings: Sequence[Finding]) -> dict[str, Any]:
    measures = built.measures
    narrowest = layer_widths(built, memo).strokes.narrowest
    return {
        "id": built.layer.id,
        "name": built.layer.title,
        "process": built.layer.process,
        "material": built.layer.material,
        "file": file,
        "cut_with": build.design.served_by(built.layer),
        "area_mm2": round(measures.area, 4),
        "cut_length_mm": round(measures.cut_length, 4),
        "pieces": measures.pieces,
        "holes": measures.holes,
        "marks": measures.marks,
        "bounds_mm": _rounded(measures.bounds),
        "narrowest_mm": None if narrowest is None else round(narrowest, 3),
        "findings": _plain([f for f in findings if _concerns(f, built)]),
    }


def _concerns(finding: Finding, built: BuiltLayer) -> bool:
    """Whether a finding is the layer's own, or one of the words it is made from."""
    return finding.layer == built.layer.id or any(
        (f.kind, f.art, f.sentence) == (finding.kind, finding.art, finding.sentence) for f in built.findings if f.art
    )


def _plain(findings: Sequence[Finding]) -> list[dict[str, Any]]:
    return [f.model_dump(exclude={"mends": {"__all__": {"join"}}}) for f in findings]


def _file_names(build: Build) -> dict[str, str]:
    """A file per layer; ids that differ only in case, or clash with the combined file, get a number."""
    taken = {COMBINED, MANIFEST}
    names: dict[str, str] = {}
    for built in build.layers:
        name, number = f"{built.layer.id}.svg", 2
        while name.lower() in taken:
            name, number = f"{built.layer.id}-{number}.svg", number + 1
        taken.add(name.lower())
        names[built.layer.id] = name
    return names


def _rounded(bounds: tuple[float, float, float, float] | None) -> list[float] | None:
    return None if bounds is None else [round(v, 4) for v in bounds]
