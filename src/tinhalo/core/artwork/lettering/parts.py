"""What a letter consists of: its body, and the dots and accents that stand free of it."""

from __future__ import annotations

import unicodedata
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import shapely
from shapely import Polygon
from shapely.affinity import translate
from shapely.geometry.base import BaseGeometry

#: Letters and signs whose smaller pieces are dots, though Unicode does not take them apart.
_DOTTED = frozenset("ij!?;:ĳǰ¡¿÷")


@lru_cache(maxsize=4096)
def has_marks(letter: str) -> bool:
    """Whether the smaller pieces of a letter are dots or accents, and not strokes of its own."""
    taken_apart = unicodedata.normalize("NFD", letter)
    return letter[0] in _DOTTED or any(unicodedata.combining(c) for c in taken_apart)


@dataclass(frozen=True)
class LetterParts:
    """One letter's connected pieces, the body's first.

    Attributes:
        index: the letter's index in the text.
        text: the user-perceived character.
        pieces: polygons in mm, the largest first.
        body: how many of them, from the first, belong to the body; the others are dots or accents.
    """

    index: int
    text: str
    pieces: tuple[Polygon, ...]
    body: int

    @staticmethod
    def of(index: int, letter: str, polygons: Sequence[Polygon]) -> LetterParts:
        """Unite a letter's polygons and sort its pieces."""
        if len(polygons) == 1:
            return LetterParts(index, letter, tuple(polygons), 1)
        united: Sequence[BaseGeometry] = shapely.get_parts(shapely.disjoint_subset_union_all(polygons)).tolist()
        pieces = sorted((p for p in united if isinstance(p, Polygon)), key=lambda p: -p.area)
        return LetterParts(index, letter, tuple(pieces), 1 if has_marks(letter) else len(pieces))

    def moved(self, dx: float, dy: float) -> LetterParts:
        """The same letter elsewhere."""
        pieces = tuple(translate(p, dx, dy) for p in self.pieces)
        return LetterParts(self.index, self.text, pieces, self.body)

    def name(self, piece: int) -> str:
        """What a piece is called, for the maker: “the F”, “a part of the %”, “the dot of the i”."""
        owner = self.name_of_owner(piece)
        return f"a part of {owner}" if piece < self.body and self.body > 1 else owner

    def name_of_owner(self, piece: int) -> str:
        """What a piece belongs to, for the maker: “the %”, or the mark that it is, “the accent of the é”."""
        if piece >= self.body:
            dot = self.text[0] in _DOTTED or _only_dots(self.text)
            several = len(self.pieces) - self.body > 1
            mark = ("a dot" if several else "the dot") if dot else ("an accent" if several else "the accent")
            return f"{mark} of the {self.text}"
        return f"the {self.text}"


def _only_dots(letter: str) -> bool:
    marks = [c for c in unicodedata.normalize("NFD", letter) if unicodedata.combining(c)]
    return all("DOT" in unicodedata.name(c, "") or "DIAERESIS" in unicodedata.name(c, "") for c in marks)
