"""RS-274/NGC as a mill understands it (The NIST RS274NGC Interpreter, version 3, 2000): its tip's way, move by move.

Of the language what our files use, and what others' plain files do: lengths in mm or inches, absolute or from place to
place, straight moves, arcs in the level plane by their middle, feeds, and comments.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator

from tinhalo.core.geometry.carving.heights import Profile
from tinhalo.core.geometry.carving.v_paths import Cone
from tinhalo.shop.program import UNITS, Move, Program, ProgramError

MOST_MOVES = 2_000_000
#: Arcs are followed by straight pieces so close, in mm.
_WITHIN = 0.005
_WORD = re.compile(r"([A-Z])\s*([-+]?(?:\d+\.?\d*|\.\d+))")
_COMMENT = re.compile(r"\(([^()]*)\)")
_TOOL = re.compile(r"Tool: (?:.*), (?:(?P<angle>[\d.]+) deg, tip (?P<tip>[\d.]+) mm|(?P<wide>[\d.]+) mm), [\d.]+ rpm")
#: G words that change nothing here, or say what is so anyway.
_SILENT = {4, 17, 40, 49, 54, 61, 64, 80, 94}
_UNKNOWN, _PARAMETERS, _RANGE = 1, 2, 3
_FURTHEST = 100_000.0


def is_mill_text(text: str) -> bool:
    """Whether a text is in this language: plotters' texts begin with other words."""
    begun = text.lstrip()[:1]
    return begun in "%(" and begun != ""


def understood(text: str) -> Program:
    """What a text asks for, in order.

    Raises:
        ProgramError: where it is not understood.
    """
    comments = _COMMENT.findall(text)
    return Program(comments[0].strip() if comments else "", tuple(_moves(text)), ())


def profile(text: str) -> Profile | None:
    """The tool that a text's comments name, from below; None where they name none."""
    found = _TOOL.search(text)
    if not found:
        return None
    if found["wide"]:
        return Profile(float(found["wide"]) / 2, math.inf)
    return Cone.of(float(found["angle"]), float(found["tip"])).profile


def _moves(text: str) -> Iterator[Move]:
    place = [0.0, 0.0, 0.0]
    motion, scale, relative, feed, count = 0, 1.0, False, 0.0, 0
    for number, raw in enumerate(text.splitlines(), 1):
        line = _COMMENT.sub("", raw).split(";")[0].strip().upper()
        if line in ("", "%"):
            continue
        if _WORD.sub("", line).strip():
            raise ProgramError(_UNKNOWN, f"Line {number} is not understood: {raw[:60]}")
        words = [(letter, float(value)) for letter, value in _WORD.findall(line)]
        for _, value in (one for one in words if one[0] == "G"):
            if value in (0, 1, 2, 3):
                motion = int(value)
            elif value in (20, 21):
                scale = 25.4 if value == 20 else 1.0
            elif value in (90, 91):
                relative = value == 91
            elif value not in _SILENT:
                raise ProgramError(_UNKNOWN, f"Line {number}: G{value:g} is not understood")
        said = dict(words)
        if any(abs(value) > _FURTHEST for value in said.values()):
            raise ProgramError(_RANGE, f"Line {number} goes too far")
        feed = said["F"] * scale if "F" in said else feed
        if said.get("M") in (2, 30):
            return
        if not {"X", "Y", "Z"} & set(said):
            continue
        axes = [(place[k] if relative else 0) + said[a] * scale if a in said else place[k] for k, a in enumerate("XYZ")]
        if motion and feed <= 0:
            raise ProgramError(_PARAMETERS, f"Line {number}: no feed was said")
        ways = [axes]
        if motion in (2, 3):
            ways = list(_arc(place, axes, said.get("I", 0) * scale, said.get("J", 0) * scale, left=motion == 3))
        for way in ways:
            count += 1
            if count > MOST_MOVES:
                raise ProgramError(_RANGE, "It has too many moves")
            yield Move(
                way[0] * UNITS,
                way[1] * UNITS,
                motion > 0 and min(way[2], place[2]) < 0,
                1,
                way[2],
                feed / 60 if motion else None,
            )
            place = way


def _arc(start: list[float], end: list[float], i: float, j: float, *, left: bool) -> Iterator[list[float]]:
    """Pieces of an arc round (i, j) from its start; all the way round where it ends there."""
    x, y = start[0] + i, start[1] + j
    radius = math.hypot(i, j)
    if abs(math.hypot(end[0] - x, end[1] - y) - radius) > 0.01 + radius / 1000:
        raise ProgramError(_PARAMETERS, "The ends of an arc are not as far from its middle")
    first, last = math.atan2(-j, -i), math.atan2(end[1] - y, end[0] - x)
    turn = (last - first) % math.tau if left else -((first - last) % math.tau)
    turn = turn or (math.tau if left else -math.tau)
    pieces = max(1, math.ceil(abs(turn) / (2 * math.acos(max(0.0, 1 - _WITHIN / max(radius, _WITHIN))))))
    for k in range(1, pieces):
        angle = first + turn * k / pieces
        height = start[2] + (end[2] - start[2]) * k / pieces
        yield [x + radius * math.cos(angle), y + radius * math.sin(angle), height]
    yield end
