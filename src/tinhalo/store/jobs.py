"""Machines, the jobs that wait for them, and the journals of what they cut."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime
from typing import Literal, TypeVar, get_args

from sqlalchemy import Engine, delete, select
from sqlalchemy.orm import Session, undefer

from tinhalo.store.database import writing
from tinhalo.store.models import CutRow, JobRow, MachineRow, now

#: A job waits, was taken by its machine, could not be read by it, or was taken back.
JobState = Literal["waiting", "taken", "refused", "cancelled"]
#: A cut was taken, goes on, was stopped in the middle, is done, or was given up after it was stopped.
CutState = Literal["taken", "cutting", "stopped", "done", "given_up"]
#: Points where the tool was down, in plotter units, line by line.
Traced = list[list[tuple[int, int]]]

T = TypeVar("T")

_UNFINISHED: tuple[CutState, ...] = ("taken", "cutting", "stopped")
_JOB_STATES: tuple[JobState, ...] = get_args(JobState)
_CUT_STATES: tuple[CutState, ...] = get_args(CutState)


@dataclass(frozen=True)
class MachineState:
    """What was set at a machine."""

    id: str
    online: bool
    paused: bool
    tool: str
    left_mm: float
    pace: float


@dataclass(frozen=True)
class Job:
    """A job: for which machine, of what, how large its page and how long its lines are, in mm."""

    id: int
    machine: str
    title: str
    material: str
    tool: str
    width_mm: float
    height_mm: float
    length_mm: float
    state: JobState
    added: datetime


@dataclass
class Cut:
    """How far a machine has come with a job: moves that are done, mm along the next one, and where the tool went."""

    job: int
    machine: str
    moves: int
    done: int = 0
    offset: float = 0.0
    traced: Traced = field(default_factory=Traced)
    state: CutState = "taken"


class Jobs:
    """All of it."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        # It is asked all the time what waits, and all jobs are added here: how many were, and how many of them had been
        # when last nothing waited for a machine.
        self._added = 0
        self._idle_at: dict[str, int] = {}

    def known(self, id: str) -> bool:
        """Whether anything was set at a machine before."""
        with Session(self._engine) as session:
            return session.get(MachineRow, id) is not None

    def machine(self, id: str, tool: str, left_mm: float) -> MachineState:
        """A machine as it was set last; at first on, with that tool and so much material."""
        with writing(self._engine) as session:
            row = session.get(MachineRow, id)
            if row is None:
                row = MachineRow(id=id, online=True, paused=False, tool=tool, left_mm=left_mm, pace=1.0)
                session.add(row)
            return _state(row)

    def set_machine(self, state: MachineState) -> None:
        """Keep what is set at a machine."""
        with writing(self._engine) as session:
            session.merge(MachineRow(**vars(state)))

    def add(self, machine: str, title: str, material: str, tool: str, hpgl: str, sizes: Sequence[float]) -> int:
        """A new job that waits: its page's width and height, and the length of its lines; its number."""
        width, height, length = sizes
        row = JobRow(machine=machine, title=title, material=material, tool=tool, hpgl=hpgl)
        row.width_mm, row.height_mm, row.length_mm, row.state = width, height, length, "waiting"
        with writing(self._engine) as session:
            session.add(row)
            session.flush()
            id = row.id
        self._added += 1
        return id

    def jobs(self, machine: str, most: int = 200) -> list[Job]:
        """A machine's jobs, the oldest first; of very many the newest."""
        with Session(self._engine) as session:
            wanted = select(JobRow).where(JobRow.machine == machine).order_by(JobRow.id.desc()).limit(most)
            return [_job(row) for row in reversed(list(session.scalars(wanted)))]

    def waiting(self, machine: str) -> Job | None:
        """The job that is next."""
        # Read before it is looked, so that what is added meanwhile is looked for again.
        added = self._added
        if self._idle_at.get(machine) == added:
            return None
        wanted = select(JobRow).where(JobRow.machine == machine, JobRow.state == "waiting").order_by(JobRow.id).limit(1)
        with Session(self._engine) as session:
            row = session.scalar(wanted)
        if row is None:
            self._idle_at[machine] = added
            return None
        return _job(row)

    def job(self, id: int) -> tuple[Job, str] | None:
        """A job and its HP-GL."""
        with Session(self._engine) as session:
            row = session.get(JobRow, id, options=[undefer(JobRow.hpgl)])
            return None if row is None else (_job(row), row.hpgl)

    def cancel(self, id: int) -> bool:
        """Take back a job that waits; whether it did."""
        return self._left(id, "cancelled")

    def refuse(self, id: int) -> bool:
        """Note that a machine could not read a job."""
        return self._left(id, "refused")

    def _left(self, id: int, state: JobState) -> bool:
        with writing(self._engine) as session:
            row = session.get(JobRow, id)
            if row is None or row.state != "waiting":
                return False
            row.state = state
            return True

    def take(self, id: int, machine: str, moves: int) -> bool:
        """A machine takes a job, once: whether it had not been taken before, nor taken back."""
        with writing(self._engine) as session:
            row = session.get(JobRow, id)
            if row is None or row.state != "waiting" or row.machine != machine:
                return False
            row.state = "taken"
            session.add(CutRow(job=id, machine=machine, moves=moves, traced="[]", done=0, offset=0.0, state="taken"))
            return True

    def cut(self, id: int) -> Cut | None:
        """How far a job is cut."""
        with Session(self._engine) as session:
            row = session.get(CutRow, id, options=[undefer(CutRow.traced)])
            return None if row is None else _cut(row)

    def states(self, machine: str) -> dict[int, CutState]:
        """By job, how each cut of a machine stands."""
        with Session(self._engine) as session:
            rows = session.execute(select(CutRow.job, CutRow.state).where(CutRow.machine == machine))
            return {job: _cut_state(state) for job, state in rows}

    def unfinished(self, machine: str) -> Cut | None:
        """The cut that a machine is at."""
        wanted = select(CutRow).where(CutRow.machine == machine, CutRow.state.in_(_UNFINISHED)).order_by(CutRow.job)
        with Session(self._engine) as session:
            row = session.scalar(wanted.limit(1).options(undefer(CutRow.traced)))
            return None if row is None else _cut(row)

    def note(self, cut: Cut) -> None:
        """Keep how far a cut has come: all of it, or nothing."""
        with writing(self._engine) as session:
            _note(session, cut)

    def begin(self, cut: Cut, state: MachineState) -> None:
        """Keep that a cut has begun, and what is left of the material: both or neither, so that it is used once."""
        with writing(self._engine) as session:
            session.merge(MachineRow(**vars(state)))
            _note(session, cut)

    def clear(self, machine: str) -> int:
        """Forget a machine's jobs that are over; how many they were."""
        over = select(CutRow.job).where(CutRow.state.in_(("done", "given_up")))
        ended = JobRow.state.in_(("cancelled", "refused")) | JobRow.id.in_(over)
        with writing(self._engine) as session:
            jobs = list(session.scalars(select(JobRow.id).where(JobRow.machine == machine, ended)))
            session.execute(delete(CutRow).where(CutRow.job.in_(jobs)))
            session.execute(delete(JobRow).where(JobRow.id.in_(jobs)))
        return len(jobs)


