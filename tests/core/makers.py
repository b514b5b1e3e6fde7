"""A simulated machine for files: a sheet loses what is cut out of it, line by line.

The lines and their order are read by svgelements (SVG), ezdxf (DXF, R12), pypdf (PDF), and small interpreters of the
operators that EPS and HP-GL files hold.
"""

from __future__ import annotations

import io
import re
import xml.etree.ElementTree as ET
from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from typing import Any

import ezdxf
import ezdxf.path
import numpy as np
import pypdf
import shapely
import svgelements
from pypdf.generic import ContentStream
from shapely import LineString, Polygon
from shapely.geometry.base import BaseGeometry

from tinhalo.core.design.hand_over import USUAL, Format
from tinhalo.core.output.hpgl import PENS
from tinhalo.core.output.pdf import SPOTS

POINT = 25.4 / 72
SVG = "{http://www.w3.org/2000/svg}"
#: Where files are no more exact than this, in mm: half a plotter unit, and what polylines are off a curve.
WITHIN = 0.02
#: Half the width of an open cut, in mm: about as wide as a closed one, which takes nothing away.
_SLIT = 0.001


@dataclass
class Line:
    """A line as a file says it: what it is for, and its points in mm, y up, shape (n, 2)."""

    use: str
    points: np.ndarray

    @property
    def closed(self) -> bool:
        return len(self.points) > 3 and bool(np.abs(self.points[0] - self.points[-1]).max() < 1e-6)


@dataclass
class Sheet:
    """A sheet of material on a machine that follows lines."""

    left: BaseGeometry
    fallen: list[Polygon] = field(default_factory=list[Polygon])
    faults: list[str] = field(default_factory=list[str])

    def __post_init__(self) -> None:
        #: By which it is held.
        self.edge = self.left.boundary

    def follow(self, lines: Iterable[Line]) -> None:
        """Cut along the lines that are cuts; note what comes free, and cuts beside the sheet or through nothing."""
        for number, line in enumerate(lines):
            path = LineString(line.points)
            # Nothing may be done on what has fallen out already.
            if not self.left.buffer(WITHIN).covers(path):
                self.faults.append(f"line {number} ({line.use}) leaves the sheet")
            if line.use not in ("cut", "through"):
                continue
            if not line.closed:
                self._slit(path)
                continue
            ring = Polygon(line.points).buffer(0)
            free = self.left.intersection(ring)
            if ring.area > 0.02 and free.area < 1e-4:
                self.faults.append(f"line {number} cuts what is cut already")
            self.fallen += [
                one for one in shapely.get_parts(free).tolist() if isinstance(one, Polygon) and one.area > 0.05
            ]
            self.left = self.left.difference(ring)

    def _slit(self, path: LineString) -> None:
        """Cut along an open line, as beside an edge that another cut serves: what hangs on nothing else falls out."""
        parts = shapely.get_parts(self.left.difference(path.buffer(_SLIT))).tolist()
        held = [one for one in parts if one.intersects(self.edge)]
        self.fallen += [one for one in parts if one not in held and isinstance(one, Polygon) and one.area > 0.05]
        self.left = shapely.union_all(held)


def read(format: Format, data: bytes) -> list[Line]:
    """The lines of a file in its order."""
    return READERS[format](data)


def _svg(data: bytes) -> list[Line]:
    root = ET.fromstring(data)
    x, y, _, height = (float(v) for v in (root.get("viewBox") or "").split())
    lines: list[Line] = []
    for group in root.iter(f"{SVG}g"):
        for path in group.iter(f"{SVG}path"):
            stroke = path.get("stroke") or group.get("stroke") or "none"
            if stroke == "none":
                continue
            for sub in svgelements.Path(path.get("d")).as_subpaths():
                points: list[Any] = []
                for segment in svgelements.Path(sub):
                    many = 2 if isinstance(segment, svgelements.Line | svgelements.Close) else 65
                    if not isinstance(segment, svgelements.Move):
                        points += [segment.point(t) for t in np.linspace(0, 1, many)]
                there = np.array([(float(p.x) - x, y + height - float(p.y)) for p in points if p is not None])
                lines.append(Line(_by_colour(stroke), there))
    return lines


def _by_colour(colour: str) -> str:
    return next((use for use, leaving in USUAL.items() if leaving.colour == colour), "mark")


def _dxf(data: bytes) -> list[Line]:
    file = ezdxf.read(io.StringIO(data.decode("utf-8")))  # pyright: ignore[reportPrivateImportUsage]
    inches = file.header.get("$INSUNITS", 4) == 1
    lines: list[Line] = []
    for entity in file.modelspace():
        red, green, blue = file.layers.get(entity.dxf.layer).rgb or (0, 0, 0)
        points = np.array([(p.x, p.y) for p in ezdxf.path.make_path(entity).flattening(0.002 if not inches else 8e-5)])  # pyright: ignore
        if getattr(entity, "is_closed", False) or getattr(entity, "closed", False):
            points = np.vstack([points, points[:1]])
        lines.append(Line(_by_colour(f"#{red:02x}{green:02x}{blue:02x}"), points * (25.4 if inches else 1)))
    return lines


