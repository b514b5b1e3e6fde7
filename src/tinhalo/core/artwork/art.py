"""What every piece of art is: a small model that draws itself.

Layers are made from art: words in a font, shapes, and whatever else comes. All that the rest of the program knows of a
piece of art is written here. It has *parts* (the letters of words; of a shape, the whole), each part has *pieces* (an i
and its dot), and pieces of layers are named after those that they hold.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Annotated, Any, ClassVar, Literal, Protocol, Self, TypeAlias

import numpy as np
from pydantic import Field
from shapely import Polygon

from tinhalo.core.artwork.error import ArtError
from tinhalo.core.artwork.library import Library
from tinhalo.core.artwork.place import Place, place_matrix
from tinhalo.core.document.base import Identifier, Millimetres, Strict
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.precision import Precision
from tinhalo.core.geometry.regions.region import Region

#: What becomes of distances (how deep things overlap, how wide a border is) when a job gets another size.
Distances = Literal["kept", "scaled"]


class Part(Protocol):
    """A part of a piece of art: a letter, or the whole."""

    @property
    def index(self) -> int:
        """What anchors name it by."""
        ...

    @property
    def pieces(self) -> tuple[Polygon, ...]:
        """Its connected areas in mm, the largest first."""
        ...

    @property
    def body(self) -> int:
        """How many of them, from the first, are the part itself; the others only belong to it, as dots and accents."""
        ...

    @property
    def text(self) -> str:
        """What is typed for it; nothing for what is no text."""
        ...

    def name(self, piece: int) -> str:
        """What a piece is called, for the maker: “the F”, “a part of the %”, “the dot of the i”, “the heart”."""
        ...

    def name_of_owner(self, piece: int) -> str:
        """What a piece belongs to, for the maker: “the %”, or the mark that it is, “the accent of the é”."""
        ...


#: Pieces of parts of one piece of art: each a part, and the number of one of its pieces.
Held: TypeAlias = Sequence[tuple[Part, int]]


def spelt(parts: Sequence[Part]) -> str:
    """What is typed for parts of one piece of art, each once, with a blank where some are left out."""
    once = list({part.index: part for part in parts}.values())
    return "".join([" " * (b.index > a.index + 1) + b.text for a, b in zip([once[0], *once], once, strict=False)])


@dataclass(frozen=True)
class Remedy:
    """A change of a piece of art that mends something.

    Attributes:
        title: what it does, for the maker.
        several: the same, where more than one such change is made together.
        patch: a JSON merge patch (RFC 7396) of the art's document.
        enough: whether one piece comes of it: words that stand apart stay apart.
    """

    title: str
    several: str
    patch: Mapping[str, Any]
    enough: bool = True


@dataclass(frozen=True)
class Trouble:
    """What keeps a piece of art from being drawn as it was meant: a finding's kind, severity and sentence."""

    kind: str
    severity: Literal["error", "warning", "note"]
    sentence: str
    remedies: tuple[Remedy, ...] = ()


@dataclass(frozen=True)
class LoosePiece:
    """A piece that does not hold to the rest of its group.

    Attributes:
        name: what it is, for the maker: “the F”, “the dot of the i”, “nna”.
        parts: indices of the parts it consists of.
        why: a dot or accent; parts that do not touch; or one that stands apart on purpose.
        polygons: its areas in mm, as placed.
    """

    name: str
    parts: tuple[int, ...]
    why: Literal["mark", "letters", "apart"]
    polygons: tuple[Polygon, ...]


@dataclass(frozen=True)
class Group:
    """What is meant to hold together, a word: its text, the number of pieces it falls into, and the loose ones."""

    text: str
    pieces: int
    loose: tuple[LoosePiece, ...]


