"""Sheets as they leave: every piece where it was laid, and what is wrong with how they lie."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import shapely
from shapely import Polygon

from tinhalo.core.artwork.error import ArtError
from tinhalo.core.design.laying import MOST_PLACED, Laying, Placed
from tinhalo.core.engine.built import Build
from tinhalo.core.geometry.curves.affine import after, shift, turn
from tinhalo.core.output.drawing import MARKS, Drawing, DrawnLayer
from tinhalo.core.output.items import Item, LaidBoard, digest_of, laid_boards
from tinhalo.core.output.lining_up import marked_sheet
from tinhalo.core.output.nesting import SECONDS, Nested, nest, placed
from tinhalo.core.runtime.progress import each

#: Pieces nearer to each other than they should be by less than this are not told, in mm.
_TOLD = 0.05


@dataclass(frozen=True)
class Sheet:
    """One sheet.

    Attributes:
        board: the board that it is of.
        number: which of its board's, from 0.
        size: width and height in mm.
        placed: indices into the laying's list, of what lies on it.
        drawing: all of it, with the sheet as its page.
        used: share of the sheet that becomes pieces, up to the furthest of them.
        wrong: sentences on what lies over an edge, or too near.
    """

    board: LaidBoard
    number: int
    size: tuple[float, float]
    placed: tuple[int, ...]
    drawing: Drawing
    used: float
    wrong: tuple[str, ...]


def lay_out(boards: Sequence[LaidBoard], laying: Laying, seconds: float = SECONDS) -> Laying:
    """The laying with every piece nested anew, searching so many seconds for each sheet.

    Raises:
        ArtError: with a sentence, where something does not fit.
    """
    found: list[Placed] = []
    broken: list[bool] = []
    for index, one in each(list(enumerate(boards))):
        if not one.items:
            continue
        hulls = [item.hull for item in one.items]
        counts = [item.count * laying.copies for item in one.items]
        names = [item.called for item in one.items]
        how = (one.size, one.margin, laying.spacing, laying.turning, seconds)
        nested = nest(hulls, counts, *how, names=names, broke_off=lambda: broken.append(True))
        found += [_placed(index, laid) for laid in nested]
    if len(found) > MOST_PLACED:
        raise ArtError(f"That is {len(found):,} pieces; {MOST_PLACED:,} is the most that is laid at once.")
    return laying.model_copy(
        update={"placed": tuple(found), "of": digest_of(boards, laying.copies), "in_rows": bool(broken)}
    )


def is_current(boards: Sequence[LaidBoard], laying: Laying) -> bool:
    """Whether what was laid is what the design has now."""
    return bool(laying.placed) and laying.of == digest_of(boards, laying.copies)


def sheets_of(build: Build) -> list[Sheet]:
    """The sheets of a design as it was laid; none where it was not, or has changed since."""
    laying = build.design.hand_over.laying
    return as_laid(laid_boards(build), laying) if laying and laying.placed else []


def as_laid(boards: Sequence[LaidBoard], laying: Laying) -> list[Sheet]:
    """The sheets of what was laid; none where it was not, or has changed since."""
    if not is_current(boards, laying):
        return []
    by_sheet: dict[tuple[int, int], list[int]] = defaultdict(list)
    for index, one in enumerate(laying.placed):
        # Another program may have written what is not there.
        if one.board < len(boards) and one.item < len(boards[one.board].items):
            by_sheet[one.board, one.sheet].append(index)
    return [_sheet(boards[board], number, on, laying) for (board, number), on in sorted(by_sheet.items())]


def _placed(board: int, laid: Nested) -> Placed:
    where = {"x": round(laid.x, 4), "y": round(laid.y, 4), "turn": round(laid.turn % 360, 4)}
    return Placed(board=board, sheet=laid.sheet, item=laid.item, **where)


def _sheet(board: LaidBoard, number: int, on: list[int], laying: Laying) -> Sheet:
    size = board.size
    items = [board.items[laying.placed[index].item] for index in on]
    # A paint lies where its copy does: such copies stay layers of their own.
    layers: dict[tuple[str, int], DrawnLayer] = {}
    hulls: list[Polygon] = []
    for index, item in zip(on, items, strict=True):
        one = laying.placed[index]
        matrix = after(shift(one.x, one.y), turn(one.turn, 1, 1))
        hulls.append(placed(item.hull, Nested(one.item, number, one.x, one.y, one.turn)))
        for layer in item.layers:
            moved = layer.transformed(matrix)
            key = (layer.id, index if layer.paint else -1)
            there = layers.get(key)
            layers[key] = (
                moved
                if there is None
                else replace(there, pieces=there.pieces + moved.pieces, strokes=there.strokes + moved.strokes)
            )
    order = [one for id in (MARKS, *board.board.layers) for (of, _), one in layers.items() if of == id]
    title = f"{board.board.title}, sheet {number + 1}"
    drawing = marked_sheet(Drawing(title, (0.0, 0.0, *size), tuple(order)), board.lining_up)
    wrong = _wrong(hulls, size, board.margin, laying.spacing)
    return Sheet(board, number, size, tuple(on), drawing, _used(items, hulls, size), tuple(wrong))


def files_of(sheet: Sheet) -> dict[str, Drawing]:
    """What leaves of a sheet, by what its files are called after: all of it, and what is printed and what is cut.

    Where something is both, either has the sheet's page and marks.
    """
    every = sheet.drawing
    ids = [one.id for one in every.layers if one.id != MARKS]
    printed = {one.id for one in every.layers if one.process == "print"}
    ways = {"-print": [id for id in ids if id in printed], "-cut": [id for id in ids if id not in printed]}
    apart = {after: every.only(every.title, own) for after, own in ways.items()} if all(ways.values()) else {}
    return {"": every, **apart}


def _used(items: Sequence[Item], hulls: Sequence[Polygon], size: tuple[float, float]) -> float:
    """The share that becomes pieces of the sheet's whole height, up to where the last piece ends."""
    length = min(size[0], max((hull.bounds[2] for hull in hulls), default=0.0))
    return sum(item.area for item in items) / (length * size[1]) if length > 0 else 0.0


def _wrong(hulls: Sequence[Polygon], size: tuple[float, float], margin: float, spacing: float) -> list[str]:
    """What lies over the margin, and what lies nearer to each other than it should."""
    if not hulls:
        return []
    boxes = np.array([hull.bounds for hull in hulls])
    low = margin - _TOLD
    high = np.array(size) - margin + _TOLD
    over = int(((boxes[:, :2] < low).any(axis=1) | (boxes[:, 2:] > high).any(axis=1)).sum())
    first, second = shapely.STRtree(hulls).query(hulls, predicate="dwithin", distance=max(spacing - _TOLD, 0))
    near = int((first < second).sum())
    told: list[str] = []
    if over:
        told.append(f"{over} {'piece lies' if over == 1 else 'pieces lie'} over the margin.")
    if near:
        pairs = "Two pieces lie" if near == 1 else f"{near} pairs of pieces lie"
        told.append(f"{pairs} nearer than {spacing:g} mm.")
    return told
