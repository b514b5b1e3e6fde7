"""Sheets as they leave: every piece where it was laid, and what is wrong with how they lie."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, replace

import shapely
from shapely import Polygon

from tinhalo.core.artwork.error import ArtError
from tinhalo.core.design.laying import MOST_COPIES, MOST_PLACED, Laying, Placed
from tinhalo.core.engine.built import Build
from tinhalo.core.geometry.curves.affine import after, shift, turn
from tinhalo.core.output.blank import Blank
from tinhalo.core.output.drawing import MARKS, Drawing, DrawnLayer
from tinhalo.core.output.items import Item, LaidBoard, digest_of, laid_boards
from tinhalo.core.output.lining_up import marked_sheet
from tinhalo.core.output.nesting import MOST_SHEETS, SECONDS, TooManySheetsError, nest
from tinhalo.core.output.raster_nesting import Nested, placed
from tinhalo.core.runtime.progress import each, part

#: Pieces nearer to each other than they should be by less than this are not told, in mm.
_TOLD = 0.05
#: About the share of the time that laying the copies there are takes of filling their sheets.
_FIRST = 0.2


@dataclass(frozen=True)
class Sheet:
    """One sheet.

    Attributes:
        board: the board that it is of.
        number: which of its board's, from 0.
        size: width and height in mm, of an offcut of the box around it.
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

    @property
    def called(self) -> tuple[str, int]:
        """Whether it is a "sheet" or an "offcut" of its board, and which of those, counted from 1."""
        return self.board.blanks.called(self.number)


def lay_out(
    boards: Sequence[LaidBoard], laying: Laying, seconds: float = SECONDS, most_sheets: Sequence[int] = ()
) -> Laying:
    """The laying with every piece nested anew, searching so many seconds for each sheet.

    What was laid by hand stays, where there is such a piece still. ``most_sheets`` is how many whole sheets each board
    takes at most, where that is limited.

    Raises:
        TooManySheetsError: where a board takes more.
        ArtError: with a sentence, where something does not fit.
    """
    found: list[Placed] = []
    broken: list[bool] = []
    kept = _by_hand(boards, laying)
    for index, one in each(list(enumerate(boards))):
        if not one.items:
            continue
        hulls = [item.hull for item in one.items]
        counts = [item.count * laying.copies for item in one.items]
        nested = nest(
            hulls,
            counts,
            one.blanks,
            laying.spacing,
            laying.turning,
            seconds,
            names=[item.called for item in one.items],
            broke_off=lambda: broken.append(True),
            lying=kept[index],
            most_sheets=most_sheets[index] if most_sheets else MOST_SHEETS,
        )
        by_hand = len(kept[index])
        found += [_placed(index, laid, one.items[laid.item], k < by_hand) for k, laid in enumerate(nested)]
    if len(found) > MOST_PLACED:
        raise ArtError(f"That is {len(found):,} pieces; {MOST_PLACED:,} is the most that is laid at once.")
    return laying.model_copy(
        update={"placed": tuple(found), "of": digest_of(boards, laying.copies), "in_rows": bool(broken)}
    )


def fill_sheets(boards: Sequence[LaidBoard], laying: Laying, seconds: float = SECONDS) -> Laying:
    """The laying with as many copies of the whole job as go on the sheets and offcuts that its copies now take.

    Raises:
        ArtError: as ``lay_out``.
    """
    with part(0, _FIRST):
        best = lay_out(boards, laying, seconds)
    if not best.placed:
        return best
    sheets = [_whole_sheets(best, index, one) for index, one in enumerate(boards)]
    of_each = sum(item.count for one in boards for item in one.items)
    room = min(_most_copies(board, count) for board, count in zip(boards, sheets, strict=True))
    low, high = laying.copies, min(room, MOST_PLACED // of_each)
    tries = max(1, math.ceil(math.log2(max(high - low + 1, 2))))
    for k in range(tries):
        middle = (low + high + 1) // 2
        if middle <= low:
            break
        with part(_FIRST + (1 - _FIRST) * k / tries, _FIRST + (1 - _FIRST) * (k + 1) / tries):
            try:
                best = lay_out(boards, laying.model_copy(update={"copies": middle}), seconds, sheets)
                low = middle
            except TooManySheetsError:
                high = middle - 1
    return best


def _whole_sheets(laying: Laying, board: int, laid: LaidBoard) -> int:
    """How many whole sheets of a board are in use."""
    return len({one.sheet for one in laying.placed if one.board == board and one.sheet >= len(laid.blanks.offcuts)})


def _most_copies(board: LaidBoard, sheets: int) -> int:
    """As many copies of the job as sheets of a board have room for, were there no waste."""
    area = sum(item.hull.area * item.count for item in board.items)
    room = sheets * board.blanks.whole.free.area + sum(one.free.area for one in board.blanks.offcuts)
    return min(MOST_COPIES, int(room / area)) if area else MOST_COPIES


def _by_hand(boards: Sequence[LaidBoard], laying: Laying) -> list[list[Nested]]:
    """By board what was laid by hand of pieces that there are still."""
    left = {
        (index, k): item.count * laying.copies for index, one in enumerate(boards) for k, item in enumerate(one.items)
    }
    shapes: dict[str, list[tuple[int, int]]] = defaultdict(list)
    for index, one in enumerate(boards):
        for k, item in enumerate(one.items):
            shapes[item.shape].append((index, k))
    kept: list[list[Nested]] = [[] for _ in boards]
    for one in laying.placed:
        there = next((at for at in shapes.get(one.shape, []) if left[at]), None) if one.by_hand else None
        if there:
            left[there] -= 1
            kept[there[0]].append(Nested(there[1], one.sheet, one.x, one.y, one.turn))
    return kept


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


def _placed(board: int, laid: Nested, item: Item, by_hand: bool) -> Placed:
    where = {"x": round(laid.x, 4), "y": round(laid.y, 4), "turn": round(laid.turn % 360, 4)}
    return Placed(board=board, sheet=laid.sheet, item=laid.item, shape=item.shape, by_hand=by_hand, **where)


def _sheet(board: LaidBoard, number: int, on: list[int], laying: Laying) -> Sheet:
    blank = board.blanks[number]
    size = blank.size
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
    kind, which = board.blanks.called(number)
    title = f"{board.board.title}, {kind} {which}"
    drawing = Drawing(title, (0.0, 0.0, *size), tuple(order))
    # In the corners of the box around an offcut there may be nothing to mark.
    drawing = drawing if blank.outline is not None else marked_sheet(drawing, board.lining_up)
    wrong = _wrong(hulls, blank, laying.spacing)
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


def _wrong(hulls: Sequence[Polygon], blank: Blank, spacing: float) -> list[str]:
    """What lies over the margin or on what is kept free, and what lies nearer to each other than it should."""
    if not hulls:
        return []
    free = blank.free.buffer(_TOLD)
    shapely.prepare(free)
    over = sum(not shapely.covers(free, hull) for hull in hulls)
    first, second = shapely.STRtree(hulls).query(hulls, predicate="dwithin", distance=max(spacing - _TOLD, 0))
    near = int((first < second).sum())
    told: list[str] = []
    if over:
        edge = "the margin or what is kept free" if blank.kept_free else "the margin"
        told.append(f"{over} {'piece lies' if over == 1 else 'pieces lie'} over {edge}.")
    if near:
        pairs = "Two pieces lie" if near == 1 else f"{near} pairs of pieces lie"
        told.append(f"{pairs} nearer than {spacing:g} mm.")
    return told
