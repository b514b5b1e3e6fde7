"""Put a new database in the place of a damaged one: whoever is killed on the way loses neither, and goes on next time.

The damaged one stays where it is until the new one is complete and has a name that says so; only then it is replaced.
"""

from __future__ import annotations

import filecmp
import os
import shutil
from collections.abc import Callable
from datetime import datetime
from pathlib import Path

from tinhalo.store.notice import Notice

_BEGUN, _COMPLETE = "brought-over.part", "brought-over.sqlite"
#: What SQLite keeps beside a database.
_WAL, _SHM = "-wal", "-shm"


def replace_damaged(path: Path, fill: Callable[[Path], str]) -> str:
    """Replace a database, which is kept beside the new one as it is; the sentence that tells of it.

    Args:
        path: of the database.
        fill: makes the new one at another path, and says in half a sentence what came of it.
    Raises:
        OSError: when there is no room to keep it; nothing is lost then.
    """
    begun, complete = path.with_name(_BEGUN), path.with_name(_COMPLETE)
    for left in (begun, complete):
        _remove(left)
    told = fill(begun)
    sentence = f"The database was damaged. It is kept as {_kept(path)}; {told}"
    Notice(path.parent).put(sentence)
    begun.rename(complete)
    finish(path)
    return sentence


def finish(path: Path) -> None:
    """Put the new database in its place, where that was not done any more."""
    complete = path.with_name(_COMPLETE)
    if not complete.exists():
        return
    if path.exists() and _kept_already(path) is None:
        # Somebody put another one there meanwhile.
        _remove(complete)
        return
    # It would be taken for a part of the new one.
    for suffix in (_WAL, _SHM):
        _beside(path, suffix).unlink(missing_ok=True)
    complete.replace(path)


def _kept(path: Path) -> Path:
    """The damaged database under another name, with what belongs to it."""
    aside = _kept_already(path)
    if aside is None:
        aside = path.with_name(f"damaged-{datetime.now().strftime('%Y-%m-%d-%H%M%S')}.sqlite")
        # The database itself comes last: where it is, all of it is.
        for part, to in ((_beside(path, _WAL), _beside(aside, _WAL)), (path, aside)):
            if part.exists():
                _keep(part, to)
    return aside


def _kept_already(path: Path) -> Path | None:
    kept = sorted(path.parent.glob("damaged-*.sqlite"))
    return next((one for one in kept if filecmp.cmp(path, one, shallow=False)), None)


def _keep(part: Path, to: Path) -> None:
    try:
        os.link(part, to)
    except OSError:
        # Not every disk can give a file two names.
        try:
            shutil.copyfile(part, to)
        except OSError:
            to.unlink(missing_ok=True)
            raise


def _beside(path: Path, suffix: str) -> Path:
    return path.with_name(path.name + suffix)


def _remove(database: Path) -> None:
    for one in (database, _beside(database, _WAL), _beside(database, _SHM)):
        one.unlink(missing_ok=True)
