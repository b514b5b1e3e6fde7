"""A block of words as set: its letters, its words, and what keeps it from being drawn as it was meant."""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import pairwise
from typing import TYPE_CHECKING, Any

import numpy as np
import shapely

from tinhalo.core.artwork.against import slide
from tinhalo.core.artwork.art import Drawn, Group, Held, Part, Remedy, Studio, Trouble
from tinhalo.core.artwork.error import ArtError
from tinhalo.core.artwork.lettering.face import OWN
from tinhalo.core.artwork.lettering.into import reaching, set_into
from tinhalo.core.artwork.lettering.lines import graphemes, lines_of, words_of
from tinhalo.core.artwork.lettering.lower_marks import can_lower
from tinhalo.core.artwork.lettering.parts import LetterParts
from tinhalo.core.artwork.lettering.pieces import called, pieces_by_word
from tinhalo.core.artwork.lettering.settings import MOST_LETTERS
from tinhalo.core.artwork.lettering.troubles import cannot_draw, not_settled, running_together
from tinhalo.core.artwork.lettering.typeset import Typeset, typeset
from tinhalo.core.artwork.place import place_matrix
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.precision import SCREEN
from tinhalo.core.geometry.regions.region import Region

if TYPE_CHECKING:
    from tinhalo.core.artwork.lettering.block import Lettering
    from tinhalo.core.artwork.library import Library

#: How deep letters and dots overlap that are moved together, in mm (common practice).
OVERLAP = 0.3
#: Deeper than this share of the em letters are no longer read.
_DEEPEST = 1 / 8
_NOTHING = Typeset((), (), ())


@dataclass(frozen=True)
class SetWords(Drawn):
    """A block of words as set.

    Attributes:
        block: what it was set from; what it is called is not part of it.
        set_as: its glyphs, or why it cannot be drawn.
        letters: each letter's pieces, by its index.
        settled: whether it stands by the other art that it names as it should.
        adrift: what of it does not hold to the shape that it is set into, for the maker.
    """

    block: Lettering
    set_as: Typeset | ArtError
    letters: Mapping[int, LetterParts]
    settled: bool = True
    adrift: tuple[str, ...] = ()

    @property
    def parts(self) -> Mapping[int, LetterParts]:
        """Its letters that have an outline."""
        return self.letters

    @property
    def typeset(self) -> Typeset:
        """Its glyphs; none when it cannot be drawn."""
        return self.set_as if isinstance(self.set_as, Typeset) else _NOTHING

    @cached_property
    def groups(self) -> tuple[Group, ...]:
        """Its words: looked through when somebody asks, as outlines do not need them."""
        return pieces_by_word(self.typeset, self.letters, self._apart)

    @property
    def meant_to_hold(self) -> bool:
        """Whether its letters are closed up."""
        return self.block.join is not None

    @property
    def ends(self) -> Floats:
        """The first and last point of every line, along it."""
        along = place_matrix(self.block.place)[:, 0]
        ends: list[Floats] = [np.zeros((0, 2))]
        for line in lines_of(self.typeset.letters):
            pieces = [piece for i in line if i in self.letters for piece in self.letters[i].pieces]
            if pieces:
                points = shapely.get_coordinates(pieces)
                far = points @ along
                ends.append(points[[far.argmin(), far.argmax()]])
        return np.concatenate(ends)

    def called(self, held: Held) -> str:
        """See ``pieces.called``."""
        return called([(self.letters[part.index], piece) for part, piece in held])

    def moved(self, dx: float, dy: float) -> SetWords:
        """The same words elsewhere."""
        letters = {i: parts.moved(dx, dy) for i, parts in self.letters.items()}
        return replace(self, region=self.region.moved(dx, dy), set_as=self.typeset.moved(dx, dy), letters=letters)

    @property
    def _apart(self) -> tuple[int, ...]:
        return self.block.join.apart if self.block.join else ()

    def apart_on_purpose(self, part: int) -> bool:
        """Whether a letter was marked to stand apart."""
        return part in self._apart

    @cached_property
    def _word_of(self) -> dict[int, frozenset[int]]:
        """Of each letter that has an outline all such letters of its word."""
        words = [frozenset(self.letters.keys() & set(word)) for word in words_of(self.typeset.letters)]
        return {index: word for word in words for index in word}

    def gathering(self, parts: Collection[int], joint: float) -> Remedy | None:
        """Letters closed up, where these are not all of their words and are not closed up yet."""
        if self.block.join or all(self._word_of[index] <= set(parts) for index in parts):
            return None
        remedy = close_up(min(max(OVERLAP, joint), self.block.size * _DEEPEST))
        return replace(remedy, enough=len(set(self._word_of.values())) == 1)

    def spreading(self, by: float) -> Remedy | None:
        """Letters spaced further, where they are not closed up."""
        if self.block.join:
            return None
        title = "Space the letters so that they keep apart"
        return Remedy(title, title, {"letter_spacing": round(self.block.letter_spacing + by, 2)})

    @property
    def neighbours(self) -> Sequence[tuple[Part, Part]]:
        """Letters of a word that follow each other."""
        pairs = pairwise(sorted(self.letters))
        return [(self.parts[a], self.parts[b]) for a, b in pairs if b in self._word_of[a]]

    def attaching(self, part: int) -> Remedy | None:
        """The dots and accents of a letter moved to it, where they are not yet and stand above or below it."""
        if str(part) in self.block.lowered or not can_lower(self.letters[part], place_matrix(self.block.place)):
            return None
        patch = {"lowered": {str(part): OVERLAP}}
        return Remedy("Move it until it touches", "Move dots until they touch", patch)

    def troubles(self, library: Library, title: Callable[[str], str]) -> list[Trouble]:
        """Characters that are missing, text that is too long, other art that is not reached."""
        told = cannot_draw(self.block, self.set_as, library)
        remedy = None if self.block.join else close_up()
        told += not_settled(self.block, self.settled, self.adrift, title, remedy)
        bent = self.block.line is not None and not self.block.join and not self.block.into
        meeting = self._meeting(self.letters) if bent else []
        texts = {index: letter.text for index, letter in self.letters.items()}
        return told + running_together(self.block, meeting, texts, library, self._meeting_with)

    def _meeting(self, letters: Mapping[int, LetterParts]) -> list[tuple[int, int]]:
        """Letters that follow each other in a word and lie over each other."""
        pairs = [(a, b) for a, b in pairwise(sorted(letters)) if b in self._word_of.get(a, ())]
        pieces = {index: shapely.multipolygons(letter.pieces) for index, letter in letters.items()}
        return [(a, b) for a, b in pairs if pieces[a].intersects(pieces[b])]

    def _meeting_with(self, library: Library, **changed: Any) -> list[tuple[int, int]]:
        """The same for the block with other settings."""
        block = self.block.model_copy(update=changed)
        return self._meeting(typeset(block, library.face(block.font, block.axes)).parts(SCREEN))


