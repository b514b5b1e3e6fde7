"""Write web/src/api/facts.ts from the API's own description: what steps, shapes and words start with, and their ranges.

python scripts/web_facts.py OPENAPI.json OUT.ts
"""

from __future__ import annotations

import json
import sys
from pathlib import Path
from typing import Any

HEAD = """// Written by `make types` from the models in `src/tinhalo/core`; do not edit it by hand.
//
// Of every step and every kind of art: what a new one starts with, and the range of its numbers. Of steps also which
// fields hold recipes, and which hold picked places.

import type {
  Carving,
  Drawing,
  Fit,
  HandingOver,
  Into,
  Layer,
  Lettering,
  Level,
  Names,
  Line,
  Shape,
  ShapeName,
  StepOp,
  Steps,
  TracedPicture,
  Tracing,
} from "../document/types";

export type Range = { unit: string; what: string; whole: boolean; min?: number; above?: number; max?: number };
type Facts<Model> = { starts: Model; ranges: Record<string, Range> };

"""

TYPES = {
    "STEPS": '{ [Op in StepOp]: Facts<Omit<Steps[Op], "operand">> & { recipes: string[]; anchors: string[] } }',
    "SHAPES": '{ [Name in ShapeName]: Facts<Omit<Extract<Shape, { shape: Name }>, "id">> }',
    "WORDS": 'Facts<Omit<Lettering, "id" | "font">>',
    "DRAWING": 'Facts<Omit<Drawing, "id" | "file">>',
    "TRACED": 'Facts<Omit<TracedPicture, "id" | "file" | "trace">>',
    "TRACING": "Facts<Tracing>",
    "LAYER": 'Omit<Layer, "id">',
    "LINE": "Facts<Line>",
    "INTO": 'Facts<Omit<Into, "art">>',
    "PICTURE": 'Facts<HandingOver["picture"]>',
    "CARVING": 'Facts<Omit<Carving, "board" | "levels">>',
    "LEVEL": "Facts<Level>",
    "NAMES": "Names",
    "FIT": 'Facts<Omit<Fit, "art">>',
    "TABLE": 'HandingOver["table"]',
}

Schema = dict[str, Any]


def members(schemas: Schema, owner: str, field: str, tag: str) -> dict[str, str]:
    """The names of the models of a union, by their tag: those in a list of an owner's."""
    found: dict[str, str] = {}
    for name in sorted(_refs(_model(schemas, owner)["properties"][field])):
        model = schemas[name]
        if tag in model["properties"]:
            found[_tag(model["properties"][tag])] = name.removesuffix("-Output")
    return dict(sorted(found.items()))


def _model(schemas: Schema, name: str) -> Schema:
    """A model as answers have it; some are the same in requests."""
    return schemas.get(f"{name}-Output") or schemas[name]


def _refs(part: Any) -> set[str]:
    if isinstance(part, dict):
        own = {part["$ref"].rsplit("/", 1)[1]} if "$ref" in part else set()
        return own | {name for key, value in part.items() if key != "mapping" for name in _refs(value)}
    return {name for value in part for name in _refs(value)} if isinstance(part, list) else set()


def _tag(field: Schema) -> str:
    return field.get("const") or field["default"]


def starts(schemas: Schema, name: str) -> Schema:
    """What a new one starts with: fields that must be said are left to whoever makes it."""
    asked, model = schemas.get(f"{name}-Input") or schemas[name], _model(schemas, name)
    must = set(asked.get("required", []))
    made: Schema = {}
    for field, said in model["properties"].items():
        if "const" in said:
            made[field] = said["const"]
        elif "default" in said:
            made[field] = said["default"]
        elif field not in must:
            # The description leaves out what is null, and what is made afresh every time.
            made[field] = {} if said.get("type") == "object" else None
    return made | model.get("x-starts-with", {})


def ranges(schemas: Schema, name: str) -> Schema:
    """Of each number its unit, what it is, and its range as number fields take it."""
    found: Schema = {}
    for field_name, field in _model(schemas, name)["properties"].items():
        number = next(
            (one for one in [field, *field.get("anyOf", [])] if one.get("type") in ("number", "integer")), None
        )
        if number is None:
            continue
        said = {"min": number.get("minimum"), "above": number.get("exclusiveMinimum"), "max": number.get("maximum")}
        told = {
            "unit": field.get("unit", ""),
            "what": field.get("description", ""),
            "whole": number["type"] == "integer",
        }
        found[field_name] = told | {key: value for key, value in said.items() if value is not None}
    return found


def facts(schemas: Schema) -> str:
    """The whole module."""

    def of(name: str, without: tuple[str, ...] = ()) -> Schema:
        made = {field: value for field, value in starts(schemas, name).items() if field not in without}
        return {"starts": made, "ranges": ranges(schemas, name)}

    def holds(name: str) -> Schema:
        model = _model(schemas, name)
        return {"recipes": model["x-recipes"], "anchors": model["x-anchors"]}

    steps = members(schemas, "Recipe", "steps", "op")
    shapes = members(schemas, "Design", "art", "shape")
    leaving = starts(schemas, "Leaving")
    told: dict[str, Schema] = {
        "STEPS": {op: of(name) | holds(name) for op, name in steps.items()},
        "SHAPES": {shape: of(name) for shape, name in shapes.items()},
        "WORDS": of("Lettering"),
        "DRAWING": of("Drawing"),
        "TRACED": of("TracedPicture", without=("trace",)),
        "TRACING": of("Tracing"),
        "LAYER": starts(schemas, "Layer"),
        "LINE": of("Line"),
        "INTO": of("Into"),
        "PICTURE": of("Picture"),
        "CARVING": of("Carving"),
        "LEVEL": of("Level"),
        "NAMES": starts(schemas, "Names"),
        "FIT": of("Fit", without=("art",)),
        "TABLE": {process: leaving | given for process, given in starts(schemas, "Table").items()},
    }
    return HEAD + "\n".join(f"export const {name}: {TYPES[name]} = {_lines(value)};\n" for name, value in told.items())


def _lines(value: Schema) -> str:
    """An object with a line for each of its entries."""
    inner = "".join(f"  {json.dumps(key)}: {json.dumps(one, ensure_ascii=False)},\n" for key, one in value.items())
    return f"{{\n{inner}}}"


if __name__ == "__main__":
    source, out = map(Path, sys.argv[1:])
    out.write_text(facts(json.loads(source.read_text("utf-8"))["components"]["schemas"]), "utf-8")
