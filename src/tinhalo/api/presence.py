"""Who else has a design open."""

from __future__ import annotations

from collections.abc import Callable
from threading import Lock
from time import monotonic
from typing import Annotated

from fastapi import APIRouter, Request
from pydantic import BaseModel, Field

from tinhalo.api.door import Who

router = APIRouter(prefix="/api/designs", tags=["designs"])

#: A window that has not said for so long (seconds) that it is there has been closed.
GONE = 40.0
_MOST_WINDOWS = 2_000


class Windows:
    """The windows that designs are open in."""

    def __init__(self, clock: Callable[[], float] = monotonic) -> None:
        self._clock = clock
        self._seen: dict[tuple[str, str], tuple[float, str]] = {}
        self._lock = Lock()

    def here(self, design: str, window: str, name: str) -> list[str]:
        """Note that a window has a design open; the names of those in others, each once, empty ones for no name."""
        now = self._clock()
        with self._lock:
            self._seen.pop((design, window), None)
            self._seen[design, window] = (now, name)
            self._seen = {key: seen for key, seen in list(self._seen.items())[-_MOST_WINDOWS:] if seen[0] > now - GONE}
            return sorted({n for (d, w), (_, n) in self._seen.items() if d == design and w != window})

    def leave(self, design: str, window: str) -> None:
        """It is closed."""
        with self._lock:
            self._seen.pop((design, window), None)


class HereRequest(BaseModel):
    """A window, by a name of its own making, and whether the design is being closed in it."""

    window: Annotated[str, Field(min_length=8, max_length=64)]
    leaving: bool = False


class HereReply(BaseModel):
    """The names of those who have the design open in other windows; an empty one where no names are asked for."""

    others: list[str]


@router.post("/{id}/here")
def say_here(id: str, request: HereRequest, name: Who, asked: Request) -> HereReply:
    """Say that a design is open in a window, every now and then."""
    windows: Windows = asked.app.state.windows
    if request.leaving:
        windows.leave(id, request.window)
        return HereReply(others=[])
    return HereReply(others=windows.here(id, request.window, name))
