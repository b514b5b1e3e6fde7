"""A drawing from a file as a piece of art."""

from __future__ import annotations

import itertools
from typing import Annotated, ClassVar, Literal

import numpy as np
import shapely
from pydantic import Field

from tinhalo.core.artwork.art import Drawn, Studio
from tinhalo.core.artwork.drawings.drawing_file import DrawingFile, Element
from tinhalo.core.artwork.drawings.joined_lines import HAIRLINE
from tinhalo.core.artwork.from_file import FromFile
from tinhalo.core.artwork.place import place_matrix
from tinhalo.core.artwork.whole import DrawnWhole, SizedByPlace
from tinhalo.core.geometry.curves.affine import after, shift
from tinhalo.core.geometry.curves.courses import marks_along
from tinhalo.core.geometry.curves.outline import Outline, followed
from tinhalo.core.geometry.curves.painted import area_of, combined, united
from tinhalo.core.geometry.regions.region import Region

#: White is at least this light in red, green and blue.
_WHITE = 250

Lines = Literal["auto", "painted", "enclosed", "kept"]
ElementNumber = Annotated[int, Field(ge=0, le=100_000)]


class Drawing(FromFile, SizedByPlace):
    """A drawing that was brought in from a file, at its true size where the file says it.

    Its own origin is the middle of all that it paints. ``left_out`` are numbers of its elements; hidden ones are left
    out unless ``brought`` names them. ``lines`` says what becomes of lines: areas as wide as they are painted, what
    they go round, or lines still, that are scored or drawn along; as the file looks for each line where it is auto.
    With ``white_cuts`` what is white takes away from what lies under it.
    """

    noun: ClassVar[str] = "drawing"

    kind: Literal["drawing"] = "drawing"
    lines: Lines = "auto"
    white_cuts: bool = True
    left_out: Annotated[tuple[ElementNumber, ...], Field(max_length=20_000)] = ()
    brought: Annotated[tuple[ElementNumber, ...], Field(max_length=20_000)] = ()

    def draw(self, studio: Studio) -> Drawn:
        """What its elements come to, at its place."""
        file = studio.library.drawing(self.file)
        x, y = file.middle
        matrix = after(place_matrix(self.place), shift(-x, -y))
        chosen = self.chosen(file)
        kept = [self.lines == "kept" and len(one.course.segments) > 0 for one in chosen]
        areal = [one for one, is_kept in zip(chosen, kept, strict=True) if not is_kept]
        plain = composed(areal, self.lines, white_cuts=self.white_cuts)
        placed = [turned_right(one.transformed(matrix)) for one in plain]
        areas = [area_of(one, studio.precision.chord, studio.precision.turn) for one in placed]
        united_area = shapely.union_all(np.array(areas, object))
        courses = [
            followed(contour.transformed(matrix), studio.precision.chord)
            for one in itertools.compress(chosen, kept)
            for contour in one.lines
        ]
        region = Region.of(united_area, (Outline.joined(placed),)).with_marks(marks_along(courses))
        return DrawnWhole(region, self.title)

    def chosen(self, file: DrawingFile) -> list[Element]:
        """The elements that are brought in, the lowest first."""
        left_out, brought = set(self.left_out), set(self.brought)
        return [
            one
            for number, one in enumerate(file.elements)
            if number not in left_out and (not one.hidden or number in brought)
        ]


def composed(elements: list[Element], lines: Lines, *, white_cuts: bool) -> list[Outline]:
    """Plain outlines of elements upon each other, the lowest first; they may overlap."""
    made: list[Outline] = []
    taken: list[Outline] = []
    hair: list[Outline] = []

    def take() -> None:
        if taken:
            made[:] = [combined("difference", united(made), united(taken))] if made else []
            taken.clear()

    for one in elements:
        if one.line and (lines == "enclosed" or (lines == "auto" and _is_hairline(one))):
            hair.append(one.enclosed)
        elif white_cuts and _is_white(one.colour):
            taken.append(one.painted)
        else:
            take()
            made.append(one.painted)
    take()
    return [*made, *_nested(hair)]


def _is_hairline(one: Element) -> bool:
    return one.line <= HAIRLINE and len(one.enclosed.segments) > 0


def _is_white(colour: str) -> bool:
    return min(int(colour[i : i + 2], 16) for i in (1, 3, 5)) >= _WHITE


def _nested(outlines: list[Outline]) -> list[Outline]:
    """What cut lines leave: one that lies within another is a hole in it, and one within that a piece again."""
    drawn = [one for one in outlines if len(one.segments)]
    if len(drawn) < 2:
        return drawn
    x0, y0, x1, y1 = Outline.joined(drawn).bounds()
    chord = max(x1 - x0, y1 - y0, 1e-6) * 1e-4
    areas = np.array([area_of(one, chord) for one in drawn], object)
    inner, outer = shapely.STRtree(areas).query(areas, predicate="within")
    depth = np.bincount(inner[inner != outer], minlength=len(drawn))
    made: list[Outline] = []
    for level in range(int(depth.max()) + 1):
        here = united([drawn[i] for i in np.flatnonzero(depth == level)])
        made = [combined("difference", united(made), here)] if level % 2 else [*made, here]
    return made


def turned_right(outline: Outline) -> Outline:
    """A plain outline after any map: where that turned it over, its contours run the other way round again."""
    if not len(outline.segments) or float(outline.areas.sum()) >= 0:
        return outline
    return Outline.from_contours([one.reversed() for one in outline.contours()])
