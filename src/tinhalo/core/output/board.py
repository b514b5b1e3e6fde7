"""Boards: what is cut from one piece of material lies on one page, so that it can be cut as it lies.

What is marked stays in register with the piece that it is marked on. Cut layers that lie over each other in the stack
would cut each other up: they are laid side by side.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from tinhalo.core.design.hand_over import CUTS
from tinhalo.core.design.laying import Laying
from tinhalo.core.engine.built import Build, BuiltLayer
from tinhalo.core.geometry.arrays import Box
from tinhalo.core.geometry.curves.affine import shift
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.regions.region import CRUMB_AREA, wrapped
from tinhalo.core.output.drawing import Drawing, DrawnLayer
from tinhalo.core.output.lining_up import marked


@dataclass(frozen=True)
class Board:
    """One board.

    Attributes:
        name: what the maker calls it; none where it is the board of a material.
        title: what it is called.
        material: id of what it is made of.
        colour: of that, where it is not the usual one.
        mirrored: whether it leaves swapped left for right: the whole board, once and last.
        layers: ids of what is made from it, from the top of the stack to the bottom.
    """

    name: str | None
    title: str
    material: str
    colour: str | None
    mirrored: bool
    layers: tuple[str, ...]


def boards_of(build: Build) -> list[Board]:
    """All boards, in the order in which the stack meets them.

    Layers of one material in one colour come from one board, unless the maker names another: those with one name are
    together, whatever their materials. Such a board is of the material of its lowest layer that is cut.
    """
    leaving = list(build.leaving())
    found: dict[tuple[str | None, str, str | None], list[BuiltLayer]] = {}
    for index, one in enumerate(leaving):
        name = one.layer.board
        found.setdefault((name, "", None) if name else (None, *_stock(leaving, index)), []).append(one)
    return [_board(build, name, layers) for (name, _, _), layers in found.items()]


def _stock(leaving: Sequence[BuiltLayer], index: int) -> tuple[str, str | None]:
    """What a layer is made from; what is marked is made on what is cut of its material, next under it or else over."""
    layer = leaving[index].layer
    if layer.process in CUTS:
        return layer.stock
    beside = [one.layer for one in (*leaving[index:], *reversed(leaving[:index]))]
    on = (one.stock for one in beside if one.process in CUTS and one.material == layer.material)
    return next(on, layer.stock)


def print_and_cut(build: Build, board: Board) -> dict[str, list[str]]:
    """What is printed of a board and what is cut, each for a file of its own; nothing where it is not both.

    Both have the board's page, and its marks.
    """
    processes = {one.layer.id: one.layer.process for one in build.leaving()}
    printed = [id for id in board.layers if processes[id] == "print"]
    rest = [id for id in board.layers if processes[id] != "print"]
    return {"print": printed, "cut": rest} if printed and rest else {}


def in_register(drawing: Drawing, board: Board) -> Drawing:
    """What of a drawing comes from a board, as it lies in the stack, swapped left for right where that leaves so."""
    part = drawing.only(board.title, board.layers)
    return part.mirrored() if board.mirrored else part


def on_board(build: Build, drawing: Drawing, board: Board) -> Drawing:
    """What of a drawing comes from a board, as it can be cut of it, with its marks; swapped left for right where so.

    Registers lie side by side in the order of the stack, as far apart as pieces on sheets do.
    """
    part = drawing.only(board.title, board.layers)
    registers = registers_of(build, board)
    if len(registers) > 1:
        part = _side_by_side(part, registers, (build.design.hand_over.laying or Laying()).spacing)
    part = marked(part, build.design.hand_over.lining_up)
    return part.mirrored() if board.mirrored else part


def registers_of(build: Build, board: Board) -> list[list[str]]:
    """Ids of a board's layers by what stays in register: no two cut layers of a register lie over each other.

    What is marked belongs to the cut layer that it lies on: the next under it in the stack, or else over it. Layers
    that leave a shared edge to each other stay together.
    """
    leaving = {one.layer.id: one for one in build.leaving()}
    layers = [leaving[id] for id in board.layers]
    cut = [one for one in layers if one.layer.process in CUTS]
    if len(cut) < 2:
        return [list(board.layers)]
    registers: list[list[BuiltLayer]] = []
    for one in cut:
        shared = {*build.design.served_by(one.layer), *one.layer.cut_with}
        beside = next((own for own in registers if any(other.layer.id in shared for other in own)), None)
        free = next((own for own in registers if not any(_over(one, other) for other in own)), None)
        register = beside if beside is not None else free
        if register is None:
            registers.append([one])
        else:
            register.append(one)
    of = {one.layer.id: k for k, own in enumerate(registers) for one in own}
    for index, one in enumerate(layers):
        if one.layer.process not in CUTS:
            near = [other for other in (*layers[index:], *reversed(layers[:index])) if other.layer.process in CUTS]
            on = next((other for other in near if one.region.area.intersects(other.region.area)), near[0])
            of[one.layer.id] = of[on.layer.id]
    return [[id for id in board.layers if of[id] == k] for k in range(len(registers))]


def _over(one: BuiltLayer, other: BuiltLayer) -> bool:
    """Whether two layers would cut each other up: what lies in a hole of the other does not.

    Nor does what is cut down to a film's carrier on what is cut through that.
    """
    kiss = one.material.limits.weeded and one.layer.process != other.layer.process
    return not kiss and one.region.area.intersection(other.region.area).area > CRUMB_AREA


def _side_by_side(drawing: Drawing, registers: Sequence[Sequence[str]], spacing: float) -> Drawing:
    """A drawing whose registers follow each other to the right, ``spacing`` mm apart; the first one stays."""
    right: float | None = None
    moved: dict[str, DrawnLayer] = {}
    page = drawing.page
    for ids in registers:
        layers = [one for one in drawing.layers if one.id in ids]
        box = wrapped([own for one in layers if (own := _box(one))])
        if box is None:
            moved |= {one.id: one for one in layers}
            continue
        dx = 0.0 if right is None else right + spacing - box[0]
        moved |= {one.id: one.transformed(shift(dx, 0.0)) for one in layers}
        right = box[2] + dx
        page = wrapped([*([page] if page else []), (box[0] + dx, box[1], right, box[3])])
    return replace(drawing, page=page, layers=tuple(moved[one.id] for one in drawing.layers))


def _box(layer: DrawnLayer) -> Box | None:
    return Outline.from_contours(layer.lines).bounds() if layer.lines else None


def all_mirrored(boards: Sequence[Board]) -> bool:
    """Whether what holds all layers leaves mirrored: where every board does."""
    return bool(boards) and all(board.mirrored for board in boards)


def is_mirrored(layer: str, boards: Sequence[Board]) -> bool:
    """Whether a layer is of a board that leaves mirrored."""
    return any(board.mirrored for board in boards if layer in board.layers)


def _board(build: Build, name: str | None, layers: list[BuiltLayer]) -> Board:
    ground = next((one for one in reversed(layers) if one.layer.process in CUTS), layers[-1])
    stuff = ground.material.name + (f", {ground.layer.colour}" if ground.layer.colour else "")
    title = f"{name}, {stuff}" if name else stuff
    mirror = build.design.hand_over.mirror
    mirrored = ground.material.limits.mirrored if mirror == "as_material" else mirror == "all"
    return Board(name, title, *ground.layer.stock, mirrored, tuple(one.layer.id for one in layers))
