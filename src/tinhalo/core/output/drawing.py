"""The drawing: all that files say of a built design. Made once; every format starts from it and knows nothing else."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from tinhalo.core.design.hand_over import CUTS, Use
from tinhalo.core.engine.built import Build, BuiltLayer
from tinhalo.core.geometry.arrays import Box, Floats
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.courses import drawn
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.curves.precision import EXACT
from tinhalo.core.geometry.exact.recover import FIT_TOLERANCE, trace
from tinhalo.core.geometry.regions.offset import offset
from tinhalo.core.geometry.regions.region import Region, wrapped
from tinhalo.core.output.paint import Paint, paint_of
from tinhalo.core.units import Unit

#: The layer of a drawing that is for lining up; no layer of a design has such an id.
MARKS = "registration-marks"


@dataclass(frozen=True)
class Style:
    """What a file says of a layer.

    Attributes:
        stroke: colour of its lines, #rrggbb; None where its areas are filled and have none.
        fill: colour of its areas; None where only lines leave.
        line_width: of its lines, in mm.
        open_stroke: colour of its open strokes, which are lines whatever is said of areas.
        spot: name of the lines' spot colour; that of the process where it is empty.
    """

    stroke: str | None
    fill: str | None
    line_width: float
    open_stroke: str
    spot: str = ""


#: Marks are black, and wide enough to be seen.
MARK_STYLE = Style("#000000", None, 0.25, "#000000")


@dataclass(frozen=True)
class DrawnLayer:
    """One layer as it leaves.

    Attributes:
        id: of the layer.
        title: what it is called.
        process: what is done with it.
        material: what it is made of, for people to read.
        style: what files say of it.
        pieces: its closed outlines, piece by piece, shells before their holes; mm, y up.
        strokes: its open strokes.
        paint: what its areas are filled with over their colour, if anything.
    """

    id: str
    title: str
    process: Use
    material: str
    style: Style
    pieces: tuple[tuple[Contour, ...], ...]
    strokes: tuple[Contour, ...]
    paint: Paint | None = None

    @property
    def lines(self) -> tuple[Contour, ...]:
        """All of its lines: its outlines, then its open strokes."""
        return (*(contour for piece in self.pieces for contour in piece), *self.strokes)

    @property
    def box(self) -> Box:
        """Around its closed outlines, in mm; it must have some."""
        return Outline.from_contours([one for piece in self.pieces for one in piece]).bounds()

    def transformed(self, matrix: Floats) -> DrawnLayer:
        """The layer after an affine map, shape (2, 3)."""
        pieces = tuple(tuple(one.transformed(matrix) for one in piece) for piece in self.pieces)
        strokes = tuple(one.transformed(matrix) for one in self.strokes)
        return replace(
            self, pieces=pieces, strokes=strokes, paint=self.paint.transformed(matrix) if self.paint else None
        )


@dataclass(frozen=True)
class Drawing:
    """A page with layers on it.

    Attributes:
        title: what it is called.
        page: what all of it lies on, in mm, y up; None where there is nothing.
        layers: from the top of the stack to the bottom.
        seen: whether all of it is painted from the bottom of the stack up, as it looks, instead of as it is followed.
        unit: of files whose numbers have one that can be chosen.
    """

    title: str
    page: Box | None
    layers: tuple[DrawnLayer, ...]
    seen: bool = False
    unit: Unit = "mm"

    @property
    def size(self) -> tuple[float, float]:
        """Width and height of the page in mm."""
        x0, y0, x1, y1 = self.page or (0.0, 0.0, 0.0, 0.0)
        return x1 - x0, y1 - y0

    def only(self, title: str, ids: Sequence[str]) -> Drawing:
        """The same page with some of its layers, and its marks; such as are cut are only shown where nothing is cut."""
        layers = [one for one in self.layers if one.id in ids]
        marks = [one for one in self.layers if one.id == MARKS]
        if not any(one.process in CUTS for one in layers):
            marks = [replace(one, process="mark", style=MARK_STYLE) for one in marks]
        return replace(self, title=title, layers=(*marks, *layers))

    def mirrored(self) -> Drawing:
        """The same page swapped left for right."""
        if self.page is None:
            return self
        flip = np.array([[-1, 0, self.page[0] + self.page[2]], [0, 1, 0]], float)
        return replace(self, layers=tuple(one.transformed(flip) for one in self.layers))


def drawing_of(build: Build, *, shared: bool = True) -> Drawing:
    """The drawing of all that leaves; ``build`` must be exact.

    Where one cut serves two layers it is in one of them; with ``shared`` off each has all of its own.
    """
    return replace(empty_page(build), layers=tuple(_layer(build, one, shared) for one in build.leaving()))


def empty_page(build: Build) -> Drawing:
    """Its page alone: the design's sheet and what reaches over its edge; without a sheet, what leaves."""
    sheet = build.design.sheet
    bounds = build.bounds
    beside = max((kerf_of(one) for one in build.leaving()), default=0) / 2
    if bounds and beside:
        bounds = (bounds[0] - beside, bounds[1] - beside, bounds[2] + beside, bounds[3] + beside)
    page = wrapped([box for box in (sheet.box if sheet else None, bounds) if box])
    return Drawing(build.design.name, page, (), unit=build.design.file_unit)


def style_of(build: Build, built: BuiltLayer) -> Style:
    """What files say of a layer: as its process leaves, or as it is said of the layer itself."""
    leaving = build.design.leaving_of(built.layer)
    colour = leaving.colour or built.material.colour
    line = leaving.draw == "line" or built.cut_lines is not None
    return Style(colour if line else None, None if line else colour, leaving.line_width, colour, leaving.spot)


def kerf_of(built: BuiltLayer) -> float:
    """How wide what cuts a layer takes away, in mm, where its lines leave beside its outline for that.

    Not where other cuts serve its edges, too, nor where lines would run together: there it is 0.
    """
    kerf = built.material.limits.kerf
    if kerf == 0 or built.layer.process not in CUTS or built.cut is None or built.cut_lines is not None:
        return 0.0
    grown = _beside(built, kerf)
    alike = (len(grown.area.geoms), grown.holes) == (len(built.region.area.geoms), built.region.holes)
    return kerf if alike else 0.0


def _beside(built: BuiltLayer, kerf: float) -> Region:
    """Where the middle of what cuts goes: half its width outside of parts, and inside of holes."""
    return offset(built.region, kerf / 2, EXACT)


def _layer(build: Build, built: BuiltLayer, shared: bool) -> DrawnLayer:
    if built.cut is None:
        raise ValueError("only exactly built layers can leave")
    strokes = tuple(drawn(built.region.marks, FIT_TOLERANCE))
    kerf = kerf_of(built)
    cut = trace(_beside(built, kerf)) if kerf else built.cut
    pieces = tuple(tuple(piece) for piece in cut.pieces())
    if built.cut_lines is not None and shared:
        # What is not closed has no inside to be filled, and what is left of a piece is no piece.
        pieces = tuple((whole,) for whole in built.cut_lines.whole)
        strokes = (*built.cut_lines.runs, *strokes)
    layer = built.layer
    style = style_of(build, built)
    paint = paint_of(layer.printed_with, style.fill, built.measures.bounds, build.library) if style.fill else None
    return DrawnLayer(layer.id, layer.title, layer.process, built.material.name, style, pieces, strokes, paint)
