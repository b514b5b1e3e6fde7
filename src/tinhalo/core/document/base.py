"""The base of everything in the document, and the kinds of numbers and names it is made of."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

Millimetres = Annotated[float, Field(ge=-10_000, le=10_000, allow_inf_nan=False)]
Degrees = Annotated[float, Field(ge=-3_600, le=3_600, allow_inf_nan=False)]
Factor = Annotated[float, Field(ge=-100, le=100, allow_inf_nan=False)]
#: Of ids.
ID_PATTERN = r"^[A-Za-z0-9][A-Za-z0-9._-]*$"
Identifier = Annotated[str, Field(min_length=1, max_length=64, pattern=ID_PATTERN)]
#: Of colours, #rrggbb.
COLOUR_PATTERN = "^#[0-9a-fA-F]{6}$"
Colour = Annotated[str, Field(pattern=COLOUR_PATTERN)]


class Strict(BaseModel):
    """A part of the document: unknown fields are refused, so that nothing is dropped silently."""

    model_config = ConfigDict(extra="forbid", frozen=True, json_schema_serialization_defaults_required=True)
