"""What a check offers to mend a finding: one or more changes of the document, undone together."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from tinhalo.core.lettering.art import Join
from tinhalo.core.recipe.recipe import AnyStep


class _Part(BaseModel):
    model_config = ConfigDict(frozen=True, json_schema_serialization_defaults_required=True)


class SetStep(_Part):
    """A step more at the end of a layer's recipe, or, with ``at``, in place of the step at that index."""

    change: Literal["step"] = "step"
    layer: str
    step: AnyStep
    at: int | None = None


class CloseUp(_Part):
    """The letters of a block of words closed up."""

    change: Literal["close_up"] = "close_up"
    art: str
    join: Join = Join()


class LowerMarks(_Part):
    """The dots and accents of one letter moved to it, as deep as that in mm."""

    change: Literal["lower_marks"] = "lower_marks"
    art: str
    letter: int
    overlap: float = 0.3


Change = Annotated[SetStep | CloseUp | LowerMarks, Field(discriminator="change")]


class Mend(_Part):
    """Changes of the document that together mend a finding.

    Attributes:
        title: what they do, for the maker.
        changes: made in that order, undone together.
    """

    title: str
    changes: tuple[Change, ...]

    @staticmethod
    def by_step(title: str, layer: str, step: AnyStep, at: int | None = None) -> Mend:
        """One more step in a layer's recipe, or another one at that index."""
        return Mend(title=title, changes=(SetStep(layer=layer, step=step, at=at),))
