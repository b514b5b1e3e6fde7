"""What is wrong with a design document, in sentences a maker understands."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, cast

from pydantic import ValidationError

from tinhalo.core.design.design import FORMAT, Design, Layer
from tinhalo.core.document.fields import unit_of
from tinhalo.core.recipe.recipe import STEP_OPS


@dataclass(frozen=True)
class Problem:
    """One thing that is wrong: where in the document (e.g. ``art.0.size``), and a sentence."""

    where: str
    sentence: str


class DesignError(ValueError):
    """The document cannot be built; ``problems`` says why."""

    def __init__(self, problems: Sequence[Problem]) -> None:
        super().__init__(" ".join(p.sentence for p in problems))
        self.problems = tuple(problems)


def read_design(text: str | bytes) -> Design:
    """Read a document from JSON text.

    Raises:
        DesignError: when the text is no JSON, or the document is not sound.
    """
    try:
        data = json.loads(text)
    except UnicodeDecodeError as error:
        raise DesignError([Problem("", "This file is not text: a design is a JSON file in UTF-8.")]) from error
    except (ValueError, RecursionError) as error:
        line = getattr(error, "lineno", None)
        where = f" (it breaks off making sense in line {line})" if line else ""
        raise DesignError([Problem("", f"This file is not valid JSON{where}, so it cannot be a design.")]) from error
    return parse_design(data)


def parse_design(data: Any) -> Design:
    """Check plain data and make a design of it.

    Raises:
        DesignError: with a sentence for everything that is wrong.
    """
    if not isinstance(data, dict):
        raise DesignError([Problem("", "A design is a JSON object with “format”, “art” and “layers”.")])
    try:
        design = Design.model_validate(data)
    except ValidationError as error:
        raise DesignError(explain(error.errors(include_url=False), data)) from error
    check_references(design)
    return design


def explain(errors: Sequence[Any], data: Any) -> list[Problem]:
    """A sentence for each of Pydantic's error entries about a document; ``data`` is the document as given."""
    problems: dict[str, Problem] = {}
    for item in errors:
        path = _without_tags(item["loc"])
        where = ".".join(str(p) for p in path)
        if where == "format":
            # A document of another format is not measured by this one's rules.
            return [Problem(where, _format_sentence(data))]
        problems.setdefault(where, Problem(where, _sentence(path, item, data)))
    return list(problems.values())


def _format_sentence(data: Any) -> str:
    found = cast("dict[str, Any]", data).get("format") if isinstance(data, dict) else None
    said = "It names no format" if found is None else f"Its format is {_shown(found)}"
    return f"This design cannot be read. {said}, but this version of Tin Halo reads “{FORMAT}” only."


def check_references(design: Design) -> None:
    """Refuse duplicate ids, unknown names and layers made from themselves.

    Raises:
        DesignError: naming the layers concerned.
    """
    problems: list[Problem] = []
    ids: set[str] = set()
    for kind, things in (("art", design.art), ("layers", design.layers)):
        for index, thing in enumerate(things):
            if thing.id in ids:
                problems.append(Problem(f"{kind}.{index}.id", f"The id “{thing.id}” is used twice; ids must differ."))
            ids.add(thing.id)
    for index, layer in enumerate(design.layers):
        for name in dict.fromkeys(layer.recipe.named()):
            if name not in ids:
                problems.append(
                    Problem(
                        f"layers.{index}.recipe",
                        f"The layer “{layer.title}” is made from “{name}”, but no art and no layer has that id.",
                    )
                )
        for name in dict.fromkeys(spot.art for spot in layer.recipe.spots()):
            if name not in {art.id for art in design.art}:
                problems.append(
                    Problem(
                        f"layers.{index}.recipe",
                        f"The layer “{layer.title}” has a place picked on “{name}”, but no words have that id.",
                    )
                )
    problems += _against_problems(design) + _cut_problems(design)
    circle = find_circle(design)
    if circle:
        chain = ", ".join(
            f"“{layer.title}” is made from “{source.title}”"
            for layer, source in zip(circle, [*circle[1:], circle[0]], strict=True)
        )
        problems.append(Problem("layers", f"These layers go round in a circle: {chain}. Take one of them out."))
    if problems:
        raise DesignError(problems)


def _against_problems(design: Design) -> list[Problem]:
    """Blocks set against what is no block, or against one another in a circle."""
    to = {art.id: art.against.art for art in design.art if art.against}
    known = {art.id for art in design.art}
    problems: list[Problem] = []
    for index, art in enumerate(design.art):
        trail = [art.id]
        while (following := to.get(trail[-1])) is not None and following not in trail:
            trail.append(following)
        if to.get(art.id, art.id) not in known:
            problems.append(
                Problem(f"art.{index}.against", f"“{art.id}” is set against “{to[art.id]}”, but no words have that id.")
            )
        elif to.get(trail[-1]) == art.id:
            chain = ", ".join(f"“{one}” against “{to[one]}”" for one in trail)
            problems.append(Problem(f"art.{index}.against", f"Words are set against one another: {chain}."))
    return problems


