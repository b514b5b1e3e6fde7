"""Open the database, brought to the newest schema."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from sqlalchemy import Engine, create_engine, event

#: Set on every connection. FULL: a save that was acknowledged survives a crash of the machine, not only of the app.
_PRAGMAS = ("journal_mode=WAL", "synchronous=FULL", "foreign_keys=ON", "busy_timeout=10000")


def open_database(folder: Path) -> Engine:
    """The engine for ``folder/tinhalo.sqlite``, created and migrated as needed."""
    folder.mkdir(parents=True, exist_ok=True)
    engine = create_engine(f"sqlite:///{folder / 'tinhalo.sqlite'}")
    event.listen(engine, "connect", _configure)
    migrate(engine)
    return engine


def migrate(engine: Engine) -> None:
    """Bring the schema to the newest revision."""
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "head")


def _configure(connection: Any, _: Any) -> None:
    cursor = connection.cursor()
    for pragma in _PRAGMAS:
        cursor.execute(f"PRAGMA {pragma}")
    cursor.close()
