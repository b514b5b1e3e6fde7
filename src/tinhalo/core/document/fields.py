"""Fields of steps: numbers with their unit and range, which the schema, resizing and the handbook read."""

from __future__ import annotations

from typing import Any, cast

from pydantic import BaseModel, Field

_UNIT = "unit"
#: Nothing shorter than this is made, in mm.
LEAST = 0.01


def unit_of(model: type[BaseModel], field: str) -> str | None:
    """The unit of a model's field; None where it is no number."""
    extra = cast("dict[str, Any]", model.model_fields[field].json_schema_extra or {})
    return extra.get(_UNIT)


def mm(description: str, *, ge: float | None = None, gt: float | None = None, le: float = 1_000) -> Any:
    """A length in mm; where it has to be more than nothing, what a machine can make of it."""
    return _number("mm", description, LEAST if gt == 0 else ge, None if gt == 0 else gt, le)


def mm2(description: str) -> Any:
    """An area in mm², more than nothing."""
    return _number("mm²", description, LEAST**2, None, 1_000_000)


def degrees(description: str) -> Any:
    """An angle, counter-clockwise."""
    return _number("degrees", description, -3_600, None, 3_600)


def plain(description: str, *, ge: float, le: float) -> Any:
    """A number without a unit."""
    return _number("", description, ge, None, le)


def _number(unit: str, description: str, ge: float | None, gt: float | None, le: float) -> Any:
    extra: dict[str, Any] = {_UNIT: unit}
    return Field(ge=ge, gt=gt, le=le, allow_inf_nan=False, description=description, json_schema_extra=extra)
