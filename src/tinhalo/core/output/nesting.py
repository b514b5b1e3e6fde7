"""Nest items on as few sheets as a search within some seconds finds (spyrrow: strip packing of irregular pieces).

A strip as high as a sheet is packed as short as it gets. What lies within the length of a sheet is a sheet; the rest is
packed anew. The search knows boxes only: on offcuts, beside what is kept free or lies there, items are laid one after
the other.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from multiprocessing.connection import Connection

import numpy as np
import shapely
from shapely import Polygon

from tinhalo.core.artwork.error import ArtError
from tinhalo.core.design.laying import MOST_PLACED, Turning
from tinhalo.core.geometry.curves.affine import turn
from tinhalo.core.output.blank import Blank, Blanks
from tinhalo.core.output.raster_nesting import Nested, fill, placed
from tinhalo.core.runtime.cancellation import checkpoint
from tinhalo.core.runtime.processes import ask, limit
from tinhalo.core.runtime.progress import report

#: Seconds that each sheet is searched for.
SECONDS = 3
MOST_SHEETS = 40
#: Kept free besides, in mm: the search is in single precision.
_SURE = 0.02
_ANGLES: dict[Turning, list[float]] = {
    "free": [float(angle) for angle in range(0, 360, 15)],
    "quarter": [0.0, 90.0, 180.0, 270.0],
    "grain": [0.0, 180.0],
    "none": [0.0],
}


def nest(
    hulls: Sequence[Polygon],
    counts: Sequence[int],
    blanks: Blanks,
    spacing: float,
    turning: Turning,
    seconds: float = SECONDS,
    *,
    names: Sequence[str] = (),
    broke_off: Callable[[], None] = lambda: None,
    lying: Sequence[Nested] = (),
    most_sheets: int = MOST_SHEETS,
) -> list[Nested]:
    """Lay so many of each item on blanks, from their upper left corner on.

    Searches run in a process of their own, so that they end when nobody waits. ``names`` are what the items are called;
    ``broke_off`` is called where a search fails and rows are laid instead. What is ``lying`` there stays, is counted,
    and comes back first.

    Raises:
        TooManySheetsError: where it takes more whole sheets.
        ArtError: with a sentence, where an item is larger than the sheet, or there are too many.
    """
    if blanks.whole.free.is_empty:
        raise ArtError("The margins leave nothing of the sheet.")
    if sum(counts) > MOST_PLACED:
        raise ArtError(f"That is {sum(counts):,} pieces; {MOST_PLACED:,} is the most that is laid at once.")
    angles = _ANGLES[turning]
    every = (*blanks.offcuts, blanks.whole)
    allowed = [[_fitting(hull, angles, *blank.room) for hull in hulls] for blank in every]
    for k, hull in enumerate(hulls):
        if not any(on_blank[k] for on_blank in allowed):
            raise ArtError(_too_large(hull, names[k] if names else "", blanks.whole))
    made = list(lying)
    left = list(counts)
    for one in lying:
        left[one.item] -= 1
    whole = sum(hull.area * count for hull, count in zip(hulls, counts, strict=True))
    for sheet in range(len(blanks.offcuts) + most_sheets):
        if not any(left):
            break
        blank = blanks[sheet]
        on = [one for one in lying if one.sheet == sheet]
        ways = allowed[min(sheet, len(blanks.offcuts))]
        if blank.is_plain and not on:
            laid = _searched(hulls, left, ways, blank, spacing, seconds, sheet, broke_off)
        else:
            laid = fill(blank, hulls, left, ways, spacing, sheet, on)
        if not laid and not on and sheet >= len(blanks.offcuts):
            k = next(k for k, count in enumerate(left) if count)
            raise ArtError(_too_large(hulls[k], names[k] if names else "", blank))
        made += laid
        for one in laid:
            left[one.item] -= 1
        report(1 - sum(hull.area * count for hull, count in zip(hulls, left, strict=True)) / whole)
    if any(left):
        raise TooManySheetsError(f"It takes more than {most_sheets} sheets.")
    return made


class TooManySheetsError(ArtError):
    """What is laid takes more sheets than it may."""


def _too_large(hull: Polygon, name: str, blank: Blank) -> str:
    x0, y0, x1, y1 = hull.bounds
    width, height = blank.room
    beside = ", beside what is kept free" if blank.kept_free else ""
    return (
        f"A piece{f' of {name}' if name else ''} of {x1 - x0:.0f} × {y1 - y0:.0f} mm does not fit on a sheet of "
        f"{blank.size[0]:g} × {blank.size[1]:g} mm, of which margins leave {width:.0f} × {height:.0f} mm{beside}."
    )


def _searched(
    hulls: Sequence[Polygon],
    left: Sequence[int],
    allowed: Sequence[list[float]],
    blank: Blank,
    spacing: float,
    seconds: float,
    sheet: int,
    broke_off: Callable[[], None],
) -> list[Nested]:
    """What a search or rows lay on a sheet of which all between the margins is free."""
    width, height = blank.room
    tried = _some(hulls, [count if allowed[k] else 0 for k, count in enumerate(left)], blank.size)
    asked = [(k, np.asarray(hulls[k].exterior.coords)[:-1].tolist(), left[k], allowed[k]) for k in tried]
    if not asked:
        return []
    found: list[tuple[int, float, float, float]]
    try:
        found = ask(_solve, (asked, height, spacing + _SURE, seconds), 0.1, _given_up)
    except EOFError:
        # Of a few small pieces the library makes a strip narrower than the distance between them, and breaks off.
        found = []
        broke_off()
    # Of what is nearly a box, rows can be as good; one alone always lies within.
    in_rows = _in_rows(hulls, [(k, count, ways) for k, _, count, ways in asked], height, spacing + _SURE, sheet)
    searched = [_nested(sheet, *one) for one in found]
    laid = max((_within(hulls, one, width) for one in (searched, in_rows)), key=lambda one: _worth(hulls, one))
    return _cornered(hulls, laid, blank) if laid else []


def _some(hulls: Sequence[Polygon], left: Sequence[int], size: tuple[float, float]) -> list[int]:
    """Items that are tried for the next sheet: no more than one and a half times what it can hold."""
    chosen: list[int] = []
    area = 0.0
    for k, count in enumerate(left):
        if count and area < 1.5 * size[0] * size[1]:
            chosen.append(k)
            area += hulls[k].area * count
    return chosen


def _fitting(hull: Polygon, angles: Sequence[float], width: float, height: float) -> list[float]:
    points = shapely.get_coordinates(hull)
    made: list[float] = []
    for angle in angles:
        extent = np.ptp(points @ turn(angle, 1, 1)[:, :2].T, axis=0)
        if extent[0] <= width and extent[1] <= height:
            made.append(angle)
    return made


def _given_up() -> bool:
    """Raises where nobody waits any more: that ends the search."""
    checkpoint()
    return False


def _solve(
    answer: Connection,
    asked: list[tuple[int, list[list[float]], int, list[float]]],
    height: float,
    apart: float,
    seconds: float,
) -> None:
    import spyrrow

    limit(10 * seconds * 2 + 20, 2_000_000_000)
    items = [spyrrow.Item(str(k), [(x, y) for x, y in shape], count, angles) for k, shape, count, angles in asked]
    instance = spyrrow.StripPackingInstance("sheet", strip_height=height, items=items)
    config = spyrrow.StripPackingConfig(
        early_termination=True,
        min_items_separation=apart,
        total_computation_time=max(1, math.ceil(seconds)),
        num_workers=2,
        seed=1,
    )
    solution = instance.solve(config)
    answer.send([(int(one.id), *one.translation, one.rotation) for one in solution.placed_items])


def _nested(sheet: int, item: int, x: float, y: float, rotation: float) -> Nested:
    return Nested(item, sheet, float(x), float(y), float(rotation))


def _within(hulls: Sequence[Polygon], laid: Sequence[Nested], width: float) -> list[Nested]:
    """What of it lies within a sheet's length."""
    return [one for one in laid if placed(hulls[one.item], one).bounds[2] <= width + 1e-6]


