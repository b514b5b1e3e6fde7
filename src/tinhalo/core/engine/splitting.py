"""A block of words as one block for each of its lines or words, each where it stood."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from functools import partial
from typing import Any, Literal, TypeVar

import numpy as np

from tinhalo.core.artwork.error import ArtError
from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.artwork.lettering.lines import lines_of, words_of
from tinhalo.core.artwork.lettering.set_words import SetWords
from tinhalo.core.artwork.lettering.typeset import Typeset
from tinhalo.core.artwork.library import Library
from tinhalo.core.design.design import Design
from tinhalo.core.engine.build import build
from tinhalo.core.engine.built import Build
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.runtime.memo import Memo

Value = TypeVar("Value")


def split_words(
    design: Design, id: str, by: Literal["line", "word"], library: Library, memo: Memo | None = None
) -> list[Lettering]:
    """Blocks of the lines or words of a block, all under its id; what was set for single letters goes with them.

    Raises:
        ArtError: where that would not stand as it does: words on a curve, or words stretched into a shape word by word.
    """
    whole = next((one for one in build(design, library, memo=memo).art if one.art.id == id), None)
    if whole is None or not isinstance(whole.art, Lettering) or not isinstance(whole.drawn, SetWords):
        raise ArtError("These words are not in the design any more.")
    block = whole.art
    if block.line is not None:
        raise ArtError("Words on a curve stay one block: let them stand on a straight line first.")
    if block.into is not None and by == "word":
        raise ArtError("Words that are set into a shape stay in their line: split them by lines.")
    typeset = whole.drawn.typeset
    groups = lines_of(typeset.letters) if by == "line" else words_of(typeset.letters)
    parts = [group for group in groups if any(typeset.letters[i].strip() for i in group)]
    return [
        _stood(_part(block, typeset.letters, part), typeset, part[0], partial(build, library=library, memo=memo))
        for part in parts
    ]


def _part(block: Lettering, letters: Sequence[str], part: Sequence[int]) -> Lettering:
    """A block of some letters, in a row, with what was set for each of them."""
    new = {index: number for number, index in enumerate(part)}

    def of(settings: Mapping[str, Value]) -> dict[str, Value]:
        return {str(new[int(key)]): value for key, value in settings.items() if int(key) in new}

    join = block.join
    if join:
        join = join.model_copy(update={"apart": tuple(new[i] for i in join.apart if i in new)})
    changed: dict[str, Any] = {
        "text": "".join(letters[i] for i in part),
        "nudges": of(block.nudges),
        "moves": of(block.moves),
        "lowered": of(block.lowered),
        "join": join,
        "against": None,
    }
    return block.model_copy(update=changed)


def _stood(part: Lettering, typeset: Typeset, first: int, made: Callable[[Design], Build]) -> Lettering:
    """The block moved so that its first letter with ink stands where it stood in the whole one."""
    free = part.model_copy(update={"into": None})
    own = made(Design(format="tin-halo/1", art=(free,))).art[0].drawn
    assert isinstance(own, SetWords)
    if not own.typeset.glyphs:
        return part
    glyph = own.typeset.glyphs[0]
    stood = next(one for one in typeset.glyphs if one.letter == first + glyph.letter)
    move: Floats = np.asarray(stood.matrix)[:, 2] - np.asarray(glyph.matrix)[:, 2]
    place = part.place.model_copy(
        update={"x": round(part.place.x + float(move[0]), 4), "y": round(part.place.y + float(move[1]), 4)}
    )
    return part.model_copy(update={"place": place})
