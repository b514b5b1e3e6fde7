"""What every step is: a small model with one pure function from region to region.

A step's fields say all there is to know of it. Which of them name places or hold recipes is read off their types, so
that a new step needs no list to be entered in; what a step asks for beyond that stands beside its fields and goes into
its schema, where the screen reads it.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from typing import Annotated, Any, ClassVar, Literal, Protocol, get_args

from pydantic import Field, GetJsonSchemaHandler
from pydantic.json_schema import JsonSchemaValue
from pydantic_core import CoreSchema

from tinhalo.core.document.anchor import Anchor
from tinhalo.core.document.base import Strict
from tinhalo.core.geometry.arrays import XY
from tinhalo.core.geometry.curves.precision import Precision
from tinhalo.core.geometry.features.tab import HoleRow, TabPlace
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.strokes.widths import Measured


class Nested(Protocol):
    """A recipe inside a step: all that steps know of one."""

    def model_dump_json(self) -> str:
        """As JSON."""
        ...

    @property
    def depth(self) -> int:
        """How many recipes stand inside one another."""
        ...

    @property
    def count(self) -> int:
        """Steps of all recipes in it."""
        ...

    def named(self) -> Iterator[str]:
        """Every source named anywhere in it."""
        ...

    def anchors(self) -> Iterator[Anchor]:
        """Every anchor anywhere in it."""
        ...


class StepContext(Protocol):
    """What a step may ask for while it is applied."""

    @property
    def precision(self) -> Precision:
        """How finely curves are to be drawn."""
        ...

    def cook(self, recipe: Nested) -> Region:
        """The region of a nested recipe."""
        ...

    def growth(self, step: Step) -> float | None:
        """What the step's ``find_growth`` gives for the region it is applied to; found once."""
        ...

    def measure(self, region: Region) -> Measured:
        """Widths of a region; kept for the one that the step is applied to."""
        ...

    def place(self, anchor: Anchor) -> XY | None:
        """Where an anchor is, in mm; None when its part is not there any more."""
        ...

    @property
    def middle(self) -> XY:
        """The middle of the box around all art, in mm: only for steps that say that they go by it."""
        ...


class StepError(Exception):
    """A step cannot be done; the message ends a sentence that begins with the step."""


class TooMuchError(Exception):
    """A step takes more ``of`` something than it may."""

    def __init__(self, of: Literal["time", "memory"]) -> None:
        super().__init__(of)
        self.of: Literal["time", "memory"] = of


@dataclass(frozen=True)
class StepNote:
    """What a step did, beyond what its sentence says.

    Attributes:
        wider: what it added to the width of every stroke, in mm, where it found that out by itself.
        closed: for each hole that closed without being asked to, how much wider strokes are then, in mm.
        new_holes: number of holes that were no holes before.
        dropped: number of pieces that are gone.
        filled: number of holes that were filled because they were asked for.
        pieces: number of pieces afterwards, where the step may take pieces apart.
        missing: number of picked places that have no part, piece or hole any more.
        tab: where the hole of its tab is.
        holes: where its holes are.
    """

    wider: float | None = None
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
    #: Whether holes are meant to be gone after it, or are others: that some closed before is not told then.
    asks_for_holes_closed: ClassVar[bool] = False
    #: What a new one starts with, where that is not the fields' own defaults.
    starts_with: ClassVar[dict[str, Any]] = {}

    #: How much more a vertex costs than in a plain offset, roughly.
    weight: ClassVar[int] = 1

    @property
    def goes_by_middle(self) -> bool:
        """Whether it asks for the design's middle: what it gives then changes with other art, too."""
        return False

    @property
    def measures_growth(self) -> bool:
        """Whether ``find_growth`` has to look at the region."""
        return False

    @property
    def depends_within(self) -> float | None:
        """How far from a piece something can be that has a part in what becomes of it, in mm.

        For a step that leaves every piece, or what is left of it, where it was and apart from the others; None for any
        other.
        """
        return None

    off: Annotated[bool, Field(description="left out for now")] = False

    @classmethod
    def __get_pydantic_json_schema__(cls, core: CoreSchema, handler: GetJsonSchemaHandler) -> JsonSchemaValue:
        """The schema, with what the screen has to know of a step: see ``step_facts`` of the scripts."""
        schema = handler.resolve_ref_schema(handler(core))
        schema["x-recipes"] = [name for name, holds in holding(cls).items() if holds == "recipe"]
        schema["x-anchors"] = [name for name, holds in holding(cls).items() if holds == "anchors"]
        schema["x-starts-with"] = cls.starts_with
        return schema

    def apply(self, region: Region, context: StepContext) -> Region:
        """The region after this step."""
        raise NotImplementedError

    def cost(self, region: Region) -> int:
        """What it costs to apply it, roughly, in vertices of a plain offset: large work is done apart."""
        return self.weight * region.vertices

    def note(self, before: Region, after: Region, context: StepContext) -> StepNote | None:
        """What the step did, where there is something to tell."""
        return None

    def find_growth(self, region: Region, context: StepContext) -> float | None:
        """How much the step grows that region all round, in mm, where it finds that out by itself."""
        return None

    def operands(self) -> Iterator[Nested]:
        """Nested recipes that this step takes its second region from."""
        for name, holds in holding(type(self)).items():
            if holds == "recipe" and (found := getattr(self, name)) is not None:
                yield found

    def anchors(self) -> Iterator[Anchor]:
        """Places on parts of art that this step refers to."""
        for name, holds in holding(type(self)).items():
            if holds == "anchors":
                yield from getattr(self, name) or ()


@lru_cache
def holding(step: type[Step]) -> dict[str, str]:
    """The fields of a step that hold a ``recipe`` or ``anchors``, by their names."""
    found: dict[str, str] = {}
    for name, field in step.model_fields.items():
        within = list(_types(field.annotation))
        if Anchor in within:
            found[name] = "anchors"
        elif any(getattr(one, "holds_sources", False) for one in within):
            found[name] = "recipe"
    return found


def _types(annotation: Any) -> Iterator[Any]:
    yield annotation
    for one in get_args(annotation):
        yield from _types(one)
