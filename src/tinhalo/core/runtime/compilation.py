"""numba's compiler, with types a strict checker can follow. Compiled code is cached on disk, beside the source."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from collections.abc import Callable

    def njit(**options: Any) -> Callable[[Callable[..., Any]], Callable[..., Any]]:
        """Compile a function at its first call."""
        ...
else:
    from numba import njit

__all__ = ["njit"]
