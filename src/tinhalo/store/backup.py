"""Copies of all data: one each day beside the database, and one to carry away, which can be read without the app."""

from __future__ import annotations

import shutil
import time
from collections.abc import Callable, Iterable
from datetime import date, timedelta
from pathlib import Path
from uuid import uuid4

from sqlalchemy import Engine

from tinhalo.store.database import COPIES, FILE, DataError, copies_of_days, copy, open_database
from tinhalo.store.designs import Designs
from tinhalo.store.plain import read_plain, write_plain

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
    for path in copies_of_days(copies):
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
        return _told(folder, lambda engine: write_plain(engine, out))
    except OSError as error:
        raise DataError(f"{out} cannot be written: {error.strerror or error}.") from error


def restore(source: Path, folder: Path) -> int:
    """Put a backup back into a folder without designs; what its database does not have is read from its plain files.

    Returns:
        How many designs there are.

    Raises:
        DataError: when the folder has designs already, or there is nothing to put back.
    """
    if (folder / FILE).exists():
        raise DataError(f"{folder} has designs already, and none of them is replaced: choose an empty folder.")
    if not (source / FILE).is_file() and not any((source / "designs").glob("*.json")):
        raise DataError(f"{source} is no backup: it has neither {FILE} nor designs.")
    try:
        folder.mkdir(parents=True, exist_ok=True)
        if (source / FILE).is_file():
            # Killed on the way it must not be taken for a damaged one.
            part = folder / f"{FILE}.part"
            shutil.copyfile(source / FILE, part)
            part.rename(folder / FILE)
    except OSError as error:
        raise DataError(f"{folder} cannot be written: {error.strerror or error}.") from error
    return _told(folder, lambda engine: read_plain(source, engine))


def _told(folder: Path, work: Callable[[Engine], Iterable[str]]) -> int:
    """Print what work on a folder's database has to tell; how many designs there are after it."""
    engine = open_database(folder)
    try:
        for sentence in work(engine):
            print(sentence)
        return len(Designs(engine).list())
    finally:
        engine.dispose()
