"""Path data of SVG (SVG 2, section 9.3) drawn with a pen."""

from __future__ import annotations

import cmath
import math
import re
from collections.abc import Iterator

from tinhalo.core.artwork.drawings.track import Track

_TOKEN = re.compile(r"[\s,]*(?:([MmZzLlHhVvCcSsQqTtAa])|([+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?))")
_FLAG = re.compile(r"[\s,]*([01])")
#: Numbers that each command takes.
_TAKES = {"M": 2, "L": 2, "H": 1, "V": 1, "C": 6, "S": 4, "Q": 4, "T": 2, "A": 7}
#: Beyond this nothing is a length.
_FAR = 1e9
_TURN = math.pi / 4


class BrokenPathError(ValueError):
    """Path data stops making sense; what came before it is drawn, as the specification asks."""


def draw_path(data: str, track: Track) -> None:
    """Draw path data.

    Raises:
        BrokenPathError: where it breaks off; everything up to there is drawn.
    """
    here = start = 0j
    # Of the curve before: what the next smooth one goes on from.
    handle, last = 0j, ""
    for command, numbers in _commands(data):
        kind = command.upper()
        if kind == "Z":
            track.close()
            here, last = start, kind
            continue
        offset = here if command.islower() else 0j
        points = [offset + complex(x, y) for x, y in zip(numbers[0::2], numbers[1::2], strict=False)]
        if kind == "M":
            here = start = points[0]
            track.move(here)
        elif kind == "L":
            here = points[0]
            track.line(here)
        elif kind == "H":
            here = complex(offset.real + numbers[0], here.imag)
            track.line(here)
        elif kind == "V":
            here = complex(here.real, offset.imag + numbers[0])
            track.line(here)
        elif kind in "CS":
            first = points[0] if kind == "C" else 2 * here - handle if last in "CS" and last else here
            handle, here = points[-2], points[-1]
            track.cubic(first, handle, here)
        elif kind in "QT":
            handle = points[0] if kind == "Q" else 2 * here - handle if last in "QT" and last else here
            here = points[-1]
            track.quadratic(handle, here)
        else:
            end = offset + complex(numbers[5], numbers[6])
            draw_arc(track, here, numbers, end)
            here = end
        last = kind


def _commands(data: str) -> Iterator[tuple[str, list[float]]]:
    """Each command with its numbers; what follows one without a name of its own is of the same kind."""
    at, begun = 0, False
    command: str = ""
    while data[at:].strip(" \t\r\n,\f"):
        token = _TOKEN.match(data, at)
        if token is None:
            raise BrokenPathError(at)
        if token[1]:
            command, at = str(token[1]), token.end()
        elif command in "Zz":
            raise BrokenPathError(at)
        if not begun and command not in "Mm":
            raise BrokenPathError(at)
        begun = True
        if command in "Zz":
            yield command, []
            continue
        numbers: list[float] = []
        for place in range(_TAKES[command.upper()]):
            is_flag = command in "Aa" and place in (3, 4)
            found = (_FLAG if is_flag else _TOKEN).match(data, at)
            number: str | None = found and found[1 if is_flag else 2]
            if found is None or not number or abs(float(number)) > _FAR:
                raise BrokenPathError(at)
            numbers.append(float(number))
            at = found.end()
        yield command, numbers
        # More pairs after a move are lines.
        if command in "Mm":
            command = "L" if command == "M" else "l"


def draw_arc(track: Track, begin: complex, numbers: list[float], end: complex) -> None:
    """An elliptical arc: radii, its turn in degrees, and two flags (SVG 2, appendix B.2)."""
    rx, ry, turned, large, sweep = abs(numbers[0]), abs(numbers[1]), math.radians(numbers[2]), numbers[3], numbers[4]
    if begin == end:
        return
    if not rx or not ry:
        track.line(end)
        return
    # In the frame where the ellipse is a circle of radius 1.
    way = (begin - end) / 2 * cmath.exp(-1j * turned)
    long = math.hypot(way.real / rx, way.imag / ry)
    if long > 1:
        rx, ry = rx * long, ry * long

    def flat(point: complex) -> complex:
        point *= cmath.exp(-1j * turned)
        return complex(point.real / rx, point.imag / ry)

    def back(point: complex) -> complex:
        return complex(point.real * rx, point.imag * ry) * cmath.exp(1j * turned)

    a, b = flat(begin), flat(end)
    across = (b - a) * 1j
    aside = math.sqrt(max(0.0, 1 / abs(b - a) ** 2 - 0.25))
    middle = (a + b) / 2 + across * (aside if large != sweep else -aside)
    first = cmath.phase(a - middle)
    total = cmath.phase((b - middle) / (a - middle))
    if sweep and total < 0:
        total += 2 * math.pi
    elif not sweep and total > 0:
        total -= 2 * math.pi
    count = max(1, math.ceil(abs(total) / _TURN - 1e-9))
    step = total / count
    reach = 4 / 3 * math.tan(step / 4)
    for i in range(count):
        p, q = cmath.rect(1, first + i * step), cmath.rect(1, first + (i + 1) * step)
        to = end if i == count - 1 else back(middle + q)
        track.cubic(back(middle + p * (1 + 1j * reach)), back(middle + q * (1 - 1j * reach)), to)
