"""The tables."""

from __future__ import annotations

import zlib
from datetime import UTC, datetime

from sqlalchemy import ForeignKey, LargeBinary, String, Text
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Base(DeclarativeBase):
    """Base of all tables."""


def now() -> datetime:
    """The current time in UTC, without a zone: SQLite keeps none."""
    return datetime.now(UTC).replace(tzinfo=None)


def checksum(document: str) -> int:
    """CRC-32 of a document's text: a flipped bit on a disk is found out by it."""
    return zlib.crc32(document.encode("utf-8", "surrogatepass"))


class DesignRow(Base):
    """A design: which of its timeline's documents is the current one, and how often it was saved.

    ``revision`` counts saves; ``at`` is the place in the timeline. ``folder``
    is where it stands on the shelf, empty for none; ``changed_by`` whoever saved it last, empty where no names are
    asked for. Deleted designs stay, to be put back.
    """

    __tablename__ = "designs"

    id: Mapped[str] = mapped_column(String(32), primary_key=True)
    name: Mapped[str] = mapped_column(Text)
    folder: Mapped[str] = mapped_column(String(80), default="", server_default="")
    changed_by: Mapped[str] = mapped_column(String(80), default="", server_default="")
    revision: Mapped[int]
    at: Mapped[int]
    created: Mapped[datetime] = mapped_column(default=now)
    updated: Mapped[datetime] = mapped_column(default=now)
    deleted: Mapped[datetime | None] = mapped_column(default=None)


class TimelineRow(Base):
    """One document of a design's undo history, as JSON text; ``checksum`` tells whether it still is what was stored."""

    __tablename__ = "timeline"

    design_id: Mapped[str] = mapped_column(ForeignKey("designs.id", ondelete="CASCADE"), primary_key=True)
    place: Mapped[int] = mapped_column(primary_key=True)
    document: Mapped[str] = mapped_column(Text)
    checksum: Mapped[int | None] = mapped_column(default=None)


class FontRow(Base):
    """A font face that the maker added: its facts as JSON text, and the bytes of the file it is in.

    ``licence_note`` is what the maker noted of a licence that was bought.
    """

    __tablename__ = "fonts"

    id: Mapped[str] = mapped_column(String(64), primary_key=True)
    file: Mapped[str] = mapped_column(Text)
    facts: Mapped[str] = mapped_column(Text)
    data: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    added: Mapped[datetime] = mapped_column(default=now)
    licence_note: Mapped[str] = mapped_column(Text, default="", server_default="")


class FileRow(Base):
    """A file that the maker brought in: its bytes, and what was read from it; ``kind`` is that of the art."""

    __tablename__ = "files"

    id: Mapped[str] = mapped_column(String(64), primary_key=True)
    name: Mapped[str] = mapped_column(Text)
    kind: Mapped[str] = mapped_column(String(20))
    data: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    read: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    added: Mapped[datetime] = mapped_column(default=now)


class MaterialRow(Base):
    """A material of the maker's own, as JSON text."""

    __tablename__ = "materials"

    id: Mapped[str] = mapped_column(String(64), primary_key=True)
    material: Mapped[str] = mapped_column(Text)
    changed: Mapped[datetime] = mapped_column(default=now, onupdate=now)


class StarterRow(Base):
    """A starter that the maker saved from a design, its document as JSON text."""

    __tablename__ = "starters"

    id: Mapped[str] = mapped_column(String(32), primary_key=True)
    title: Mapped[str] = mapped_column(Text)
    document: Mapped[str] = mapped_column(Text)
    added: Mapped[datetime] = mapped_column(default=now)


class TableRow(Base):
    """How each process leaves, as the maker saved it under a name: JSON text."""

    __tablename__ = "tables"

    name: Mapped[str] = mapped_column(String(80), primary_key=True)
    table: Mapped[str] = mapped_column(Text)


class ToolRow(Base):
    """A tool of the maker's own, as JSON text."""

    __tablename__ = "tools"

    name: Mapped[str] = mapped_column(String(80), primary_key=True)
    tool: Mapped[str] = mapped_column(Text)


class MachineRow(Base):
    """What was set at a practice machine: whether it is on, its tool, what is left of its material in mm, its pace."""

    __tablename__ = "machines"

    id: Mapped[str] = mapped_column(String(32), primary_key=True)
    online: Mapped[bool] = mapped_column(default=True)
    paused: Mapped[bool] = mapped_column(default=False)
    tool: Mapped[str] = mapped_column(String(32))
    left_mm: Mapped[float]
    pace: Mapped[float] = mapped_column(default=1.0)


class JobRow(Base):
    """A job for a machine, as HP-GL text; it waits until the machine takes it."""

    __tablename__ = "jobs"

    id: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    machine: Mapped[str] = mapped_column(String(32), index=True)
    title: Mapped[str] = mapped_column(Text)
    material: Mapped[str] = mapped_column(Text)
    tool: Mapped[str] = mapped_column(String(32))
    hpgl: Mapped[str] = mapped_column(Text, deferred=True)
    width_mm: Mapped[float]
    height_mm: Mapped[float]
    length_mm: Mapped[float]
    state: Mapped[str] = mapped_column(String(16), default="waiting")
    added: Mapped[datetime] = mapped_column(default=now)


class CutRow(Base):
    """A machine's own journal: a job that it took, how far it has come, and where its tool went down, as JSON text.

    One for each job, so that none is cut twice.
    """

    __tablename__ = "cuts"

    job: Mapped[int] = mapped_column(ForeignKey("jobs.id", ondelete="CASCADE"), primary_key=True)
    machine: Mapped[str] = mapped_column(String(32), index=True)
    moves: Mapped[int]
    done: Mapped[int] = mapped_column(default=0)
    offset: Mapped[float] = mapped_column(default=0.0)
    traced: Mapped[str] = mapped_column(Text, default="[]", deferred=True)
    state: Mapped[str] = mapped_column(String(16), default="taken")
    ended: Mapped[datetime | None] = mapped_column(default=None)
