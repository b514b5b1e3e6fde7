"""What is different for one name alone: told from two designs, and put into whatever the design has become since."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import jsonpatch
from jsonpointer import JsonPointerException

from tinhalo.core.design.design import Design
from tinhalo.core.design.names import Change, Names, Own
from tinhalo.core.design.problem import DesignError
from tinhalo.core.design.reading import parse_design

#: Of a design these can be different for one name: lists of parts, each known by its id.
_PARTS = ("art", "layers")
_MOST = 500


@dataclass(frozen=True)
class Differences:
    """What is different, and what of it cannot be kept for one name alone, in sentences."""

    changes: tuple[Change, ...]
    told: tuple[str, ...]


def differences(row: Design, changed: Design) -> Differences:
    """How a row's design was changed.

    Parts that were added, or taken away, are told: only the list's design can have them.
    """
    told: list[str] = []
    plain, other = _plain(row), _plain(changed)
    for part in _PARTS:
        added, gone = other[part].keys() - plain[part].keys(), plain[part].keys() - other[part].keys()
        if added or gone:
            what = "Words, shapes or drawings" if part == "art" else "Layers"
            told.append(f"{what} that were added or taken away for one name alone are not kept: change the list's own.")
        other[part] = {id: other[part].get(id, one) for id, one in plain[part].items()}
    found = [Change.model_validate(one) for one in jsonpatch.JsonPatch.from_diff(plain, other, optimization=False)]
    if len(found) > _MOST:
        return Differences((), (*told, "So much is different that it is a design of its own: keep it on the shelf."))
    return Differences(tuple(found), tuple(told))


def with_own(row: Design, own: Own | None) -> tuple[Design, str]:
    """The row's design with what is different for it, and a sentence where some of that has no place any more."""
    if own is None:
        return row, ""
    plain = _plain(row)
    lost = 0
    for change in own.changes:
        try:
            plain = jsonpatch.apply_patch(plain, [change.model_dump()])
        except (jsonpatch.JsonPatchException, JsonPointerException):
            lost += 1
    try:
        made = _made(row, plain)
    except DesignError:
        return row, "What was changed for this name alone does not fit the design any more, and is left out."
    if lost:
        return made, "Some of what was changed for this name alone has no place in the design any more."
    return made, ""


def kept(names: Names, words: str, changes: Sequence[Change]) -> Names:
    """The list with these changes for a name, in place of what was different for it before."""
    rest = tuple(one for one in names.own if one.words != words)
    own = (Own(words=words, changes=tuple(changes)),) if changes else ()
    return names.model_copy(update={"own": (*rest, *own)})


def own_of(names: Names, words: str) -> Own | None:
    """What is different for a name."""
    return next((one for one in names.own if one.words == words), None)


def _plain(design: Design) -> dict[str, Any]:
    told = design.model_dump(mode="json", by_alias=True, include={*_PARTS, "accepted"})
    return told | {part: {one["id"]: one for one in told[part]} for part in _PARTS}


def _made(row: Design, plain: Mapping[str, Any]) -> Design:
    """Raises ``DesignError`` where it is none."""
    whole = row.model_dump(mode="json", by_alias=True)
    parts = {part: [plain[part][one["id"]] for one in whole[part]] for part in _PARTS}
    return parse_design(whole | parts | {"accepted": plain["accepted"]})
