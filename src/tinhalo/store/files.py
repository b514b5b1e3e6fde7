"""Drawings and pictures that the maker brought in, each stored once, by its content."""

from __future__ import annotations

from functools import lru_cache

from sqlalchemy import Engine
from sqlalchemy.orm import Session

from tinhalo.core.artwork.drawings.drawing_file import OWN_FILE, DrawingFile
from tinhalo.core.artwork.drawings.error import DrawingError
from tinhalo.core.artwork.drawings.shipped import NOT_HERE
from tinhalo.core.artwork.lettering.own import file_id
from tinhalo.store.database import writing
from tinhalo.store.fonts import Fonts, StoredFonts
from tinhalo.store.models import FileRow


class Files:
    """All files that were brought in."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def add(self, name: str, kind: str, data: bytes, read: bytes) -> str:
        """Keep a file that was vetted; one that is there already is not stored twice. Its id."""
        id = file_id(data)
        with writing(self._engine) as session:
            there = session.get(FileRow, id)
            if there is None:
                session.add(FileRow(id=id, name=name, kind=kind, data=data, read=read))
            else:
                # A newer version may read more of it.
                there.kind, there.read = kind, read
        return id

    def read(self, id: str) -> bytes | None:
        """What was read from a file, if it is there."""
        with Session(self._engine) as session:
            row = session.get(FileRow, id)
            return None if row is None else row.read

    def listed(self, id: str) -> tuple[str, str] | None:
        """Which kind of art a file is for, and what it is called, if it is there."""
        with Session(self._engine) as session:
            row = session.get(FileRow, id)
            return None if row is None else (row.kind, row.name)

    def original(self, id: str) -> tuple[str, bytes] | None:
        """A file's name and bytes as it came, if it is there."""
        with Session(self._engine) as session:
            row = session.get(FileRow, id)
            return None if row is None else (row.name, row.data)


class StoredLibrary(StoredFonts):
    """Fonts and files by id, shipped and added."""

    def __init__(self, fonts: Fonts, files: Files) -> None:
        super().__init__(fonts)
        self._files = files
        # Those that are not here are asked for again: they may be brought in yet.
        self._picture = lru_cache(maxsize=8)(self._read_file)
        self._drawing = lru_cache(maxsize=32)(self._read_drawing)

    def drawing(self, file: str) -> DrawingFile:
        """The drawing with that id.

        Raises:
            DrawingError: when there is none.
        """
        return self._drawing(file) if file.startswith(OWN_FILE) else self._shipped.drawing(file)

    def picture(self, file: str) -> bytes:
        """The picture with that id, as a PNG of our own.

        Raises:
            DrawingError: when there is none.
        """
        return self._picture(file)

    def _read_file(self, file: str) -> bytes:
        found = self._files.read(file)
        if found is None:
            raise DrawingError(NOT_HERE)
        return found

    def _read_drawing(self, file: str) -> DrawingFile:
        return DrawingFile.from_bytes(self._read_file(file))