def _note(session: Session, cut: Cut) -> None:
    row = session.get_one(CutRow, cut.job)
    row.done, row.offset, row.state = cut.done, cut.offset, cut.state
    row.traced = json.dumps(cut.traced, separators=(",", ":"))
    row.ended = now() if cut.state in ("done", "given_up") else None


def _state(row: MachineRow) -> MachineState:
    return MachineState(row.id, row.online, row.paused, row.tool, row.left_mm, row.pace)


def _job(row: JobRow) -> Job:
    sizes = row.width_mm, row.height_mm, row.length_mm
    # Damage to what a machine did must not keep it from the rest of its jobs.
    state: JobState = _one_of(_JOB_STATES, row.state, "refused")
    return Job(row.id, row.machine, row.title, row.material, row.tool, *sizes, state, row.added)


def _cut_state(text: str) -> CutState:
    return _one_of(_CUT_STATES, text, "given_up")


def _one_of(among: Sequence[T], text: str, otherwise: T) -> T:
    return next((one for one in among if one == text), otherwise)


def _cut(row: CutRow) -> Cut:
    return Cut(row.job, row.machine, row.moves, row.done, row.offset, _traced(row.traced), _cut_state(row.state))


def _traced(text: str) -> Traced:
    try:
        return Traced([(int(x), int(y)) for x, y in line] for line in json.loads(text))
    except (ValueError, TypeError):
        return Traced()
