"""What the files of a pack hold, whatever format they have."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from tinhalo.core.design.hand_over import Kind
from tinhalo.core.engine.built import Build
from tinhalo.core.output.board import all_mirrored, boards_of, is_mirrored, on_board, print_and_cut
from tinhalo.core.output.drawing import Drawing
from tinhalo.core.output.lining_up import framed_drawing, marked
from tinhalo.core.output.names import Names
from tinhalo.core.output.sheets import Sheet, files_of, sheets_of


@dataclass(frozen=True)
class Part:
    """What one file of each format holds.

    Attributes:
        stem: the files' name without its ending.
        kind: what it is of the job.
        drawing: what is drawn in it.
        layers: ids of its layers.
        mirrored: whether it leaves swapped left for right.
        sheet: whether it is a sheet on which pieces of a board are laid.
    """

    stem: str
    kind: Kind
    drawing: Drawing
    layers: tuple[str, ...]
    mirrored: bool
    sheet: bool = False


def parts_of(build: Build, names: Names, sheets: Sequence[Sheet] = ()) -> list[Part]:
    """The files of a pack but for their formats.

    Each layer; each board, and where it is both printed and cut either by itself; sheets; all layers together.
    """
    bare = framed_drawing(build)
    drawing = marked(bare, build.design.hand_over.lining_up)
    boards = boards_of(build)
    parts: list[Part] = []
    for one in build.leaving():
        id, mirrored = one.layer.id, is_mirrored(one.layer.id, boards)
        part = drawing.only(one.layer.title, [id])
        parts.append(Part(names.layers[id], "layers", part.mirrored() if mirrored else part, (id,), mirrored))
    for board in boards:
        laid = on_board(build, bare, board)
        parts.append(Part(names.boards[board.layers[0]], "boards", laid, board.layers, board.mirrored))
        for way, ids in print_and_cut(build, board).items():
            half = laid.only(f"{board.title}, {way}", ids)
            parts.append(Part(names.half(board.layers[0], way), "boards", half, tuple(ids), board.mirrored))
    for sheet in sheets:
        board = sheet.board.board
        for after, laid in files_of(sheet).items():
            stem = names.sheet(board.layers[0], *sheet.called) + after
            parts.append(Part(stem, "boards", laid, board.layers, board.mirrored, sheet=True))
    mirrored = all_mirrored(boards)
    every = tuple(one.layer.id for one in build.leaving())
    parts.append(Part(names.combined, "together", drawing.mirrored() if mirrored else drawing, every, mirrored))
    return parts


def download_parts(build: Build, names: Names) -> list[Part]:
    """The files that the maker asked for but for their formats, each once; sheets stand for the boards laid on them."""
    sheets = sheets_of(build)
    laid = {id for sheet in sheets for id in sheet.board.board.layers}
    wanted = [
        part
        for part in parts_of(build, names, sheets)
        if part.kind in build.design.hand_over.files
        and not (part.kind == "boards" and laid.issuperset(part.layers) and not part.sheet)
    ]
    # Where two are the same the board stays.
    wanted.sort(key=lambda part: ("boards", "together", "layers").index(part.kind))
    return [part for k, part in enumerate(wanted) if not any(_same(part, other) for other in wanted[:k])]


def _same(one: Part, other: Part) -> bool:
    """Whether two files show the same."""
    if one.drawing.page != other.drawing.page:
        return False
    mine, theirs = ([(layer.id, layer.lines) for layer in part.drawing.layers] for part in (one, other))
    if [(id, len(lines)) for id, lines in mine] != [(id, len(lines)) for id, lines in theirs]:
        return False
    pairs = (pair for (_, a), (_, b) in zip(mine, theirs, strict=True) for pair in zip(a, b, strict=True))
    return all(np.array_equal(a.segments, b.segments) for a, b in pairs)
