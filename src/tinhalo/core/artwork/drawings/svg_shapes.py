"""Basic shapes of SVG (SVG 2, chapter 10), lengths and transforms."""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Mapping

import numpy as np

from tinhalo.core.artwork.drawings.path_data import BrokenPathError, draw_arc, draw_path
from tinhalo.core.artwork.drawings.track import Track
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.affine import after, shift

#: CSS units in CSS pixels (CSS Values and Units 3, section 6.2): 96 to an inch.
UNITS = {"": 1.0, "px": 1.0, "in": 96.0, "cm": 96 / 2.54, "mm": 96 / 25.4, "q": 96 / 101.6, "pt": 96 / 72, "pc": 16.0}
_LENGTH = re.compile(r"\s*([+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?)\s*([A-Za-z]*|%)\s*")
_FUNCTION = re.compile(r"[\s,]*([A-Za-z]+)\s*\(([^)]*)\)")
_NUMBER = re.compile(r"[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?")
_FAR = 1e9

#: A length by name in user units, along "x", "y" or neither ("d"); None where it is not said.
Lengths = Callable[[str, str], float | None]


def length(text: str | None, whole: float, font: float) -> float | None:
    """A length in user units; ``whole`` is what percentages are of, ``font`` the size of an em."""
    found = _LENGTH.fullmatch(text or "")
    if not found:
        return None
    number, unit = float(found[1]), found[2].lower()
    if abs(number) > _FAR:
        return None
    if unit == "%":
        return number * whole / 100
    if unit in ("em", "rem"):
        return number * font
    if unit in ("ex", "ch"):
        return number * font / 2
    return number * UNITS[unit] if unit in UNITS else None


def numbers(text: str | None) -> list[float]:
    """All numbers in a text."""
    return [float(one) for one in _NUMBER.findall(text or "")]


def transform(text: str | None) -> Floats:
    """A list of transforms as one map, shape (2, 3); what makes no sense is as if there were none."""
    made, at, text = shift(0, 0), 0, (text or "").strip()
    if text in ("", "none"):
        return made
    while at < len(text):
        found = _FUNCTION.match(text, at)
        one = found and _function(found[1].lower(), numbers(found[2]))
        if found is None or one is None:
            return shift(0, 0)
        made, at = after(made, one), found.end()
        if not text[at:].strip(" ,\t\r\n"):
            break
    return made


def _function(name: str, given: list[float]) -> Floats | None:
    match name, given:
        case "matrix", [a, b, c, d, e, f]:
            return np.array([[a, c, e], [b, d, f]], float)
        case ("translate", [x]) | ("translatex", [x]):
            return shift(x, 0)
        case "translatey", [y]:
            return shift(0, y)
        case "translate", [x, y]:
            return shift(x, y)
        case "scale", [s]:
            return shift(0, 0, s)
        case "scale", [x, y]:
            return np.array([[x, 0, 0], [0, y, 0]], float)
        case "rotate", [angle]:
            return _turned(angle)
        case "rotate", [angle, x, y]:
            return after(after(shift(x, y), _turned(angle)), shift(-x, -y))
        case "skewx", [angle]:
            return np.array([[1, math.tan(math.radians(angle)), 0], [0, 1, 0]], float)
        case "skewy", [angle]:
            return np.array([[1, 0, 0], [math.tan(math.radians(angle)), 1, 0]], float)
        case _:
            return None


def _turned(angle: float) -> Floats:
    c, s = math.cos(math.radians(angle)), math.sin(math.radians(angle))
    return np.array([[c, -s, 0], [s, c, 0]])


def view(box: list[float], width: float, height: float, ratio: str) -> Floats:
    """The map that lays a view box into a width and height (SVG 2, section 8.6)."""
    x, y, w, h = box
    align, *rest = (ratio or "xMidYMid meet").split()
    across, up = width / w, height / h
    if align != "none":
        across = up = max(across, up) if rest[:1] == ["slice"] else min(across, up)
    share = {"Min": 0.0, "Mid": 0.5, "Max": 1.0}
    dx = (width - w * across) * share.get(align[1:4], 0.5) if align != "none" else 0
    dy = (height - h * up) * share.get(align[5:8], 0.5) if align != "none" else 0
    return np.array([[across, 0, dx - x * across], [0, up, dy - y * up]], float)


def draw(tag: str, attributes: Mapping[str, str], at: Lengths, track: Track) -> bool:
    """Draw a basic shape or path.

    Returns:
        whether all of it made sense.
    """
    match tag:
        case "path":
            try:
                data = attributes.get("d", "").strip()
                draw_path(data.removeprefix('path("').removesuffix('")'), track)
            except BrokenPathError:
                return False
        case "rect":
            _rectangle(at, track)
        case "circle":
            r = at("r", "d") or 0
            _ellipse(at, r, r, track)
        case "ellipse":
            rx, ry = at("rx", "x"), at("ry", "y")
            _ellipse(at, rx if rx is not None else ry or 0, ry if ry is not None else rx or 0, track)
        case "line":
            track.move(complex(at("x1", "x") or 0, at("y1", "y") or 0))
            track.line(complex(at("x2", "x") or 0, at("y2", "y") or 0))
        case _:
            given = numbers(attributes.get("points"))
            points = [complex(x, y) for x, y in zip(given[0::2], given[1::2], strict=False)]
            if points:
                track.move(points[0])
                for point in points[1:]:
                    track.line(point)
                if tag == "polygon":
                    track.close()
            return len(given) % 2 == 0
    return True


def _ellipse(at: Lengths, rx: float, ry: float, track: Track) -> None:
    if rx <= 0 or ry <= 0:
        return
    x, y = at("cx", "x") or 0, at("cy", "y") or 0
    right, left = complex(x + rx, y), complex(x - rx, y)
    track.move(right)
    draw_arc(track, right, [rx, ry, 0, 0, 1], left)
    draw_arc(track, left, [rx, ry, 0, 0, 1], right)
    track.close()


def _rectangle(at: Lengths, track: Track) -> None:
    x, y, w, h = at("x", "x") or 0, at("y", "y") or 0, at("width", "x") or 0, at("height", "y") or 0
    if w <= 0 or h <= 0:
        return
    rx, ry = at("rx", "x"), at("ry", "y")
    rx = ry if rx is None or rx < 0 else rx
    ry = rx if ry is None or ry < 0 else ry
    rx, ry = min(max(rx or 0, 0), w / 2), min(max(ry or 0, 0), h / 2)
    if not rx or not ry:
        rx = ry = 0.0
    corners = [
        (complex(x + rx, y), complex(x + w - rx, y)),
        (complex(x + w, y + ry), complex(x + w, y + h - ry)),
        (complex(x + w - rx, y + h), complex(x + rx, y + h)),
        (complex(x, y + h - ry), complex(x, y + ry)),
    ]
    here = corners[0][0]
    track.move(here)
    for (begin, end), (following, _) in zip(corners, corners[1:] + corners[:1], strict=True):
        if end != begin:
            track.line(end)
        if rx:
            draw_arc(track, end, [rx, ry, 0, 0, 1], following)
    track.close()
