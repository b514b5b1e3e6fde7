"""What a check reports."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict

Kind = Literal[
    "missing_character",
    "empty_words",
    "text_too_long",
    "cannot_touch",
    "unknown_font",
    "unknown_material",
    "nothing_left",
    "no_source",
]


class Finding(BaseModel):
    """One thing to look at.

    Attributes:
        kind: which check reports it.
        severity: ``error`` when the layer cannot be made as it is, ``warning`` when it can.
        layer: id of the layer concerned, or None when it concerns art alone.
        art: id of the art block concerned, if any.
        sentence: what is the matter and what helps, for the maker.
    """

    model_config = ConfigDict(frozen=True, json_schema_serialization_defaults_required=True)

    kind: Kind
    severity: Literal["error", "warning"]
    layer: str | None = None
    art: str | None = None
    sentence: str
