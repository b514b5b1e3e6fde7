"""Outlines handed to the path engine (skia-pathops), and taken back."""

from __future__ import annotations

import pathops

from tinhalo.core.geometry.curves.affine import shift
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.curves.recorder import Recorder

#: Arcs of conics become quadratics within this, in the engine's own unit.
CONICS = 0.05


def hand_over(path: pathops.Path, outline: Outline, scale: float) -> None:
    """Draw closed contours into a path, ``scale`` times as large."""
    pen = path.getPen(allow_open_paths=False)
    for contour in outline.transformed(shift(0, 0, scale)).contours():
        # The engine draws the last line itself.
        contour.draw(pen)


def taken_back(path: pathops.Path, scale: float) -> Outline:
    """The contours of a path, ``scale`` times as large; lines, quadratics and cubics stay what they are."""
    pen = Recorder()
    path.convertConicsToQuads(CONICS)
    for verb, points in path:
        match verb:
            case pathops.PathVerb.MOVE:
                pen.moveTo(points[0])
            case pathops.PathVerb.LINE:
                pen.lineTo(points[0])
            case pathops.PathVerb.QUAD:
                pen.qCurveTo(points[0], points[1])
            case pathops.PathVerb.CLOSE:
                pen.closePath()
            case _:
                pen.curveTo(*points)
    return pen.outline().transformed(shift(0, 0, scale))
