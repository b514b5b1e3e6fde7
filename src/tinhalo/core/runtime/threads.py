"""Work in threads beside this one, with the patience and the progress of whoever waits."""

from __future__ import annotations

import logging
from collections.abc import Callable, Generator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from contextvars import copy_context
from typing import ParamSpec, TypeVar

from tinhalo.core.runtime.cancellation import CancelledError

P = ParamSpec("P")
R = TypeVar("R")

_log = logging.getLogger(__name__)


def with_context(work: Callable[P, R]) -> Callable[P, R]:
    """The same work with this thread's context, wherever it runs."""
    context = copy_context()

    def run(*args: P.args, **kwargs: P.kwargs) -> R:
        return context.copy().run(work, *args, **kwargs)

    return run


@contextmanager
def beside(work: Callable[[], object]) -> Generator[None]:
    """Do ``work`` in another thread meanwhile, for a memo: whoever needs its result asks for it again.

    So what it raises is logged only.
    """
    with ThreadPoolExecutor(1) as threads:
        going = threads.submit(with_context(work))
        yield
        error = going.exception()
        if error is not None and not isinstance(error, CancelledError):
            _log.info("What was done beside failed: %s", error)
