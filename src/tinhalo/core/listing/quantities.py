"""What a list takes: areas, lengths, times and material of every layer and row, and their sums; as CSV and XLSX."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from dataclasses import dataclass

from openpyxl import Workbook
from openpyxl.utils import get_column_letter

from tinhalo.core.engine.built import Build
from tinhalo.core.listing.each import Row
from tinhalo.core.output.drawing import style_of
from tinhalo.core.output.job import time_of

HEAD = ("row", "name", "copies", "layer", "process", "material", "area_mm2", "cut_length_mm", "time_s", "material_mm2")


@dataclass(frozen=True)
class Quantity:
    """Of one layer of one row, of one copy: area in mm², length in mm, time in s, and the box it takes of a sheet."""

    row: int
    name: str
    copies: int
    layer: str
    process: str
    material: str
    area: float
    length: float
    seconds: float
    box: float


def quantities_of(row: Row, build: Build) -> list[Quantity]:
    """Of every layer that leaves."""
    found: list[Quantity] = []
    for one in build.leaving():
        measures, bounds = one.measures, one.measures.bounds
        seconds = time_of(one.material, style_of(build, one), measures.cut_length, measures.area)
        box = (bounds[2] - bounds[0]) * (bounds[3] - bounds[1]) if bounds else 0.0
        found.append(
            Quantity(
                row.number,
                row.words,
                row.copies,
                one.layer.title,
                one.layer.process,
                one.material.name,
                measures.area,
                measures.cut_length,
                seconds,
                box,
            )
        )
    return found


def table_of(quantities: Sequence[Quantity]) -> list[list[str | float]]:
    """Head, a line for each, and the sums by material over all copies."""
    lines: list[list[str | float]] = [list(HEAD)]
    for one in quantities:
        numbers = (round(one.area, 2), round(one.length, 2), round(one.seconds, 1), round(one.box, 2))
        lines.append([one.row, one.name, one.copies, one.layer, one.process, one.material, *numbers])
    for material in dict.fromkeys(one.material for one in quantities):
        own = [one for one in quantities if one.material == material]
        sums = [sum(getattr(one, field) * one.copies for one in own) for field in ("area", "length", "seconds", "box")]
        rounded = [round(value, digits) for value, digits in zip(sums, (2, 2, 1, 2), strict=True)]
        lines.append(["", "all copies", sum(one.copies for one in own), "", "", material, *rounded])
    return lines


def harmless(text: str) -> str:
    """A cell that no program takes for a formula (OWASP: CSV injection)."""
    return f"'{text}" if text[:1] in ("=", "+", "-", "@", "\t", "\r") else text


def as_csv(lines: Sequence[Sequence[str | float]]) -> bytes:
    """With a mark of its encoding, so that spreadsheets read accents right."""
    held = io.StringIO(newline="")
    writer = csv.writer(held)
    writer.writerows([harmless(cell) if isinstance(cell, str) else cell for cell in line] for line in lines)
    return held.getvalue().encode("utf-8-sig")


def as_xlsx(lines: Sequence[Sequence[str | float]]) -> bytes:
    """One sheet, its head staying in sight; text is text whatever it begins with."""
    book = Workbook()
    sheet = book.active
    assert sheet is not None
    sheet.title = "Quantities"
    for line in lines:
        sheet.append([harmless(value) if isinstance(value, str) else value for value in line])
    sheet.freeze_panes = "A2"
    for column in range(1, len(HEAD) + 1):
        sheet.column_dimensions[get_column_letter(column)].width = 16
    held = io.BytesIO()
    book.save(held)
    return held.getvalue()
