"""A practice machine: it takes HP-GL or RS-274/NGC over TCP, and works through it in real time or faster.

It keeps a journal, which is what it knows after a restart; what it noted last is where it goes on.
"""

from __future__ import annotations

import math
import socketserver
import threading
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Literal

from tinhalo.shop import mill, plotter
from tinhalo.shop.program import UNITS, Move, Program, ProgramError
from tinhalo.store.jobs import Cut, Jobs, MachineState

#: mm a second, with the tool down and lifted, at a pace of 1.
DOWN_SPEED, UP_SPEED = 60.0, 200.0
MOST_BYTES = 20_000_000
#: Seconds of work that go on from the last note after a restart.
_NOTED = 0.5
#: Seconds that one who has connected may keep silent.
_PATIENCE = 10.0
#: Seconds between its looks whether it is to take no more.
_GLANCE = 0.05
#: Status of the language: the tool is down; it is ready for data; there was an error.
_PEN_DOWN, _READY, _ERROR = 1, 16, 32
#: Where all is well, and nothing else was asked.
TAKEN = "0\r"
#: What a job begins with, to say which it is.
COMMENT = "job "

State = Literal["ready", "cutting", "paused", "stopped", "offline", "out_of_material", "wrong_tool"]


@dataclass(frozen=True)
class Model:
    """A machine as it stands there.

    Attributes:
        id: of the machine.
        name: what it is called.
        tools: what can be put into it, the usual one first.
        roll_mm: how much material is loaded at a time; None where each job has a sheet of its own.
        bed_mm: width and length of what it takes.
    """

    id: str
    name: str
    tools: tuple[str, ...]
    roll_mm: float | None
    bed_mm: tuple[float, float] = (610.0, 2_000.0)

    def refusal(self, size: tuple[float, float], tools: tuple[str, ...], material: str) -> str:
        """Why it cannot make a job of that size in mm with one of these tools, as a sentence; empty where it can."""
        if not set(tools) & set(self.tools):
            return f"{self.name} has no {' or '.join(tools)}, which {material} needs."
        width, length = size
        if width > self.bed_mm[0] or length > self.bed_mm[1]:
            most = f"{self.bed_mm[0]:g} × {self.bed_mm[1]:g} mm"
            return f"It is {width:.0f} × {length:.0f} mm; {self.name} takes {most} at most."
        return ""


def read(text: str) -> Program:
    """What a text asks for, in either language.

    Raises:
        ProgramError: where it is not understood.
    """
    return mill.understood(text) if mill.is_mill_text(text) else plotter.understood(text)


