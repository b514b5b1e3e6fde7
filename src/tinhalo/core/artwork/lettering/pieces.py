"""How many pieces each word falls into once cut, and which they are."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
import shapely
from shapely import LineString, Polygon
from shapely.geometry.base import BaseGeometry

from tinhalo.core.artwork.lettering.parts import LetterParts
from tinhalo.core.artwork.lettering.typeset import Typeset, words_of
from tinhalo.core.geometry.regions.proximity import connected


@dataclass(frozen=True)
class LoosePiece:
    """A piece of a word that does not hold to its main piece.

    Attributes:
        name: what it is, for the maker: “the F”, “the dot of the i”, “nna”.
        letters: indices of the letters it consists of.
        why: a dot or accent; letters that do not touch; or a letter that stands apart on purpose.
        polygons: its areas in mm, as placed.
    """

    name: str
    letters: tuple[int, ...]
    why: Literal["mark", "letters", "apart"]
    polygons: tuple[Polygon, ...]


@dataclass(frozen=True)
class WordPieces:
    """A word: its text, the number of pieces it falls into, and those that are not its main piece."""

    text: str
    pieces: int
    loose: tuple[LoosePiece, ...]


def pieces_by_word(made: Typeset, parts: dict[int, LetterParts], apart: Collection[int] = ()) -> tuple[WordPieces, ...]:
    """The pieces of every word that has an outline.

    Args:
        made: the set block.
        parts: its letters' pieces, see ``Typeset.parts``.
        apart: indices of letters that stand alone on purpose.
    """
    found: list[WordPieces] = []
    for word in words_of(made.letters):
        letters = [parts[i] for i in word if i in parts]
        if letters:
            text = "".join(made.letters[i] for i in word)
            found.append(_word(text, letters, apart))
    return tuple(found)


def _word(text: str, letters: Sequence[LetterParts], apart: Collection[int]) -> WordPieces:
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
    return WordPieces(text, len(loose) + 1, tuple(loose))


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


def spelt(letters: Sequence[LetterParts]) -> str:
    """Letters of one block in a row, each once, with a blank where some are left out."""
    once = list({letter.index: letter for letter in letters}.values())
    return "".join([" " * (b.index > a.index + 1) + b.letter for a, b in zip([once[0], *once], once, strict=False)])


def seams(parts: Iterable[LetterParts]) -> list[LineString]:
    """The stretches of letters' outlines that lie inside a neighbour, in mm: gone once the letters are united."""
    pieces = [p for letter in parts for p in letter.pieces]
    if not pieces:
        return []
    pairs: list[tuple[int, int]] = shapely.STRtree(pieces).query(pieces, predicate="intersects").T.tolist()
    found: list[BaseGeometry] = [pieces[i].exterior.intersection(pieces[j]) for i, j in pairs if i != j]
    return [line for line in shapely.get_parts(found) if isinstance(line, LineString) and line.length > 0]
