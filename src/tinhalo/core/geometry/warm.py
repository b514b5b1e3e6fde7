"""Compile what numba compiles, or load it from the cache, ahead of its first use."""

from __future__ import annotations

from tinhalo.core.geometry.carving import arc_fit, axis, heights
from tinhalo.core.geometry.curves import fitting
from tinhalo.core.geometry.placement import approach, cut_pieces
from tinhalo.core.geometry.regions import fewer
from tinhalo.core.geometry.strokes import burning, facing


def warm() -> None:
    """Takes a minute once, then a second or two; safe to call from any thread."""
    fitting.warm()
    approach.warm()
    cut_pieces.warm()
    fewer.warm()
    facing.warm()
    burning.warm()
    axis.warm()
    heights.warm()
    arc_fit.warm()
