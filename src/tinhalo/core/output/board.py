"""Boards: what is cut from one piece of material lies on one page, in register."""

from __future__ import annotations

from dataclasses import dataclass

from tinhalo.core.engine.built import Build


@dataclass(frozen=True)
class Board:
    """One board.

    Attributes:
        key: what its layers name it by; the material's id where they name none.
        title: what it is called.
        material: id of what it is made of.
        layers: ids of what is made from it, from the top of the stack to the bottom.
    """

    key: str
    title: str
    material: str
    layers: tuple[str, ...]


def boards_of(build: Build) -> list[Board]:
    """All boards, in the order in which the stack meets them.

    Layers of one material come from one board unless the maker puts them on others; what is scored, engraved or
    printed is done to the board of the layer's own material. Layers of different materials never share one.
    """
    found: dict[tuple[str, str], list[str]] = {}
    names: dict[str, str] = {}
    for one in build.leaving():
        names[one.layer.material] = one.material.name
        found.setdefault((one.layer.material, one.layer.board or ""), []).append(one.layer.id)
    return [
        Board(
            f"{material}-{board}" if board else material,
            f"{names[material]}, {board}" if board else names[material],
            material,
            tuple(layers),
        )
        for (material, board), layers in found.items()
    ]