class Machine:
    """One machine; ``tick`` lets time pass."""

    def __init__(self, model: Model, jobs: Jobs) -> None:
        self.model = model
        self._jobs = jobs
        self._lock = threading.RLock()
        self._set = jobs.machine(model.id, model.tools[0], model.roll_mm or 0.0)
        self._cut: Cut | None = None
        self._moves: tuple[Move, ...] = ()
        self._length = 0.0
        self._tool = ""
        self._error = 0
        self._unnoted = _NOTED
        self._taken_up()
        self._server = socketserver.ThreadingTCPServer(("127.0.0.1", 0), self._handler())
        self._server.daemon_threads = True
        threading.Thread(target=self._server.serve_forever, args=(_GLANCE,), daemon=True).start()

    @property
    def port(self) -> int:
        """Where it listens, on this machine only."""
        return int(self._server.server_address[1])

    @property
    def settings(self) -> MachineState:
        """What is set at it."""
        return self._set

    @property
    def at(self) -> Cut | None:
        """The cut that it is at."""
        return self._cut

    @property
    def state(self) -> State:
        """What it is doing, or waiting for."""
        if not self._set.online:
            return "offline"
        if self._cut is None:
            return "ready"
        if self._cut.state == "stopped":
            return "stopped"
        if self._cut.state == "taken":
            if self._tool != self._set.tool:
                return "wrong_tool"
            if self.model.roll_mm is not None and self._length > self._set.left_mm:
                return "out_of_material"
        return "paused" if self._set.paused else "cutting"

    def close(self) -> None:
        """Take no more jobs."""
        self._server.shutdown()
        self._server.server_close()

    def set_online(self, online: bool) -> None:
        """It is switched on or off; off, a job stays where it is."""
        self._change(lambda state: replace(state, online=online))

    def pause(self) -> None:
        """It waits where it is."""
        self._change(lambda state: replace(state, paused=True))

    def load(self) -> None:
        """New material is put in."""
        self._change(lambda state: replace(state, left_mm=self.model.roll_mm or 0.0))

    def put_in(self, tool: str) -> None:
        """Another tool is put in."""
        self._change(lambda state: replace(state, tool=tool))

    def quicken(self, pace: float) -> None:
        """So many times as fast as a real one."""
        self._change(lambda state: replace(state, pace=pace))

    def _change(self, change: Callable[[MachineState], MachineState]) -> None:
        with self._lock:
            self._set = change(self._set)
            self._jobs.set_machine(self._set)

    def stop(self) -> None:
        """The job that it is at is stopped in the middle."""
        with self._lock:
            if self._cut and self._cut.state in ("taken", "cutting"):
                self._cut.state = "stopped"
                self._jobs.note(self._cut)

    def go_on(self, *, anyway: bool = False) -> None:
        """A stopped or paused job goes on where it was; ``anyway`` also with another tool, or less material."""
        with self._lock:
            if self._set.paused:
                self._change(lambda state: replace(state, paused=False))
            if self._cut and (self._cut.state == "stopped" or anyway):
                self._cut.state = "cutting" if self._cut.done or anyway else "taken"
                self._jobs.note(self._cut)

    def give_up(self) -> None:
        """A stopped job is left as it is, so that the next one can come."""
        with self._lock:
            if self._cut and self._cut.state == "stopped":
                self._cut.state = "given_up"
                self._jobs.note(self._cut)
                self._taken_up()

    def tick(self, seconds: float) -> None:
        """So much time passes."""
        with self._lock:
            if self.state != "cutting" or self._cut is None:
                return
            cut = self._cut
            if cut.state == "taken":
                cut.state = "cutting"
                # The material is used from here on, whatever comes of it.
                self._set = replace(self._set, left_mm=max(0.0, self._set.left_mm - self._length))
                self._jobs.begin(cut, self._set)
            self._advance(cut, seconds * self._set.pace)
            self._unnoted += seconds
            if cut.done == len(self._moves):
                cut.state = "done"
            elif self._unnoted < _NOTED:
                return
            self._unnoted = 0.0
            self._jobs.note(cut)
            if cut.state == "done":
                self._taken_up()

    def _advance(self, cut: Cut, seconds: float) -> None:
        while seconds > 0 and cut.done < len(self._moves):
            move = self._moves[cut.done]
            before = self._moves[cut.done - 1] if cut.done else Move(0, 0, False, 0)
            length = math.hypot((move.x - before.x) / UNITS, (move.y - before.y) / UNITS, move.z - before.z)
            speed = move.speed or (DOWN_SPEED if move.down else UP_SPEED)
            if move.down and cut.offset == 0 and not (cut.traced and cut.traced[-1][-1] == _at(before)):
                cut.traced.append([_at(before)])
            needed = (length - cut.offset) / speed
            if needed > seconds:
                cut.offset += seconds * speed
                if move.down:
                    share = cut.offset / length
                    _trace(
                        cut,
                        round(before.x + (move.x - before.x) * share),
                        round(before.y + (move.y - before.y) * share),
                    )
                return
            seconds -= needed
            cut.done, cut.offset = cut.done + 1, 0.0
            if move.down:
                _trace(cut, *_at(move))

    def _taken_up(self) -> None:
        """What its journal says that it is at."""
        self._cut, self._moves, self._length, self._tool = None, (), 0.0, ""
        while (cut := self._jobs.unfinished(self.model.id)) and (found := self._jobs.job(cut.job)):
            job, text = found
            try:
                moves = read(text).moves
            except ProgramError:
                moves = ()
            if moves and 0 <= cut.done <= len(moves):
                self._cut, self._moves, self._tool = cut, moves, job.tool
                # A way without a cut takes no material.
                self._length = job.height_mm if any(move.down for move in moves) else 0.0
                return
            # Its data were damaged since: nobody knows where it was.
            cut.state = "given_up"
            self._jobs.note(cut)

    def _take(self, text: str) -> str:
        """What it answers to a text: what is asked for in it, after it has taken the job."""
        with self._lock:
            try:
                program = read(text)
                if program.moves and not self._accept(program):
                    return ""
                self._error = 0
            except ProgramError as error:
                self._error = error.number
                return f"{self._error}\r"
            # A mill says that all is well once it has read all of it.
            return "".join(self._answer(one) for one in program.asked) or TAKEN

    def _accept(self, program: Program) -> bool:
        number = program.comment.removeprefix(COMMENT)
        if not program.comment.startswith(COMMENT) or not number.isdigit() or not self._set.online:
            return False
        taken = self._jobs.take(int(number), self.model.id, len(program.moves))
        if taken and self._cut is None:
            self._taken_up()
        return taken

    def _answer(self, asked: str) -> str:
        if asked == "OE":
            return f"{self._error}\r"
        if asked == "OI":
            return f"{self.model.name}\r"
        last = self._moves[self._cut.done - 1] if self._cut and self._cut.done else Move(0, 0, False, 0)
        if asked == "OA":
            return f"{round(last.x)},{round(last.y)},{int(last.down)}\r"
        ready = _READY if self.state in ("ready", "cutting") else 0
        return f"{ready + _PEN_DOWN * last.down + (_ERROR if self._error else 0)}\r"

    def _handler(self) -> type[socketserver.BaseRequestHandler]:
        machine = self

        class Handler(socketserver.BaseRequestHandler):
            def handle(self) -> None:
                self.request.settimeout(_PATIENCE)
                held = b""
                try:
                    while part := self.request.recv(65536):
                        held += part
                        # A web page that speaks to it is not understood, and not waited for.
                        if len(held) > MOST_BYTES or held[:5] in (b"GET /", b"POST ", b"HEAD ", b"OPTIO", b"PUT /"):
                            return
                        if held.rstrip().endswith((b"OE;", b"OS;", b"OA;", b"OI;", b"M2\n%")):
                            self.request.sendall(machine._take(held.decode("ascii", "replace")).encode())
                            held = b""
                except OSError:
                    return

        return Handler


def _at(move: Move) -> tuple[int, int]:
    return round(move.x), round(move.y)


def _trace(cut: Cut, x: int, y: int) -> None:
    if cut.traced[-1][-1] != (x, y):
        cut.traced[-1].append((x, y))
