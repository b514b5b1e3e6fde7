"""A block of words as one block for each of its lines or words, each where it stood."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any, Literal, TypeVar

import numpy as np

from tinhalo.core.artwork.error import ArtError
from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.artwork.lettering.lines import lines_of, words_of
from tinhalo.core.artwork.lettering.typeset import Typeset
from tinhalo.core.geometry.arrays import Floats

Value = TypeVar("Value")


def split_words(
    block: Lettering, stood: Typeset, by: Literal["line", "word"], set_alone: Callable[[Lettering], Typeset]
) -> list[Lettering]:
    """Blocks of the lines or words of a block, all under its id; what was set for single letters goes with them.

    Args:
        block: what is split.
        stood: its glyphs where they stand.
        by: what becomes a block.
        set_alone: sets a block that stands by no other art.
    Raises:
        ArtError: where that would not stand as it does: words on a curve, or words stretched into a shape word by word.
    """
    if block.line is not None:
        raise ArtError("Words on a curve stay one block: let them stand on a straight line first.")
    if block.into is not None and by == "word":
        raise ArtError("Words that are set into a shape stay in their line: split them by lines.")
    groups = lines_of(stood.letters) if by == "line" else words_of(stood.letters)
    parts = [group for group in groups if any(stood.letters[i].strip() for i in group)]
    return [_placed(_part(block, stood.letters, part), stood, part[0], set_alone) for part in parts]


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


def _placed(part: Lettering, stood: Typeset, first: int, set_alone: Callable[[Lettering], Typeset]) -> Lettering:
    """The block moved so that its first letter with ink stands where it stood in the whole one."""
    alone = set_alone(part.model_copy(update={"into": None}))
    if not alone.glyphs:
        return part
    glyph = alone.glyphs[0]
    original = next(one for one in stood.glyphs if one.letter == first + glyph.letter)
    move: Floats = np.asarray(original.matrix)[:, 2] - np.asarray(glyph.matrix)[:, 2]
    x, y = part.place.x + float(move[0]), part.place.y + float(move[1])
    return part.model_copy(update={"place": part.place.model_copy(update={"x": round(x, 4), "y": round(y, 4)})})