def close_up(overlap: float = OVERLAP) -> Remedy:
    """All letters of a block closed up: what overlaps by a depth (mm) is joined by as much at least."""
    title = "Close the letters up"
    patch: dict[str, Any] = {"join": {"overlap": round(overlap, 2), "apart": []}}
    return Remedy(title, title, patch)


def set_words(block: Lettering, studio: Studio) -> SetWords:
    """Set a block of words; one that is too long has no letters.

    Raises:
        FontError: when its font cannot be used.
    """
    if len(block.text) > MOST_LETTERS and len(letters := graphemes(block.text)) > MOST_LETTERS:
        return SetWords(Region.empty(), block, Typeset((), (), tuple(letters)), {})
    return _as_set(block, typeset(block, studio.library.face(block.font, block.axes)), studio)


def _as_set(block: Lettering, made: Typeset, studio: Studio) -> SetWords:
    own = block.font.startswith(OWN)
    if own:
        made.check_size()
    parts = made.parts(studio.precision)
    if own:
        made.check_crossings(parts)
    return SetWords(made.united(parts), block, made, parts)


def settled(drawn: SetWords, block: Lettering, others: Mapping[str, Region], studio: Studio) -> SetWords:
    """The words as they stand by other art: stretched into a shape, or slid until they overlap by an amount."""
    if drawn.region.is_empty:
        return drawn
    if block.against:
        move = slide(drawn.region, others[block.against.art], block.against)
        return drawn.moved(*move) if move else replace(drawn, settled=False)
    assert block.into
    shape = others[block.into.art]
    maps = set_into(drawn.letters, lines_of(drawn.typeset.letters), shape, block.into, studio.precision)
    if maps is None:
        return replace(drawn, settled=False)
    made = _as_set(block, drawn.typeset.mapped(maps), studio)
    adrift = reaching(made.letters, shape, block.into, studio.precision)
    names = tuple(called([(made.letters[i], 0) for i in group]) for group in adrift)
    return replace(made, adrift=names)
