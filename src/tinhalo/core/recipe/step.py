"""What every step is: a small model with one pure function from region to region."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING, Protocol

from tinhalo.core.geometry.precision import Precision
from tinhalo.core.geometry.region import Region
from tinhalo.core.geometry.widths import Measured
from tinhalo.core.lettering.art import Strict

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


class Step(Strict):
    """Base of all steps. Subclasses add ``op``, their fields and ``apply``."""

    def apply(self, region: Region, kitchen: Kitchen) -> Region:
        """The region after this step."""
        raise NotImplementedError

    def find_growth(self, region: Region, kitchen: Kitchen) -> float | None:
        """How much the step grows that region all round, in mm, where it finds that out by itself."""
        return None

    def operands(self) -> Sequence[Recipe]:
        """Nested recipes that this step takes its second region from."""
        return ()
