"""Open the database, brought to the newest schema, and never two servers on one.

Python's sqlite3 begins transactions late and ends them early by itself; here they begin and end where the code says so
(SQLAlchemy, "SQLite: Serializable isolation"): what is read together is of one moment, and a schema changes as a whole.
"""

from __future__ import annotations

import sqlite3
from collections.abc import Generator
from contextlib import closing, contextmanager, suppress
from pathlib import Path
from threading import Lock
from typing import Any
from weakref import WeakKeyDictionary

from alembic import command
from alembic.config import Config
from alembic.runtime.migration import MigrationContext
from alembic.script import ScriptDirectory
from alembic.util import CommandError
from sqlalchemy import Connection, Engine, create_engine, event
from sqlalchemy.exc import DatabaseError
from sqlalchemy.orm import Session

from tinhalo.store.replacing import finish, replace_damaged
from tinhalo.store.rescue import rescue
from tinhalo.store.soundness import can_be_read, is_sound, tells_of_damage

FILE = "tinhalo.sqlite"
COPIES = "copies"

#: Set on every connection. FULL: a save that was acknowledged survives a crash of the machine, not only of the app.
_PRAGMAS = ("journal_mode=WAL", "synchronous=FULL", "foreign_keys=ON")
#: Seconds that a change waits for another program which holds the database.
_PATIENCE = 10.0


class DataError(Exception):
    """The data cannot be used; the message is a sentence for whoever started the app."""


class DamagedError(Exception):
    """What is stored is not what was saved."""


def open_database(folder: Path, patience: float = _PATIENCE) -> Engine:
    """The engine for ``folder/tinhalo.sqlite``, created and migrated as needed.

    A damaged database is kept aside, and what can be read of it is brought over.

    Args:
        folder: where the data is; made if it is not there.
        patience: how many seconds a change waits for another program that holds the database.

    Raises:
        DataError: when it cannot be used: the folder cannot be written, or it is of a newer version.
    """
    path = folder / FILE
    try:
        folder.mkdir(parents=True, exist_ok=True)
        finish(path)
        if not path.exists() or is_sound(path):
            engine = _readable(path, patience)
            if engine is not None:
                return engine
        return _set_aside(path, patience)
    except OSError as error:
        raise DataError(f"{folder} cannot be used for designs: {error.strerror or error}.") from error
    except sqlite3.Error as error:
        raise DataError(f"{path} cannot be opened: {error}.") from error
    except DatabaseError as error:
        raise DataError(f"{path} cannot be opened: {error.orig}.") from error


def _readable(path: Path, patience: float) -> Engine | None:
    """The engine for a database; None where it turns out to be damaged."""
    try:
        engine = _opened(path, patience)
    except DamagedError:
        return None
    except DatabaseError as error:
        if not tells_of_damage(error.orig):
            raise
        return None
    if can_be_read(engine):
        return engine
    engine.dispose()
    return None


@contextmanager
def writing(engine: Engine) -> Generator[Session]:
    """A session that may change things: all of it is stored, or nothing.

    It waits for its turn at once, so that what it has read stays so until it is done.
    """
    # SQLite lets whoever asks at the right moment go first, and some wait for seconds: here they stand in a line.
    with (
        _lines.setdefault(engine, Lock()),
        Session(engine.execution_options(immediate=True)) as session,
        session.begin(),
    ):
        yield session


#: Where those wait that want to change a database.
_lines: WeakKeyDictionary[Engine, Lock] = WeakKeyDictionary()


def _opened(path: Path, patience: float) -> Engine:
    engine = create_engine(f"sqlite:///{path}", connect_args={"timeout": patience})
    event.listen(engine, "connect", _configure)
    event.listen(engine, "begin", _begin)
    try:
        migrate(engine, path)
    except BaseException:
        engine.dispose()
        raise
    return engine


def migrate(engine: Engine, path: Path) -> None:
    """Bring the schema to the newest revision, after a copy of what is there was made.

    Raises:
        DataError: when it is of a newer version; nothing is touched then.
        DamagedError: when what it says of its version is damaged.
    """
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    scripts = ScriptDirectory.from_config(config)
    with engine.execution_options(immediate=True).begin() as connection:
        revision = MigrationContext.configure(connection).get_current_revision()
        if revision == scripts.get_current_head():
            return
        if revision is not None:
            try:
                scripts.get_revision(revision)
            except CommandError as error:
                if any(_differ_in_one(revision, known.revision) for known in scripts.walk_revisions()):
                    raise DamagedError from error
                raise DataError(
                    f"{path} was written by a newer version of Tin Halo. Nothing was touched: use that version."
                ) from error
            copy(path, path.parent / COPIES / f"before-{scripts.get_current_head()}.sqlite")
        config.attributes["connection"] = connection
        command.upgrade(config, "head")


def _differ_in_one(text: str, other: str) -> bool:
    """Whether two texts are the same but for one character: a flipped bit; names of revisions are made by chance."""
    return len(text) == len(other) and sum(a != b for a, b in zip(text, other, strict=True)) == 1


def copy(path: Path, to: Path) -> None:
    """A copy of a database that may be in use (SQLite's online backup)."""
    to.parent.mkdir(parents=True, exist_ok=True)
    with closing(sqlite3.connect(path)) as source, closing(sqlite3.connect(to)) as target:
        source.backup(target)


def copies_of_days(copies: Path) -> list[Path]:
    """The copies that were made day by day, the oldest first."""
    return sorted(copies.glob("????-??-??.sqlite"))


def _set_aside(path: Path, patience: float) -> Engine:
    """A new database with what can be read of a damaged one, which stays beside it untouched."""

    def fill(fresh: Path) -> str:
        _opened(fresh, patience).dispose()
        return rescue(path, fresh, _last_copy(path.parent / COPIES))

    print(replace_damaged(path, fill), flush=True)
    return _opened(path, patience)


def _last_copy(copies: Path) -> Path | None:
    """The newest copy of a day that is sound."""
    for day in reversed(copies_of_days(copies)):
        with suppress(sqlite3.Error):
            if is_sound(day):
                return day
    return None


def _configure(connection: Any, _: Any) -> None:
    connection.isolation_level = None
    cursor = connection.cursor()
    for pragma in _PRAGMAS:
        cursor.execute(f"PRAGMA {pragma}")
    cursor.close()


def _begin(connection: Connection) -> None:
    immediate = connection.get_execution_options().get("immediate", False)
    connection.exec_driver_sql("BEGIN IMMEDIATE" if immediate else "BEGIN")
