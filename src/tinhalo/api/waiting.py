"""Long work is given up when nobody waits for it any more."""

from __future__ import annotations

import asyncio
import os
from collections.abc import Callable, Generator
from contextlib import contextmanager
from dataclasses import dataclass
from threading import Event
from typing import TypeVar
from weakref import WeakKeyDictionary

from anyio import CapacityLimiter, to_thread
from fastapi import Request

from tinhalo.api.door import who
from tinhalo.core.runtime.cancellation import checkpoint, given_up
from tinhalo.core.runtime.progress import progress

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

#: Names a request so that it can be asked how far it is: a header of the browser's choice.
PROGRESS = "x-progress"
_MOST_TOLD = 200

T = TypeVar("T")


class Shares:
    """How much of each request that is under way is done, by the name that its browser gave it."""

    def __init__(self) -> None:
        self._told: dict[str, float] = {}

    def of(self, name: str) -> float | None:
        """The share, 0 to 1; None where nothing was told, or it is over."""
        return self._told.get(name)

    @contextmanager
    def told(self, name: str) -> Generator[None]:
        """What is reported here is kept for that name until it is over."""
        if not name or len(name) > 80 or len(self._told) >= _MOST_TOLD:
            yield
            return

        self._told[name] = 0.0

        def tell(share: float) -> None:
            # Work that is done again, such as after a search, is no way back.
            self._told[name] = max(share, self._told.get(name, 0.0))

        progress.set(tell)
        try:
            yield
        finally:
            self._told.pop(name, None)


async def in_turn(asked: Request, work: Callable[[], T]) -> T:
    """Do work in a thread, once one of the places for whoever asks is free."""
    places = _places.setdefault(asyncio.get_running_loop(), _Places(CapacityLimiter(_AT_ONCE), {}))
    asker = who(asked) or (asked.client.host if asked.client else "")
    async with places.of(asker):
        return await to_thread.run_sync(work, limiter=places.every)


async def unless_gone(asked: Request, work: Callable[[], T]) -> T:
    """Do work in a thread, which gives up when the browser no longer waits for it."""
    gone = Event()
    given_up.set(gone.is_set)

    shares: Shares = asked.app.state.shares

    def working() -> T:
        # It may be gone since before its turn came.
        checkpoint()
        with shares.told(asked.headers.get(PROGRESS, "")):
            return work()

    running, leaving = asyncio.ensure_future(in_turn(asked, working)), asyncio.ensure_future(_gone(asked))
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
