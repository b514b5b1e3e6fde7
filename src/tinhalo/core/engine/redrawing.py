"""Art turned into an outline of its own, whose nodes can be edited, and back into what it was.

What is picked on it and what was let be stays at its place: anchors are set anew.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, cast

import numpy as np
from pydantic import BaseModel

from tinhalo.core.artwork.error import ArtError
from tinhalo.core.artwork.kinds import AnyArt
from tinhalo.core.artwork.library import Library
from tinhalo.core.artwork.outlines.outline_art import OutlineArt
from tinhalo.core.artwork.outlines.path_text import MOST_NODES, write_outline
from tinhalo.core.artwork.place import place_matrix
from tinhalo.core.design.design import Design
from tinhalo.core.document.anchor import Anchor
from tinhalo.core.engine.anchoring import anchor_at, anchor_place
from tinhalo.core.engine.build import build
from tinhalo.core.engine.built import Build, BuiltArt
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.exact.recover import trace
from tinhalo.core.runtime.memo import Memo


def to_outline(design: Design, id: str, library: Library, memo: Memo | None = None) -> Design:
    """The design with one piece of art as an outline of its own, where it stands; it keeps what it was made of.

    Raises:
        ArtError: where there is nothing of it, or too much.
    """
    before = build(design, library, exact=True, memo=memo)
    built = _built(before, id)
    art = built.art
    if isinstance(art, OutlineArt):
        return design
    outline = trace(built.region).outline
    if not len(outline.segments):
        raise ArtError("There is nothing of it to be an outline.")
    if len(outline.segments) > MOST_NODES:
        raise ArtError(f"As an outline it would have {len(outline.segments):,} nodes; {MOST_NODES:,} is the most.")
    back = np.linalg.inv(np.vstack([place_matrix(art.place), [0, 0, 1]]))[:2]
    own = outline.transformed(back)
    if np.linalg.det(back[:, :2]) < 0:
        own = Outline.from_contours([one.reversed() for one in own.contours()])
    made = OutlineArt(id=id, place=art.place, path=write_outline(own), name=art.title[:200], made_of=cast("Any", art))
    return _with(design, before, made, library, memo)


def to_original(design: Design, id: str, library: Library, memo: Memo | None = None) -> Design:
    """The design with an outline turned back into what it was made of, where the outline stands now.

    Raises:
        ArtError: where it was made of nothing else.
    """
    before = build(design, library, exact=True, memo=memo)
    art = _built(before, id).art
    if not isinstance(art, OutlineArt) or art.made_of is None:
        raise ArtError("It was not made of anything else.")
    there = {one.id for one in design.art}
    gone = {field: None for field in art.made_of.relations if _names(art.made_of, field) not in {None, *there}}
    made = art.made_of.model_copy(update={"id": id, "place": art.place, **gone})
    return _with(design, before, cast("AnyArt", made), library, memo)


def _names(art: AnyArt, field: str) -> str | None:
    relation = getattr(art, field)
    return None if relation is None else str(relation.art)


def _with(design: Design, before: Build, art: AnyArt, library: Library, memo: Memo | None) -> Design:
    """The design with other art of the same id, and the anchors on it at the same places."""
    changed = design.model_copy(update={"art": tuple(art if one.id == art.id else one for one in design.art)})
    old, new = _built(before, art.id), _built(build(changed, library, exact=True, memo=memo), art.id)

    def follow(anchor: Anchor) -> Anchor:
        place = anchor_place(old, anchor) if anchor.art == art.id else None
        return (anchor_at([new], *place) if place else None) or anchor

    moved = {field: _mapped(getattr(changed, field), follow) for field in ("layers", "accepted")}
    return changed.model_copy(update=moved)


def _mapped(thing: Any, follow: Callable[[Anchor], Anchor]) -> Any:
    """A part of a document with every anchor in it changed."""
    if isinstance(thing, Anchor):
        return follow(thing)
    if isinstance(thing, BaseModel):
        fields = {name: getattr(thing, name) for name in type(thing).model_fields}
        made = {name: _mapped(value, follow) for name, value in fields.items()}
        return thing.model_copy(update={name: value for name, value in made.items() if value is not fields[name]})
    if isinstance(thing, tuple):
        items = cast("tuple[Any, ...]", thing)
        made = tuple(_mapped(item, follow) for item in items)
        return made if any(a is not b for a, b in zip(made, items, strict=True)) else items
    return thing


def _built(made: Build, id: str) -> BuiltArt:
    found = next((one for one in made.art if one.art.id == id), None)
    if found is None:
        raise ArtError("That art is not in the design any more.")
    return found
