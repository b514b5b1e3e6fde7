"""What a check offers to mend a finding: one or more changes of the document, undone together."""

from __future__ import annotations

from math import floor
from typing import Annotated, Any, Literal, cast

from pydantic import BaseModel, ConfigDict, Field

from tinhalo.core.artwork.art import Remedy
from tinhalo.core.design.design import Sheet
from tinhalo.core.design.hand_over import Process
from tinhalo.core.document.anchor import Anchor
from tinhalo.core.geometry.placement.slivers import SliverLimits
from tinhalo.core.recipe.kinds import AnyStep
from tinhalo.core.recipe.step import Step


class _Part(BaseModel):
    model_config = ConfigDict(frozen=True, json_schema_serialization_defaults_required=True)


class SetStep(_Part):
    """A step more at the end of a layer's recipe, or, with ``at``, in place of the step at that index."""

    change: Literal["step"] = "step"
    layer: str
    step: AnyStep
    at: int | None = None

    @staticmethod
    def of(layer: str, step: Step, at: int | None = None) -> SetStep:
        """A step of whatever class."""
        return SetStep(layer=layer, step=cast(AnyStep, step), at=at)


class SetArt(_Part):
    """A piece of art changed by a JSON merge patch (RFC 7396): what is null there goes back to its default."""

    change: Literal["art"] = "art"
    art: str
    patch: dict[str, Any]


class SetSources(_Part):
    """A layer made from other art or layers."""

    change: Literal["sources"] = "sources"
    layer: str
    sources: tuple[str, ...]


class ScaleAll(_Part):
    """Art, distances and all else made larger or smaller by a factor, see ``resize``."""

    change: Literal["scale"] = "scale"
    factor: float


class ScaleArt(_Part):
    """One piece of art made larger or smaller by a factor where it stands."""

    change: Literal["scale_art"] = "scale_art"
    art: str
    factor: Annotated[float, Field(gt=0, le=100, allow_inf_nan=False)]


class ShareCut(_Part):
    """Edges that a layer shares with another one left to that."""

    change: Literal["share_cut"] = "share_cut"
    layer: str
    cut_with: str


class LaySheet(_Part):
    """The sheet laid elsewhere, or turned."""

    change: Literal["sheet"] = "sheet"
    sheet: Sheet


class SetProcess(_Part):
    """Another thing done with a layer: a guide is worked out, and never leaves."""

    change: Literal["process"] = "process"
    layer: str
    process: Process


class FindPlace(_Part):
    """The art that a layer's step cuts away moved to where it leaves no slivers and no necks, see ``placing``.

    Attributes:
        layer: id of the layer.
        step: index of the step.
        least_area: smaller pieces are slivers, in mm².
        least_width: what is narrower is one, or a neck, in mm.
        turn: how far it may be turned, in degrees either way.
        smallest: how small it may be made, as a share of its size.
        together: whether what other steps of the layer cut away is placed with it.
    """

    change: Literal["find_place"] = "find_place"
    layer: str
    step: Annotated[int, Field(ge=0)]
    least_area: Annotated[float, Field(gt=0, le=10_000, allow_inf_nan=False)] = 15
    least_width: Annotated[float, Field(gt=0, le=100, allow_inf_nan=False)] = 1.5
    turn: Annotated[float, Field(ge=0, le=90, allow_inf_nan=False)] = 10
    smallest: Annotated[float, Field(ge=0.3, le=1, allow_inf_nan=False)] = 1
    together: bool = False

    @property
    def limits(self) -> SliverLimits:
        """What counts as a sliver."""
        return SliverLimits(self.least_area, self.least_width)


class FillThrough(_Part):
    """The holes at these places filled in a layer and in all cut layers under it that have holes there."""

    change: Literal["fill_through"] = "fill_through"
    layer: str
    only: Annotated[tuple[Anchor, ...], Field(max_length=2_000)]


Change = Annotated[
    SetStep | SetArt | ScaleArt | SetSources | ScaleAll | LaySheet | ShareCut | SetProcess | FindPlace | FillThrough,
    Field(discriminator="change"),
]


def fitting(*shares: float) -> float:
    """The factor at which all of these shares are reached: the least, rounded down to a tenth of a per cent."""
    return floor(min(shares) * 1000) / 1000


class Mend(_Part):
    """Changes of the document that together mend a finding.

    Attributes:
        title: what they do, for the maker.
        changes: made in that order, undone together.
        here: whether they mend this one place, and leave others of the same cause as they are.
    """

    title: str
    changes: tuple[Change, ...]
    here: bool = False

    @staticmethod
    def smaller(factor: float, *further: Change) -> Mend:
        """All made smaller by a factor, see ``fitting``, and what else that takes."""
        return Mend(title=f"Make all smaller, to {100 * factor:.4g} %", changes=(ScaleAll(factor=factor), *further))

    @staticmethod
    def by_step(title: str, layer: str, step: Step, at: int | None = None, *, here: bool = False) -> Mend:
        """One more step in a layer's recipe, or another one at that index."""
        return Mend(title=title, changes=(SetStep.of(layer, step, at),), here=here)


def mend_of(art: str, remedy: Remedy) -> Mend:
    """What a piece of art offers itself."""
    return Mend(title=remedy.title, changes=(SetArt(art=art, patch=dict(remedy.patch)),))
