"""Encapsulated PostScript at true size (EPSF 3.0; PostScript Language Reference, level 2).

A point is 1/72 of an inch. Lines of machines are separations called after their process, as in PDF.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterable

from tinhalo.core.design.hand_over import HandOver
from tinhalo.core.geometry.arrays import XY, Floats
from tinhalo.core.geometry.curves.affine import shift
from tinhalo.core.geometry.curves.bezier import raised
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.output.drawing import Drawing, DrawnLayer
from tinhalo.core.output.eps_paint import paint_inside
from tinhalo.core.output.path_order import Group, grouped
from tinhalo.core.output.pdf import POINTS, SPOTS, cmyk
from tinhalo.core.units import number


def write(drawing: Drawing, options: HandOver | None = None) -> bytes:
    """One page with all layers, in the order of ``path_order``."""
    x0, y0, _, _ = drawing.page or (0.0, 0.0, 0.0, 0.0)
    width, height = (side * POINTS for side in drawing.size)
    to_points = shift(-x0 * POINTS, -y0 * POINTS, POINTS)
    # Lines of such a file have 255 characters at most, and are of ASCII.
    title = re.sub(r"[^ -~]|[()\\%]", "_", drawing.title)[:200]
    lines = [
        "%!PS-Adobe-3.0 EPSF-3.0",
        f"%%Title: {title}",
        "%%Creator: Tin Halo",
        f"%%BoundingBox: 0 0 {math.ceil(width)} {math.ceil(height)}",
        f"%%HiResBoundingBox: 0 0 {number(width)} {number(height)}",
        # Pictures are streams that can be read again, which level 2 does not know.
        f"%%LanguageLevel: {3 if any(one.paint and one.paint.own for one in drawing.layers) else 2}",
        "%%EndComments",
        "gsave 0 setlinejoin 0 setlinecap",
    ]
    for group in grouped(drawing):
        lines += _group(group, to_points)
    lines += ["grestore", "showpage", "%%EOF", ""]
    return "\n".join(lines).encode("ascii")


def _group(group: Group, to_points: Floats) -> list[str]:
    layer, style = group.layer, group.layer.style
    made = [f"{number(style.line_width * POINTS)} setlinewidth"]
    for pieces, run in group.runs():
        every = [contour for path in run for contour in path.contours]
        if not pieces:
            colour = _line_colour(layer, style.open_stroke)
            made += ["newpath", *_traced(every, to_points), colour, "stroke"]
            continue
        for path in run:
            made += ["newpath", *_traced(path.contours, to_points)]
            if style.fill:
                # Filling takes the path with it.
                made += ["gsave", f"{_rgb(style.fill)} setrgbcolor eofill", "grestore"]
            if style.stroke:
                made += [_line_colour(layer, style.stroke), "stroke"]
        if layer.paint:
            made += ["newpath", *_traced(every, to_points)]
            made += paint_inside(layer.box, layer.paint, to_points, _traced, lambda c: f"{_rgb(c)} setrgbcolor")
    return made


def _line_colour(layer: DrawnLayer, colour: str) -> str:
    spot = layer.style.spot or SPOTS.get(layer.process)
    if spot is None or layer.process not in SPOTS:
        return f"{_rgb(colour)} setrgbcolor"
    shares = [number(ink) for ink in cmyk(colour)]
    tint = f"dup {shares[0]} mul exch dup {shares[1]} mul exch dup {shares[2]} mul exch {shares[3]} mul"
    return f"[/Separation ({spot}) /DeviceCMYK {{{tint}}}] setcolorspace 1 setcolor"


def _traced(contours: Iterable[Contour], matrix: Floats | None = None) -> list[str]:
    """Path operators of contours, after an affine map."""
    pen = _Pen()
    for one in contours:
        (one if matrix is None else one.transformed(matrix)).draw(pen)
    return pen.lines


def _rgb(colour: str) -> str:
    return " ".join(number(int(colour[k : k + 2], 16) / 255) for k in (1, 3, 5))


class _Pen:
    """A pen that writes path operators."""

    def __init__(self) -> None:
        self.lines: list[str] = []
        self._here: XY = (0.0, 0.0)

    def moveTo(self, pt: XY) -> None:  # noqa: N802
        self._say(pt, "moveto")

    def lineTo(self, pt: XY) -> None:  # noqa: N802
        self._say(pt, "lineto")

    def qCurveTo(self, handle: XY, pt: XY) -> None:  # noqa: N802
        self.curveTo(*raised(self._here, handle, pt), pt)

    def curveTo(self, first: XY, second: XY, pt: XY) -> None:  # noqa: N802
        self.lines.append(f"{_pair(first)} {_pair(second)} {_pair(pt)} curveto")
        self._here = pt

    def closePath(self) -> None:  # noqa: N802
        self.lines.append("closepath")

    def endPath(self) -> None:  # noqa: N802
        pass

    def _say(self, pt: XY, operator: str) -> None:
        self.lines.append(f"{_pair(pt)} {operator}")
        self._here = pt


def _pair(pt: XY) -> str:
    return f"{number(pt[0])} {number(pt[1])}"
