"""A few processes that stay, for what holds the interpreter's lock up to a second while others wait for an answer.

A server works within ``computing_apart``; anywhere else the same is done where it is asked for.
"""

from __future__ import annotations

from collections.abc import Callable, Generator
from contextlib import contextmanager
from typing import Any, TypeVar

from tinhalo.core.runtime.crew import Crew, CrewError
from tinhalo.core.runtime.threads import AT_ONCE

R = TypeVar("R")

_crew: Crew | None = None


@contextmanager
def computing_apart() -> Generator[None]:
    """Have those processes meanwhile."""
    global _crew
    _crew = Crew(AT_ONCE)
    try:
        yield
    finally:
        _crew.close()
        _crew = None


def start_ahead() -> None:
    """Start those processes, where there are to be any, so that the first edit need not wait for them."""
    if _crew is not None:
        _crew.start()


def is_apart() -> bool:
    """Whether there are such processes."""
    return _crew is not None


def elsewhere(work: Callable[..., R], *arguments: Any) -> R:
    """What ``work`` gives, a function at the top level of a module: from one of those processes, or else from here.

    Raises:
        CancelledError: once nobody waits for it.
    """
    if _crew is None:
        return work(*arguments)
    try:
        return _crew.ask(work, *arguments)
    except CrewError:
        # Whatever ended the process: it is wanted all the same.
        return work(*arguments)
