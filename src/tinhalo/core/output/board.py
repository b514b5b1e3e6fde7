"""Boards: what is cut from one piece of material lies on one page, in register."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from tinhalo.core.engine.built import Build, BuiltLayer


@dataclass(frozen=True)
class Board:
    """One board.

    Attributes:
        name: what the maker calls it; none where it is the board of a material.
        title: what it is called.
        material: id of what it is made of.
        mirrored: whether it leaves swapped left for right: the whole board, once and last.
        layers: ids of what is made from it, from the top of the stack to the bottom.
    """

    name: str | None
    title: str
    material: str
    mirrored: bool
    layers: tuple[str, ...]


def boards_of(build: Build) -> list[Board]:
    """All boards, in the order in which the stack meets them.

    Layers of one material come from one board, unless the maker names another: those with one name are together,
    whatever their materials. Such a board is of the material of its lowest layer that is cut.
    """
    found: dict[tuple[str | None, str], list[BuiltLayer]] = {}
    for one in build.leaving():
        name = one.layer.board
        found.setdefault((name, "" if name else one.layer.material), []).append(one)
    return [_board(build, name, layers) for (name, _), layers in found.items()]


def all_mirrored(boards: Sequence[Board]) -> bool:
    """Whether what holds all layers leaves mirrored: where every board does."""
    return bool(boards) and all(board.mirrored for board in boards)


def _board(build: Build, name: str | None, layers: list[BuiltLayer]) -> Board:
    ground = next((one for one in reversed(layers) if one.layer.process == "cut"), layers[-1])
    title = f"{name}, {ground.material.name}" if name else ground.material.name
    mirror = build.design.hand_over.mirror
    mirrored = ground.material.limits.mirrored if mirror == "as_material" else mirror == "all"
    return Board(name, title, ground.layer.material, mirrored, tuple(one.layer.id for one in layers))
