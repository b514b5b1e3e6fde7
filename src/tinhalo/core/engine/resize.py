"""Bring the whole job to a finished width or height."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any, Literal, cast

from pydantic import BaseModel

from tinhalo.core.artwork.art import Distances
from tinhalo.core.artwork.library import Library
from tinhalo.core.design.design import Design
from tinhalo.core.design.problem import DesignError, Problem
from tinhalo.core.design.reading import parse_design
from tinhalo.core.document.fields import LEAST, unit_of
from tinhalo.core.engine.build import build
from tinhalo.core.engine.built import Build
from tinhalo.core.runtime.memo import Memo
from tinhalo.core.units import length

Side = Literal["width", "height"]

_CLOSE = 2e-3
_GOOD_ENOUGH = 0.01
_TRIES = 30
_SMALLEST, _LARGEST = 1e-3, 1e3


def resize(design: Design, library: Library, side: Side, to: float, distances: Distances, memo: Memo) -> Design:
    """The same job with another finished size.

    The art is scaled, with everything that was set for it. ``kept`` distances (how much a border is grown, how
    deep letters overlap) stay as they are, so that the size does not simply follow the scale and is searched for;
    ``scaled`` ones get bigger alike.

    Args:
        design: the job.
        library: gives fonts by id.
        side: which side of everything that leaves is meant.
        to: its wanted length in mm.
        distances: what becomes of distances.
        memo: results of earlier builds.
    Raises:
        DesignError: when nothing leaves, or no scale gives that size.
    """

    def size(factor: float) -> float:
        try:
            tried = scaled(design, factor, distances)
        except DesignError:
            # Too small or too large to be made: as far away as can be.
            if factor == 1:
                raise
            return 0.0 if factor < 1 else math.inf
        return _side(build(tried, library, memo=memo), side)

    now = size(1.0)
    if now <= 0:
        raise DesignError([Problem("", "Nothing leaves yet, so the job has no size to change.")])
    factor = _search(size, now, to)
    if factor is None:
        least = size(0.01)
        raise DesignError(
            [
                Problem(
                    "",
                    f"A {side} of {length(to, design.unit)} cannot be reached while distances keep their size: "
                    f"they alone take {length(least, design.unit)}. Let them change with the words, "
                    "or make them smaller.",
                )
            ]
        )
    return scaled(design, factor, distances)


def _search(size: Callable[[float], float], now: float, to: float) -> float | None:
    """The factor that gives a size: by secants, kept inside a bracket that is halved where they leave it.

    The outlines that leave are fitted anew for every size, so that sizes jump by a hundredth of a millimetre or so: the
    closest try is taken.
    """
    low, high = _SMALLEST, _LARGEST
    last, last_size = 1.0, now
    factor = min(high, max(low, to / now))
    best = (abs(now - to), 1.0)
    for _ in range(_TRIES):
        found = size(factor)
        best = min(best, (abs(found - to), factor))
        if best[0] < _CLOSE or high / low < 1 + 1e-7:
            break
        low, high = (max(low, factor), high) if found < to else (low, min(high, factor))
        slope = (found - last_size) / (factor - last) if factor != last else 0.0
        last, last_size = factor, found
        factor = factor + (to - found) / slope if slope > 0 else low
        if not low < factor < high:
            factor = (low * high) ** 0.5
    return best[1] if best[0] < _GOOD_ENOUGH else None


def scaled(design: Design, factor: float, distances: Distances) -> Design:
    """A design with its art, and distances if they are to, scaled by a factor."""
    art = tuple(one.scaled(factor, distances) for one in design.art)
    layers = design.layers
    if distances == "scaled":
        layers = tuple(layer.model_copy(update={"recipe": _scaled_fields(layer.recipe, factor)}) for layer in layers)
    return parse_design(design.model_copy(update={"art": art, "layers": layers}).model_dump(by_alias=True))


_POWERS = {"mm": 1, "mm²": 2}


def _scaled_fields(value: Any, factor: float) -> Any:
    """A recipe, or a part of one, with every length and area scaled."""
    if isinstance(value, tuple):
        return tuple(_scaled_fields(one, factor) for one in cast("tuple[Any, ...]", value))
    if not isinstance(value, BaseModel):
        return value
    changed: dict[str, Any] = {}
    for name in type(value).model_fields:
        one = getattr(value, name)
        power = _POWERS.get(unit_of(type(value), name) or "", 0)
        changed[name] = _scaled(one, factor, power) if power and one is not None else _scaled_fields(one, factor)
    return value.model_copy(update=changed)


def _scaled(value: float, factor: float, power: int) -> float:
    """A length or area scaled; what can be made stays something that can be made."""
    made = value * factor**power
    return max(made, LEAST**power) if value >= LEAST**power else made


def _side(made: Build, side: Side) -> float:
    if made.finished is None:
        return 0.0
    x0, y0, x1, y1 = made.finished
    return x1 - x0 if side == "width" else y1 - y0
