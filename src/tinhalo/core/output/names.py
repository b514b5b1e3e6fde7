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
        before: what all names begin with; empty for programs.
    """

    layers: Mapping[str, str]
    boards: Mapping[str, str]
    combined: str
    before: str = ""

    @staticmethod
    def of(build: Build) -> Names:
        """Names for programs: a layer's file is called by its id where it can be."""
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

    @staticmethod
    def for_people(build: Build) -> Names:
        """Names that say what a file is: the design, and the layer, the board's material or “all layers”."""
        before = f"{readable_name(build.design.name, 'design')} - "
        every = boards_of(build)
        mirrored = {id for board in every if board.mirrored for id in board.layers}
        last = before + "all layers" + (" mirrored" if all_mirrored(every) else "")
        taken = {last.lower()}
        boards: dict[str, str] = {}
        for board in every:
            stem = before + readable_name(board.title, "board") + (" mirrored" if board.mirrored else "")
            boards |= dict.fromkeys(board.layers, _free(stem, taken))
        layers: dict[str, str] = {}
        for one in build.layers:
            stem = before + readable_name(one.layer.title, one.layer.id)
            layers[one.layer.id] = _free(stem + (" mirrored" if one.layer.id in mirrored else ""), taken)
        return Names(layers, boards, last, before)

    def sheet(self, layer: str, kind: str, number: int) -> str:
        """The name of a "sheet" or an "offcut" of the board that a layer is on, counted from 1."""
        board = self.boards[layer]
        return f"{board} {kind} {number}" if self.before else f"{kind}-{board.removeprefix('board-')}-{number}"

    def half(self, layer: str, way: str) -> str:
        """The name of what is printed, or cut, of the board that a layer is on."""
        board = self.boards[layer]
        return f"{board} {way}" if self.before else f"{way}-{board.removeprefix('board-')}"


#: What no file name holds on some system (Naming Files, Paths, and Namespaces; from memory).
_RESERVED = re.compile(r'[<>:"/\\|?*\x00-\x1f\x7f-\x9f\u200b-\u200f\u2028-\u202e\ufeff]+')


def readable_name(text: str, otherwise: str) -> str:
    """Text as a part of a file name that people read: every system takes it, and none has two spaces."""
    kept = _RESERVED.sub(" ", unicodedata.normalize("NFC", text).replace("&", " and "))
    kept = " ".join(kept.split()).encode()[:_MOST_BYTES].decode(errors="ignore").strip(". ")
    return otherwise if not kept or kept.lower() in DEVICES else kept


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
