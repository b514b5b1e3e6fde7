"""Work in threads beside this one, with the patience and the progress of whoever waits."""

from __future__ import annotations

import logging
import os
from collections.abc import Callable, Generator, Sequence
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from contextvars import copy_context
from typing import ParamSpec, TypeVar

from tinhalo.core.runtime.cancellation import CancelledError

P = ParamSpec("P")
Q = TypeVar("Q")
R = TypeVar("R")

_log = logging.getLogger(__name__)

#: As much is done side by side at most, for one question.
AT_ONCE = min(4, os.cpu_count() or 1)


def with_context(work: Callable[P, R]) -> Callable[P, R]:
    """The same work with this thread's context, wherever it runs."""
    context = copy_context()

    def run(*args: P.args, **kwargs: P.kwargs) -> R:
        return context.copy().run(work, *args, **kwargs)

    return run


def side_by_side(work: Callable[[Q], R], parts: Sequence[Q]) -> list[R]:
    """``work`` on each part, in order; several at once: it pays where the interpreter's lock is given up, as by GEOS.

    Raises:
        Exception: what the first of them that failed raised.
    """
    if len(parts) < 2 or AT_ONCE < 2:
        return [work(part) for part in parts]
    with ThreadPoolExecutor(AT_ONCE) as threads:
        return list(threads.map(with_context(work), parts))


@contextmanager
def beside(*works: Callable[[], object], at_once: int = AT_ONCE) -> Generator[None]:
    """Do ``works`` in threads meanwhile, in order, for a memo: whoever needs a result asks for it again.

    So what they raise is logged only, and what was not begun when all is there is left.
    """
    threads = ThreadPoolExecutor(at_once)
    going = [threads.submit(with_context(work)) for work in works]
    try:
        yield
    finally:
        threads.shutdown(cancel_futures=True)
    for one in going:
        error = None if one.cancelled() else one.exception()
        if error is not None and not isinstance(error, CancelledError):
            _log.info("What was done beside failed: %s", error)
