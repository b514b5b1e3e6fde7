"""What every step is: a small model with one pure function from region to region."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Annotated, ClassVar, Protocol

from pydantic import Field

from tinhalo.core.document.anchor import Anchor
from tinhalo.core.document.base import Strict
from tinhalo.core.geometry.curves.outline import XY
from tinhalo.core.geometry.curves.precision import Precision
from tinhalo.core.geometry.features.tab import HoleRow, TabPlace
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.strokes.widths import Measured

if TYPE_CHECKING:
    from tinhalo.core.recipe.recipe import Recipe


class Kitchen(Protocol):
    """What a step may ask for while it is applied."""

    @property
    def precision(self) -> Precision:
        """How finely curves are to be drawn."""
        ...

    def cook(self, recipe: Recipe) -> Region:
        """The region of a nested recipe."""
        ...

    def growth(self, step: Step) -> float | None:
        """What the step's ``find_growth`` gives for the region it is applied to; found once."""
        ...

    def measure(self, region: Region) -> Measured:
        """Widths of a region; kept for the one that the step is applied to."""
        ...

    def place(self, spot: Anchor) -> XY | None:
        """Where a spot is, in mm; None when its letter is not there any more."""
        ...


@dataclass(frozen=True)
class StepNote:
    """What a step did, beyond what its sentence says.

    Attributes:
        growth: how much it grew all round in mm, where it found that out by itself.
        closed: for each hole that closed without being asked to, the growth in mm at which it does.
        new_holes: number of holes that were no holes before.
        dropped: number of pieces that are gone.
        filled: number of holes that were filled because they were asked for.
        pieces: number of pieces afterwards, where the step may take pieces apart.
        missing: number of picked places that have no letter, piece or hole any more.
        tab: where the hole of its tab is.
        holes: where its holes are.
    """

    growth: float | None = None
    closed: tuple[float, ...] = ()
    new_holes: int = 0
    dropped: int = 0
    filled: int = 0
    pieces: int | None = None
    missing: int = 0
    tab: TabPlace | None = None
    holes: HoleRow | None = None
    nbytes: int = 200


class Step(Strict):
    """Base of all steps. Subclasses add ``op``, their fields and ``apply``."""

    #: Whether ``apply`` says what becomes of open marks; otherwise they stay as they are.
    handles_marks: ClassVar[bool] = False

    off: Annotated[bool, Field(description="left out for now")] = False

    def apply(self, region: Region, kitchen: Kitchen) -> Region:
        """The region after this step."""
        raise NotImplementedError

    def note(self, before: Region, after: Region, kitchen: Kitchen) -> StepNote | None:
        """What the step did, where there is something to tell."""
        return None

    def find_growth(self, region: Region, kitchen: Kitchen) -> float | None:
        """How much the step grows that region all round, in mm, where it finds that out by itself."""
        return None

    def operands(self) -> Sequence[Recipe]:
        """Nested recipes that this step takes its second region from."""
        return ()

    def spots(self) -> Sequence[Anchor]:
        """Places on letters that this step refers to."""
        return ()
