"""Files for mills, in RS-274/NGC (Kramer, Proctor, Messina: The NIST RS274NGC Interpreter, version 3, 2000).

Lengths in mm, absolute, feeds in mm a minute. The origin is the lower left corner of the stock, Z is 0 on its top.
Tools are moved at rapid (G0) only at the safe height; they go down, cut and come up at feeds (G1, G2, G3).
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from itertools import groupby
from typing import Any

import numpy as np

from tinhalo.core.engine.built import Build
from tinhalo.core.engine.carved import Carved, carved
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.carving.arc_fit import Arc, fitted
from tinhalo.core.output.milling import MEETS, Operation, Work, work_of
from tinhalo.core.output.names import plain
from tinhalo.core.runtime.memo import Memo
from tinhalo.core.tools import EndMill, VBit
from tinhalo.core.units import number

#: Arcs are this close to the way they stand for, in mm: along walls, and of what only clears floors.
_WITHIN, _ROUGHLY = 0.002, 0.006
_DECIMALS = 4
#: Lines of this language end by here: comments are cut.
_LONGEST = 200


def mill_files(build: Build, memo: Memo) -> dict[str, bytes]:
    """The files that leave for a mill, by name; none where nothing is carved, or none are wanted."""
    one = carved(build)
    if one is None or not one.set.gcode:
        return {}
    return files(build.design.name, one, work_of(one, build.design.unit, memo))


def told_of_mill(build: Build, memo: Memo) -> dict[str, Any] | None:
    """For the manifest: files, the stock they need, and what will not come out as drawn; None of no carving."""
    one = carved(build)
    if one is None:
        return None
    work = work_of(one, build.design.unit, memo)
    return {
        "files": file_names(one, work) if one.set.gcode else [],
        "stock_mm": [round(one.stock[2] - one.stock[0], 4), round(one.stock[3] - one.stock[1], 4), one.thickness],
        "levels": [{"start_mm": p.start, "depth_mm": p.depth, "grown_mm": list(p.grown)} for p in one.passes],
        "operations": [
            {"title": op.title, "tool": op.tool.name, "cut_mm": round(op.cut_mm, 1)}
            | {"time_s": round(op.seconds(one.set.safe))}
            for op in work.operations
        ],
        "told": [*one.told, *work.told],
    }


_Run = tuple[VBit | EndMill, Sequence[Operation]]


def files(title: str, one: Carved, work: Work) -> dict[str, bytes]:
    """By name: a file for each tool in the order of the work, or one that stops wherever the tool is changed."""
    return {name: _program(title, one, runs) for name, runs in _runs(one, work).items()}


def file_names(one: Carved, work: Work) -> list[str]:
    """What they are called, in order."""
    return list(_runs(one, work))


def _runs(one: Carved, work: Work) -> dict[str, list[_Run]]:
    runs: list[_Run] = [(tool, list(ops)) for tool, ops in groupby(work.operations, key=lambda op: op.tool)]
    if one.set.change == "in_one" and runs:
        return {"mill.nc": runs}
    return {f"mill-{index + 1}-{_stem(tool.name)}.nc": [(tool, ops)] for index, (tool, ops) in enumerate(runs)}


def _stem(tool: str) -> str:
    """Of a file's name, after the tool in it."""
    kept = re.sub(r"[^a-z0-9]+", "-", tool.lower().replace("°", "-deg")).strip("-")
    return plain(kept, r"a-z0-9\-", "tool")


def _program(title: str, one: Carved, runs: Sequence[_Run]) -> bytes:
    lines = [*_header(title, one, [tool for tool, _ in runs]), "G21 G17 G90 G94 G40 G49 G80", "G54"]
    safe = one.set.safe
    x0, y0, _, _ = one.stock
    for index, (tool, operations) in enumerate(runs):
        if len(runs) > 1:
            lines += ["M5", f"G0 Z{number(safe)}"] if index else []
            lines += [_comment(f"Tool {index + 1}: {tool.name}"), f"T{index + 1} M6"]
        lines += [f"S{number(tool.turns)} M3", f"G0 Z{number(safe)}"]
        for operation in operations:
            lines.append(_comment(operation.title))
            lines += _moves([path - [x0, y0, 0] for path in operation.paths], tool, safe)
    return "\n".join([*lines, f"G0 Z{number(safe)}", "M5", "G0 X0 Y0", "M2", "%", ""]).encode("ascii")


