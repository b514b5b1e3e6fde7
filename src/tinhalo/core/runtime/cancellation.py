"""Long computations are given up once nobody waits for them."""

from __future__ import annotations

from collections.abc import Callable, Generator
from contextlib import contextmanager
from contextvars import ContextVar
from time import monotonic


class CancelledError(Exception):
    """Nobody waits for the result any more."""


class TooLongError(Exception):
    """It takes longer than it may."""


#: Says whether the result is not wanted any more; whoever waits for one sets it for the thread that computes.
given_up: ContextVar[Callable[[], bool]] = ContextVar("given_up", default=lambda: False)


def checkpoint() -> None:
    """Give up here if nobody waits any more.

    Raises:
        CancelledError: if so.
    """
    if given_up.get()():
        raise CancelledError


@contextmanager
def within(seconds: float) -> Generator[None]:
    """Give up what takes longer than this, where it looks whether anybody waits.

    Raises:
        TooLongError: if so.
        CancelledError: when nobody waits any more.
    """
    outer, until = given_up.get(), monotonic() + seconds
    token = given_up.set(lambda: outer() or monotonic() > until)
    try:
        yield
    except CancelledError as error:
        # Before that it was given up for another reason, which is for whoever had it.
        if monotonic() <= until:
            raise
        raise TooLongError from error
    finally:
        given_up.reset(token)
