"""Copies of all data: one each day beside the database, and one to carry away, which can be read without the app."""

from __future__ import annotations

import json
import shutil
import time
from datetime import date, timedelta
from pathlib import Path
from uuid import uuid4

from sqlalchemy import select
from sqlalchemy.orm import Session

from tinhalo.core.design.problem import DesignError
from tinhalo.core.design.reading import read_design
from tinhalo.store.database import COPIES, FILE, DataError, copy, open_database
from tinhalo.store.designs import Designs, NotFoundError
from tinhalo.store.models import FileRow, FontRow, MaterialRow, StarterRow, TableRow

#: Copies of this many days are kept; of those before only the first of each month.
DAYS = 14
_STALE = 3600


def copy_of_the_day(folder: Path, today: date) -> Path | None:
    """Copy the database, unless it was on that day already, and thin the copies of days gone by; the new copy."""
    source, copies = folder / FILE, folder / COPIES
    if not source.is_file():
        return None
    made = copies / f"{today.isoformat()}.sqlite"
    fresh = not made.exists()
    for left in copies.glob("*.part"):
        # Of a copy that was killed on its way; one that is being made is young.
        if left.stat().st_mtime < time.time() - _STALE:
            left.unlink(missing_ok=True)
    if fresh:
        # Two that begin at once do not get in each other's way.
        part = made.with_suffix(f".{uuid4().hex}.part")
        copy(source, part)
        part.rename(made)
    months: set[tuple[int, int]] = set()
    for path in sorted(copies.glob("????-??-??.sqlite")):
        try:
            day = date.fromisoformat(path.stem)
        except ValueError:
            continue
        if day > today - timedelta(days=DAYS):
            continue
        if (day.year, day.month) in months:
            path.unlink()
        months.add((day.year, day.month))
    return made if fresh else None


def backup(folder: Path, out: Path) -> int:
    """Write all data into a folder: the whole database, and beside it designs, fonts and the rest as plain files.

    Returns:
        How many designs there are.

    Raises:
        DataError: when there is nothing to copy, or the folder is not empty or cannot be written.
    """
    if not (folder / FILE).is_file():
        raise DataError(f"There are no designs in {folder}.")
    if out.exists() and any(out.iterdir()):
        raise DataError(f"{out} is not empty: choose another folder.")
    try:
        out.mkdir(parents=True, exist_ok=True)
        copy(folder / FILE, out / FILE)
        return _write_plain(folder, out)
    except OSError as error:
        raise DataError(f"{out} cannot be written: {error.strerror or error}.") from error


def _write_plain(folder: Path, out: Path) -> int:
    engine = open_database(folder)
    designs = Designs(engine)
    listed = designs.list()
    for kind in ("designs", "files", "fonts", "starters"):
        (out / kind).mkdir(exist_ok=True)
    for one in listed:
        _, document = designs.current(one.id)
        (out / "designs" / f"{one.id}.json").write_text(document.model_dump_json(by_alias=True, indent=1), "utf-8")
    with Session(engine) as session:
        for font in session.scalars(select(FontRow)):
            (out / "fonts" / f"{font.id}.font").write_bytes(font.data)
        for file in session.scalars(select(FileRow)):
            (out / "files" / file.id).write_bytes(file.data)
        for starter in session.scalars(select(StarterRow)):
            (out / "starters" / f"{starter.id}.json").write_text(starter.document, "utf-8")
        own = {row.id: json.loads(row.material) for row in session.scalars(select(MaterialRow))}
        tables = {row.name: json.loads(row.table) for row in session.scalars(select(TableRow))}
    (out / "materials.json").write_text(json.dumps(own, ensure_ascii=False, indent=1), "utf-8")
    (out / "tables.json").write_text(json.dumps(tables, ensure_ascii=False, indent=1), "utf-8")
    engine.dispose()
    return len(listed)


def restore(source: Path, folder: Path) -> int:
    """Put a backup back into a folder without designs; without its database, the plain designs are read.

    Returns:
        How many designs there are.

    Raises:
        DataError: when the folder has designs already, or there is nothing to put back.
    """
    if (folder / FILE).exists():
        raise DataError(f"{folder} has designs already, and none of them is replaced: choose an empty folder.")
    plain = sorted((source / "designs").glob("*.json"))
    if not (source / FILE).is_file() and not plain:
        raise DataError(f"{source} is no backup: it has neither {FILE} nor designs.")
    try:
        folder.mkdir(parents=True, exist_ok=True)
        if (source / FILE).is_file():
            shutil.copyfile(source / FILE, folder / FILE)
    except OSError as error:
        raise DataError(f"{folder} cannot be written: {error.strerror or error}.") from error
    engine = open_database(folder)
    designs = Designs(engine)
    for path in plain:
        try:
            designs.current(path.stem)
        except NotFoundError:
            try:
                designs.create(read_design(path.read_bytes()), path.stem[:32])
            except DesignError as error:
                print(f"{path}: {error.problems[0].sentence}")
    engine.dispose()
    return len(designs.list())
