"""All rows of a list laid on sheets together: what is of one material is of one board, whichever row it is for."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from tinhalo.core.listing.each import Row
from tinhalo.core.output.items import Item, LaidBoard


def together(rows: Iterable[tuple[Row, list[LaidBoard]]]) -> list[LaidBoard]:
    """The boards of all rows, each item with its row and as often as that is made; the largest first."""
    found: dict[tuple[object, ...], LaidBoard] = {}
    for row, boards in sorted(rows, key=lambda one: one[0].number):
        for one in boards:
            board = one.board
            key = (board.title, board.material, board.colour, board.mirrored, one.blanks.whole.size)
            items = tuple(_of(row, item) for item in one.items)
            there = found.get(key)
            if there is None:
                found[key] = replace(one, items=items)
                continue
            # What one row leaves of the board's layers another may not.
            layers = tuple(dict.fromkeys([*there.board.layers, *board.layers]))
            found[key] = replace(
                there,
                board=replace(there.board, layers=layers),
                items=there.items + items,
                split=there.split + one.split,
            )
    return [replace(one, items=tuple(sorted(one.items, key=lambda item: -item.hull.area))) for one in found.values()]


def _of(row: Row, item: Item) -> Item:
    return replace(item, count=item.count * row.copies, row=row.number, name=row.words)
