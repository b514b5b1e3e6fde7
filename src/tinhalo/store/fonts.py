"""Fonts that the maker added, and the library that holds them beside the shipped ones."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

from sqlalchemy import Engine, select
from sqlalchemy.orm import Session

from tinhalo.core.artwork.lettering.face import OWN, Face, FontError
from tinhalo.core.artwork.lettering.font_file import FontFacts
from tinhalo.core.artwork.lettering.licence import of_own
from tinhalo.core.artwork.lettering.own import font_id
from tinhalo.core.artwork.lettering.shipped import NO_AXES, ShippedLibrary
from tinhalo.core.artwork.lettering.vet import VettedFont
from tinhalo.store.database import writing
from tinhalo.store.models import FontRow
from tinhalo.store.readable import readable


@dataclass(frozen=True)
class OwnFont:
    """A font face that the maker added."""

    id: str
    file: str
    facts: FontFacts
    licence_note: str = ""


class Fonts:
    """All added fonts."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def list(self) -> list[OwnFont]:
        """Every added face, the last added first."""
        with Session(self._engine) as session:
            rows = session.scalars(select(FontRow).order_by(FontRow.added.desc(), FontRow.id))
            return readable(rows, _read, _called)

    def add(self, file: str, fonts: list[VettedFont]) -> list[OwnFont]:
        """Keep the faces of a file that was vetted; one that is there already is not added twice."""
        made = [OwnFont(font_id(font), file, font.facts) for font in fonts]
        with writing(self._engine) as session:
            for own, font in zip(made, fonts, strict=True):
                row = FontRow(id=own.id, file=file, facts=own.facts.model_dump_json(), data=font.data)
                session.merge(row)
        return made

    def note_licence(self, id: str, note: str) -> bool:
        """Note a licence that was bought for an added face; whether the face is there."""
        with writing(self._engine) as session:
            row = session.get(FontRow, id)
            if row is not None:
                row.licence_note = note
            return row is not None

    def remove(self, id: str) -> bool:
        """Forget an added face; whether it was there."""
        with writing(self._engine) as session:
            row = session.get(FontRow, id)
            if row is not None:
                session.delete(row)
            return row is not None

    def data(self, id: str) -> tuple[bytes, str] | None:
        """Bytes and family of an added face, if it is there."""
        with Session(self._engine) as session:
            row = session.get(FontRow, id)
            found = readable([] if row is None else [row], _read, _called)
            return (row.data, found[0].facts.family) if row and found else None


def _read(row: FontRow) -> OwnFont:
    return OwnFont(row.id, row.file, FontFacts.model_validate_json(row.facts), row.licence_note)


def _called(row: FontRow) -> str:
    return f"The own font {row.file!r}"


class StoredFonts:
    """Shipped and added fonts by id; each face is parsed once per setting of its axes."""

    def __init__(self, fonts: Fonts) -> None:
        self._fonts = fonts
        self._shipped = ShippedLibrary()
        self._own = lru_cache(maxsize=32)(self._read)

    def face(self, font: str, axes: Mapping[str, float] = NO_AXES) -> Face:
        """The face with that id, set to ``axes`` if it is a variable font.

        Raises:
            FontError: when no font has it.
        """
        if font.startswith(OWN):
            return self._own(font, tuple(sorted(axes.items())))
        return self._shipped.face(font, axes)

    def family(self, font: str) -> str:
        """The font's family name, or the id when it is not known."""
        if font.startswith(OWN):
            # Asked at every build: from the face that is kept, and not from the database.
            try:
                return self._own(font, ()).name
            except FontError:
                return font
        return self._shipped.family(font)

    def selling(self, font: str) -> str:
        """Whether what is made with the font may be sold, in a line with its licence's own words."""
        # Asked of every shipped font, too, which the database knows nothing of.
        own = next((one for one in self._fonts.list() if one.id == font), None) if font.startswith(OWN) else None
        return of_own(own.facts, own.licence_note) if own else self._shipped.selling(font)

    def forget(self) -> None:
        """Look again at what fonts there are."""
        self._own.cache_clear()

    def _read(self, font: str, axes: tuple[tuple[str, float], ...]) -> Face:
        found = self._fonts.data(font)
        if found is None:
            raise FontError(f"The font “{font}” is not here: it was added elsewhere, or removed. Choose another one.")
        data, family = found
        return Face(data, family, dict(axes))
