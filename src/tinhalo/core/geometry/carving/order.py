"""Ways of a tool one after the other, so that little is gone between them."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from tinhalo.core.geometry.arrays import Floats


def near_each_other(lines: Sequence[Floats], *, keep: bool = False) -> list[Floats]:
    """Lines so that each begins near where the one before ended; turned round where that is nearer.

    Args:
        lines: shape (n, d) each, x and y first.
        keep: whether their order and direction stay: closed lines are begun nearer instead.
    """
    waiting = [one for one in lines if len(one)]
    if keep:
        return _begun_near(waiting)
    if not waiting:
        return []
    ends = np.array([[one[0, :2], one[-1, :2]] for one in waiting])
    free = np.ones(len(waiting), bool)
    here = ends[:, 0].min(axis=0)
    ordered: list[Floats] = []
    for _ in waiting:
        rows = np.flatnonzero(free)
        far = np.hypot(*(ends[rows] - here).transpose(2, 0, 1))
        at, turned = divmod(int(far.argmin()), 2)
        index = int(rows[at])
        free[index] = False
        line = waiting[index][::-1] if turned else waiting[index]
        ordered.append(line)
        here = line[-1, :2]
    return ordered


def _begun_near(lines: Sequence[Floats]) -> list[Floats]:
    ordered: list[Floats] = []
    here: Floats | None = None
    for line in lines:
        begun = line
        if here is not None and len(line) > 2 and np.array_equal(line[0], line[-1]):
            at = int(np.hypot(*(line[:-1, :2] - here).T).argmin())
            begun = np.vstack([line[at:-1], line[: at + 1]])
        ordered.append(begun)
        here = begun[-1, :2]
    return ordered