def _worth(hulls: Sequence[Polygon], laid: Sequence[Nested]) -> tuple[float, float]:
    """Better is more of it on the sheet, then a shorter piece of that."""
    area = sum(hulls[one.item].area for one in laid)
    return round(area, 3), -max((placed(hulls[one.item], one).bounds[2] for one in laid), default=0.0)


def _in_rows(
    hulls: Sequence[Polygon], asked: Sequence[tuple[int, int, list[float]]], height: float, apart: float, sheet: int
) -> list[Nested]:
    """Items upon each other in columns, the widest first, each turned so that its columns are narrow."""
    boxes: list[tuple[float, float, int, float, tuple[float, float]]] = []
    for k, count, angles in asked:
        tried: list[tuple[float, float, float, float, tuple[float, float]]] = []
        for angle in angles:
            x0, y0, x1, y1 = placed(hulls[k], Nested(k, sheet, 0, 0, angle)).bounds
            each = int((height + apart) // (y1 - y0 + apart))
            if each:
                tried.append((math.ceil(count / each) * (x1 - x0 + apart), x1 - x0, y1 - y0, angle, (x0, y0)))
        _, wide, high, angle, corner = min(tried)
        boxes += [(wide, high, k, angle, corner)] * count
    made: list[Nested] = []
    left = top = wide_one = 0.0
    for wide, high, k, angle, (x0, y0) in sorted(boxes, key=lambda one: (-one[0], one[2])):
        if top + high > height + 1e-9:
            left, top, wide_one = left + wide_one + apart, 0.0, 0.0
        made.append(Nested(k, sheet, left - x0, top - y0, angle))
        top, wide_one = top + high + apart, max(wide_one, wide)
    return made


def _cornered(hulls: Sequence[Polygon], laid: list[Nested], blank: Blank) -> list[Nested]:
    """All of a sheet moved into the upper left corner of what is free of it."""
    boxes = np.array([placed(hulls[one.item], one).bounds for one in laid])
    x0, _, _, y1 = blank.free.bounds
    dx, dy = x0 - float(boxes[:, 0].min()), y1 - float(boxes[:, 3].max())
    return [Nested(one.item, one.sheet, one.x + dx, one.y + dy, one.turn) for one in laid]
