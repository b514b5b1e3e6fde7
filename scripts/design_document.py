"""Write docs/design-document.md from the models: every step with its fields, and every starter's document."""

from __future__ import annotations

import json
import sys
import typing
from collections.abc import Set
from pathlib import Path
from typing import Any

from pydantic import BaseModel
from pydantic.fields import FieldInfo

from tinhalo.core.artwork.art import Against
from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.artwork.lettering.settings import Into, Join, LetterMove, Line
from tinhalo.core.artwork.place import Place
from tinhalo.core.artwork.shapes.kinds import SHAPES
from tinhalo.core.design.design import Design, Layer, Sheet
from tinhalo.core.design.hand_over import HandOver, Leaving, Picture, Table
from tinhalo.core.document.anchor import Anchor
from tinhalo.core.document.fields import unit_of
from tinhalo.core.recipe.hole_steps import HoleAt, Row
from tinhalo.core.recipe.kinds import STEP_OPS
from tinhalo.core.recipe.recipe import Recipe
from tinhalo.core.starters import STARTERS

OUT = Path(__file__).parents[1] / "docs" / "design-document.md"

HEAD = """# The design document

Written by `make docs` from the models in `src/tinhalo/core`; do not edit it by hand.

A design is one JSON object: its art (blocks of words, and shapes), and its layers from the top of the stack to the
bottom. Lengths are millimetres, angles degrees counter-clockwise, y points up. Every field that has a default may be
left out; a field that is not listed here is refused, so that nothing is dropped silently. A layer's recipe takes art or
other layers (`from`), unites them, and applies its `steps` one after the other; steps with an `operand` hold a recipe
of their own.
`tinhalo pack DESIGN.json --out DIR` reads these files.
"""


SHAPE = """`{"id": "h", "kind": "shape", "shape": "heart", "width": 60, "height": 52, "place": {…}}`: every shape has an
`id`, a `place`, may be set `against` other art, and is drawn to exactly its width and height about the middle of its
box."""
#: Defaults longer than this are not written out.
LONG = 100
#: What all shapes have.
SHARED = frozenset({"id", "kind", "shape", "place", "against"})


def table(model: type[BaseModel], leave_out: Set[str] = frozenset()) -> str:
    """A model's fields as a table."""
    if not set(model.model_fields) - leave_out:
        return "It has no fields of its own.\n"
    rows = ["| field | what | unit and range | default |", "|---|---|---|---|"]
    for name, field in model.model_fields.items():
        if name not in leave_out:
            shown = field.alias or name
            rows.append(f"| `{shown}` | {_kind(field)} | {_range(model, name, field)} | {_default(field)} |")
    return "\n".join(rows) + "\n"


def _kind(field: FieldInfo) -> str:
    text = field.description or ""
    values = _literals(field.annotation)
    if values:
        choices = ", ".join(f"`{value}`" for value in values)
        text = f"{text}: {choices}" if text else choices
    return text or _named(field.annotation)


def _named(annotation: Any) -> str:
    if isinstance(annotation, type) and annotation in (str, int, float, bool):
        return {str: "text", int: "whole number", float: "number", bool: "yes or no"}[annotation]
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        return f"{annotation.__name__}, see below"
    if hasattr(annotation, "__metadata__"):
        return _named(typing.get_args(annotation)[0])
    parts = [_named(part) for part in typing.get_args(annotation) if part not in (type(None), Ellipsis)]
    origin = typing.get_origin(annotation)
    if origin in (tuple, list):
        return f"a list: {parts[0]}"
    if len(parts) == len(STEP_OPS):
        return "a step, see below"
    if origin is dict:
        return f"by index or tag: {parts[-1]}"
    return " or ".join(dict.fromkeys(parts)) or "see below"


def _literals(annotation: Any) -> list[Any]:
    if typing.get_origin(annotation) is typing.Literal:
        return list(typing.get_args(annotation))
    return [value for part in typing.get_args(annotation) for value in _literals(part)] if _is_union(annotation) else []


def _is_union(annotation: Any) -> bool:
    return str(typing.get_origin(annotation)) in ("typing.Union", "<class 'types.UnionType'>")


def _range(model: type[BaseModel], name: str, field: FieldInfo) -> str:
    words = {"ge": "from", "gt": "more than", "le": "to"}
    limits = _limits(field)
    said = " ".join(f"{words[key]} {limits[key]:g}" for key in ("ge", "gt", "le") if key in limits)
    return f"{said} {unit_of(model, name) or ''}".strip()


def _limits(field: FieldInfo) -> dict[str, float]:
    found: dict[str, float] = {}
    for part in [field, *typing.get_args(field.annotation)]:
        for one in getattr(part, "metadata", None) or getattr(part, "__metadata__", ()):
            for nested in [one, *getattr(one, "metadata", [])]:
                found |= {key: float(getattr(nested, key)) for key in ("ge", "gt", "le") if hasattr(nested, key)}
    return found


def _default(field: FieldInfo) -> str:
    if field.is_required():
        return "must be said"
    value = field.get_default(call_default_factory=True)
    if isinstance(value, BaseModel):
        value = value.model_dump(by_alias=True)
    if isinstance(value, float) and value == int(value):
        value = int(value)
    text = json.dumps(value, ensure_ascii=False)
    return f"`{text}`" if len(text) <= LONG else "as said below"


def document() -> str:
    """The whole page."""
    parts = [HEAD]
    for title, model in (
        ("The design", Design),
        ("A block of words", Lettering),
        ("Place", Place),
        ("LetterMove", LetterMove),
        ("Join", Join),
        ("Line", Line),
        ("Into", Into),
        ("Against", Against),
    ):
        parts.append(f"## {title}\n\n{_doc(model)}\n\n{table(model)}")
    parts.append(f"## A shape\n\n{SHAPE}\n")
    parts += [f"### `{shape}`\n\n{_doc(model)}\n\n{table(model, SHARED)}" for shape, model in SHAPES.items()]
    for title, model in (
        ("A layer", Layer),
        ("The sheet", Sheet),
        ("HandOver", HandOver),
        ("Table", Table),
        ("Leaving", Leaving),
        ("Picture", Picture),
        ("A recipe", Recipe),
    ):
        parts.append(f"## {title}\n\n{_doc(model)}\n\n{table(model)}")
    parts.append('## Steps\n\nEvery step can be switched off with `"off": true`.\n')
    parts += [f"### `{op}`\n\n{_doc(step)}\n\n{table(step, {'op', 'off'})}" for op, step in STEP_OPS.items()]
    for title, model in (("Anchor", Anchor), ("HoleAt", HoleAt), ("Row", Row)):
        parts.append(f"### {title}\n\n{_doc(model)}\n\n{table(model)}")
    parts.append("## The starters\n\nEach as its document says it, without what is left to defaults.\n")
    for starter in STARTERS:
        data = starter.document.model_dump(mode="json", by_alias=True, exclude_unset=True)
        text = json.dumps(data, ensure_ascii=False, indent=1)
        parts.append(f"### {starter.title}\n\n{starter.does}.\n\n```json\n{text}\n```\n")
    return "\n".join(parts)


def _doc(model: type[BaseModel]) -> str:
    lines = (model.__doc__ or "").strip().split("\n")
    text = "\n".join(line.strip() for line in lines)
    return text.split("\n\nAttributes:")[0]


if __name__ == "__main__":
    if "--check" in sys.argv:
        if OUT.read_text() != document():
            sys.exit("docs/design-document.md is stale: run make docs.")
    else:
        OUT.write_text(document())
        print(OUT)
