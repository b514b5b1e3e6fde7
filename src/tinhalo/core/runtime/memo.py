"""A memo of results, bounded by the memory they hold."""

from __future__ import annotations

import hashlib
from collections import OrderedDict
from collections.abc import Callable, Hashable
from threading import Event, Lock
from typing import Protocol, TypeVar

from tinhalo.core.runtime.cancellation import checkpoint


class Sized(Protocol):
    """A result that knows how much memory it holds."""

    @property
    def nbytes(self) -> int:
        """Bytes held."""
        ...


T = TypeVar("T", bound=Sized)

#: Seconds between looks whether what another thread computes is still wanted.
_GLANCE = 0.05


class Memo:
    """Results by key, the least recently used dropped first once they hold more than ``budget`` bytes.

    Safe to share between threads: what one of them computes, another that misses it too waits for.
    """

    def __init__(self, budget: int = 256 * 1024 * 1024) -> None:
        self._budget = budget
        self._kept: OrderedDict[Hashable, Sized] = OrderedDict()
        self._held = 0
        self._lock = Lock()
        self._going: dict[Hashable, Event] = {}
        self.computed = 0

    def get(self, key: Hashable, kind: type[T], compute: Callable[[], T]) -> T:
        """The kept result for the key, or a freshly computed one.

        Raises:
            TypeError: when the key was used for another kind of result.
            CancelledError: once nobody waits for it.
        """
        ended = Event()
        while True:
            with self._lock:
                found = self._kept.get(key)
                if found is not None:
                    self._kept.move_to_end(key)
                    break
                going = self._going.setdefault(key, ended)
                if going is ended:
                    break
            # The other one may be given up: then it is this one's.
            while not going.wait(_GLANCE):
                checkpoint()
        if found is not None:
            if not isinstance(found, kind):
                raise TypeError(f"memo key {key!r} holds a {type(found).__name__}")
            return found
        try:
            return self._keep(key, compute())
        finally:
            del self._going[key]
            ended.set()

    def _keep(self, key: Hashable, made: T) -> T:
        with self._lock:
            self.computed += 1
            old = self._kept.pop(key, None)
            self._held += made.nbytes - (old.nbytes if old is not None else 0)
            self._kept[key] = made
            while self._held > self._budget and len(self._kept) > 1:
                _, dropped = self._kept.popitem(last=False)
                self._held -= dropped.nbytes
        return made

    def peek(self, key: Hashable, kind: type[T]) -> T | None:
        """The kept result for the key, if there is one of that kind."""
        with self._lock:
            found = self._kept.get(key)
        return found if isinstance(found, kind) else None

    @property
    def held(self) -> int:
        """Bytes held now."""
        return self._held


def digest(*parts: str) -> str:
    """A short key for a sequence of strings."""
    told = "".join([f"{len(part)}:{part}" for part in parts])
    return hashlib.blake2b(told.encode(), digest_size=16).hexdigest()
