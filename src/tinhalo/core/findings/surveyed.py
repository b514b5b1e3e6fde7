"""What the checks of a layer's shape look at."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property

from shapely import Polygon

from tinhalo.core.artwork.art import Remedy
from tinhalo.core.design.design import Design, Layer
from tinhalo.core.document.anchor import Anchor
from tinhalo.core.findings.finding import Finding
from tinhalo.core.findings.mends.mend import Mend
from tinhalo.core.geometry.arrays import XY, Box
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.stacking.support import Resting
from tinhalo.core.geometry.strokes.widths import MEASURED_WITHIN
from tinhalo.core.materials import Limits, Material
from tinhalo.core.recipe.failure import Failure
from tinhalo.core.units import area, length

#: What misses a limit by less than this (mm) is not told.
SLACK = MEASURED_WITHIN


@dataclass(frozen=True)
class Attachment:
    """What moves a mark (a dot, an accent) until it touches what it belongs to: the change, and of which art."""

    art: str
    remedy: Remedy


@dataclass(frozen=True)
class Called:
    """What a piece is, for the maker.

    Attributes:
        name: “the dot of the i”, “the F”, “a part of the F”, “a piece by the F”, “the heart”, “a piece”.
        gathering: what may make it one with the rest of its art, if anything does.
        gathers_all: whether nothing else is needed for that.
        on_purpose: whether all of it was set to stand apart.
        attachment: what moves it to what it belongs to, where it is a mark.
    """

    name: str
    gathering: Mend | None = None
    gathers_all: bool = True
    on_purpose: bool = False
    attachment: Attachment | None = None


def _no_part(place: XY) -> None:
    return None


def _no_parts(place: XY, within: float) -> int:
    return 0


def _not_kept(name: str, find: Callable[[], list[Finding]]) -> list[Finding]:
    return find()


@dataclass(frozen=True)
class Neighbours:
    """Two parts that stand side by side in one group: a place inside each, and what sets such parts further apart."""

    first: XY
    second: XY
    spread: Callable[[float], Mend | None]


@dataclass(frozen=True)
class Surveyed:
    """A layer, with what the checks of its shape want to know.

    Attributes:
        layer: it.
        material: what it is made of.
        region: its areas.
        stages: the same before the first step of its recipe and after each.
        emptied_by: index of the step after which nothing was left, if any.
        failures: steps that could not be worked out, and were left out.
        under: the cut layers under it in the stack with their regions, the next one first.
        over: ids of the cut layers over it in the stack: it is a border, a backer or a shadow then.
        printed: the print under it on the same surface, where it is a print itself.
        middle: of the box around all art, in mm.
        job: around all that is made, in mm.
        design: the document.
        made_from: ids of the art and layers that it is made from.
        makes: ids of the layers that are made from it.
        undrawn: ids of the art of which it is told that it cannot be drawn.
        knockouts: indices of its steps that cut art away for which a place can be found.
        called: what a piece of it is.
        anchor: a place (mm) as one beside a part of some art; None where there is none.
        part: the part that it is made from at a place (mm), “the e”; None where none is near.
        parts_near: how many parts that it is made from come within a distance (mm) of a place (mm).
        neighbours: parts that it is made from, side by side.
        keep: findings by a name, of what does not depend on other layers: looked for again only once it has changed.
    """

    layer: Layer
    material: Material
    region: Region
    stages: tuple[Region, ...]
    emptied_by: int | None
    under: tuple[tuple[Layer, Region], ...]
    over: tuple[str, ...]
    printed: tuple[tuple[Layer, Region], ...]
    middle: XY
    job: Box | None
    design: Design
    made_from: frozenset[str]
    makes: frozenset[str]
    knockouts: tuple[int, ...]
    called: Callable[[Polygon], Called]
    anchor: Callable[[XY], Anchor | None]
    part: Callable[[XY], str | None] = _no_part
    parts_near: Callable[[XY, float], int] = _no_parts
    neighbours: Callable[[], Sequence[Neighbours]] = tuple
    keep: Callable[[str, Callable[[], list[Finding]]], list[Finding]] = _not_kept
    failures: tuple[Failure, ...] = ()
    undrawn: frozenset[str] = frozenset()

    def can_use(self, other: Layer) -> bool:
        """Whether it can be made from another layer: that does not go round in a circle."""
        return other.id not in self.makes

    def can_make(self, other: Layer) -> bool:
        """Whether another layer can be made from it."""
        return other.id not in self.made_from

    @property
    def below(self) -> tuple[Layer, Region] | None:
        """The layer that it lies on, with its region; None for the lowest."""
        return self.under[0] if self.under else None

    @cached_property
    def resting(self) -> Resting:
        """How it lies on the layer below; on nothing, if it is the lowest."""
        return Resting(self.region, self.below[1] if self.below else Region.empty())

    def at_letter(self, place: XY, otherwise: str = "") -> str:
        """Where a place (mm) is, to end a phrase with: “ at the e”, or what else stands there."""
        part = self.part(place)
        return f" at {part}" if part else otherwise

    def length(self, mm: float) -> str:
        """A length in mm for the maker, with its unit."""
        return length(mm, self.design.unit)

    def area(self, mm2: float) -> str:
        """An area in mm² for the maker, with its unit."""
        return area(mm2, self.design.unit)

    @property
    def limits(self) -> Limits:
        """What that allows."""
        return self.material.limits

    @property
    def title(self) -> str:
        """What the layer is called, in quotation marks."""
        return f"“{self.layer.title}”"
