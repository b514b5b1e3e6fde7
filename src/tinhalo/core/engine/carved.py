"""What is carved out of a board: areas for each pass, their offsets with the reason, and what will not come out.

Words that stand higher have slopes: at a depth they are wider than at their tops by depth x tan(half the bit's angle).
So each pass leaves standing what earlier levels have become at its start, grown by that, and the next level's words
unchanged. It starts where the pass before ended, always: its start is no setting.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import shapely
from shapely import MultiLineString, MultiPolygon

from tinhalo.core.design.carving import Carving
from tinhalo.core.design.hand_over import LINES
from tinhalo.core.engine.built import Build, BuiltLayer
from tinhalo.core.geometry.arrays import Box
from tinhalo.core.geometry.carving.v_paths import Cone
from tinhalo.core.geometry.curves.precision import EXACT
from tinhalo.core.geometry.regions.offset import offset
from tinhalo.core.geometry.regions.region import Region, wrapped
from tinhalo.core.runtime.memo import digest
from tinhalo.core.units import area, length

#: Words on a slope are told from so many mm² on.
_TOLD_AREA = 0.5
#: The stock goes this far beyond the board and the tool that cuts it out, in mm.
_BESIDE, _TRIMMED = 2.0, 0.5


@dataclass(frozen=True)
class Pass:
    """One level of the ground, or what is sunk into the top.

    Attributes:
        title: what it is.
        area: what is carved, at its upper edge.
        start: how deep it begins, in mm.
        depth: how much deeper it goes.
        grown: how much wider what stands higher is at its start than at its top, for each earlier level, in mm.
    """

    title: str
    area: MultiPolygon
    start: float
    depth: float
    grown: tuple[float, ...]


@dataclass(frozen=True)
class Carved:
    """The carving of a design.

    Attributes:
        key: of all that it depends on: equal keys mean equal carvings.
        set: how it is carved.
        thickness: of the board, in mm.
        board: the board's areas, its holes too.
        stock: what is clamped on the machine, in mm.
        passes: from the top.
        lines: layers that are engraved along their lines.
        pockets: layers that are pockets.
        told: what will not come out as drawn, in sentences.
    """

    key: str
    set: Carving
    thickness: float
    board: MultiPolygon
    stock: Box
    passes: tuple[Pass, ...]
    lines: tuple[BuiltLayer, ...]
    pockets: tuple[BuiltLayer, ...]
    told: tuple[str, ...]

    @property
    def cone(self) -> Cone:
        """The V-bit."""
        return Cone.of(self.set.bit.angle, self.set.bit.tip)

    @property
    def depth(self) -> float:
        """Of the lowest ground, in mm."""
        return max((one.start + one.depth for one in self.passes), default=0.0)


def carved(build: Build) -> Carved | None:
    """How a design is carved; None where it is not."""
    set = build.design.carving
    if set is None:
        return None
    by_id = {one.layer.id: one for one in build.layers}
    board = by_id[set.board]
    levels = [[by_id[id] for id in level.layers if not by_id[id].layer.hidden] for level in set.levels]
    tangent = Cone.of(set.bit.angle).tangent
    # Where ground runs out over the edge, the bit follows its slope half of that way.
    deepest = max(set.sunk_depth, *(level.depth for level in set.levels))
    widest = deepest * tangent + set.bit.tip / 2 + _BESIDE / 2
    beside = _BESIDE + max(set.mill.diameter if set.mill else 0.0, widest / 2 + _TRIMMED)
    x0, y0, x1, y1 = board.region.bounds or (0.0, 0.0, 0.0, 0.0)
    stock = (x0 - beside, y0 - beside, x1 + beside, y1 + beside)
    tops = [Region.of(shapely.union_all([one.region.area for one in level])) for level in levels]
    sunk = [by_id[id] for id in set.sunk if not by_id[id].layer.hidden]
    passes: list[Pass] = []
    start = 0.0
    # Where nothing stands there is no ground to go down to: words may be sunk alone.
    for number, level in enumerate(set.levels if any(levels) else ()):
        # What stands at a level has been sloping out since its top.
        tops_at = [sum(one.depth for one in set.levels[:k]) for k in range(number + 1)]
        grown = [(start - top) * tangent for top in tops_at]
        standing = [offset(one, by, EXACT) for one, by in zip(tops, grown, strict=False)]
        # The slope at the far side of that is beside the board, and the bit no further out than the stock.
        over = level.depth * tangent + set.bit.tip / 2 + _BESIDE / 2
        area = _carved_away(board.region, [one.area for one in standing], over)
        title = f"Level {number + 1}" if len(set.levels) > 1 else "The ground"
        passes.append(Pass(title, area, start, level.depth, tuple(grown[:-1])))
        start += level.depth
    if sunk:
        into = shapely.intersection(shapely.union_all([one.region.area for one in sunk]), board.region.area)
        passes.append(Pass("Sunk words", Region.of(into).area, 0.0, set.sunk_depth, ()))
    ground = passes[0].area if any(levels) else MultiPolygon()
    named = [board, *sunk, *(one for level in levels for one in level), *_marked(build, board)]
    key = digest(set.model_dump_json(), f"{board.material.thickness}", *(f"{one.layer.id} {one.key}" for one in named))
    return Carved(
        key,
        set,
        board.material.thickness,
        board.region.area,
        stock,
        tuple(passes),
        tuple(one for one in _marked(build, board) if one.layer.process in LINES),
        tuple(one for one in _marked(build, board) if one.layer.process == "engrave"),
        tuple(_told(build, set, board, levels, sunk, ground, tangent)),
    )


def _marked(build: Build, board: BuiltLayer) -> list[BuiltLayer]:
    """Layers that are lines or pockets in the board: those of its material."""
    marks = [one for one in build.leaving() if one.layer.process in {*LINES, "engrave"}]
    return [one for one in marks if one.layer.material == board.layer.material]


def _carved_away(board: Region, standing: Sequence[MultiPolygon], over: float) -> MultiPolygon:
    """What is carved away around what stands; where the ground runs to the board's edge, on over it.

    The bit would leave a slope at the edge otherwise.
    """
    stands = shapely.union_all(list(standing))
    ground = Region.of(shapely.difference(board.area, stands)).area
    if ground.is_empty:
        return ground
    # Holes of the board are cut out later: their edges are none of the carving's.
    shells = shapely.union_all([shapely.Polygon(one.exterior) for one in board.area.geoms])
    # Round and fine, so that the bit has no corners to go out into.
    wide = Region.of(shapely.difference(shapely.buffer(shells, over, quad_segs=128), stands)).area
    shapely.prepare(ground)
    inside = shapely.buffer(shells, -1e-3)
    return MultiPolygon([one for one in wide.geoms if shapely.intersects(shapely.intersection(one, inside), ground)])


def _told(
    build: Build,
    set: Carving,
    board: BuiltLayer,
    levels: Sequence[Sequence[BuiltLayer]],
    sunk: Sequence[BuiltLayer],
    ground: MultiPolygon,
    tangent: float,
) -> list[str]:
    """What will not come out as drawn."""
    unit = build.design.unit
    sentences: list[str] = []
    down = [level.depth for level in set.levels] if any(levels) else []
    deep = [*down, set.sunk_depth] if sunk else down
    thickness, depth = board.material.thickness, max(sum(down), set.sunk_depth if sunk else 0.0)
    if depth >= thickness:
        sentences.append(
            f"The carving goes {length(depth, unit)} deep, and {_called(board)} is {length(thickness, unit)} thick: "
            "carve less deep, or take a thicker board."
        )
    if not levels[0] and (any(levels) or not sunk):
        sentences.append("Nothing stands as high as the board: give the first level its words and the frame.")
    widest = (set.bit.diameter - set.bit.tip) / 2 / tangent
    deepest = max(deep, default=0.0)
    if deepest > widest:
        sentences.append(
            f"{set.bit.name} is {length(set.bit.diameter, unit)} wide: it carves {length(widest, unit)} deep at most, "
            f"and {length(deepest, unit)} is asked for in one level. Take a wider bit, or carve less deep."
        )
    sentences += _on_slopes(build, set, levels, tangent)
    placed = {*set.sunk, *(id for level in set.levels for id in level.layers)}
    for one in build.leaving():
        if one.layer.process == "carve" and one.layer.id not in placed:
            sentences.append(f"{_called(one)} is to be carved and stands at no level: nothing comes of it.")
    for one in sunk:
        lost = float(shapely.intersection(one.region.area, ground).area)
        if lost > _TOLD_AREA:
            sentences.append(f"{_called(one)} is sunk where ground is carved away, in an area of {area(lost, unit)}.")
    marks = _marked(build, board)
    for one in marks:
        # What is marked is marked on top: nothing of that is left where the ground is carved away.
        lost = shapely.intersection(one.region.area, ground)
        if lost.area > _TOLD_AREA and one.layer.process == "engrave":
            sentences.append(f"{_called(one)} lies over carved ground, in an area of {area(lost.area, unit)}.")
        elif one.layer.process in LINES and shapely.intersects(_lines(one), ground):
            sentences.append(f"{_called(one)} runs over carved ground: nothing of it is left there.")
    everything = wrapped([one.region.bounds for level in [*levels, sunk, marks] for one in level if one.region.bounds])
    if everything and not shapely.covers(shapely.box(*board.region.bounds or (0, 0, 0, 0)), shapely.box(*everything)):
        sentences.append(f"Something stands over the edge of {_called(board)}: what is beyond it is not there.")
    return sentences


def _on_slopes(build: Build, set: Carving, levels: Sequence[Sequence[BuiltLayer]], tangent: float) -> list[str]:
    """Words that stand where something higher still slopes."""
    tops = [Region.of(shapely.union_all([one.region.area for one in level])) for level in levels]
    unit = build.design.unit
    sentences: list[str] = []
    for number in range(1, len(levels)):
        for higher in range(number):
            fallen = sum(level.depth for level in set.levels[higher:number])
            slope = offset(tops[higher], fallen * tangent, EXACT).area
            for one in levels[number]:
                part = shapely.intersection(slope, one.region.area)
                if part.area <= _TOLD_AREA:
                    continue
                near = [x for x in levels[higher] if shapely.dwithin(part, x.region.area, fallen * tangent + 1e-6)]
                over = " and ".join(_called(other) for other in near)
                sentences.append(
                    f"{_called(one)} stands in the slope of {over}, in an area of {area(part.area, unit)}: it "
                    f"is cut off there. Keep {length(fallen * tangent, unit)} between them."
                )
    return sentences


def _lines(built: BuiltLayer) -> shapely.Geometry:
    """What is engraved of a layer that is scored: its edge and its marks."""
    return shapely.union_all([built.region.area.boundary, MultiLineString(built.region.marks.tolist())])


def _called(built: BuiltLayer) -> str:
    return f"“{built.layer.title}”"
