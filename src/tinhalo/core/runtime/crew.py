"""Several processes that work side by side and stay: what each has read and computed serves its next task, too."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterable, Iterator, Sequence
from concurrent.futures import FIRST_COMPLETED, Future, wait
from concurrent.futures import TimeoutError as FutureTimeoutError
from concurrent.futures.process import BrokenProcessPool
from threading import Lock
from typing import Any, TypeVar

from pebble import ProcessExpired, ProcessPool

from tinhalo.core.runtime.cancellation import CancelledError, given_up
from tinhalo.core.runtime.processes import FORKED
from tinhalo.core.runtime.progress import report

R = TypeVar("R")

#: Seconds between looks whether results are still wanted, and how many tasks wait for each process.
_GLANCE, _AHEAD = 0.1, 2
#: A process is replaced after so many tasks: memory that libraries keep is given back then.
_MOST_TASKS = 200


class CrewError(Exception):
    """A process ended before its task was done; its text is a sentence."""

    def __init__(self) -> None:
        super().__init__("A process ended before its work was done: the machine may be short of memory. Try it again.")


class Crew:
    """Processes that are started when they are first needed. Safe to share between threads.

    What is asked of them is a function at the top level of a module, and arguments that can be pickled. Each runs
    ``ready``, which is such a function, too, before its first task.
    """

    def __init__(self, processes: int = os.cpu_count() or 1, ready: Callable[[], None] | None = None) -> None:
        self.processes = processes
        self._ready = ready
        self._lock = Lock()
        self._pool: ProcessPool | None = None
        self._closed = False

    def start(self) -> None:
        """Start the processes before they are needed, unless it was closed by then."""
        if not self._closed:
            self._started(os.getpid, ())

    def ask(self, work: Callable[..., R], *arguments: Any) -> R:
        """What ``work`` gives; when nobody waits for it any more, its process is ended at once.

        Raises:
            CancelledError: then.
            CrewError: when the process ended.
        """
        future = self._started(work, arguments)
        wanted = given_up.get()
        while True:
            try:
                return future.result(_GLANCE)
            except FutureTimeoutError:
                if wanted():
                    future.cancel()
                    raise CancelledError from None
            except (ProcessExpired, BrokenProcessPool) as error:
                raise CrewError() from error

    def each(self, work: Callable[..., R], tasks: Sequence[tuple[Any, ...]]) -> Iterator[R]:
        """What ``work`` gives for each of the tasks, as they are done, reporting which share of them is.

        Whoever stops in the middle ends all of it at once.

        Raises:
            CancelledError: once nobody waits for it.
            CrewError: when a process ended.
        """
        waiting, enough = iter(tasks), given_up.get()
        going: set[Future[R]] = set()
        done = 0
        try:
            while True:
                while len(going) < self.processes * _AHEAD:
                    task = next(waiting, None)
                    if task is None:
                        break
                    going.add(self._started(work, task))
                if not going:
                    return
                ended, going = wait(going, _GLANCE, FIRST_COMPLETED)
                for one in ended:
                    done += 1
                    report(done / len(tasks))
                    try:
                        yield one.result()
                    except (ProcessExpired, BrokenProcessPool) as error:
                        raise CrewError() from error
                if enough():
                    raise CancelledError
        finally:
            for one in going:
                one.cancel()

    def close(self) -> None:
        """End all processes."""
        with self._lock:
            self._closed = True
            if self._pool is not None:
                self._pool.stop()
                self._pool.join()
                self._pool = None

    def _started(self, work: Callable[..., R], arguments: Iterable[Any]) -> Future[R]:
        with self._lock:
            if self._pool is None or not self._pool.active:
                self._pool = ProcessPool(self.processes, _MOST_TASKS, self._ready, context=FORKED)
            return self._pool.schedule(work, tuple(arguments))
