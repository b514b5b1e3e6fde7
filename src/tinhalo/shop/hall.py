"""The hall: all practice machines, what passes time for them, and what brings them their jobs.

A job is sent to its machine over TCP when that is ready. The machine's journal says whether it came: so a job is
neither lost nor cut twice, whenever the app is ended.
"""

from __future__ import annotations

import logging
import socket
import threading
from time import monotonic

from sqlalchemy.exc import DatabaseError

from tinhalo.core.tools import TOOLS
from tinhalo.shop.machine import COMMENT, Machine, Model
from tinhalo.shop.mill import is_mill_text
from tinhalo.store.jobs import Jobs

MODELS = (
    Model("gannet", "Gannet, film cutter", ("knife", "pen"), 2_000, (610, 2_000)),
    Model("tern", "Tern, film cutter", ("knife", "pen"), 600, (310, 600)),
    Model("skerry", "Skerry, laser", ("beam",), None, (600, 400)),
    Model("petrel", "Petrel, mill", ("3 mm mill", *(one.name for one in TOOLS)), None, (900, 600)),
)
#: Off at the beginning: a job for it waits.
ASLEEP = ("tern",)
_STEP = 0.1
#: Steps between looks for jobs that wait.
_BRING = 4
_PATIENCE = 5.0


class Hall:
    """The machines of one app."""

    def __init__(self, jobs: Jobs, step: float = _STEP) -> None:
        self.jobs = jobs
        fresh = [id for id in ASLEEP if not jobs.known(id)]
        self.machines = {model.id: Machine(model, jobs) for model in MODELS}
        for id in fresh:
            self.machines[id].set_online(False)
        self._ended = threading.Event()
        self._step = step
        threading.Thread(target=self._run, daemon=True).start()

    def close(self) -> None:
        """No time passes any more."""
        self._ended.set()
        for machine in self.machines.values():
            machine.close()

    def _run(self) -> None:
        last, steps, troubled = monotonic(), 0, False
        while not self._ended.wait(self._step):
            now = monotonic()
            steps += 1
            try:
                for machine in self.machines.values():
                    machine.tick(now - last)
                    if steps % _BRING == 0:
                        self.bring(machine)
                troubled = False
            except (OSError, DatabaseError) as error:
                # A full disk, or a closed one: it is tried again, and told once.
                if not troubled:
                    logging.getLogger(__name__).warning("The machines stand still: %s", error)
                troubled = True
            last = now

    def bring(self, machine: Machine) -> None:
        """Send a machine that is ready the job that waits longest for it."""
        if machine.state != "ready":
            return
        job = self.jobs.waiting(machine.model.id)
        found = job and self.jobs.job(job.id)
        if not job or not found:
            return
        text = found[1]
        of_mill = is_mill_text(text)
        answer = sent(machine.port, f"({COMMENT}{job.id})\n{text}" if of_mill else f'CO"{COMMENT}{job.id}";\n{text}OE;')
        # Without an answer it was not taken, and is sent again.
        if answer.strip() not in ("", "0"):
            self.jobs.refuse(job.id)


def sent(port: int, text: str) -> str:
    """What a machine answers to a text."""
    with socket.create_connection(("127.0.0.1", port), timeout=_PATIENCE) as line:
        # What is damaged is no ASCII any more: it is not understood.
        line.sendall(text.encode("ascii", "replace"))
        line.shutdown(socket.SHUT_WR)
        held = b""
        while part := line.recv(4096):
            held += part
    return held.decode("ascii")
