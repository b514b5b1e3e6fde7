"""Bring over what can be read of a damaged database, row by row."""

from __future__ import annotations

import sqlite3
from collections.abc import Collection, Iterator
from contextlib import closing
from datetime import datetime
from pathlib import Path
from typing import Any

from sqlalchemy import Column, Table

from tinhalo.core.design.reading import read_stored
from tinhalo.store.models import Base, checksum, now

#: After so many places without a row that can be read, there are no more.
_MOST_GAPS = 2_000


def rescue(damaged: Path, fresh: Path, copy: Path | None = None) -> str:
    """Copy every row that can be read into a database with the newest schema; what came of it, as half a sentence.

    Args:
        damaged: the database; it stays as it is.
        fresh: an empty one with the newest schema.
        copy: one of an earlier day; what is not in the damaged one any more is taken from it.
    Raises:
        sqlite3.OperationalError: when it cannot be written.
    """
    with closing(sqlite3.connect(fresh)) as target:
        # What belongs to something comes after it.
        for table in Base.metadata.sorted_tables:
            bring_over(damaged, target, table)
        _settle(target)
        kept = _shown(target)
        more = 0
        if copy is not None:
            _fill_up(copy, target)
            more = _shown(target) - kept
        target.commit()
    designs = "1 design" if kept == 1 else f"{kept or 'no'} designs"
    from_copy = f" {more} more came from the copy of {copy.stem}." if copy and more else ""
    return f"{designs} could be brought over.{from_copy}"


def _shown(target: sqlite3.Connection) -> int:
    return target.execute("SELECT count(*) FROM designs WHERE deleted IS NULL").fetchone()[0]


def _fill_up(copy: Path, target: sqlite3.Connection) -> None:
    """Take from a copy what is not there; jobs stay away: what was waiting then may have been cut since."""
    there = {id for (id,) in target.execute("SELECT id FROM designs")}
    for table in Base.metadata.sorted_tables:
        if table.name not in ("machines", "jobs", "cuts"):
            bring_over(copy, target, table, there)
    _settle(target)


def _settle(target: sqlite3.Connection) -> None:
    """Each design stands at its newest document that is as it was stored, with the unbroken history before that."""
    sound: dict[str, dict[int, str]] = {}
    for id, place, text, check in target.execute("SELECT design_id, place, document, checksum FROM timeline"):
        if isinstance(place, int) and (name := _name_in(text, check)) is not None:
            sound.setdefault(id, {})[place] = name
    stamp = now().isoformat(" ")
    for id in sound:
        # A design that only its documents are left of is built anew from them.
        target.execute(
            "INSERT OR IGNORE INTO designs (id, name, revision, at, created, updated) VALUES (?, '', 1, -1, ?, ?)",
            (id, stamp, stamp),
        )
    for id, at in target.execute("SELECT id, at FROM designs").fetchall():
        places = sound.get(id, {})
        if not places:
            target.execute("DELETE FROM designs WHERE id = ?", (id,))
            continue
        last = at if at in places else max(places)
        first = last
        while first - 1 in places:
            first -= 1
        target.execute("DELETE FROM timeline WHERE design_id = ? AND place NOT BETWEEN ? AND ?", (id, first, last))
        # Names and times are told by the document, or begin anew: they are not checked by anything.
        target.execute(
            "UPDATE designs SET at = ?, name = ?, created = ?, updated = ?, revision = max(1, abs(revision)) "
            "WHERE id = ?",
            (last, places[last], stamp, stamp, id),
        )
    target.execute("DELETE FROM timeline WHERE design_id NOT IN (SELECT id FROM designs)")


def _name_in(text: Any, check: Any) -> str | None:
    """The name in a stored document; None where that is not what was stored."""
    if not isinstance(text, str) or (check is not None and checksum(text) != check):
        return None
    try:
        return read_stored(text).name
    except ValueError:
        return None


def bring_over(damaged: Path, target: sqlite3.Connection, table: Table, besides: Collection[str] = ()) -> None:
    """Bring over the rows of a table; of the timeline those of other designs than ``besides``."""
    known = [row[1] for row in target.execute(f"PRAGMA table_info({table.name})")]
    for names, row in _rows(damaged, table.name):
        # A column whose name is damaged is known by its place.
        own = names if set(names) <= set(known) or len(names) != len(known) else known
        try:
            held = {
                name: _fitting(table.columns[name], value)
                for name, value in zip(own, row, strict=True)
                if name in table.columns
            }
            if held.get("design_id") in besides:
                continue
            marks = ", ".join("?" * len(held))
            columns = ", ".join(f'"{name}"' for name in held)
            target.execute(f"INSERT OR IGNORE INTO {table.name} ({columns}) VALUES ({marks})", list(held.values()))
        except (sqlite3.IntegrityError, sqlite3.DataError, sqlite3.InterfaceError, ValueError):
            # What is no row of that table any more is damaged, too; what else there is is the new database's: no room.
            continue


def _fitting(column: Column[Any], value: Any) -> Any:
    """What was in a column; a time that is none begins anew.

    Raises:
        ValueError: when it cannot have been in that column.
    """
    kind = column.type.python_type
    if value is None and column.nullable:
        return None
    if kind is datetime:
        try:
            return datetime.fromisoformat(str(value)).isoformat(" ")
        except ValueError:
            return None if column.nullable else now().isoformat(" ")
    if not isinstance(value, (int, float) if kind is float else int if kind is bool else kind):
        raise ValueError(column.name)
    return value


def _is_told_of(damaged: Path, table: str) -> bool:
    """Whether what is left of a database knows the table: no row of another is ever found, and trying takes seconds."""
    try:
        with closing(_read_only(damaged)) as source:
            source.execute(f"SELECT rowid, * FROM {table} LIMIT 0")
    except (sqlite3.DatabaseError, UnicodeDecodeError):
        return False
    return True


def _read_only(damaged: Path) -> sqlite3.Connection:
    """It stays as it was found, with nothing beside it; a text that is damaged is read without its damage."""
    alone = not damaged.with_name(f"{damaged.name}-wal").exists()
    source = sqlite3.connect(f"{damaged.as_uri()}?mode=ro{'&immutable=1' if alone else ''}", uri=True)
    source.text_factory = lambda text: text.decode("utf-8", "replace")
    # SQLite would not read a file that was cut off at all, nor one with a table that it cannot make sense of.
    source.execute("PRAGMA writable_schema = ON")
    return source


def _rows(damaged: Path, table: str) -> Iterator[tuple[list[str], tuple[Any, ...]]]:
    """Rows in the order of their numbers; where one cannot be read, the next ones are tried."""
    if not _is_told_of(damaged, table):
        return
    last, gaps = 0, 0
    while gaps <= _MOST_GAPS:
        try:
            with closing(_read_only(damaged)) as source:
                rows = source.execute(f"SELECT rowid, * FROM {table} WHERE rowid > ? ORDER BY rowid", (last,))
                names = [column[0] for column in rows.description][1:]
                for row in rows:
                    if row[0] <= last:
                        # What leads back to rows that were read would do so for ever.
                        raise sqlite3.DatabaseError("rows lie out of their order")
                    last, gaps = row[0], 0
                    yield names, row[1:]
            return
        except (sqlite3.DatabaseError, UnicodeDecodeError):
            last, gaps = last + 1, gaps + 1
