"""A few processes that stay, for what holds the interpreter's lock up to a second while others wait for an answer.

A server works within ``computing_apart``; anywhere else the same is done where it is asked for.
"""

from __future__ import annotations

from collections.abc import Callable, Generator
from contextlib import contextmanager
from dataclasses import dataclass
from typing import Any, TypeVar

from tinhalo.core.runtime.crew import Crew, CrewError
from tinhalo.core.runtime.threads import AT_ONCE

R = TypeVar("R")


@dataclass(frozen=True)
class Sizes:
    """From what sizes on work is divided or sent to another process, where there are such processes.

    Attributes:
        vertices: layers are built side by side where their art has so many vertices: with fewer, none takes long.
        divided: a diagram of so many edges is made as several.
        sent: diagrams of so many edges are made in other processes: fewer are done sooner than they are sent.
        long: a diagram of so many edges is made by a process of its own.
        at_once: into how many parts work is divided.
    """

    vertices: int = 3_000
    divided: int = 800
    sent: int = 150
    long: int = 5_000
    at_once: int = AT_ONCE


_crew: Crew | None = None
_sizes = Sizes()


@contextmanager
def computing_apart(crew: Crew | None = None, sizes: Sizes = _sizes) -> Generator[None]:
    """Have those processes meanwhile: those of ``crew``, which stays open, or new ones."""
    global _crew, _sizes
    before = _sizes
    _crew, _sizes = crew or Crew(sizes.at_once), sizes
    try:
        yield
    finally:
        if crew is None:
            _crew.close()
        _crew, _sizes = None, before


def sizes() -> Sizes:
    """From what sizes on work is divided now."""
    return _sizes


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
