"""Compile what numba compiles, or load it from the cache, ahead of its first use."""

from __future__ import annotations

from tinhalo.core.geometry import approach, curve_fit, facing


def warm() -> None:
    """Takes a minute once, then a second or two; safe to call from any thread."""
    curve_fit.warm()
    approach.warm()
    facing.warm()
