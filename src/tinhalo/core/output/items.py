"""What is laid on sheets as one: each piece with what is marked on it; of what is weeded, all of it, in its places."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from dataclasses import dataclass, field, replace

import numpy as np
import shapely
from shapely import Polygon
from shapely.geometry.base import BaseGeometry

from tinhalo.core.design.hand_over import CUTS
from tinhalo.core.design.laying import Laying
from tinhalo.core.design.lining_up import LiningUp
from tinhalo.core.engine.built import Build
from tinhalo.core.geometry.curves.affine import shift
from tinhalo.core.geometry.curves.outline import Outline, followed
from tinhalo.core.output.blank import Blanks, blanks_of
from tinhalo.core.output.board import Board, boards_of, in_register, registers_of
from tinhalo.core.output.drawing import MARKS, DrawnLayer, drawing_of
from tinhalo.core.output.lining_up import MARKS_ROOM, framed
from tinhalo.core.output.splitting import parts_of

#: Outlines are nested as polygons that hold them, no further than this outside, in mm.
SLACK = 0.1
#: In less nothing is split, in mm.
_LEAST_ROOM = 40.0


@dataclass(frozen=True)
class Item:
    """What is laid as one.

    Attributes:
        layers: what leaves of it, its middle at the origin, from the top of the stack to the bottom.
        of: id of the layer that it is cut of, or else marked, and which of that layer's pieces it is.
        hull: a polygon without holes that holds all of it.
        area: of its material, in mm².
        part: whether it is a part of what no sheet takes whole.
        count: how many of it are laid, for each copy of the whole job.
        row: which row of a list it is of, from 1; 0 where there is no list.
        name: what that row is called.
        shape: stands for what it is: another one where its outline, its layers or its material are others.
    """

    layers: tuple[DrawnLayer, ...]
    of: tuple[str, int]
    hull: Polygon
    area: float
    part: bool = False
    count: int = 1
    row: int = 0
    name: str = ""
    shape: str = ""

    @property
    def called(self) -> str:
        """What it is called: its layers' titles, and the name of its row."""
        titles = " and ".join(dict.fromkeys(one.title for one in self.layers if one.id != MARKS))
        return f"{titles} for {self.name}" if self.name else titles


@dataclass(frozen=True)
class LaidBoard:
    """A board and its items, the largest first.

    Attributes:
        board: what is laid.
        items: of what is laid as one, each once.
        blanks: its offcuts and sheets, with wider margins than were asked for where marks stand there.
        split: how many of the items are parts of what is larger than a sheet.
        lining_up: the marks that its sheets have.
    """

    board: Board
    items: tuple[Item, ...]
    blanks: Blanks
    split: int = 0
    lining_up: LiningUp = field(default_factory=LiningUp)


def laid_boards(build: Build, laying: Laying | None = None) -> list[LaidBoard]:
    """All boards of a built design with what is laid of them, as the design says or otherwise."""
    # Laid apart, no cut serves two.
    drawing = framed(drawing_of(build, shared=False), build)
    laying = laying or build.design.hand_over.laying or Laying()
    lining_up = build.design.hand_over.lining_up
    found: list[LaidBoard] = []
    for board in boards_of(build):
        part = in_register(drawing, board)
        ground = next(one for one in build.layers if one.layer.id == board.layers[-1])
        limits = ground.material.limits
        marks = 0.0 if lining_up.marks == "none" else MARKS_ROOM
        blanks = blanks_of(laying, board.material, (limits.sheet_width, limits.sheet_height), marks)
        if limits.weeded:
            whole = [one for ids in registers_of(build, board) for one in _together(part.only(part.title, ids).layers)]
        else:
            whole = _apart(part.layers)
        items = [one for item in whole for one in _fitting(item, blanks.whole.room, laying.overlap)]
        items = [replace(one, count=laying.count_of(*one.of), shape=_shape_of(one, board)) for one in items]
        items.sort(key=lambda one: -one.hull.area)
        split = sum(one.part for one in items)
        found.append(LaidBoard(board, tuple(items), blanks, split, lining_up))
    return found


def _shape_of(item: Item, board: Board) -> str:
    made = hashlib.sha256(f"{board.material} {[one.id for one in item.layers]}".encode())
    made.update(np.round(shapely.get_coordinates(item.hull), 3).tobytes())
    return made.hexdigest()[:16]


def digest_of(boards: Sequence[LaidBoard], copies: int) -> str:
    """What stands for all of it: another one where anything that is laid has changed."""
    made = hashlib.sha256(str(copies).encode())
    for one in boards:
        if one.blanks.offcuts:
            made.update(f"{len(one.blanks.offcuts)} offcuts".encode())
        for item in one.items:
            if item.row or item.count != 1:
                made.update(f"{item.row} {item.count} {item.name}".encode())
            made.update(np.round(shapely.get_coordinates(item.hull), 3).tobytes())
    return made.hexdigest()[:32]


