"""The base of everything in the document, and the kinds of numbers and names it is made of."""

from __future__ import annotations

import unicodedata
from typing import Annotated

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

Millimetres = Annotated[float, Field(ge=-10_000, le=10_000, allow_inf_nan=False)]
Degrees = Annotated[float, Field(ge=-3_600, le=3_600, allow_inf_nan=False)]
Factor = Annotated[float, Field(ge=-100, le=100, allow_inf_nan=False)]
#: Of ids.
ID_PATTERN = r"^[A-Za-z0-9][A-Za-z0-9._-]*$"
Identifier = Annotated[str, Field(min_length=1, max_length=64, pattern=ID_PATTERN)]
#: Of colours, #rrggbb.
COLOUR_PATTERN = "^#[0-9a-fA-F]{6}$"
Colour = Annotated[str, Field(pattern=COLOUR_PATTERN)]
#: Of text, on lines.
_LAID_OUT = "\n\r\t"


def _is_readable(character: str) -> bool:
    """Not so are control characters, and what Unicode says will never be a character (section 23.7)."""
    if unicodedata.category(character) == "Cc":
        return character in _LAID_OUT
    return ord(character) & 0xFFFE != 0xFFFE and not 0xFDD0 <= ord(character) <= 0xFDEF


def _readable(text: str | None) -> str | None:
    odd = next((c for c in text or "" if not _is_readable(c)), None)
    if odd is not None:
        raise ValueError(f"it has a character that cannot be seen or cut (U+{ord(odd):04X}); take it out")
    return text


#: Of text that people read.
READABLE = AfterValidator(_readable)


def readable_part(text: str) -> str:
    """A text without the characters that are refused in it."""
    return "".join(c for c in text if _is_readable(c))


class Strict(BaseModel):
    """A part of the document: unknown fields are refused, so that nothing is dropped silently."""

    model_config = ConfigDict(extra="forbid", frozen=True, json_schema_serialization_defaults_required=True)
