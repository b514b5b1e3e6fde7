"""Read a design document; what is wrong with one is told in sentences a maker understands."""

from __future__ import annotations

import json
from collections.abc import Sequence
from typing import Any, TypeVar, cast

from pydantic import BaseModel, ValidationError

from tinhalo.core.artwork.lettering.settings import Into, Line
from tinhalo.core.artwork.place import LEAST_SCALE
from tinhalo.core.artwork.shapes.kinds import SHAPES
from tinhalo.core.design.design import FORMAT, Design
from tinhalo.core.design.hand_over import Leaving
from tinhalo.core.design.problem import DesignError, Problem
from tinhalo.core.design.references import check_references
from tinhalo.core.document.base import COLOUR_PATTERN, ID_PATTERN, readable_part
from tinhalo.core.document.fields import unit_of
from tinhalo.core.recipe.kinds import STEP_OPS

M = TypeVar("M", bound=BaseModel)

#: What is brought into range can bring something else out of it.
_ROUNDS = 5


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


def read_stored(text: str) -> Design:
    """Read a document as an earlier version may have stored it, see ``in_range``.

    Raises:
        DesignError: when it cannot be read all the same.
    """
    try:
        return in_range(Design, text)
    except ValidationError as error:
        raise DesignError(explain(error.errors(include_url=False), None)) from error


def in_range(model: type[M], text: str) -> M:
    """Read what an earlier version may have stored as JSON.

    Numbers that were in range then and are out of it now are brought to the end of the range: what was saved can be
    opened.

    Raises:
        ValidationError: when that is not enough.
    """
    try:
        return model.model_validate_json(text)
    except ValidationError as error:
        errors = error.errors(include_url=False)
        try:
            data = json.loads(text)
        except ValueError:
            raise error from None
    for _ in range(_ROUNDS):
        for item in errors:
            _bring_in(data, item)
        try:
            return model.model_validate(data)
        except ValidationError as error:
            errors = error.errors(include_url=False)
    return model.model_validate(data)


def _bring_in(data: Any, item: Any) -> None:
    """One number to the end of the range that an error entry tells of, or one text without what it cannot have."""
    limits = item.get("ctx", {})
    end = next((limits[name] for name in ("ge", "gt", "le") if name in limits), None)
    if item["loc"] and item["loc"][-1] in ("scale_x", "scale_y") and item["type"] == "value_error":
        end = LEAST_SCALE
    owner: Any = None
    key: Any = None
    value: Any = data
    for part in item["loc"]:
        # What stands in a path only to tell kinds apart is not in the data.
        if (isinstance(value, dict) and part in value) or (isinstance(value, list) and isinstance(part, int)):
            owner, key, value = cast("Any", value), part, cast("Any", value)[part]
    if owner is not None and end is not None:
        owner[key] = end
    elif owner is not None and isinstance(value, str) and item["type"] == "value_error":
        owner[key] = readable_part(value)


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


def _without_tags(path: Sequence[Any]) -> list[Any]:
    """A path without the kind of art and the kind of step that stand behind a number."""
    kept = [part for i, part in enumerate(path) if not (i > 1 and path[i - 2] == "steps" and part in STEP_OPS)]
    if kept[:1] == ["art"] and len(kept) > 2:
        if kept[2] == "lettering":
            del kept[2]
        elif kept[2] == "shape":
            del kept[2 : 4 if kept[3:4] and kept[3] in SHAPES else 3]
    return kept


#: Fields of the document whose numbers are lengths.
_LENGTHS = {"size", "to_mm", "overlap", "letter_spacing"} | {
    name
    for model in (*STEP_OPS.values(), *SHAPES.values(), Into, Line, Leaving)
    for name in model.model_fields
    if unit_of(model, name) == "mm"
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
    "corner_radius": "the corner radius",
    "thickness": "the thickness",
    "line_width": "the line width",
    "colour": "the colour",
}