def _fitting(item: Item, room: tuple[float, float], overlap: float) -> list[Item]:
    """The item, or where no sheet takes it the parts that it is cut in."""
    x0, y0, x1, y1 = item.hull.bounds
    sides = sorted((x1 - x0, y1 - y0))
    if all(side <= most for side, most in zip(sides, sorted(room), strict=True)) or min(room) < _LEAST_ROOM:
        return [item]
    parts: list[Item] = []
    for layers in parts_of(item.layers, item.hull.bounds, room, overlap):
        areas = [one for layer in layers for one in _areas(layer)]
        lines = [shapely.LineString(followed(one, SLACK)) for layer in layers for one in layer.strokes]
        # With the marks beside it.
        parts.append(replace(_item(layers, item.of, areas, _hull(shapely.union_all([*areas, *lines]))), part=True))
    return parts


def _together(layers: tuple[DrawnLayer, ...]) -> list[Item]:
    areas = [one for layer in layers for one in _areas(layer)]
    if not areas:
        return []
    own = next((one for one in layers if one.process in CUTS), layers[-1])
    return [_item(layers, (own.id, 0), areas, _hull(shapely.union_all(areas)))]


def _apart(layers: tuple[DrawnLayer, ...]) -> list[Item]:
    """A cut piece each, with what of the other layers lies on it; what lies on none is by itself."""
    cut = [
        (layer, index, area) for layer in layers if layer.process in CUTS for index, area in enumerate(_areas(layer))
    ]
    # A piece inside another's hole stays by itself; one that lies on another of the board is cut of it.
    owners: list[tuple[Polygon, dict[str, list[int]], dict[str, list[int]]]] = [
        (area, {layer.id: [index]}, {}) for layer, index, area in cut
    ]
    loose: list[Item] = []
    for layer in layers:
        for index, area in enumerate(_areas(layer) if layer.process not in CUTS else []):
            owner = _best(area, [one[0] for one in owners])
            if owner is None:
                loose.append(_item((_some(layer, [index], []),), (layer.id, index), [area], _hull(area)))
            else:
                owners[owner][1].setdefault(layer.id, []).append(index)
        for index, stroke in enumerate(layer.strokes):
            line = shapely.LineString(followed(stroke, SLACK / 4))
            owner = _best(line, [one[0] for one in owners])
            if owner is not None:
                owners[owner][2].setdefault(layer.id, []).append(index)
            else:
                loose.append(_item((_some(layer, [], [index]),), (layer.id, index), [], _hull(line)))
    made: list[Item] = []
    for (owner, index, _), (area, pieces, strokes) in zip(cut, owners, strict=True):
        own = tuple(
            _some(layer, pieces.get(layer.id, []), strokes.get(layer.id, []))
            for layer in layers
            if layer.id in pieces or layer.id in strokes
        )
        made.append(_item(own, (owner.id, index), [area], _hull(area)))
    return [*made, *loose]


def _best(thing: BaseGeometry, areas: list[Polygon]) -> int | None:
    """The smallest area that a thing lies on, by its outer edge."""
    on = [k for k, area in enumerate(areas) if Polygon(area.exterior).intersects(thing)]
    return min(on, key=lambda k: areas[k].area, default=None)


def _some(layer: DrawnLayer, pieces: list[int], strokes: list[int]) -> DrawnLayer:
    return replace(
        layer,
        pieces=tuple(layer.pieces[k] for k in pieces),
        strokes=tuple(layer.strokes[k] for k in strokes),
    )


def _item(layers: tuple[DrawnLayer, ...], of: tuple[str, int], areas: list[Polygon], hull: Polygon) -> Item:
    x0, y0, x1, y1 = hull.bounds
    move = shift(-(x0 + x1) / 2, -(y0 + y1) / 2)
    moved = shapely.transform(hull, lambda points: points @ move[:, :2].T + move[:, 2])
    return Item(tuple(one.transformed(move) for one in layers), of, moved, sum(one.area for one in areas))


def _areas(layer: DrawnLayer) -> list[Polygon]:
    """Of each piece its area."""
    made: list[Polygon] = []
    for piece in layer.pieces:
        rings = Outline.from_contours(piece).flattened(SLACK / 4)
        made.append(Polygon(rings[0], rings[1:]) if rings and len(rings[0]) >= 3 else Polygon())
    return made


def _hull(area: BaseGeometry) -> Polygon:
    """A simple polygon around an area: its outer edge, or where it is in several pieces what closes around them."""
    for reach in (0.0, 2.0, 6.0, 20.0):
        closed = area.buffer(reach + SLACK / 2, quad_segs=4).buffer(-reach, quad_segs=4).simplify(SLACK / 2)
        if isinstance(closed, Polygon):
            return Polygon(closed.exterior)
    around = area.buffer(SLACK / 2).convex_hull
    return around if isinstance(around, Polygon) else Polygon()