def _r12(data: bytes) -> list[Line]:
    """R12 has no true colours: a layer is known by what its name ends in."""
    file = ezdxf.read(io.StringIO(data.decode("ascii")))  # pyright: ignore[reportPrivateImportUsage]
    lines: list[Line] = []
    for entity in file.modelspace():
        points = np.array([(p.x, p.y) for p in ezdxf.path.make_path(entity).flattening(0.01)])  # pyright: ignore
        lines.append(Line(entity.dxf.layer.rpartition("_")[2].lower(), points))
    return lines


def _bezier(start: Any, numbers: list[float]) -> list[tuple[float, float]]:
    t = np.linspace(0, 1, 65)[1:, None]
    p, a, b, q = (np.array(one) for one in (start, numbers[:2], numbers[2:4], numbers[4:6]))
    made = (1 - t) ** 3 * p + 3 * (1 - t) ** 2 * t * a + 3 * (1 - t) * t * t * b + t**3 * q
    return [(float(x), float(y)) for x, y in made]


class _Path:
    """What path operators draw, of PDF (ISO 32000-1, 8.5.2) and PostScript (Language Reference, 4.4)."""

    def __init__(self) -> None:
        self.runs: list[list[tuple[float, float]]] = []
        self.lines: list[Line] = []

    def move(self, n: list[float]) -> None:
        self.runs.append([(n[-2], n[-1])])

    def line(self, n: list[float]) -> None:
        self.runs[-1].append((n[-2], n[-1]))

    def curve(self, n: list[float]) -> None:
        self.runs[-1] += _bezier(self.runs[-1][-1], n[-6:])

    def close(self) -> None:
        self.runs[-1].append(self.runs[-1][0])

    def stroke(self, use: str) -> None:
        self.lines += [Line(use, np.array(run) * POINT) for run in self.runs if len(run) > 1]
        self.runs = []


def _pdf(data: bytes) -> list[Line]:
    page = pypdf.PdfReader(io.BytesIO(data)).pages[0]
    resources: Any = page["/Resources"]
    spots = resources.get("/ColorSpace", {})
    uses = {spot: use for use, spot in SPOTS.items()}
    path, use = _Path(), "mark"
    for operands, operator in ContentStream(page.get_contents(), page.pdf).operations:
        if operator == b"CS":
            use = uses[str(spots[operands[0]].get_object()[1]).removeprefix("/").replace("#20", " ")]
        elif operator in (b"RG", b"G", b"K"):
            use = "mark"
        elif operator == b"m":
            path.move([float(n) for n in operands])
        elif operator == b"l":
            path.line([float(n) for n in operands])
        elif operator == b"c":
            path.curve([float(n) for n in operands])
        elif operator == b"h":
            path.close()
        elif operator in (b"S", b"s", b"B*"):
            path.stroke(use)
        elif operator in (b"n", b"f", b"f*"):
            path.runs = []
    return path.lines


def _eps(data: bytes) -> list[Line]:
    uses = {spot: use for use, spot in SPOTS.items()}
    path, use, numbers = _Path(), "mark", list[float]()
    text = re.sub(
        r"\[/Separation \(([^)]*)\)[^\]]*\] setcolorspace", lambda m: m[1].replace(" ", "~") + "@", data.decode()
    )
    for word in text.split():
        if re.fullmatch(r"-?[\d.]+", word):
            numbers.append(float(word))
            continue
        if word.endswith("@"):
            use = uses[word[:-1].replace("~", " ")]
        elif word == "setrgbcolor":
            use = "mark"
        elif word == "moveto":
            path.move(numbers)
        elif word == "lineto":
            path.line(numbers)
        elif word == "curveto":
            path.curve(numbers)
        elif word == "closepath":
            path.close()
        elif word == "stroke":
            path.stroke(use)
        elif word in ("eofill", "newpath"):
            path.runs = []
        numbers = []
    return path.lines


def _hpgl(data: bytes) -> list[Line]:
    """HP 7475A manual, chapters 3 and 4: 0.025 mm a unit."""
    uses = {pen: use for use, pen in PENS.items()}
    lines: list[Line] = []
    use, run = "mark", list[tuple[int, int]]()
    for name, said in re.findall(r"([A-Z]{2})([^;A-Z]*);", data.decode("ascii")):
        numbers = [int(one) for one in said.split(",") if one.strip()]
        points = list(zip(numbers[::2], numbers[1::2], strict=True)) if name in ("PU", "PD") else []
        if name in ("SP", "PU"):
            if len(run) > 1:
                lines.append(Line(use, np.array(run) * 0.025))
            run = points[-1:]
            use = uses.get(numbers[0], "mark") if name == "SP" and numbers else use
        else:
            run = run + points
    return lines


READERS: dict[Format, Callable[[bytes], list[Line]]] = {
    "svg": _svg,
    "dxf": _dxf,
    "dxf_r12": _r12,
    "pdf": _pdf,
    "eps": _eps,
    "hpgl": _hpgl,
}
