"""Check that the migrations give the schema the models describe; with --write MESSAGE, add the migration that does."""

from __future__ import annotations

import argparse
import tempfile
from pathlib import Path

from alembic import command
from alembic.autogenerate import compare_metadata
from alembic.config import Config
from alembic.migration import MigrationContext

import tinhalo.store
from tinhalo.store.database import open_database
from tinhalo.store.models import Base


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--write", metavar="MESSAGE")
    message = parser.parse_args().write
    with tempfile.TemporaryDirectory() as folder, open_database(Path(folder)).begin() as connection:
        difference = compare_metadata(MigrationContext.configure(connection), Base.metadata)
        if message and difference:
            config = Config()
            config.set_main_option("script_location", str(Path(tinhalo.store.__file__).parent / "migrations"))
            config.attributes["connection"] = connection
            command.revision(config, message, autogenerate=True)
            return 0
    for change in difference:
        print(f"The migrations lack: {change}")
    return 1 if difference else 0


if __name__ == "__main__":
    raise SystemExit(main())
