"""Work in a process of its own: it may take long, hold the interpreter's lock, hang or crash there."""

from __future__ import annotations

import multiprocessing
import os
import resource
import signal
from collections.abc import Callable
from multiprocessing import forkserver
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any, Literal

#: New processes are forked from one that has nothing open and does nothing else.
FORKED = multiprocessing.get_context("forkserver")
_read_ahead: list[str] = ["tinhalo.core.runtime.seldom"]


class OverLimitError(EOFError):
    """The process came to the end of the time or the memory that it was given.

    Attributes:
        of: which of the two.
    """

    def __init__(self, of: Literal["time", "memory"]) -> None:
        super().__init__(of)
        self.of: Literal["time", "memory"] = of


def read_ahead(module: str) -> None:
    """Load a module into the process that all others are forked from; call it before the first of them is."""
    _read_ahead.append(module)
    FORKED.set_forkserver_preload(_read_ahead)


def start_ahead() -> None:
    """Let the process that all others are forked from begin to load, so that the first of them need not wait for it."""
    forkserver.ensure_running()


def ask(work: Callable[..., None], arguments: tuple[Any, ...], glance: float, enough: Callable[[], bool]) -> Any:
    """The one thing that ``work`` sends through a connection.

    Args:
        work: a function at the top level of a module; its first argument is that connection.
        arguments: what else it gets.
        glance: seconds between questions whether it takes too long.
        enough: whether it does.
    Raises:
        TimeoutError: once ``enough`` says so.
        OverLimitError: when it was stopped for what it took (see ``limit``).
        EOFError: when the process ended without an answer.
    """
    here, there = FORKED.Pipe(duplex=False)
    child = FORKED.Process(target=work, args=(there, *arguments), daemon=True)
    child.start()
    there.close()
    try:
        while not here.poll(glance):
            if enough():
                raise TimeoutError
        return here.recv()
    except EOFError as error:
        child.join()
        if child.exitcode in (-signal.SIGXCPU, -signal.SIGKILL):
            raise OverLimitError("time") from error
        # C++ ends so when nobody catches that there is no memory.
        if child.exitcode == -signal.SIGABRT:
            raise OverLimitError("memory") from error
        raise
    finally:
        here.close()
        child.kill()
        child.join()


def judged(
    answer: Connection, judge: Callable[..., object], arguments: tuple[Any, ...], seconds: float, memory: int
) -> None:
    """What ``ask`` runs for strange files: ``judge`` under limits; over its time it gets a ``TimeoutError``."""
    limit_memory(memory)
    used = resource.getrusage(resource.RUSAGE_SELF)
    until = int(used.ru_utime + used.ru_stime + seconds)
    resource.setrlimit(resource.RLIMIT_CPU, (until, until + 1))
    signal.signal(signal.SIGXCPU, _give_up)
    answer.send(judge(*arguments))


def _give_up(*_: object) -> None:
    raise TimeoutError


def limit(seconds: float, memory: int) -> None:
    """Hold this process to so many seconds of computing and bytes from now on, and to no core files.

    Over the time it is ended; memory that it does not get is a ``MemoryError`` or what a library makes of it. What
    libraries write to the console when they fail is not shown: whoever asked tells it in a sentence.
    """
    os.dup2(os.open(os.devnull, os.O_WRONLY), 2)
    used = resource.getrusage(resource.RUSAGE_SELF)
    until = int(used.ru_utime + used.ru_stime + seconds + 1)
    resource.setrlimit(resource.RLIMIT_CPU, (until, until + 1))
    limit_memory(memory)


def limit_memory(memory: int) -> None:
    """Hold this process to what it has and so many bytes more, and to no core files."""
    held = int(Path("/proc/self/statm").read_text().split()[0]) * resource.getpagesize()
    resource.setrlimit(resource.RLIMIT_AS, (held + memory, held + memory))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