def _cut_problems(design: Design) -> list[Problem]:
    """Two layers that leave their shared edge to each other, so that nobody would cut it."""
    given = {layer.id: layer.cut_with for layer in design.layers}
    return [
        Problem(
            f"layers.{index}.cut_with",
            f"The layer “{layer.title}” leaves its shared edges to “{name}”, and that leaves them back to it: "
            "nobody would cut them.",
        )
        for index, layer in enumerate(design.layers)
        for name in layer.cut_with
        if name == layer.id or layer.id in given.get(name, ())
    ]


def find_circle(design: Design) -> list[Layer]:
    """Layers that are made from one another in a circle, in order; empty if there are none."""
    by_id = {layer.id: layer for layer in design.layers}
    done: set[str] = set()

    def visit(layer: Layer, trail: list[Layer]) -> list[Layer]:
        if layer in trail:
            return trail[trail.index(layer) :]
        if layer.id in done:
            return []
        for name in layer.recipe.named():
            if name in by_id:
                found = visit(by_id[name], [*trail, layer])
                if found:
                    return found
        done.add(layer.id)
        return []

    for layer in design.layers:
        found = visit(layer, [])
        if found:
            return found
    return []


def _without_tags(path: Sequence[Any]) -> list[Any]:
    """A path without the kind of step that stands behind a step's number."""
    return [part for i, part in enumerate(path) if not (i > 1 and path[i - 2] == "steps" and part in STEP_OPS)]


#: Fields of the document whose numbers are lengths.
_LENGTHS = {"size", "to_mm", "overlap", "letter_spacing"} | {
    name for step in STEP_OPS.values() for name in step.model_fields if unit_of(step, name) == "mm"
}

_FIELDS = {
    "size": "the size",
    "to_mm": "the finished size",
    "by": "the distance",
    "text": "the text",
    "font": "the font",
    "miter_limit": "the miter limit",
    "letter_spacing": "the letter spacing",
    "line_spacing": "the line spacing",
    "corners": "the corners",
    "width": "the width",
    "height": "the height",
    "hole": "the hole",
    "rim": "the rim",
    "gap": "the gap",
    "length": "the length",
    "spacing": "the spacing",
    "process": "the process",
    "align": "the alignment",
}


def _sentence(path: list[Any], item: Any, data: Any) -> str:
    owner = "" if len(path) == 2 else _owner(path, data)
    field = str(path[-1]) if path else "the design"
    name = _counted(path, data) if path and isinstance(path[-1], int) else _FIELDS.get(field, f"“{field}”")
    kind, context = item["type"], item.get("ctx", {})
    given = _shown(item.get("input"))
    where = f" of {owner}" if owner else ""
    start = f"{name[0].upper()}{name[1:]}{where}"
    unit = " mm" if field in _LENGTHS else ""
    match kind:
        case "missing":
            return f"{start} is missing."
        case "extra_forbidden":
            return f"{start} is not something this version knows; nothing may be dropped, so it is refused."
        case "greater_than":
            return f"{start} must be more than {context['gt']:g}{unit}; it is {given}."
        case "greater_than_equal":
            return f"{start} must be at least {context['ge']:g}{unit}; it is {given}."
        case "less_than_equal":
            return f"{start} can be at most {context['le']:g}{unit}; it is {given}."
        case "finite_number" | "float_parsing" | "float_type" | "int_parsing":
            return f"{start} must be a number; it is {given}."
        case "string_too_long":
            return f"{start} is too long: {context['max_length']:,} characters is the most that is kept."
        case "literal_error" | "enum":
            return f"{start} can be {context['expected']}; it is {given}."
        case "union_tag_invalid" | "union_tag_not_found":
            return f"A step{where} has an “op” that this version does not know: {given}."
        case "value_error":
            return f"{start} is not right: {context['error']}."
        case _:
            return f"{start} is not right: {item['msg']}."


def _counted(path: list[Any], data: Any) -> str:
    """What an entry of a list is: it goes by its number."""
    number = path[-1] + 1
    named = f"step {number}" if path[-2] == "steps" else _owner(path, data) if len(path) == 2 else ""
    return named or f"number {number} of “{path[-2]}”"


def _shown(value: Any) -> str:
    if isinstance(value, float | int) and not isinstance(value, bool):
        return {"nan": "not a number", "inf": "endless", "-inf": "endless"}.get(str(float(value)), f"{value:g}")
    text = json.dumps(value, ensure_ascii=False, default=str)
    return text if len(text) <= 60 else text[:57] + "…"


def _owner(path: list[Any], data: Any) -> str:
    """Name of the art block or layer a path leads into."""
    if len(path) < 2 or path[0] not in ("art", "layers") or not isinstance(path[1], int):
        return ""
    try:
        thing = data[path[0]][path[1]]
        name = str(thing.get("name") or thing.get("id") or "")
    except (KeyError, IndexError, TypeError, AttributeError):
        name = ""
    noun = "the layer" if path[0] == "layers" else "the words"
    return f"{noun} “{name}”" if name else f"{noun} number {path[1] + 1}"
