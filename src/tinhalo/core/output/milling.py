"""The work of a mill, in order: floors by the end mill, slopes and grooves by the V-bit, and the board cut out last."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from shapely import MultiPolygon

from tinhalo.core.design.carving import Carving
from tinhalo.core.engine.built import BuiltLayer
from tinhalo.core.engine.carved import Carved, Pass
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.carving import mill_paths
from tinhalo.core.geometry.carving.axis import fewer
from tinhalo.core.geometry.carving.heights import Profile
from tinhalo.core.geometry.carving.order import near_each_other
from tinhalo.core.geometry.carving.v_paths import Cone, carve, swept
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.runtime.cancellation import checkpoint
from tinhalo.core.runtime.memo import Memo, digest
from tinhalo.core.runtime.progress import each, part
from tinhalo.core.tools import EndMill, VBit
from tinhalo.core.units import Unit, area, length

#: Paths that begin nearer than this to where the tool is go on without lifting it, in mm.
MEETS = 1e-4
#: Lifted, a mill goes this fast, in mm a second (common practice).
RAPID = 200.0
#: Lines are engraved along their curves within this, in mm.
_FOLLOWED = 0.005
#: A hole as wide as the mill, within this (mm), is drilled.
_AS_WIDE = 0.05
#: What runs out of the board is trimmed within this, in mm.
_TRIMMED = 0.25
#: Less than this (mm²) that is left standing is not told.
_TOLD_AREA = 0.2


@dataclass(frozen=True)
class Operation:
    """One thing that is done with one tool.

    Attributes:
        title: what it is.
        tool: with which tool.
        paths: where that goes, lowered: (x, y, z), shape (n, 3), in mm, z = 0 on top of the board.
        level: which pass of the carving it is of, from 0; None where it is none of that.
        through: whether it goes through the board.
    """

    title: str
    tool: VBit | EndMill
    paths: tuple[Floats, ...]
    level: int | None = None
    through: bool = False

    @property
    def cut_mm(self) -> float:
        """Length of its way while lowered."""
        return float(sum(np.sqrt((np.diff(one, axis=0) ** 2).sum(axis=1)).sum() for one in self.paths))

    def seconds(self, safe: float) -> float:
        """How long it takes: its way at the tool's feed, plunges, lifting to ``safe`` mm, and the ways between."""
        feed, plunge = self.tool.feed / 60, self.tool.plunge / 60
        found, here = 0.0, None
        for path in self.paths:
            start = path[0]
            away = np.inf if here is None else float(np.hypot(*(start[:2] - here[:2])))
            if away < MEETS and here is not None:
                found += abs(float(start[2] - here[2])) / plunge
            else:
                lifted = 0.0 if here is None else (safe - float(here[2])) / feed + away / RAPID
                found += lifted + (safe - float(start[2])) / plunge
            ways = np.diff(path, axis=0)
            steep = np.hypot(ways[:, 0], ways[:, 1]) == 0
            found += float((np.sqrt((ways**2).sum(axis=1)) / np.where(steep, plunge, feed)).sum())
            here = path[-1]
        return found if here is None else found + (safe - float(here[2])) / feed

    @property
    def profile(self) -> Profile:
        """Its tool's shape from below."""
        if isinstance(self.tool, EndMill):
            return Profile(self.tool.diameter / 2, np.inf)
        return Cone.of(self.tool.angle, self.tool.tip).profile


@dataclass(frozen=True)
class Work:
    """All operations in order, and what they leave standing, in sentences."""

    operations: tuple[Operation, ...]
    told: tuple[str, ...]

    @property
    def nbytes(self) -> int:
        """Memory held, in bytes."""
        return sum(path.nbytes for one in self.operations for path in one.paths) + 1000


