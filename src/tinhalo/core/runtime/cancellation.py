"""Long computations are given up once nobody waits for them."""

from __future__ import annotations

from collections.abc import Callable
from contextvars import ContextVar


class CancelledError(Exception):
    """Nobody waits for the result any more."""


#: Says whether the result is not wanted any more; whoever waits for one sets it for the thread that computes.
given_up: ContextVar[Callable[[], bool]] = ContextVar("given_up", default=lambda: False)


def checkpoint() -> None:
    """Give up here if nobody waits any more.

    Raises:
        CancelledError: if so.
    """
    if given_up.get()():
        raise CancelledError
