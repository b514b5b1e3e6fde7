"""Boards: what is cut from one piece of material lies on one page, in register."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from tinhalo.core.engine.built import Build, BuiltLayer
from tinhalo.core.output.drawing import Drawing


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
    if layer.process == "cut":
        return layer.stock
    beside = [one.layer for one in (*leaving[index:], *reversed(leaving[:index]))]
    on = (one.stock for one in beside if one.process == "cut" and one.material == layer.material)
    return next(on, layer.stock)


def print_and_cut(build: Build, board: Board) -> dict[str, list[str]]:
    """What is printed of a board and what is cut, each for a file of its own; nothing where it is not both.

    Both have the board's page, and its marks.
    """
    processes = {one.layer.id: one.layer.process for one in build.leaving()}
    printed = [id for id in board.layers if processes[id] == "print"]
    rest = [id for id in board.layers if processes[id] != "print"]
    return {"print": printed, "cut": rest} if printed and rest else {}


def on_board(drawing: Drawing, board: Board) -> Drawing:
    """What of a drawing comes from a board, swapped left for right where that leaves so."""
    part = drawing.only(board.title, board.layers)
    return part.mirrored() if board.mirrored else part


def all_mirrored(boards: Sequence[Board]) -> bool:
    """Whether what holds all layers leaves mirrored: where every board does."""
    return bool(boards) and all(board.mirrored for board in boards)


def _board(build: Build, name: str | None, layers: list[BuiltLayer]) -> Board:
    ground = next((one for one in reversed(layers) if one.layer.process == "cut"), layers[-1])
    stuff = ground.material.name + (f", {ground.layer.colour}" if ground.layer.colour else "")
    title = f"{name}, {stuff}" if name else stuff
    mirror = build.design.hand_over.mirror
    mirrored = ground.material.limits.mirrored if mirror == "as_material" else mirror == "all"
    return Board(name, title, *ground.layer.stock, mirrored, tuple(one.layer.id for one in layers))
