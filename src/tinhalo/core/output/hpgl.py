"""HP-GL files, the language of plotters (HP 7475A interfacing and programming manual; commands IN, SP, PU, PD, PA).

A plotter unit is 0.025 mm. The page's lower left corner is the origin; every process has a pen of its own, and lines
come in the order in which they should be followed.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

from tinhalo.core.design.hand_over import CUTS, HandOver, Use
from tinhalo.core.geometry.arrays import XY, Ints
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.outline import followed as along_contour
from tinhalo.core.output.drawing import Drawing
from tinhalo.core.output.path_order import Stroke, ordered

#: Plotter units to a mm.
UNITS = 40
#: Curves are followed within this, in mm: well under a unit, so that areas stay.
WITHIN = 0.003
PENS: dict[Use, int] = {"cut": 1, "score": 2, "engrave": 3, "carve": 4, "draw": 5, "through": 6}
#: Coordinates of one command, so that no buffer runs over.
_MOST = 64


def write(drawing: Drawing, options: HandOver, *, centred: bool = False) -> bytes:
    """One job with all lines of the drawing, from its page's lower left corner, or ``centred`` from its middle."""
    x0, y0 = zero_of(drawing, centred=centred)
    lines = ["IN;", "PA;"]
    pen = 0
    for stroke in ordered(drawing):
        points = in_units(stroke, options.overcut, (x0, y0))
        if len(points) < 2:
            continue
        if PENS[stroke.process] != pen:
            pen = PENS[stroke.process]
            lines.append(f"SP{pen};")
        lines.append(f"PU{points[0][0]},{points[0][1]};")
        lines += [f"PD{run};" for run in _runs(points[1:])]
    return "\n".join([*lines, "PU0,0;", "SP0;", ""]).encode("ascii")


def outline(drawing: Drawing, *, centred: bool = False) -> bytes:
    """The way around the box of all lines with the tool lifted: to see where the job will lie."""
    zero = np.array(zero_of(drawing, centred=centred))
    ends = np.concatenate([followed(one.contour, 0) for one in ordered(drawing)])
    (x0, y0), (x1, y1) = np.rint((np.stack([ends.min(axis=0), ends.max(axis=0)]) - zero) * UNITS).astype(int)
    around = [(x0, y0), (x1, y0), (x1, y1), (x0, y1), (x0, y0), (0, 0)]
    return "\n".join(["IN;", "PA;", *(f"PU{x},{y};" for x, y in around), ""]).encode("ascii")


def zero_of(drawing: Drawing, *, centred: bool) -> XY:
    """What of a drawing lies at the machine's origin, in mm."""
    x0, y0, x1, y1 = drawing.page or (0.0, 0.0, 0.0, 0.0)
    return ((x0 + x1) / 2, (y0 + y1) / 2) if centred else (x0, y0)


def in_units(stroke: Stroke, overcut: float, origin: tuple[float, float]) -> Ints:
    """The points that a plotter goes to along a line, shape (n, 2), in its units; none twice running."""
    points = followed(stroke.contour, overcut if stroke.process in CUTS else 0)
    units = np.rint((points - origin) * UNITS).astype(np.intp)
    return units[np.concatenate([[True], (np.diff(units, axis=0) != 0).any(axis=1)])]


def followed(contour: Contour, overcut: float) -> np.ndarray:
    """Points along a line, shape (n, 2), in mm; a closed one ends where it began, or goes on by the overcut."""
    closed = along_contour(contour, WITHIN)
    if overcut <= 0 or not contour.closed:
        return closed
    along = np.concatenate([[0], np.cumsum(np.hypot(*np.diff(closed, axis=0).T))])
    more = min(overcut, float(along[-1]))
    last = np.array([[np.interp(more, along, closed[:, k]) for k in (0, 1)]])
    return np.vstack([closed, closed[1:][along[1:] < more], last])


def _runs(points: Sequence[Sequence[int]] | Ints) -> Iterator[str]:
    for at in range(0, len(points), _MOST):
        yield ",".join(f"{x},{y}" for x, y in points[at : at + _MOST])
