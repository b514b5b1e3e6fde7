"""The repository of designs.

A design is a timeline of documents and a place in it. A save says what becomes of the timeline: keep it up to a
place, put documents after it, and stand at a place. That one operation covers an edit (keep up to here, add one),
an amended edit (keep up to the one before, add one), undo and redo (keep all, stand elsewhere).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from uuid import uuid4

from sqlalchemy import Engine, delete, select, update
from sqlalchemy.orm import Session

from tinhalo.core.design.design import Design
from tinhalo.core.design.problem import DesignError
from tinhalo.core.design.reading import read_stored
from tinhalo.store.database import DamagedError, writing
from tinhalo.store.models import DesignRow, TimelineRow, checksum, now

#: Documents kept to go back to.
HISTORY = 200
#: Characters in the name of a folder of the shelf.
LONGEST_FOLDER = 80


class NotFoundError(LookupError):
    """There is no design with that id."""


class StaleError(Exception):
    """The design was saved by someone else since; ``current`` is how it stands now."""

    def __init__(self, current: State) -> None:
        super().__init__("stale revision")
        self.current = current


class TimelineError(ValueError):
    """A save that does not fit the timeline."""


@dataclass(frozen=True)
class Summary:
    """A design on the shelf."""

    id: str
    name: str
    folder: str
    revision: int
    updated: datetime
    changed_by: str


@dataclass(frozen=True)
class State:
    """A design with its timeline.

    Attributes:
        first: place of the first document in ``timeline``.
        at: place of the current document.
        timeline: all documents to go back and forth to, in order.
        changed_by: whoever saved it last, empty where no names are asked for.
    """

    id: str
    revision: int
    first: int
    at: int
    timeline: tuple[Design, ...]
    changed_by: str = ""

    @property
    def document(self) -> Design:
        """The current document."""
        return self.timeline[self.at - self.first]


@dataclass(frozen=True)
class Save:
    """What becomes of the timeline. ``keep_through`` and ``at`` are places."""

    base_revision: int
    keep_through: int
    add: Sequence[Design]
    at: int


class Designs:
    """All stored designs."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def list(self) -> list[Summary]:
        """Every design that is not deleted, the last changed first."""
        with Session(self._engine) as session:
            rows = session.scalars(
                select(DesignRow).where(DesignRow.deleted.is_(None)).order_by(DesignRow.updated.desc(), DesignRow.id)
            )
            return [_summary(r) for r in rows]

    def create(self, document: Design, id: str | None = None, folder: str = "", by: str = "") -> State:
        """Store a new design."""
        row = DesignRow(id=id or uuid4().hex, name=document.name, folder=folder, revision=1, at=0, changed_by=by)
        with writing(self._engine) as session:
            session.add(row)
            session.flush()
            session.add(_row_of(row.id, 0, document))
            return State(row.id, 1, 0, 0, (document,), by)

    def get(self, id: str) -> State:
        """One design with its timeline.

        Raises:
            NotFoundError: when there is none, or it is deleted.
        """
        with Session(self._engine) as session:
            return self._state(session, id)

    def current(self, id: str) -> tuple[int, Design]:
        """Revision and current document, without the timeline.

        Raises:
            NotFoundError: when there is none, or it is deleted.
        """
        with Session(self._engine) as session:
            row = self._row(session, id)
            return row.revision, self._document(session, row)

    def save(self, id: str, save: Save, by: str = "") -> int:
        """Change the timeline in one transaction, ``by`` somebody; returns the new revision.

        Raises:
            NotFoundError: when there is no such design.
            StaleError: when ``base_revision`` is not the current one; nothing is changed.
            TimelineError: when the places do not fit the timeline; nothing is changed.
        """
        with writing(self._engine) as session:
            if not self._claim(session, id, save.base_revision):
                raise StaleError(self._state(session, id))
            row = self._row(session, id)
            self._change(session, row, save)
            row.changed_by = by
            return row.revision

    def rename(self, id: str, name: str, by: str = "") -> Summary:
        """Rename a design, as one more entry of its timeline.

        Raises:
            NotFoundError: when there is none.
        """
        with writing(self._engine) as session:
            row = self._row(session, id)
            renamed = self._document(session, row).model_copy(update={"name": name})
            row.revision += 1
            self._change(session, row, Save(row.revision, row.at, [renamed], row.at + 1))
            row.changed_by = by
            return _summary(row)

    def duplicate(self, id: str, by: str = "") -> State:
        """A new design in the same folder, with a copy of the current document.

        Raises:
            NotFoundError: when there is none.
        """
        with Session(self._engine) as session:
            row = self._row(session, id)
            document, folder = self._document(session, row), row.folder
        return self.create(document.model_copy(update={"name": f"{document.name} copy"[:200]}), folder=folder, by=by)

    def put_into(self, ids: Sequence[str], folder: str) -> None:
        """Put designs into a folder of the shelf, all or none; with an empty name into none.

        Raises:
            NotFoundError: when one of them is not there.
        """
        with writing(self._engine) as session:
            for id in ids:
                self._row(session, id).folder = folder

    def delete(self, id: str) -> None:
        """Take a design off the shelf; ``restore`` puts it back.

        Raises:
            NotFoundError: when there is none.
        """
        with writing(self._engine) as session:
            self._row(session, id).deleted = now()

    def restore(self, id: str) -> State:
        """Put a deleted design back.

        Raises:
            NotFoundError: when there never was one.
        """
        with writing(self._engine) as session:
            row = session.get(DesignRow, id)
            if row is None:
                raise NotFoundError(id)
            row.deleted = None
            session.flush()
            return self._state(session, id)

    def _change(self, session: Session, row: DesignRow, save: Save) -> None:
        """Make a save's change of the timeline; the revision is counted up already."""
        places = session.scalars(
            select(TimelineRow.place).where(TimelineRow.design_id == row.id).order_by(TimelineRow.place)
        ).all()
        keep = save.keep_through
        if not (places[0] - 1 <= keep <= places[-1]) or (keep < places[0] and not save.add):
            raise TimelineError("The place to keep the history up to is not in the history.")
        last = keep + len(save.add)
        if not (min(places[0], last) <= save.at <= last):
            raise TimelineError("The place to stand at is not in the history.")
        session.execute(
            delete(TimelineRow).where(
                TimelineRow.design_id == row.id,
                (TimelineRow.place > keep) | (TimelineRow.place <= save.at - HISTORY),
            )
        )
        session.add_all(_row_of(row.id, keep + 1 + offset, document) for offset, document in enumerate(save.add))
        session.flush()
        row.at, row.updated = save.at, now()
        row.name = self._document(session, row).name

    @staticmethod
    def _claim(session: Session, id: str, revision: int) -> bool:
        """Count the revision up if it still is the expected one: compare and swap in one statement."""
        claimed = session.execute(
            update(DesignRow)
            .where(DesignRow.id == id, DesignRow.revision == revision, DesignRow.deleted.is_(None))
            .values(revision=revision + 1)
            .returning(DesignRow.id)
        ).first()
        return claimed is not None

    @staticmethod
    def _row(session: Session, id: str) -> DesignRow:
        row = session.get(DesignRow, id, populate_existing=True)
        if row is None or row.deleted is not None:
            raise NotFoundError(id)
        return row

    @staticmethod
    def _document(session: Session, row: DesignRow) -> Design:
        found = session.get_one(TimelineRow, (row.id, row.at))
        return _read(found.document, found.checksum)

    def _state(self, session: Session, id: str) -> State:
        row = self._row(session, id)
        timeline = session.execute(
            select(TimelineRow.place, TimelineRow.document, TimelineRow.checksum)
            .where(TimelineRow.design_id == id)
            .order_by(TimelineRow.place)
        ).all()
        documents: dict[int, Design] = {}
        for place, text, check in timeline:
            try:
                documents[place] = _read(text, check)
            except (DamagedError, DesignError):
                # One that cannot be gone back to is no reason not to open the design.
                if place == row.at:
                    raise
        first = last = row.at
        while first - 1 in documents:
            first -= 1
        while last + 1 in documents:
            last += 1
        kept = tuple(documents[place] for place in range(first, last + 1))
        return State(id, row.revision, first, row.at, kept, row.changed_by)


def _summary(row: DesignRow) -> Summary:
    return Summary(row.id, row.name, row.folder, row.revision, row.updated, row.changed_by)


def _row_of(id: str, place: int, document: Design) -> TimelineRow:
    text = document.model_dump_json(by_alias=True)
    return TimelineRow(design_id=id, place=place, document=text, checksum=checksum(text))


def _read(text: str, check: int | None) -> Design:
    if check is not None and checksum(text) != check:
        raise DamagedError
    return read_stored(text)
