"""Bring the whole job to a finished width or height."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any, Literal, cast

from tinhalo.core.build import Build, Library, build
from tinhalo.core.design import Design
from tinhalo.core.problems import DesignError, Problem, parse_design
from tinhalo.core.recipe.memo import Memo

Distances = Literal["kept", "scaled"]
Side = Literal["width", "height"]

_CLOSE = 2e-3
_GOOD_ENOUGH = 0.01
_TRIES = 30
_SMALLEST, _LARGEST = 1e-3, 1e3

#: Fields that are distances of the making, and not of the words' own shape.
_MADE = {"by", "to", "keep_open", "overlap"}
_SHAPE = {"size", "letter_spacing", "x", "y", "dx", "dy"}


def resize(design: Design, library: Library, side: Side, to: float, distances: Distances, memo: Memo) -> Design:
    """The same job with another finished size.

    The words are scaled, with everything that was set for them. ``kept`` distances (how much a border is grown, how
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
        return _side(build(scaled(design, factor, distances), library, memo=memo), side)

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
                    f"A {side} of {to:g} mm cannot be reached while distances keep their size: they alone take "
                    f"{least:.4g} mm. Let them change with the words, or make them smaller.",
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
    """A design with its words, and distances if they are to, scaled by a factor."""
    fields = _SHAPE | _MADE if distances == "scaled" else _SHAPE
    data = design.model_dump(by_alias=True)
    for part in ("art", "layers"):
        data[part] = _multiplied(data[part], factor, fields)
    return parse_design(data)


def _multiplied(value: Any, factor: float, fields: set[str]) -> Any:
    if isinstance(value, list | tuple):
        return [_multiplied(one, factor, fields) for one in cast("Sequence[Any]", value)]
    if not isinstance(value, dict):
        return value
    made: dict[str, Any] = {}
    for name, one in cast("dict[str, Any]", value).items():
        if name == "nudges":
            made[name] = {index: by * factor for index, by in one.items()}
        elif name in fields and isinstance(one, int | float) and not isinstance(one, bool):
            made[name] = one * factor
        else:
            made[name] = _multiplied(one, factor, fields)
    return made


def _side(made: Build, side: Side) -> float:
    if made.bounds is None:
        return 0.0
    x0, y0, x1, y1 = made.bounds
    return x1 - x0 if side == "width" else y1 - y0
