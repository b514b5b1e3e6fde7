"""Starters that the maker saved."""

from __future__ import annotations

from dataclasses import dataclass
from uuid import uuid4

from sqlalchemy import Engine, select
from sqlalchemy.orm import Session

from tinhalo.core.design.design import Design
from tinhalo.core.design.reading import read_stored
from tinhalo.store.database import writing
from tinhalo.store.models import StarterRow
from tinhalo.store.readable import readable


@dataclass(frozen=True)
class OwnStarter:
    """A saved starter."""

    id: str
    title: str
    document: Design


class Starters:
    """All saved starters."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def list(self) -> list[OwnStarter]:
        """Every saved starter, the last saved first."""
        with Session(self._engine) as session:
            rows = session.scalars(select(StarterRow).order_by(StarterRow.added.desc(), StarterRow.id))
            return readable(rows, _read, lambda row: f"The own starter {row.title!r}")

    def add(self, title: str, document: Design) -> OwnStarter:
        """Save a design's document as a starter."""
        own = OwnStarter(uuid4().hex, title, document)
        with writing(self._engine) as session:
            session.add(StarterRow(id=own.id, title=title, document=document.model_dump_json(by_alias=True)))
        return own

    def remove(self, id: str) -> bool:
        """Forget a saved starter; whether it was there."""
        with writing(self._engine) as session:
            row = session.get(StarterRow, id)
            if row is not None:
                session.delete(row)
            return row is not None


def _read(row: StarterRow) -> OwnStarter:
    return OwnStarter(row.id, row.title, read_stored(row.document))
