"""Wait for a state that nobody tells: it is looked at again and again until it is there."""

from __future__ import annotations

import time
from collections.abc import Callable

#: Seconds for an answer: long enough for a machine that has other work.
PATIENCE = 60.0
_GLANCE = 0.02


def until(holds: Callable[[], object], patience: float = PATIENCE) -> None:
    """Return once something holds.

    Raises:
        AssertionError: when it does not within ``patience`` seconds.
    """
    end = time.monotonic() + patience
    while not holds():
        if time.monotonic() > end:
            raise AssertionError(f"it did not come to that within {patience:g} s")
        time.sleep(_GLANCE)
