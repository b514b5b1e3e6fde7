"""How many pieces each word falls into once cut, and which they are."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence

import numpy as np

from tinhalo.core.artwork.art import Group, LoosePiece, spelt
from tinhalo.core.artwork.lettering.lines import words_of
from tinhalo.core.artwork.lettering.parts import LetterParts
from tinhalo.core.artwork.lettering.typeset import Typeset
from tinhalo.core.geometry.regions.proximity import connected


def pieces_by_word(made: Typeset, parts: Mapping[int, LetterParts], apart: Collection[int] = ()) -> tuple[Group, ...]:
    """The pieces of every word that has an outline.

    Args:
        made: the set block.
        parts: its letters' pieces, see ``Typeset.parts``.
        apart: indices of letters that stand alone on purpose.
    """
    found: list[Group] = []
    for word in words_of(made.letters):
        letters = [parts[i] for i in word if i in parts]
        if letters:
            text = "".join(made.letters[i] for i in word)
            found.append(_word(text, letters, apart))
    return tuple(found)


def _word(text: str, letters: Sequence[LetterParts], apart: Collection[int]) -> Group:
    owners = [(letter, k) for letter in letters for k in range(len(letter.pieces))]
    areas = np.array([letter.pieces[k] for letter, k in owners], object)
    group = connected(areas)
    size = np.bincount(group, weights=[letter.pieces[k].area for letter, k in owners])
    main = int(size.argmax())
    loose = [
        _loose([owners[i] for i in np.flatnonzero(group == number)], apart)
        for number in dict.fromkeys(group.tolist())
        if number != main
    ]
    return Group(text, len(loose) + 1, tuple(loose))


def _loose(owners: Sequence[tuple[LetterParts, int]], apart: Collection[int]) -> LoosePiece:
    letters = tuple(dict.fromkeys(letter.index for letter, _ in owners))
    polygons = tuple(letter.pieces[k] for letter, k in owners)
    name = called(owners)
    if all(k >= letter.body for letter, k in owners):
        return LoosePiece(name, letters, "mark", polygons)
    return LoosePiece(name, letters, "apart" if any(i in apart for i in letters) else "letters", polygons)


def called(owners: Sequence[tuple[LetterParts, int]]) -> str:
    """What a piece is called that consists of these pieces of letters of one block, for the maker."""
    if len({letter.index for letter, _ in owners}) > 1:
        return f"“{spelt([letter for letter, _ in owners])}”"
    # The body, where it is among them.
    letter, piece = min(owners, key=lambda owner: owner[1])
    return letter.name(piece)
