"""Long work is given up when nobody waits for it any more."""

from __future__ import annotations

import asyncio
import os
from collections.abc import Callable
from dataclasses import dataclass
from threading import Event
from typing import TypeVar
from weakref import WeakKeyDictionary

from anyio import CapacityLimiter, to_thread
from fastapi import Request

from tinhalo.api.door import who
from tinhalo.core.runtime.cancellation import checkpoint, given_up

#: So many long computations go on at once: more would only slow each other down, and the saves beside them.
_AT_ONCE = max(2, os.cpu_count() or 1)
#: Of these, so many for one who asks: whoever asks a lot at once waits for its own.
_EACH = max(2, _AT_ONCE // 2)


@dataclass
class _Places:
    """The places for long work of one server."""

    every: CapacityLimiter
    each: dict[str, CapacityLimiter]

    def of(self, asker: str) -> CapacityLimiter:
        """Those of one who asks."""
        if len(self.each) > _MOST_ASKERS:
            self.each = {key: one for key, one in self.each.items() if one.borrowed_tokens}
        return self.each.setdefault(asker, CapacityLimiter(_EACH))


_MOST_ASKERS = 500
_places: WeakKeyDictionary[asyncio.AbstractEventLoop, _Places] = WeakKeyDictionary()

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
    places = _places.setdefault(loop, _Places(CapacityLimiter(_AT_ONCE), {}))
    asker = who(asked) or (asked.client.host if asked.client else "")

    async def in_turn() -> T:
        async with places.of(asker):
            return await to_thread.run_sync(working, limiter=places.every)

    running, leaving = asyncio.ensure_future(in_turn()), asyncio.ensure_future(_gone(asked))
    try:
        await asyncio.wait([running, leaving], return_when=asyncio.FIRST_COMPLETED)
        if not running.done():
            gone.set()
            await asyncio.wait([running])
    finally:
        # Also when the server is told to stop.
        gone.set()
        leaving.cancel()
    return running.result()


async def _gone(asked: Request) -> None:
    """Wait until the browser no longer waits: after the body only that is received."""
    while (await asked.receive())["type"] != "http.disconnect":
        pass
