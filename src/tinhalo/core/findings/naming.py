"""What the pieces of a layer are, by the letters that they hold."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import groupby

import shapely
from pydantic import ValidationError
from shapely import Point, Polygon

from tinhalo.core.artwork.lettering.lower_marks import can_lower
from tinhalo.core.artwork.lettering.parts import LetterParts
from tinhalo.core.artwork.lettering.pieces import called, spelt
from tinhalo.core.artwork.lettering.typeset import words_of
from tinhalo.core.artwork.place import place_matrix
from tinhalo.core.document.anchor import Anchor
from tinhalo.core.engine.built import Build, BuiltArt, spot_on
from tinhalo.core.findings.surveyed import Called
from tinhalo.core.geometry.curves.outline import XY
from tinhalo.core.recipe.evaluate import digest

#: A piece that ends this much further (mm) inside a letter on one side than on another is only a part of it.
_CUT_OFF = 1.0
#: A piece is a part of the letter in which so much of it lies.
_MOSTLY = 0.9
#: Further (mm) from a letter a piece is not told by it.
_BESIDE = 5.0


@dataclass(frozen=True)
class _Owner:
    """A piece of a letter: its words, the letter, and which of the letter's pieces it is."""

    words: BuiltArt
    letter: LetterParts
    number: int

    @property
    def area(self) -> Polygon:
        return self.letter.pieces[self.number]

    @property
    def is_mark(self) -> bool:
        return self.number >= self.letter.body

    @property
    def letter_name(self) -> str:
        """“the %” of each of its pieces, “the dot of the i” of that."""
        return self.letter.name_of_owner(self.number)


@dataclass(frozen=True)
class Naming:
    """Tells what pieces are by the letters of a built design."""

    made: Build

    @cached_property
    def key(self) -> str:
        """Of the words' content and of what is set for their letters."""
        return digest(*[part for one in self.made.art for part in (one.key, one.art.model_dump_json())])

    @cached_property
    def _owners(self) -> list[_Owner]:
        return [
            _Owner(one, letter, k)
            for one in self.made.art
            for letter in one.letters.values()
            for k in range(len(letter.pieces))
        ]

    @cached_property
    def _middles(self) -> shapely.STRtree:
        return shapely.STRtree([owner.area.representative_point() for owner in self._owners])

    @cached_property
    def _areas(self) -> shapely.STRtree:
        return shapely.STRtree([owner.area for owner in self._owners])

    def spot(self, at: XY) -> Anchor | None:
        """The place beside the nearest letter; None where there are no letters anywhere near."""
        if not self._owners:
            return None
        owner = self._owners[int(self._areas.nearest(Point(at)))]
        try:
            return spot_on(owner.words, owner.letter.index, *at)
        except ValidationError:
            # A spot is at most a thousand sizes away from its letter.
            return None

    def letter(self, at: XY, made_from: Collection[str]) -> str | None:
        """The letter of these words at a place (mm), “the e”; None where none is near."""
        owner = self._nearest(Point(at), made_from)
        return owner.letter_name if owner else None

    def called(self, piece: Polygon, made_from: Collection[str]) -> Called:
        """What a piece is: named after the letters whose middles it holds, or the one that it was cut from.

        Args:
            piece: of a layer, in mm.
            made_from: ids of the words that the layer is made from; others may lie over it.
        """
        inside: list[int] = sorted(self._middles.query(piece, predicate="intersects").tolist())
        held = [owner for i in inside if (owner := self._owners[i]).words.art.id in made_from]
        if not held:
            return Called(self._bit(piece, made_from))
        name = _name(held)
        if len({(owner.words.art.id, owner.letter.index) for owner in held}) == 1 and not _all_whole(held, piece):
            name = _part_of(name)
        apart = [bool((join := o.words.art.join) and o.letter.index in join.apart) for o in held]
        return Called(name, self._closed_up_by(held, piece), all(apart), _marks_of(held))

    def _bit(self, piece: Polygon, made_from: Collection[str]) -> str:
        """What a piece is that holds no letter's middle: a part of a letter, or something beside one."""
        owner = self._nearest(piece.representative_point(), made_from)
        # What reaches around several letters is at none of them.
        if owner is None or max(_beyond(owner.area, piece)) > _BESIDE:
            return "a piece"
        name = owner.letter_name
        return _part_of(name) if owner.area.intersection(piece).area > _MOSTLY * piece.area else f"a piece by {name}"

    def _nearest(self, at: XY, made_from: Collection[str]) -> _Owner | None:
        near: list[int] = self._areas.query(at, predicate="dwithin", distance=_BESIDE).tolist()
        owners = [owner for i in near if (owner := self._owners[i]).words.art.id in made_from]
        return min(owners, key=lambda owner: owner.area.distance(at), default=None)

    @cached_property
    def _words(self) -> dict[str, dict[int, frozenset[int]]]:
        """Of each letter that has an outline, by its words' id and its index: all such letters of its word."""
        found: dict[str, dict[int, frozenset[int]]] = {}
        for one in self.made.art:
            words = [frozenset(one.letters.keys() & set(word)) for word in words_of(one.typeset.letters)]
            found[one.art.id] = {index: word for word in words for index in word}
        return found

    def _closed_up_by(self, held: Sequence[_Owner], piece: Polygon) -> str | None:
        """Id of the words that may make a piece one with others when their letters are closed up."""
        art = held[0].words.art
        # Words that are closed up already cannot be closed up any more, nor are dots and what was cut off closed up.
        if art.join or any(owner.words.art is not art for owner in held):
            return None
        bodies = [owner for owner in held if not owner.is_mark]
        if not bodies or not _all_whole(bodies, piece):
            return None
        letters = {owner.letter.index for owner in bodies}
        return art.id if any(not self._words[art.id][index] <= letters for index in letters) else None


def _name(held: Sequence[_Owner]) -> str:
    blocks = [list(block) for _, block in groupby(held, key=lambda owner: owner.words.art.id)]
    if len(blocks) == 1:
        return called([(owner.letter, owner.number) for owner in held])
    return f"“{' '.join([spelt([owner.letter for owner in block]) for block in blocks])}”"


def _all_whole(held: Sequence[_Owner], piece: Polygon) -> bool:
    """Whether a piece of a layer holds pieces of letters, and not only parts of them that were cut off."""
    return all(_is_whole(owner.area, piece) for owner in held)


def _is_whole(letter: Polygon, piece: Polygon) -> bool:
    # Shrinking takes as much from every side.
    lacking = [max(0.0, by) for by in _beyond(piece, letter)]
    return max(lacking) - min(lacking) <= _CUT_OFF


def _beyond(one: Polygon, other: Polygon) -> tuple[float, float, float, float]:
    """How far another area reaches beyond the box of one to each side; less than 0 where it does not."""
    (left, bottom, right, top), (x0, y0, x1, y1) = one.bounds, other.bounds
    return left - x0, bottom - y0, x1 - right, y1 - top


def _part_of(name: str) -> str:
    return name if name.startswith("a part of ") else f"a part of {name}"


def _marks_of(held: Sequence[_Owner]) -> tuple[str, int] | None:
    """The letter whose dots or accents pieces are, and nothing else, where these can be moved until they touch."""
    words, letter = held[0].words, held[0].letter
    letters = {(owner.words.art.id, owner.letter.index) for owner in held}
    if len(letters) > 1 or not all(owner.is_mark for owner in held) or str(letter.index) in words.art.lowered:
        return None
    return letters.pop() if can_lower(letter, place_matrix(words.art.place)) else None
