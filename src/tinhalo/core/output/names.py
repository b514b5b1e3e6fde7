"""What the files of a pack are called."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass

from tinhalo.core.engine.built import Build
from tinhalo.core.output.board import boards_of


@dataclass(frozen=True)
class Names:
    """File names without their endings; none differs from another only in case.

    Attributes:
        layers: by the layer's id.
        boards: by the id of each layer that is on the board.
        combined: of all layers together.
    """

    layers: Mapping[str, str]
    boards: Mapping[str, str]
    combined: str

    @staticmethod
    def of(build: Build) -> Names:
        """The names of a built design's files: layers keep their ids where they can."""
        taken = {"combined", "manifest"}
        layers = {built.layer.id: _free(built.layer.id, taken) for built in build.layers}
        boards: dict[str, str] = {}
        for board in boards_of(build):
            boards |= dict.fromkeys(board.layers, _free(f"board-{_plain(board.name or board.material)}", taken))
        return Names(layers, boards, "combined")


def _plain(text: str) -> str:
    """Without what some file system does not take."""
    return re.sub(r"[^\w.-]+", "-", text).strip("-.")[:80] or "board"


def _free(stem: str, taken: set[str]) -> str:
    name, number = stem, 2
    while name.lower() in taken:
        name, number = f"{stem}-{number}", number + 1
    taken.add(name.lower())
    return name