#: What a value has to be where it is of a wrong type, by the beginning of Pydantic's name for that.
_WANTED = {
    "finite_number": "a number",
    "float": "a number",
    "int": "a whole number",
    "bool": "true or false",
    "string_type": "text, in quotes",
    "tuple": "a list, in square brackets",
    "list": "a list, in square brackets",
    "dict": "an object, in curly brackets",
    "model": "an object, in curly brackets",
    "mapping": "an object, in curly brackets",
    "none_required": "null",
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
        case "string_too_long":
            return f"{start} is too long: {context['max_length']:,} characters is the most that is kept."
        case "string_too_short":
            return f"{start} must not be empty."
        case "too_long":
            return f"{start} has too many entries: {context['max_length']:,} is the most."
        case "too_short":
            return f"{start} needs at least {context['min_length']:,} of them."
        case "string_pattern_mismatch":
            return f"{start} cannot be {given}{_PATTERNS.get(context['pattern'], '')}."
        case "literal_error" | "enum":
            return f"{start} can be {context['expected']}; it is {given}."
        case "union_tag_invalid" | "union_tag_not_found":
            return _unknown_kind(path, item, data)
        case "string_unicode":
            return f"{start} has half a character in it, which is none: type it again."
        case "value_error":
            return f"{start} is not right: {context['error']}."
        case _:
            wanted = next((said for begins, said in _WANTED.items() if kind.startswith(begins)), None)
            if wanted is None:
                return f"{start} is not right: it is {given}."
            return f"{start} must be {wanted}; it is {given}."


#: What else is said of a value that does not have the form it should have.
_PATTERNS = {
    ID_PATTERN: ": an id begins with a letter or figure and has no blanks",
    COLOUR_PATTERN: ": a colour is written #rrggbb",
}


def _unknown_kind(path: list[Any], item: Any, data: Any) -> str:
    """That art or a step is of a kind that is not known; they are told apart by where they stand."""
    owner, given = _owner(path, data), item.get("input")
    said: Any = cast("dict[str, Any]", given) if isinstance(given, dict) else {}
    if path[:1] == ["art"]:
        field = "shape" if said.get("kind", "shape") == "shape" and "shape" in said else "kind"
        known = ", ".join(sorted(SHAPES) if field == "shape" else ("lettering", "shape"))
        if not isinstance(given, dict):
            return f"{owner[:1].upper()}{owner[1:]} must be an object, in curly brackets; it is {_shown(given)}."
        told = f"{owner[:1].upper()}{owner[1:]}"
        return f"{told} has a “{field}” that this version does not know: {_shown(said.get(field))}. It knows {known}."
    where = f" of {owner}" if owner else ""
    return f"A step{where} has an “op” that this version does not know: {_shown(given)}."


def _counted(path: list[Any], data: Any) -> str:
    """What an entry of a list is: it goes by its number."""
    number = path[-1] + 1
    named = f"step {number}" if path[-2] == "steps" else _owner(path, data) if len(path) == 2 else ""
    return named or f"number {number} of “{path[-2]}”"


def _shown(value: Any) -> str:
    if isinstance(value, int) and abs(value) > 10**15:
        return f"a number of {len(str(abs(value)))} digits" if abs(value) < 10**1000 else "an endlessly large number"
    if isinstance(value, float | int) and not isinstance(value, bool):
        return {"nan": "not a number", "inf": "endless", "-inf": "endless"}.get(str(float(value)), f"{value:g}")
    text = json.dumps(value, ensure_ascii=False, default=str).encode("utf-8", "replace").decode()
    return text if len(text) <= 60 else text[:57] + "…"


def _owner(path: list[Any], data: Any) -> str:
    """Name of the art or layer a path leads into."""
    if len(path) < 2 or path[0] not in ("art", "layers") or not isinstance(path[1], int):
        return ""
    name, noun = "", "the layer" if path[0] == "layers" else "the words"
    try:
        thing = data[path[0]][path[1]]
        name = str(thing.get("name") or thing.get("id") or "")
        if path[0] == "art" and (thing.get("kind") == "shape" or "shape" in thing):
            noun = "the shape"
    except (KeyError, IndexError, TypeError, AttributeError):
        pass
    return f"{noun} “{name}”" if name else f"{noun} number {path[1] + 1}"
