"""What a build gives: every layer's and every piece of art's result."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import shapely

from tinhalo.core.artwork.art import Art, Drawn
from tinhalo.core.artwork.library import Library
from tinhalo.core.artwork.place import place_matrix
from tinhalo.core.design.design import Design, Layer
from tinhalo.core.engine.stack import Stack, Stacked
from tinhalo.core.geometry.arrays import XY, Box
from tinhalo.core.geometry.exact.recover import CutOutline
from tinhalo.core.geometry.exact.shared_edges import CutLines
from tinhalo.core.geometry.regions.region import Region, wrapped
from tinhalo.core.materials import Material
from tinhalo.core.recipe.evaluate import Named
from tinhalo.core.recipe.failure import Failure
from tinhalo.core.recipe.step import StepNote


@dataclass(frozen=True)
class Measures:
    """Of one layer: area in mm², cut length in mm with marks, counts, and (min x, min y, max x, max y) in mm."""

    area: float
    cut_length: float
    pieces: int
    holes: int
    marks: int
    bounds: Box | None


@dataclass(frozen=True)
class BuiltLayer:
    """One layer's result.

    Attributes:
        layer: the layer of the document.
        material: what it is made of.
        key: key of the region's content: equal keys mean equal regions.
        region: the flattened region.
        cut: the curves of its outline; only when built exactly.
        cut_lines: what leaves of that, where other layers' cuts serve the rest.
        measures: of what leaves, or of the flattened region on screen.
        notes: what each of its steps did, where there is something to tell.
        stages: the region before the first step and after each.
        emptied_by: index of the step after which nothing was left of a region that was there, if any.
        failures: steps that could not be worked out, and were left out.
    """

    layer: Layer
    material: Material
    key: str
    region: Region
    cut: CutOutline | None
    cut_lines: CutLines | None
    measures: Measures
    notes: tuple[StepNote | None, ...]
    stages: tuple[Named, ...]
    emptied_by: int | None = None
    failures: tuple[Failure, ...] = ()


@dataclass(frozen=True)
class BuiltArt:
    """A piece of art as it stands.

    Attributes:
        art: the art of the document.
        key: key of its content.
        drawn: what it came to.
    """

    art: Art
    key: str
    drawn: Drawn

    @property
    def region(self) -> Region:
        """Its area."""
        return self.drawn.region

    @property
    def box(self) -> Box | None:
        """Bounds of the art before it was scaled, turned and moved, in mm."""
        linear = place_matrix(self.art.place)
        if self.region.is_empty or not np.linalg.det(linear[:, :2]):
            return None
        points = shapely.get_coordinates(self.region.area) - linear[:, 2]
        back = points @ np.linalg.inv(linear[:, :2]).T
        (x0, y0), (x1, y1) = back.min(axis=0).tolist(), back.max(axis=0).tolist()
        return (x0, y0, x1, y1)


@dataclass(frozen=True)
class Build:
    """The result for a whole design, its art and layers in the document's order.

    Attributes:
        design: the document.
        library: what its art was drawn with.
        art: its art as it stands.
        layers: its layers.
    """

    design: Design
    library: Library
    art: tuple[BuiltArt, ...]
    layers: tuple[BuiltLayer, ...]

    def leaving(self) -> list[BuiltLayer]:
        """The layers that are handed over: neither hidden nor guides."""
        return [b for b in self.layers if b.layer.leaves]

    @cached_property
    def stack(self) -> Stack:
        """How its layers lie on each other."""
        return Stack(tuple(Stacked(b.layer, b.material, b.region) for b in self.leaving()))

    @cached_property
    def middle(self) -> XY:
        """Of the box around all art, in mm."""
        return middle_of(self.art)

    @property
    def bounds(self) -> Box | None:
        """Of everything that leaves, in mm; None when there is nothing."""
        return _around(self.leaving())

    @property
    def finished(self) -> Box | None:
        """Of what is made, in mm: a print that bleeds over the edge does not count, unless all is print."""
        return _around([b for b in self.leaving() if b.layer.process != "print"]) or self.bounds


def middle_of(art: Iterable[BuiltArt]) -> XY:
    """The middle of the box around art, in mm; the origin where there is none."""
    x0, y0, x1, y1 = wrapped([one.region.bounds for one in art if one.region.bounds]) or (0.0, 0.0, 0.0, 0.0)
    return ((x0 + x1) / 2, (y0 + y1) / 2)


def _around(layers: Sequence[BuiltLayer]) -> Box | None:
    return wrapped([b.measures.bounds for b in layers if b.measures.bounds])
