"""A sentence for whoever opens the shelf next, kept beside the database until it was read."""

from __future__ import annotations

from contextlib import suppress
from pathlib import Path


class Notice:
    """What happened to the data when the app started; most of the time nothing."""

    def __init__(self, folder: Path) -> None:
        self._path = folder / "notice.txt"

    def put(self, sentence: str) -> None:
        """Keep a sentence in place of the one before; where that cannot be, it was told on the console only."""
        with suppress(OSError):
            self._path.write_text(sentence, "utf-8")

    def read(self) -> str | None:
        """The sentence, if there is one."""
        try:
            return self._path.read_text("utf-8", "replace")[:2_000] or None
        except OSError:
            return None

    def forget(self) -> None:
        """It was read."""
        with suppress(OSError):
            self._path.unlink(missing_ok=True)