def work_of(one: Carved, unit: Unit, memo: Memo) -> Work:
    """The work of a carving; each part of it kept by what it depends on."""
    floors: list[Operation] = []
    slopes: list[Operation] = []
    sentences: list[str] = []
    for number, level in each(list(enumerate(one.passes))):
        key = _key(one.set, level, number, unit)

        def make(level: Pass = level, number: int = number) -> Work:
            return _level(one, level, number, unit)

        made = memo.get(key, Work, make)
        floors += [op for op in made.operations if isinstance(op.tool, EndMill)]
        slopes += [op for op in made.operations if isinstance(op.tool, VBit)]
        sentences += made.told
    if one.lines:
        slopes.append(_engraved(one.set, one.lines, one.board))
    last: list[Operation] = []
    if mill := one.set.mill:
        floors += [op for layer in one.pockets if (op := _pocket(one, mill, layer, sentences, unit))]
        if one.set.cut_out and not one.board.is_empty:
            last = _cut_out(one, mill)
    elif one.pockets or one.set.cut_out:
        sentences.append("Without an end mill nothing is cut out and there are no pockets: choose one.")
    order = [*floors, *slopes, *last]
    return Work(tuple(op for op in order if op.paths), tuple(sentences))


def _key(set: Carving, level: Pass, number: int, unit: Unit) -> str:
    """All that the work of a level depends on."""
    tools = set.model_dump_json(include={"bit", "mill", "ridge", "step", "way"})
    return digest("a level", level.area.wkb_hex, tools, f"{level.start} {level.depth} {number}", level.title, unit)


def _level(one: Carved, level: Pass, number: int, unit: Unit) -> Work:
    if level.area.is_empty:
        return Work((), ())
    set, bit, mill, title = one.set, one.set.bit, one.set.mill, level.title
    cone = Cone.of(bit.angle, bit.tip)
    with part(0, 0.7):
        found = carve(level.area, cone, level.depth)
    checkpoint()
    rest, operations, sentences = found.floor, list[Operation](), list[str]()
    if mill and not found.floor.is_empty:
        with part(0.7, 0.8):
            cleared = mill_paths.clear(found.floor, mill.diameter, set.step, set.way)
        rest = cleared.rest
        rings = near_each_other(cleared.rings, keep=True)
        depths = mill_paths.passes(level.start, level.depth, mill.down)
        lowered = [_lowered(ring, z) for z in depths for ring in rings]
        operations.append(Operation(f"{title}: clear the floor", mill, tuple(lowered), number))
        if not cleared.rings:
            sentences.append(
                f"{mill.name} fits nowhere on the floor of {title.lower()}: the V-bit clears all of it, which takes "
                "long. A thinner mill would help."
            )
    step = bit.tip + 2 * set.ridge * cone.tangent
    checkpoint()
    with part(0.8, 1):
        over = swept(found, rest, step, level.depth)
    ways = near_each_other([*_on_board(found.grooves, cone, one.board), *over]) + near_each_other(
        found.walls, keep=True
    )
    depths = mill_paths.passes(0, level.depth, bit.down)
    paths = [_sunk(way, deepest, level.start) for deepest in depths for way in ways]
    operations.append(Operation(f"{title}: carve the slopes", bit, tuple(paths), number))
    sentences += _left_standing(level, bit, unit)
    return Work(tuple(operations), tuple(sentences))


def _on_board(grooves: Sequence[Floats], cone: Cone, board: MultiPolygon) -> list[Floats]:
    """As far as they cut into the board: where the ground runs on over its edge, they would run out of the stock."""
    around = shapely.union_all([shapely.Polygon(piece.exterior) for piece in board.geoms])
    shapely.prepare(around)
    kept: list[Floats] = []
    for line in grooves:
        if shapely.contains_xy(around, line[:, :2]).all():
            kept.append(line)
            continue
        along = np.concatenate([[0], np.cumsum(np.hypot(*np.diff(line[:, :2], axis=0).T))])
        every = np.union1d(along, np.arange(0, along[-1], _TRIMMED))
        fine = np.column_stack([np.interp(every, along, line[:, k]) for k in range(3)])
        wide = cone.keeps_off(0) - fine[:, 2] * cone.tangent
        far = np.array([around.distance(shapely.Point(place)) for place in fine[:, :2].tolist()])
        for run in np.split(np.arange(len(fine)), np.flatnonzero(np.diff(far <= wide)) + 1):
            if far[run[0]] <= wide[run[0]]:
                kept.append(fine[max(run[0] - 1, 0) : run[-1] + 2])
    return kept


