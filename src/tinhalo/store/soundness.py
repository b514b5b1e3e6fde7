"""Whether a database is as it was left: flipped bits and cut off files are found out before anybody works with it."""

from __future__ import annotations

import sqlite3
from contextlib import closing
from pathlib import Path

from sqlalchemy import Engine, select
from sqlalchemy.exc import DatabaseError
from sqlalchemy.orm import Session

from tinhalo.store.models import Base, TimelineRow, checksum

#: What SQLite says of a damaged database: a flipped bit in a text is told as one that is no UTF-8, one in a name of the
#: schema as what is missing.
_DAMAGE = ("malformed", "Could not decode", "no such table", "no such column", "no such index")


def tells_of_damage(error: BaseException | None) -> bool:
    """Whether what was said when a database was worked on is that it is damaged, and not that it is in use or full."""
    return any(said in str(error) for said in _DAMAGE)


def is_sound(path: Path) -> bool:
    """SQLite's own check of a database's structure and of what its indexes say, and ours of what designs say.

    Raises:
        sqlite3.OperationalError: when it cannot be asked: it is held by another program, or may not be read.
    """
    try:
        with closing(sqlite3.connect(path)) as connection:
            return connection.execute("PRAGMA integrity_check(1)").fetchone() == ("ok",) and _is_unchanged(connection)
    except UnicodeDecodeError:
        # What was found is told with names out of the database.
        return False
    except sqlite3.DatabaseError as error:
        if isinstance(error, sqlite3.OperationalError) and not tells_of_damage(error):
            raise
        return False


def _is_unchanged(connection: sqlite3.Connection) -> bool:
    """Whether the documents that designs stand at are those that were stored."""
    if "checksum" not in [row[1] for row in connection.execute("PRAGMA table_info(timeline)")]:
        return True
    rows = connection.execute(
        "SELECT document, checksum FROM timeline JOIN designs ON design_id = designs.id AND place = designs.at"
    )
    return all(check is None or checksum(text) == check for text, check in rows)


def can_be_read(engine: Engine) -> bool:
    """Whether every table of the newest schema is there with its columns, and all that lists show of its rows.

    Documents are not among it: a design whose history is damaged is opened without that part.

    Raises:
        sqlalchemy.exc.DatabaseError: when it cannot be asked: it is held by another program.
    """
    try:
        with Session(engine) as session:
            for mapper in Base.registry.mappers:
                rows = session.scalars(select(mapper))
                if mapper.class_ is TimelineRow:
                    rows.first()
                else:
                    rows.all()
    except DatabaseError as error:
        if tells_of_damage(error.orig):
            return False
        raise
    except (ValueError, TypeError):
        return False
    return True
