"""Long work is given up when nobody waits for it any more."""

from __future__ import annotations

import asyncio
import os
from collections.abc import Callable
from threading import Event
from typing import TypeVar
from weakref import WeakKeyDictionary

from anyio import CapacityLimiter, to_thread
from fastapi import Request

from tinhalo.core.runtime.cancellation import checkpoint, given_up

#: Seconds between looks whether the browser still waits.
_GLANCE = 0.05

#: So many long computations go on at once: more would only slow each other down, and the saves beside them.
_AT_ONCE = 2 * max(2, os.cpu_count() or 1)
_places: WeakKeyDictionary[asyncio.AbstractEventLoop, CapacityLimiter] = WeakKeyDictionary()

T = TypeVar("T")


async def unless_gone(asked: Request, work: Callable[[], T]) -> T:
    """Do work in a thread, which gives up when the browser no longer waits for it."""
    gone = Event()
    given_up.set(gone.is_set)

    def working() -> T:
        # It may be gone since before its turn came.
        checkpoint()
        return work()

    loop = asyncio.get_running_loop()
    limiter = _places.setdefault(loop, CapacityLimiter(_AT_ONCE))
    running = asyncio.ensure_future(to_thread.run_sync(working, limiter=limiter))
    try:
        while not (await asyncio.wait([running], timeout=_GLANCE))[0]:
            if await asked.is_disconnected():
                gone.set()
    finally:
        # Also when the server is told to stop.
        gone.set()
    return running.result()
