"""What is done for one row of a list, in a process of its own: looked at, packed, laid on sheets."""

from __future__ import annotations

import os
import pickle
import shutil
import threading
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

from tinhalo.core.artwork.lettering.own import OwnFiles
from tinhalo.core.design.design import Design
from tinhalo.core.design.hand_over import Format
from tinhalo.core.design.laying import Laying
from tinhalo.core.design.names import Change, Names
from tinhalo.core.engine.build import build
from tinhalo.core.engine.built import Build
from tinhalo.core.findings.causes import Cause, causes_of
from tinhalo.core.findings.mends.changes import mended
from tinhalo.core.findings.mends.following import follow_up
from tinhalo.core.findings.survey import survey
from tinhalo.core.listing.each import Row, called, row_of
from tinhalo.core.listing.own import differences, own_of
from tinhalo.core.listing.quantities import Quantity, quantities_of
from tinhalo.core.output.items import LaidBoard, laid_boards
from tinhalo.core.output.pack import pack_files
from tinhalo.core.output.thumbnail import as_png, thumbnail
from tinhalo.core.runtime.memo import Memo
from tinhalo.core.runtime.processes import read_ahead

#: Memory of results that each process keeps, in bytes.
_BUDGET = 128 * 1024 * 1024

#: The folder for a picture of each row, and how many dots these are wide.
PICTURES = "pictures"
_DOTS = 360

read_ahead(__name__)

_memo = Memo(_BUDGET)


@dataclass(frozen=True)
class Asked:
    """A row of a list.

    Attributes:
        design: what all rows share.
        names: the list with this row alone, so that no process is sent all others.
        number: which row it is, from 1.
        files: where own fonts and drawings are written (``write_files``); none where only what ships is used.
    """

    design: Design
    names: Names
    number: int
    files: str = ""

    @staticmethod
    def of(design: Design, index: int, files: str = "", number: int | None = None) -> Asked:
        """A row of a design's list, by its index; its number is another where that list is a part of one."""
        names = design.names or Names()
        own = own_of(names, called(names, index, number))
        alone = {"rows": names.rows[index : index + 1], "own": (own,) if own else (), "laying": None}
        names = names.model_copy(update=alone)
        return Asked(design.model_copy(update={"names": None}), names, number or index + 1, files)


@dataclass(frozen=True)
class Looked:
    """A row as it comes out.

    Attributes:
        row: with its design.
        causes: what is open, by cause.
        picture: SVG.
    """

    row: Row
    causes: tuple[Cause, ...]
    picture: str


@dataclass(frozen=True)
class Packed:
    """A row whose files were written: with what is open, and what its layers take."""

    row: Row
    causes: tuple[Cause, ...]
    failed: bool
    quantities: tuple[Quantity, ...]


def write_files(folder: Path, fonts: Mapping[str, bytes], drawings: Mapping[str, bytes]) -> str:
    """Where own files are for those who work on rows; none where there are none."""
    if not fonts and not drawings:
        return ""
    path = folder / "files.pickle"
    half = folder / f".{os.getpid()}-{threading.get_ident()}"
    half.write_bytes(pickle.dumps((dict(fonts), dict(drawings))))
    half.rename(path)
    return str(path)


def look(asked: Asked) -> Looked:
    """Build a row and check it."""
    row, built = _built(asked)
    return Looked(row, _open(row, built), thumbnail(built))


def pack(asked: Asked, folder: str, formats: tuple[Format, ...]) -> Packed:
    """Write a row's pack, and a picture of it. It gets its folder all at once: one that is there is whole."""
    row, built = _built(asked)
    there = Path(folder)
    pictures = there.parent / PICTURES
    pictures.mkdir(exist_ok=True)
    (pictures / f"{there.name}.png").write_bytes(as_png(thumbnail(built), _DOTS))
    half = there.parent / f".{os.getpid()}-{asked.number}"
    shutil.rmtree(half, ignore_errors=True)
    half.mkdir()
    for name, content in pack_files(built, _memo, formats).items():
        (half / name).write_bytes(content)
    shutil.rmtree(there, ignore_errors=True)
    half.rename(there)
    failed = any(layer.failures for layer in built.layers)
    return Packed(row, _open(row, built), failed, tuple(quantities_of(row, built)))


@dataclass(frozen=True)
class RowMended:
    """A row after its finding's first mend: what is different for it now, and what to know, in sentences."""

    words: str
    changes: tuple[Change, ...]
    told: tuple[str, ...]


def mend(asked: Asked, kind: str, layer: str | None) -> RowMended:
    """Mend a row's open findings of a kind, in a layer where one is named, each by what it offers first."""
    library = _library(asked.files)
    row = row_of(asked.design, asked.names, 0, library, _memo, asked.number)
    design, told = row.design, list[str]()
    meant = [one for one in _open(row, build(design, library, memo=_memo)) if (one.kind, one.layer) == (kind, layer)]
    for cause in meant:
        if not cause.mends:
            told.append(f"{cause.sentence} Nothing is offered for it.")
            continue
        changed = mended(design, cause.mends[0], library, _memo)
        followed = follow_up(design, changed, library, _memo, cause=cause.id)
        design = followed.design
        told += [one.sentence for one in followed.left]
    found = differences(row.usual, design)
    return RowMended(row.words, found.changes, (*told, *found.told))


def lay(asked: Asked, laying: Laying) -> tuple[Row, list[LaidBoard]]:
    """What is laid of a row on sheets."""
    row, built = _built(asked)
    return row, laid_boards(built, laying)


def _built(asked: Asked) -> tuple[Row, Build]:
    library = _library(asked.files)
    row = row_of(asked.design, asked.names, 0, library, _memo, asked.number)
    return row, build(row.design, library, memo=_memo)


def _open(row: Row, built: Build) -> tuple[Cause, ...]:
    causes = causes_of(survey(built, _memo), row.design)
    return tuple(one for one in causes if not one.accepted and one.severity != "note")


@lru_cache(maxsize=4)
def _library(files: str) -> OwnFiles:
    """Raises ``ArtError`` for a file that cannot be used."""
    written: tuple[dict[str, bytes], dict[str, bytes]] = ({}, {})
    if files:
        written = pickle.loads(Path(files).read_bytes())
    return OwnFiles(*written)
