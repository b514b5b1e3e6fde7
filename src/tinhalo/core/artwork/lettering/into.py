"""Words set into a shape: stretched until they hold to its frame on both sides."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon

from tinhalo.core.artwork.lettering.parts import LetterParts
from tinhalo.core.artwork.lettering.settings import Into
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.affine import after, applied, shift
from tinhalo.core.geometry.curves.precision import Precision
from tinhalo.core.geometry.placement.stretch import grow_between, stretch_between
from tinhalo.core.geometry.regions.offset import offset
from tinhalo.core.geometry.regions.overlay import fill_holes, subtract
from tinhalo.core.geometry.regions.proximity import connected
from tinhalo.core.geometry.regions.region import Region

#: To the width and to the height in turn, until neither changes by more than this share.
_ROUNDS, _SETTLED = 12, 1e-6
_STILL = np.array([[1.0, 0, 0], [0, 1, 0]])
_SWAP = np.array([[0.0, 1, 0], [1, 0, 0]])


def opening(shape: Region, frame: float, precision: Precision) -> MultiPolygon:
    """What a frame leaves open: a shape's largest hole, or what lies ``frame`` mm inside its edge."""
    holes = shape.hole_areas()
    if holes:
        return MultiPolygon([max(holes, key=lambda hole: hole.area)])
    return offset(shape, -frame, precision).area


def set_into(
    letters: Mapping[int, LetterParts], lines: Sequence[Sequence[int]], shape: Region, into: Into, precision: Precision
) -> dict[int, Floats] | None:
    """The map, shape (2, 3), of each letter that sets words into a shape.

    Args:
        letters: each letter's pieces as they stand, by its index.
        lines: the letters of each line.
        shape: what they are set into; one with a hole is its own frame.
        into: how.
        precision: how finely the frame's edge is followed.
    Returns:
        None where no stretching makes them hold.
    """
    inside = opening(shape, into.frame, precision)
    rows = [row for line in lines if (row := [i for i in line if i in letters])]
    areas = [MultiPolygon([piece for i in row for piece in letters[i].pieces]) for row in rows]
    if inside.is_empty or not rows:
        return None
    maps = [_STILL] * len(rows)
    if into.fit == "size":
        every = MultiPolygon([piece for area in areas for piece in area.geoms])
        growth = grow_between(inside, every, into.depth)
        if growth is None:
            return None
        maps = [_about_middle(growth, every)] * len(rows)
    for _ in range(_ROUNDS):
        before = maps
        if into.fit != "height":
            across = [stretch_between(inside, applied(m, a), into.depth) for m, a in zip(maps, areas, strict=True)]
            if any(one is None for one in across):
                return None
            maps = [after(_along_x(*one), m) for one, m in zip(across, maps, strict=True) if one]
        if into.fit in ("height", "both"):
            every = MultiPolygon([p for m, a in zip(maps, areas, strict=True) for p in applied(m, a).geoms])
            up = stretch_between(applied(_SWAP, inside), applied(_SWAP, every), into.depth)
            if up is None:
                return None
            maps = [after(_along_y(*up), m) for m in maps]
        if into.fit != "both" or max(np.abs(a - b).max() for a, b in zip(maps, before, strict=True)) < _SETTLED:
            break
    return {i: m for row, m in zip(rows, maps, strict=True) for i in row}


def _about_middle(factor: float, area: MultiPolygon) -> Floats:
    x0, y0, x1, y1 = area.bounds
    return shift((1 - factor) * (x0 + x1) / 2, (1 - factor) * (y0 + y1) / 2, factor)


def _along_x(scale: float, shift: float) -> Floats:
    return np.array([[scale, 0, shift], [0, 1, 0]], float)


def _along_y(scale: float, shift: float) -> Floats:
    return np.array([[1, 0, 0], [0, scale, shift]], float)


def reaching(letters: Mapping[int, LetterParts], shape: Region, into: Into, precision: Precision) -> list[list[int]]:
    """Letters that do not hold to the frame, each list of them together; dots and accents do not count."""
    inside = Region.of(opening(shape, into.frame, precision))
    frame = subtract(fill_holes(shape), inside).area
    bodies: list[tuple[int, Polygon]] = [(i, one.pieces[0]) for i, one in letters.items() if one.pieces]
    group = connected(np.array([*frame.geoms, *(body for _, body in bodies)], object))
    count = shapely.get_num_geometries(frame)  # pyright: ignore[reportUnknownMemberType]
    held = set(group[:count].tolist())
    found: dict[int, list[int]] = {}
    for (letter, _), number in zip(bodies, group[count:].tolist(), strict=True):
        if number not in held:
            found.setdefault(number, []).append(letter)
    return list(found.values())
