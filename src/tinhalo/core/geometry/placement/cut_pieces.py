"""What a channel leaves of letters, judged on a grid: slivers, and parts that hang together by a neck.

Compiled with numba, and all that is compiled is in this one file: numba looks at one file only to see whether its cache
is out of date. With OpenCV's and SciPy's labels a place took twenty times as long.
"""

from __future__ import annotations

import numpy as np

from tinhalo.core.geometry.arrays import Floats, Ints
from tinhalo.core.geometry.placement.clearance import Samples
from tinhalo.core.runtime.compilation import njit


@njit(cache=True, nogil=True)
def faults_at(
    letters: Samples,
    frames: Ints,
    away: Samples,
    corner: Ints,
    places: Ints,
    stride: int,
    half: float,
    least: float,
    most: int,
) -> Floats:
    """Slivers and necks that a channel leaves at each place, and how far from none they are; shape (n, 2).

    A piece is a sliver if it has fewer samples than ``least``, or none with a clearance of ``half``. A neck is where a
    piece's samples of that clearance fall apart, more often than the letter's own do. The second number is the sum of
    how much each fault lacks: small where a sliver is nearly gone, or nearly large enough.

    Args:
        letters: clearances inside of all letters, one after the other.
        frames: of each letter: where it begins in ``letters``, rows, columns, its first row and column on the grid, and
            into how many parts more than one it falls by itself; shape (n, 6).
        away: clearances outside of the channel, shape (rows, columns).
        corner: first row and column of it on the grid.
        places: how many rows and columns to move the channel by, shape (n, 2).
        stride: only each so-manieth sample is looked at.
        half: half the least width, in mm.
        least: the least area, in samples of that stride.
        most: no more is counted at a place once there are more than that.
    """
    out = np.zeros((len(places), 2))
    order = np.arange(len(frames))
    for index in range(len(places)):
        row, column = corner[0] + places[index, 0], corner[1] + places[index, 1]
        for turn in range(len(order)):
            letter = order[turn]
            begin, rows, columns, first_row, first_column, own = frames[letter]
            if (
                row >= first_row + rows
                or column >= first_column + columns
                or row + away.shape[0] <= first_row
                or column + away.shape[1] <= first_column
            ):
                continue
            count, lack = _faults_of(
                letters[begin : begin + rows * columns].reshape(rows, columns),
                away,
                first_row - row,
                first_column - column,
                own,
                stride,
                half,
                least,
            )
            out[index, 0] += count
            out[index, 1] += lack
            if out[index, 0] > most:
                # It is likely to fail at the next place, too.
                order[1 : turn + 1] = order[:turn].copy()
                order[0] = letter
                break
    return out