def _left_standing(level: Pass, bit: VBit, unit: Unit) -> list[str]:
    """Grooves and corners that a flat tip is too wide for."""
    if bit.tip == 0:
        return []
    slim = shapely.difference(level.area, shapely.buffer(shapely.buffer(level.area, -bit.tip / 2), bit.tip / 2))
    left = Region.of(slim).area.area
    if left < _TOLD_AREA:
        return []
    return [
        f"{level.title}: the tip of {bit.name}, {length(bit.tip, unit)} wide, doesn't get into {area(left, unit)} of "
        "fine corners and grooves: wood is left there. A finer tip would reach them."
    ]


def _engraved(set: Carving, layers: Sequence[BuiltLayer], board: MultiPolygon) -> Operation:
    """Along the lines of layers, as far as the board goes."""
    every: list[Floats] = []
    for one in layers:
        rings = [ring for piece in one.region.area.geoms for ring in (piece.exterior, *piece.interiors)]
        every += [np.asarray(ring.coords)[:, :2] for ring in rings]
        every += list(one.region.marks)
    found = shapely.intersection(np.array([shapely.linestrings(one) for one in every], object), board)
    merged = shapely.line_merge(found)  # pyright: ignore[reportUnknownMemberType, reportUnknownVariableType]
    lines = [one for one in shapely.get_parts(merged) if one.geom_type == "LineString"]
    kept = [fewer(shapely.get_coordinates(one), _FOLLOWED) for one in lines]
    depths = mill_paths.passes(0, set.line_depth, set.bit.down)
    paths = [_lowered(line, z) for line in near_each_other(kept) for z in depths]
    return Operation("Engrave the lines", set.bit, tuple(paths))


def _pocket(one: Carved, mill: EndMill, layer: BuiltLayer, sentences: list[str], unit: Unit) -> Operation | None:
    set, pocket = one.set, Region.of(shapely.intersection(layer.region.area, one.board)).area
    cleared = mill_paths.clear(pocket, mill.diameter, set.step, set.way)
    if cleared.rest.area > _TOLD_AREA:
        sentences.append(
            f"“{layer.layer.title}”: {mill.name} leaves {area(cleared.rest.area, unit)} of the pocket standing in "
            "corners that are too tight for it."
        )
    if not cleared.rings:
        return None
    depths = mill_paths.passes(0, set.pocket_depth, mill.down)
    rings = near_each_other(cleared.rings, keep=True)
    paths = tuple(_lowered(ring, z) for z in depths for ring in rings)
    return Operation(f"Pocket: {layer.layer.title}", mill, paths)


def _cut_out(one: Carved, mill: EndMill) -> list[Operation]:
    """Holes first, those as wide as the mill drilled; then the board itself, held by tabs."""
    depths = mill_paths.passes(0, one.thickness, mill.down)
    drilled: list[Floats] = []
    others: list[shapely.Polygon] = []
    for piece in one.board.geoms:
        kept: list[shapely.LinearRing] = []
        for hole in piece.interiors:
            x0, y0, x1, y1 = hole.bounds
            if max(abs(x1 - x0 - mill.diameter), abs(y1 - y0 - mill.diameter)) <= _AS_WIDE:
                middle = np.array([(x0 + x1) / 2, (y0 + y1) / 2])
                # Up to the top after each peck, so that chips come out.
                pecks = [np.array([[*middle, 0.0], [*middle, -z], [*middle, 0.0]]) for z in depths]
                drilled.append(np.vstack(pecks))
            else:
                kept.append(hole)
        others.append(shapely.Polygon(piece.exterior, kept))
    found = mill_paths.around(MultiPolygon(others), mill.diameter, one.set.way)
    tabs = one.set.tabs
    top = -(one.thickness - min(tabs.height, one.thickness))
    rings = [
        mill_paths.with_tabs(ring, -z, top, tabs.count if is_outer else 0, tabs.width + mill.diameter)
        for ring, is_outer in found
        for z in depths
    ]
    return [
        Operation("Drill holes", mill, tuple(drilled), through=True),
        Operation("Cut the board out", mill, tuple(rings), through=True),
    ]


def _lowered(line: Floats, depth: float) -> Floats:
    return np.column_stack([line[:, :2], np.full(len(line), -depth)])


def _sunk(line: Floats, deepest: float, start: float) -> Floats:
    """A way of the V-bit, no deeper than a pass allows, from where the level starts."""
    return np.column_stack([line[:, :2], np.maximum(line[:, 2], -deepest) - start])
