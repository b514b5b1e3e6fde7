"""Long work is given up when nobody waits for it any more."""

from __future__ import annotations

import asyncio
from collections.abc import Callable
from threading import Event
from typing import TypeVar

from fastapi import Request
from fastapi.concurrency import run_in_threadpool

from tinhalo.core.runtime.cancellation import given_up

#: Seconds between looks whether the browser still waits.
_GLANCE = 0.05

T = TypeVar("T")


async def unless_gone(asked: Request, work: Callable[[], T]) -> T:
    """Do work in a thread, which gives up when the browser no longer waits for it."""
    gone = Event()
    given_up.set(gone.is_set)
    running = asyncio.ensure_future(run_in_threadpool(work))
    while not (await asyncio.wait([running], timeout=_GLANCE))[0]:
        if await asked.is_disconnected():
            gone.set()
    return running.result()