@njit(cache=True, nogil=True)
def _faults_of(
    letter: Samples, away: Samples, row: int, column: int, own: int, stride: int, half: float, least: float
) -> tuple[int, float]:
    rows, columns = (letter.shape[0] + stride - 1) // stride, (letter.shape[1] + stride - 1) // stride
    # Samples in a row hang together as runs: of a piece, and of its parts of that clearance.
    most = rows * ((columns + 1) // 2) + 1
    piece, size, widest = np.empty(most, np.int32), np.zeros(most, np.int32), np.zeros(most, np.float32)
    part, within = np.empty(most, np.int32), np.empty(most, np.int32)
    runs, cores = np.empty((2, columns + 1, 3), np.int32), np.empty((2, columns + 1, 3), np.int32)
    pieces, parts, runs_above, cores_above = 0, 0, 0, 0
    touched = False
    left = np.empty(columns + 1, np.float32)
    left[columns] = 0
    limit = np.float32(half)
    for i in range(rows):
        r = i * stride + row
        inside = letter[i * stride]
        for j in range(columns):
            left[j] = inside[j * stride]
        if 0 <= r < away.shape[0]:
            outside = away[r]
            for j in range(max(0, -(column // stride)), min(columns, (away.shape[1] - column + stride - 1) // stride)):
                if outside[j * stride + column] < left[j]:
                    left[j] = outside[j * stride + column]
                    touched = True
        level, above = i % 2, 1 - i % 2
        count, core_count, begin, core_begin = 0, 0, -1, -1
        for j in range(columns + 1):
            value = left[j]
            if (value >= limit) != (core_begin >= 0):
                if core_begin < 0:
                    core_begin = j
                else:
                    parts = _joined(part, cores[above], cores_above, cores[level], core_count, core_begin, j, parts)
                    core_count += 1
                    core_begin = -1
            if (value > 0) != (begin >= 0):
                if begin < 0:
                    begin = j
                else:
                    pieces = _joined(piece, runs[above], runs_above, runs[level], count, begin, j, pieces)
                    mark = runs[level, count, 2]
                    size[mark] += j - begin
                    for k in range(begin, j):
                        widest[mark] = max(widest[mark], left[k])
                    count += 1
                    begin = -1
        at = 0
        for k in range(core_count):
            while runs[level, at, 1] <= cores[level, k, 0]:
                at += 1
            within[cores[level, k, 2]] = runs[level, at, 2]
        runs_above, cores_above = count, core_count
    if not touched:
        return 0, 0.0
    apart = np.zeros(pieces, np.int32)
    for mark in range(pieces):
        root = _root(piece, mark)
        if root != mark:
            size[root] += size[mark]
            widest[root] = max(widest[root], widest[mark])
    for core in range(parts):
        if part[core] == core:
            apart[_root(piece, within[core])] += 1
    slivers, necks, lack = 0, -own, 0.0
    for mark in range(pieces):
        if piece[mark] != mark:
            continue
        if size[mark] < least or widest[mark] < limit:
            slivers += 1
            share = min(size[mark] / least, widest[mark] / half)
            lack += 0.2 + 0.8 * min(1.0, 2 * min(share, 1 - share))
        else:
            necks += apart[mark] - 1
    necks = max(0, necks)
    return slivers + necks, lack + 0.6 * necks


@njit(cache=True, nogil=True)
def _joined(parents: Ints, above: Ints, many: int, level: Ints, index: int, begin: int, end: int, labels: int) -> int:
    """Label a run of a row, from one column to before another, after the runs above that it touches.

    Args:
        parents: of labels.
        above: runs of the row before: first column, the one after the last, label; shape (n, 3).
        many: how many of these there are.
        level: runs of this row, where the run is put.
        index: at this place.
        begin: its first column.
        end: the column after its last.
        labels: how many there are so far.

    Returns:
        How many there are then.
    """
    mark = -1
    for k in range(many):
        if above[k, 0] >= end:
            break
        if above[k, 1] > begin:
            root = _root(parents, above[k, 2])
            if mark < 0:
                mark = root
            elif root != mark:
                parents[max(root, mark)] = min(root, mark)
                mark = min(root, mark)
    if mark < 0:
        mark = labels
        parents[mark] = mark
        labels += 1
    level[index, 0], level[index, 1], level[index, 2] = begin, end, mark
    return labels


@njit(cache=True, nogil=True)
def _root(parents: Ints, mark: int) -> int:
    while parents[mark] != mark:
        parents[mark] = parents[parents[mark]]
        mark = parents[mark]
    return mark


@njit(cache=True, nogil=True)
def parts_of(letter: Samples, stride: int, half: float) -> int:
    """Into how many parts more than one the samples of a letter with a clearance of ``half`` fall."""
    rows, columns = (letter.shape[0] + stride - 1) // stride, (letter.shape[1] + stride - 1) // stride
    part = np.empty(rows * ((columns + 1) // 2) + 1, np.int32)
    cores = np.empty((2, columns + 1, 3), np.int32)
    parts, many = 0, 0
    for i in range(rows):
        level, above = i % 2, 1 - i % 2
        count, begin = 0, -1
        for j in range(columns + 1):
            core = j < columns and letter[i * stride, j * stride] >= np.float32(half)
            if core != (begin >= 0):
                if begin < 0:
                    begin = j
                else:
                    parts = _joined(part, cores[above], many, cores[level], count, begin, j, parts)
                    count += 1
                    begin = -1
        many = count
    alone = 0
    for core in range(parts):
        alone += part[core] == core
    return max(0, alone - 1)


def warm() -> None:
    """Compile, or load what was compiled."""
    letter, frames = np.ones((3, 3), np.float32), np.array([[0, 3, 3, 0, 0, 0]], np.int64)
    faults_at(letter.ravel(), frames, letter, np.zeros(2, np.int64), np.zeros((1, 2), np.int64), 1, 0.5, 1.0, 1)
    parts_of(letter, 1, 0.5)
