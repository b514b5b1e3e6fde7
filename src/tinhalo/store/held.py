"""One server for one folder: the second one is told who the first is."""

from __future__ import annotations

import contextlib
import sqlite3
from pathlib import Path

from tinhalo.store.database import DataError

_LOCK, _WHO = "tinhalo.lock", "tinhalo.who"


def hold(folder: Path, who: str) -> sqlite3.Connection:
    """Keep a folder for this process, until the returned connection is closed or the process ends, however it does.

    SQLite's own file locks are used for it: they are the same on every system, and go with the process.

    Args:
        folder: where the data is; made if it is not there.
        who: what another process is told of this one.

    Raises:
        DataError: when another process holds it, or it cannot be written.
    """
    try:
        folder.mkdir(parents=True, exist_ok=True)
        lock = sqlite3.connect(folder / _LOCK, timeout=0, isolation_level=None, check_same_thread=False)
        try:
            lock.execute("BEGIN EXCLUSIVE")
        except sqlite3.OperationalError as error:
            lock.close()
            if "locked" not in str(error):
                raise DataError(f"{folder} cannot be written: {error}.") from error
            first = ""
            with contextlib.suppress(OSError):
                first = (folder / _WHO).read_text("utf-8").strip()
            named = f" by {first}" if first else ""
            raise DataError(f"{folder} is in use already{named}: two would change the same designs.") from error
        (folder / _WHO).write_text(who, "utf-8")
    except (OSError, sqlite3.OperationalError) as error:
        raise DataError(f"{folder} cannot be used for designs: {error}.") from error
    return lock