def _header(title: str, one: Carved, tools: Sequence[VBit | EndMill]) -> list[str]:
    x0, y0, x1, y1 = one.stock
    board = one.board.bounds if not one.board.is_empty else one.stock
    told = [
        title,
        f"Stock {number(round(x1 - x0, 2))} x {number(round(y1 - y0, 2))} x {number(one.thickness)} mm",
        f"Board {number(round(board[2] - board[0], 2))} x {number(round(board[3] - board[1], 2))} mm, "
        f"its lower left corner at X{number(round(board[0] - x0, 2))} Y{number(round(board[1] - y0, 2))}",
        "X0 Y0 at the lower left corner of the stock, Z0 on its top",
        f"Safe height {number(one.set.safe)} mm, deepest cut {number(_deepest(one))} mm",
    ]
    for tool in dict.fromkeys(tools):
        size = f"{number(tool.diameter)} mm"
        if isinstance(tool, VBit):
            size = f"{number(tool.angle)} deg, tip {number(tool.tip)} mm"
        told.append(
            f"Tool: {tool.name}, {size}, {number(tool.turns)} rpm, feed {number(tool.feed)}, "
            f"plunge {number(tool.plunge)} mm/min"
        )
    return ["%", *(_comment(line) for line in told)]


def _deepest(one: Carved) -> float:
    return one.thickness if one.set.cut_out and one.set.mill else round(one.depth, 4)


def _comment(text: str) -> str:
    """A comment of the language: plain letters, no brackets inside."""
    kept = text.replace("°", " deg").replace("(", "[").replace(")", "]")
    return "(" + kept.encode("ascii", "replace").decode("ascii").replace("\n", " ")[:_LONGEST] + ")"


def _moves(paths: Sequence[Floats], tool: VBit | EndMill, safe: float) -> Iterator[str]:
    """Paths in order, down at the plunge's feed, lifted between them where they do not meet."""
    here: Floats | None = None
    feed = 0.0

    def at_feed(wanted: float) -> str:
        nonlocal feed
        told = "" if wanted == feed else f" F{number(wanted)}"
        feed = wanted
        return told

    for path in paths:
        start = path[0]
        meets = here is not None and np.hypot(*(start[:2] - here[:2])) < MEETS
        if not meets:
            if here is not None:
                yield f"G1 Z{number(safe)}{at_feed(tool.feed)}"
            yield f"G0 X{_told(start[0])} Y{_told(start[1])}"
        if not meets or here is None or abs(start[2] - here[2]) > MEETS:
            yield f"G1 Z{_told(start[2])}{at_feed(tool.plunge)}"
        for line in _followed(path, _WITHIN if isinstance(tool, VBit) else _ROUGHLY):
            steep = line.startswith("G1 Z")
            yield line + at_feed(tool.plunge if steep else tool.feed)
        here = path[-1]
    if here is not None:
        yield f"G1 Z{number(safe)}{at_feed(tool.feed)}"


def _followed(path: Floats, within: float) -> Iterator[str]:
    """What comes after a path's first place."""
    if len(path) < 2:
        return
    if np.ptp(path[:, 2]) == 0:
        here = path[0]
        for move in fitted(path[:, :2], within):
            if isinstance(move, Arc):
                i, j = move.middle[0] - here[0], move.middle[1] - here[1]
                x, y = move.end
                yield f"G{3 if move.left else 2} X{_told(x)} Y{_told(y)} I{_told(i)} J{_told(j)}"
                here = move.end
            else:
                here = move
                yield f"G1 X{_told(move[0])} Y{_told(move[1])}"
        return
    before = path[0]
    for place in path[1:]:
        words = [f"{name}{_told(v)}" for name, v, old in zip("XYZ", place, before, strict=True) if v != old]
        if words:
            yield "G1 " + " ".join(words)
        before = place


def _told(value: float) -> str:
    return number(round(float(value), _DECIMALS))
