"""What the files of a pack are called."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Mapping
from dataclasses import dataclass

from tinhalo.core.engine.built import Build
from tinhalo.core.output.board import all_mirrored, boards_of

#: Names that Windows keeps for devices, whatever ending they have (Naming Files, Paths, and Namespaces; from memory).
DEVICES = ("con", "prn", "aux", "nul", *(f"{port}{n}" for port in ("com", "lpt") for n in range(1, 10)))
_MOST_BYTES = 80


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
        taken = {"combined", "combined-mirrored", "manifest", *DEVICES}
        every = boards_of(build)
        mirrored = {id for board in every if board.mirrored for id in board.layers}
        ids = [built.layer.id for built in build.layers]
        layers = {id: _free(id + ("-mirrored" if id in mirrored else ""), taken) for id in ids}
        boards: dict[str, str] = {}
        for board in every:
            own = f"{board.material}-{board.colour[1:]}" if board.colour else board.material
            stem = f"board-{plain(board.name or own)}" + ("-mirrored" if board.mirrored else "")
            boards |= dict.fromkeys(board.layers, _free(stem, taken))
        return Names(layers, boards, "combined-mirrored" if all_mirrored(every) else "combined")


def plain(text: str, kept: str = r"\w.-", otherwise: str = "board") -> str:
    """Text as part of a file name: nothing but what is ``kept``, and no longer than any file system takes."""
    only = re.sub(rf"[^{kept}]+", "-", unicodedata.normalize("NFC", text)).strip("-. ")
    # File systems count bytes.
    return only.encode()[:_MOST_BYTES].decode(errors="ignore").strip("-. ") or otherwise


def _free(stem: str, taken: set[str]) -> str:
    name, number = stem, 2
    while name.lower() in taken:
        name, number = f"{stem}-{number}", number + 1
    taken.add(name.lower())
    return name
