"""Blanks: the sheets and offcuts that pieces are laid on."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import shapely
from shapely import Polygon
from shapely.geometry.base import BaseGeometry

from tinhalo.core.design.laying import Laying, Margins


@dataclass(frozen=True)
class Blank:
    """A sheet or an offcut, in mm from the lower left corner of the box around it.

    Attributes:
        size: width and height.
        margins: kept free at its edges; of an offcut, whose edges have no names, the widest of them all round.
        outline: of an offcut; None of a sheet.
        kept_free: boxes (min x, min y, max x, max y) on which nothing is laid.
    """

    size: tuple[float, float]
    margins: Margins
    outline: Polygon | None = None
    kept_free: tuple[tuple[float, float, float, float], ...] = ()

    @property
    def is_plain(self) -> bool:
        """Whether all between its margins is free."""
        return self.outline is None and not self.kept_free

    @cached_property
    def free(self) -> BaseGeometry:
        """Where pieces may lie."""
        at = self.margins
        if self.outline is None:
            x1, y1 = self.size[0] - at.right, self.size[1] - at.top
            inside = shapely.box(at.left, at.bottom, x1, y1) if x1 > at.left and y1 > at.bottom else Polygon()
        else:
            inside = self.outline.buffer(-max(at.left, at.right, at.top, at.bottom), join_style="mitre")
        return inside.difference(shapely.union_all([shapely.box(*one) for one in self.kept_free]))

    @property
    def room(self) -> tuple[float, float]:
        """Width and height of the box around what is free; nothing where the margins leave none."""
        x0, y0, x1, y1 = self.free.bounds if not self.free.is_empty else (0.0, 0.0, 0.0, 0.0)
        return x1 - x0, y1 - y0


@dataclass(frozen=True)
class Blanks:
    """What a board's pieces are laid on: its offcuts, each once and first, then as many whole sheets as it takes."""

    whole: Blank
    offcuts: tuple[Blank, ...] = ()

    def __getitem__(self, number: int) -> Blank:
        return self.offcuts[number] if number < len(self.offcuts) else self.whole

    def called(self, number: int) -> tuple[str, int]:
        """Whether the sheet of a number is an "offcut" or a "sheet", and which of those, counted from 1."""
        count = len(self.offcuts)
        return ("offcut", number + 1) if number < count else ("sheet", number - count + 1)


def blanks_of(laying: Laying, material: str, usual: tuple[float, float], least_margin: float = 0.0) -> Blanks:
    """The blanks of a material, whose sheets have a ``usual`` size in mm where the laying says none."""
    margins = laying.margins.at_least(least_margin)
    free = tuple((one.x, one.y, one.x + one.width, one.y + one.height) for one in laying.kept_free_of(material))
    whole = Blank(laying.size_of(material, usual), margins, None, free)
    return Blanks(
        whole, tuple(_offcut(one.outline, laying.margins) for one in laying.offcuts if one.material == material)
    )


def _offcut(points: Sequence[tuple[float, float]], margins: Margins) -> Blank:
    """An offcut; of an outline that crosses itself, the largest part."""
    low = np.min(points, axis=0)
    parts = shapely.get_parts(shapely.make_valid(Polygon(np.asarray(points, float) - low)))
    areas = [one for one in parts.tolist() if isinstance(one, Polygon)]
    outline = max(areas, key=lambda one: one.area, default=Polygon())
    width, height = np.ptp(points, axis=0)
    return Blank((float(width), float(height)), margins, outline)
