"""Marks and frames added to a drawing, at the same places in every file: layers are laid upon each other by them.

Marks are a layer of their own, once in a file. Crosses are for the eye or a sensor; holes for pins are cut.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
import shapely

from tinhalo.core.design.hand_over import CUTS
from tinhalo.core.design.lining_up import LiningUp
from tinhalo.core.engine.built import Build
from tinhalo.core.geometry.arrays import XY, Box, Floats
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.curves.sketch import Sketch
from tinhalo.core.geometry.regions.region import wrapped
from tinhalo.core.output.drawing import MARK_STYLE, MARKS, Drawing, DrawnLayer, drawing_of, empty_page

#: Half the length of a cross's lines, and the diameter of a pin's hole (common practice: pins of 3 mm).
ARM, PIN = 3.0, 3.0
#: So much is kept free at a sheet's edges for marks, in mm.
MARKS_ROOM = 2 * (ARM + 1)


def framed_drawing(build: Build) -> Drawing:
    """The drawing of all that leaves, with the frames to weed by; ``build`` must be exact."""
    return framed(drawing_of(build), build)


def leaving_page(build: Build) -> Drawing:
    """The page of all that leaves, with its marks alone."""
    return marked(framed(empty_page(build), build), build.design.hand_over.lining_up)


def framed(drawing: Drawing, build: Build) -> Drawing:
    """The drawing with cut frames in every layer that is weeded, around the whole job or each group of pieces."""
    beside = build.design.hand_over.lining_up.frame
    if beside == 0 or build.bounds is None:
        return drawing
    weeded = {one.layer.id for one in build.leaving() if one.material.limits.weeded and one.layer.process in CUTS}
    if not weeded:
        return drawing
    # All frames lie within it, so the page is known without them.
    around = _grown(build.bounds, beside)
    every = [around]
    if build.design.hand_over.lining_up.frame_around == "groups":
        pieces = [piece for one in drawing.layers if one.id in weeded for piece in one.pieces]
        every = _groups([_grown(Outline.from_contours(piece).bounds(), beside) for piece in pieces])
    frames = tuple((Contour.of_ring(_corners(box)),) for box in every)
    layers = tuple(
        replace(one, pieces=(*one.pieces, *frames)) if one.id in weeded and one.pieces else one
        for one in drawing.layers
    )
    return replace(drawing, page=wrapped([*([drawing.page] if drawing.page else []), around]), layers=layers)


def _groups(boxes: list[Box]) -> list[Box]:
    """Boxes around what overlaps, until none of them do."""
    areas = np.array([shapely.box(*one) for one in boxes], object)
    while True:
        parts = shapely.get_parts(shapely.union_all(areas))
        bounds: Floats = shapely.bounds(parts)  # pyright: ignore[reportUnknownMemberType]
        if len(parts) == len(areas):
            return [tuple(one) for one in bounds.tolist()]
        areas = np.asarray(shapely.box(*bounds.T), object)


def marked(drawing: Drawing, wanted: LiningUp) -> Drawing:
    """The drawing with marks outside of all else."""
    if wanted.marks == "none" or drawing.page is None:
        return drawing
    around = _grown(drawing.page, wanted.beside)
    page = _grown(around, ARM + 1)
    return with_marks(replace(drawing, page=page), _marks(around, wanted), cut=wanted.marks == "pins")


def marks_of_sheet(size: tuple[float, float], wanted: LiningUp) -> list[Contour]:
    """The marks in the corners of a sheet of that size in mm, within ``MARKS_ROOM`` of its edges."""
    return _marks(_grown((0.0, 0.0, *size), -ARM - 1), wanted)


def marked_sheet(drawing: Drawing, wanted: LiningUp) -> Drawing:
    """A sheet's drawing with these marks."""
    if wanted.marks == "none" or drawing.page is None:
        return drawing
    return with_marks(drawing, _marks(_grown(drawing.page, -ARM - 1), wanted), cut=wanted.marks == "pins")


def with_marks(drawing: Drawing, marks: Sequence[Contour], *, cut: bool = False) -> Drawing:
    """The drawing with marks in a layer of their own, once: to be seen or sensed, or ``cut`` where anything is."""
    if not marks:
        return drawing
    there = next((one for one in drawing.layers if one.id == MARKS), None)
    if there:
        layers = tuple(one for one in drawing.layers if one is not there)
        return replace(drawing, layers=(replace(there, strokes=(*there.strokes, *marks)), *layers))
    cutting = next((one for one in drawing.layers if one.process in CUTS and one.style.stroke), None)
    own = mark_layer(marks)
    if cut and cutting:
        own = replace(own, process=cutting.process, material=cutting.material, style=cutting.style)
    return replace(drawing, layers=(own, *drawing.layers))


def mark_layer(marks: Sequence[Contour]) -> DrawnLayer:
    """Marks as a layer of a drawing that is printed or looked at and never cut."""
    return DrawnLayer(MARKS, "Registration marks", "mark", "", MARK_STYLE, (), tuple(marks))


def _marks(box: Box, wanted: LiningUp) -> list[Contour]:
    """At three corners of a box: the fourth tells which way up."""
    x0, y0, x1, y1 = box
    places: list[XY] = [(x0, y0), (x1, y0), (x0, y1)]
    if wanted.marks == "crosses":
        ends = [
            [[x - ARM * a, y - ARM * b], [x + ARM * a, y + ARM * b]]
            for x, y in places
            for a, b in ((1.0, 0.0), (0.0, 1.0))
        ]
        return Contour.of_strokes(np.array(ends))
    return [_hole(x, y) for x, y in places] if wanted.marks == "pins" else []


def _corners(box: Box) -> Floats:
    x0, y0, x1, y1 = box
    return np.array([[x0, y0], [x1, y0], [x1, y1], [x0, y1]], float)


def _hole(x: float, y: float) -> Contour:
    radius = PIN / 2
    drawn = Sketch().start(x + radius, y).arc((x, y), (radius, radius), 0, 360).close()
    return drawn.outline().contours()[0]


def _grown(box: Box, by: float) -> Box:
    return box[0] - by, box[1] - by, box[2] + by, box[3] + by
