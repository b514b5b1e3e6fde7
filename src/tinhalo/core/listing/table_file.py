"""Tables as they are sent: CSV in whatever encoding, XLSX, XLS and ODS; read in a process of their own."""

from __future__ import annotations

import csv
import io
import logging
import zipfile
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import PurePath
from time import monotonic
from typing import Any

from charset_normalizer import from_bytes
from python_calamine import CalamineWorkbook

from tinhalo.core.design.names import MOST_COLUMNS, MOST_LETTERS, MOST_ROWS
from tinhalo.core.document.base import readable_part
from tinhalo.core.runtime.processes import OverLimitError, ask, judged

MOST_BYTES = 20_000_000
#: What a workbook may unpack to, and how much of a table is looked at: more is told, and left out.
_MOST_UNPACKED = 400_000_000
_SECONDS, _MEMORY = 20.0, 1_200_000_000
_SEPARATORS = ",;\t|"
_SHEETS = (".xlsx", ".xlsm", ".xls", ".ods")


class TableError(ValueError):
    """A table cannot be used; its text is a sentence."""


@dataclass(frozen=True)
class TableFile:
    """What was read: rows of equal length, whether the first looks like titles, and what to know, in sentences."""

    rows: tuple[tuple[str, ...], ...]
    titled: bool
    told: tuple[str, ...]


def read_table(data: bytes, name: str) -> TableFile:
    """Read a table.

    Raises:
        TableError: with a sentence, when it cannot be used.
    """
    if len(data) > MOST_BYTES:
        raise TableError(f"{name} has {len(data) / 1e6:.0f} MB, and {MOST_BYTES / 1e6:.0f} MB is the most.")
    until = monotonic() + 2 * _SECONDS
    try:
        answer = ask(judged, (_judge, (data, name), _SECONDS, _MEMORY), 0.02, lambda: monotonic() > until)
    except (TimeoutError, OverLimitError):
        answer = "reading it takes too long or too much memory"
    except EOFError:
        answer = "it is damaged"
    if isinstance(answer, str):
        raise TableError(f"{name} cannot be used: {answer}.")
    return answer


def read_text(text: str) -> TableFile:
    """Read a table that was pasted or typed: a name a line, or columns with tabs, commas or semicolons between them."""
    return _table(_separated(text), ())


def _judge(data: bytes, name: str) -> TableFile | str:
    """What was read, or the end of a sentence that says why it cannot be used."""
    logging.disable()
    try:
        if PurePath(name).suffix.lower() in _SHEETS or data[:2] == b"PK":
            return _sheet(data)
        text, told = _decoded(data)
        return _table(_separated(text), told)
    except TableError as error:
        return str(error)
    except MemoryError:
        return "reading it takes too much memory"
    except TimeoutError:
        return "reading it takes too long"
    except Exception:
        # Damaged files make their readers raise almost anything.
        return "it is damaged, or no table that can be read here"
    finally:
        logging.disable(logging.NOTSET)


def _sheet(data: bytes) -> TableFile:
    if data[:2] == b"PK":
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            size = sum(one.file_size for one in packed.infolist())
        if size > _MOST_UNPACKED:
            raise TableError(f"it would unpack to {size / 1e6:.0f} MB, and {_MOST_UNPACKED / 1e6:.0f} MB is the most")
    book = CalamineWorkbook.from_filelike(io.BytesIO(data))
    told: list[str] = []
    # Hidden sheets, and those that are empty, are not what is meant.
    rows: list[list[Any]] = []
    used = ""
    others: list[str] = []
    for title in book.sheet_names:
        found = book.get_sheet_by_name(title).to_python(skip_empty_area=True, nrows=MOST_ROWS + 2)
        if not found:
            continue
        if used:
            others.append(title)
        else:
            used, rows = title, found
    if others:
        told.append(f"Of {len(others) + 1} sheets “{used}” was read; the others are not used: {', '.join(others[:5])}.")
    return _table([[_cell(value) for value in row] for row in rows], told)


def _cell(value: Any) -> str:
    """A cell as text: 7.0 is 7 there."""
    if isinstance(value, float) and value.is_integer():
        return str(int(value))
    return "" if value is None else str(value)


