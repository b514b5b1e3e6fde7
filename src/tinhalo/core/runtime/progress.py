"""How much of a long computation is done, told to whoever waits for it."""

from __future__ import annotations

from collections.abc import Callable, Generator, Iterator, Sequence
from contextlib import contextmanager
from contextvars import ContextVar
from typing import TypeVar

T = TypeVar("T")

#: Is told the share that is done, 0 to 1; whoever waits sets it for the thread that computes.
progress: ContextVar[Callable[[float], None]] = ContextVar("progress", default=lambda _: None)


def report(share: float) -> None:
    """So much is done, of the part that is under way."""
    progress.get()(share)


@contextmanager
def part(begin: float, end: float) -> Generator[None]:
    """What is reported meanwhile is of this part of the whole, which is done at its end."""
    outer = progress.get()
    progress.set(lambda share: outer(begin + (end - begin) * min(max(share, 0.0), 1.0)))
    try:
        outer(begin)
        yield
        outer(end)
    finally:
        # Not by its token: a generator that is left in the middle may end elsewhere.
        progress.set(outer)


def each(items: Sequence[T]) -> Iterator[T]:
    """The items, each of them an equal part of the whole."""
    for index, one in enumerate(items):
        with part(index / len(items), (index + 1) / len(items)):
            yield one
