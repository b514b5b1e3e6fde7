"""Own fonts and files where the processes that work on rows of a list find them."""

from __future__ import annotations

from pathlib import Path
from tempfile import TemporaryDirectory

from tinhalo.core.design.design import Design
from tinhalo.core.listing.rows import write_files
from tinhalo.core.runtime.memo import digest
from tinhalo.store.files import Files
from tinhalo.store.fonts import Fonts
from tinhalo.store.portable import own_of


class RowFiles:
    """Written once for each set of them, and gone when the app ends."""

    def __init__(self, fonts: Fonts, files: Files) -> None:
        self._fonts, self._files = fonts, files
        self._folder = TemporaryDirectory(prefix="tinhalo-rows-")

    @property
    def folder(self) -> Path:
        """A folder for what is made on the way."""
        return Path(self._folder.name)

    def of(self, design: Design) -> str:
        """Where those of a design are; none where it uses none."""
        fonts, files = own_of(design, self._fonts, self._files)
        folder = self.folder / digest(*sorted([*fonts, *files]))
        path = folder / "files.pickle"
        if not path.exists() and (fonts or files):
            folder.mkdir(exist_ok=True)
            return write_files(folder, fonts, files)
        return str(path) if path.exists() else ""

    def close(self) -> None:
        """Take them away."""
        self._folder.cleanup()