def _decoded(data: bytes) -> tuple[str, list[str]]:
    """Text of a file: as it says itself, else UTF-8 if it is that, else the likeliest."""
    for mark, encoding in ((b"\xef\xbb\xbf", "utf-8-sig"), (b"\xff\xfe", "utf-16"), (b"\xfe\xff", "utf-16")):
        if data.startswith(mark):
            return data.decode(encoding, "replace"), []
    try:
        return data.decode("utf-8"), []
    except UnicodeDecodeError:
        best = from_bytes(data[:200_000], cp_exclusion=["utf_7"]).best()
        encoding = best.encoding if best else "cp1252"
        text = data.decode(encoding, "replace")
        return text, [
            f"It does not say how its letters are written; they were read as {encoding}: look at the accents."
        ]


def _separated(text: str) -> list[list[str]]:
    """Rows of a text, by the separator that gives the same number of columns most often."""
    lines = [line for line in text.splitlines() if line.strip()][:50]
    counted = {one: [line.count(one) for line in lines] for one in _SEPARATORS}

    def steady(one: str) -> tuple[int, int]:
        counts = counted[one]
        usual = max(set(counts), key=counts.count) if counts else 0
        return (counts.count(usual) if usual else 0, usual)

    best = max(_SEPARATORS, key=steady)
    if not steady(best)[1]:
        # Names with a comma now and then are no columns.
        return [[line] for line in text.splitlines()]
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=best, strict=False)
    csv.field_size_limit(1_000_000)
    try:
        return list(reader)
    except csv.Error as error:
        raise TableError(f"line {reader.line_num} breaks off: {error}") from error


def _table(found: Sequence[Sequence[str]], told: Sequence[str]) -> TableFile:
    """Rows of equal length without empty ones; what had to be changed is told with its row."""
    sentences = list(told)
    rows: list[list[str]] = []
    numbers: list[int] = []
    for number, row in enumerate(found, 1):
        cells = [readable_part(cell.replace("\x00", "")).strip() for cell in row]
        while cells and not cells[-1]:
            cells.pop()
        if cells:
            rows.append(cells)
            numbers.append(number)
    if not rows:
        raise TableError("there is nothing in it")
    width = max(map(len, rows))
    if width > MOST_COLUMNS:
        row = next(n for n, cells in zip(numbers, rows, strict=True) if len(cells) > MOST_COLUMNS)
        raise TableError(f"row {row} has more than {MOST_COLUMNS} columns")
    titled = _is_titled(rows)
    most = MOST_ROWS + titled
    if len(rows) > most:
        sentences.append(
            f"It has more than {MOST_ROWS:,} rows: those from row {numbers[most]} on are left out. Make a list "
            "of each part."
        )
    rows, numbers = rows[:most], numbers[:most]
    usual = max({len(one) for one in rows}, key=[len(one) for one in rows].count)
    ragged = [n for n, cells in zip(numbers, rows, strict=True) if len(cells) > usual]
    if ragged:
        sentences.append(f"{_rows(ragged)} more columns than the others: look whether a separator stands in a name.")
    long = [n for n, cells in zip(numbers, rows, strict=True) if any(len(cell) > MOST_LETTERS for cell in cells)]
    if long:
        sentences.append(f"{_rows(long)} more than {MOST_LETTERS} letters in a cell: what is beyond is cut off.")
    even = tuple(tuple(cell[:MOST_LETTERS] for cell in cells) + ("",) * (width - len(cells)) for cells in rows)
    return TableFile(even, titled, tuple(sentences))


def _rows(numbers: Sequence[int]) -> str:
    shown = ", ".join(map(str, numbers[:5])) + (" and others" if len(numbers) > 5 else "")
    return f"Row {shown} has" if len(numbers) == 1 else f"Rows {shown} have"


_TITLES = {"name", "names", "first name", "last name", "words", "text", "count", "copies", "number", "colour", "color"}


def _is_titled(rows: Sequence[Sequence[str]]) -> bool:
    """Whether the first row looks like titles: usual ones, or words over a column of numbers."""
    if len(rows) < 2:
        return False
    first = [cell.lower() for cell in rows[0]]
    if any(cell in _TITLES for cell in first):
        return True
    numbers = [all(len(row) > k and row[k].isdecimal() for row in rows[1:]) for k in range(len(first))]
    return any(number and not cell.isdecimal() for cell, number in zip(first, numbers, strict=True))