@dataclass(frozen=True)
class Drawn(ABC):
    """What a piece of art comes to; kept by its content, whatever it is called.

    Attributes:
        region: its area, with the curves that drew it.
    """

    region: Region

    @property
    @abstractmethod
    def parts(self) -> Mapping[int, Part]:
        """Its parts by their index."""

    @cached_property
    def groups(self) -> tuple[Group, ...]:
        """What of it is meant to hold together: looked through when somebody asks, as outlines do not need it."""
        return ()

    @property
    def neighbours(self) -> Sequence[tuple[Part, Part]]:
        """Parts that stand side by side in one group."""
        return ()

    @property
    def meant_to_hold(self) -> bool:
        """Whether its groups were set to hold together; plain capitals never do."""
        return False

    @property
    def ends(self) -> Floats:
        """Its far ends, shape (n, 2), in mm: the first and last point of every line of words."""
        return np.zeros((0, 2))

    @property
    def nbytes(self) -> int:
        """Memory held, in bytes, near enough for the memo's budget."""
        # The parts' polygons hold about as many vertices as the region.
        return 2 * self.region.nbytes

    @abstractmethod
    def called(self, held: Held) -> str:
        """What pieces of its parts are called together, for the maker: “the F”, “Fenna” in quotes, “the heart”."""

    @abstractmethod
    def moved(self, dx: float, dy: float) -> Self:
        """The same elsewhere, (dx, dy) mm on."""

    def apart_on_purpose(self, part: int) -> bool:
        """Whether a part was set to stand by itself."""
        return False

    def gathering(self, parts: Collection[int], joint: float) -> Remedy | None:
        """What brings these parts together with the rest of their groups, if anything does.

        Joints are to be ``joint`` mm wide where they can.
        """
        return None

    def spreading(self, by: float) -> Remedy | None:
        """What sets its parts further apart, by so many mm each, if anything does."""
        return None

    def attaching(self, part: int) -> Remedy | None:
        """What moves what only belongs to a part (its dots) until it touches the part itself, if anything does."""
        return None

    def troubles(self, library: Library, title: Callable[[str], str]) -> list[Trouble]:
        """What keeps it from being drawn as it was meant; ``title`` says what other art is called, by its id."""
        return []


class Studio(Protocol):
    """What art may ask for while it is drawn."""

    @property
    def library(self) -> Library:
        """Fonts, by id."""
        ...

    @property
    def precision(self) -> Precision:
        """How finely curves are to be flattened."""
        ...


class Against(Strict):
    """Art set against other art: it slides straight towards it until they overlap by that much, in mm.

    A negative overlap leaves a gap. ``place`` still says where it stands along the other one.
    """

    art: Identifier
    side: Literal["below", "above", "left", "right"] = "below"
    overlap: Millimetres = 0.3


class Art(Strict):
    """Base of all art. Kinds add ``kind``, their fields and ``draw``."""

    #: Fields that name other art: what stands in them acts after drawing, in ``settle``.
    relations: ClassVar[tuple[str, ...]] = ("against",)
    #: What the maker calls this kind of art.
    noun: ClassVar[str]
    #: Whether it is words, each block of which has a place of its own where several are cut away.
    is_words: ClassVar[bool] = False

    id: Identifier
    place: Place = Place()
    against: Annotated[Against | None, Field(description="other art that it slides against")] = None

    @property
    @abstractmethod
    def title(self) -> str:
        """What it is called in sentences and lists; nothing where there is nothing to call it by."""

    @property
    def set_into(self) -> str | None:
        """The id of the art whose frame it is stretched into; None where it is not."""
        return None

    @abstractmethod
    def draw(self, studio: Studio) -> Drawn:
        """Draw it at its place.

        Raises:
            ArtError: when it cannot be drawn; see ``undrawn``.
        """

    def undrawn(self, error: ArtError) -> Drawn:
        """What stands for it where it cannot be drawn."""
        raise error

    def settle(self, drawn: Drawn, others: Mapping[str, Region], studio: Studio) -> Drawn:
        """The same as it stands by the art that it names."""
        return drawn

    def basis(self) -> Floats:
        """What one of its sizes along and across is on the drawing, shape (2, 2), in mm: what anchors count in."""
        return place_matrix(self.place)[:, :2]

    def scaled(self, factor: float, distances: Distances) -> Self:
        """The same, larger or smaller by a factor, with everything that was set for it."""
        against = self.against
        if against and distances == "scaled":
            against = against.model_copy(update={"overlap": against.overlap * factor})
        place = self.place.model_copy(update={"x": self.place.x * factor, "y": self.place.y * factor})
        return self.model_copy(update={"place": place, "against": against})

    def named(self) -> tuple[str, ...]:
        """Ids of the art that it stands by."""
        return tuple(relation.art for field in self.relations if (relation := getattr(self, field)) is not None)

    def content(self) -> str:
        """What it is drawn from: not what it is called, nor what it stands by."""
        return self.model_dump_json(exclude={"id", *self.relations})

    def settling(self) -> str:
        """How it stands by other art, whatever that is called."""
        return repr(
            [getattr(self, field) and getattr(self, field).model_dump(exclude={"art"}) for field in self.relations]
        )
