"""What the pieces of a layer are, by the parts of art that they hold."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from itertools import groupby

import shapely
from pydantic import ValidationError
from shapely import Point, Polygon

from tinhalo.core.artwork.art import Part, Remedy, spelt
from tinhalo.core.document.anchor import Anchor
from tinhalo.core.engine.anchoring import anchor_on
from tinhalo.core.engine.built import Build, BuiltArt
from tinhalo.core.findings.mends.mend import Mend, mend_of
from tinhalo.core.findings.surveyed import Attachment, Called, Neighbours
from tinhalo.core.geometry.arrays import XY
from tinhalo.core.runtime.memo import digest

#: A piece that ends this much further (mm) inside a part on one side than on another is only a piece of it.
_CUT_OFF = 1.0
#: A piece is a piece of the part in which so much of it lies.
_MOSTLY = 0.9
#: Further (mm) from a part a piece is not told by it.
_BESIDE = 5.0
#: Within this (mm) of a part that is this much smaller, a place is told by that and not by the art that both lie in.
_CLOSE, _SMALLER = 1.0, 0.1


@dataclass(frozen=True)
class _Owner:
    """A piece of a part: its art, the part, and which of the part's pieces it is."""

    built: BuiltArt
    part: Part
    number: int

    @property
    def art(self) -> str:
        return self.built.art.id

    @property
    def area(self) -> Polygon:
        return self.part.pieces[self.number]

    @property
    def is_mark(self) -> bool:
        return self.number >= self.part.body

    @property
    def part_name(self) -> str:
        """“the %” of each of its pieces, “the dot of the i” of that."""
        return self.part.name_of_owner(self.number)


@dataclass(frozen=True)
class Naming:
    """Tells what pieces are by the art of a built design."""

    made: Build
    # Findings and their mends ask for the same places.
    _anchors: dict[XY, Anchor | None] = field(default_factory=dict[XY, Anchor | None], repr=False, compare=False)
    _names: dict[tuple[XY, frozenset[str]], str | None] = field(
        default_factory=dict[tuple[XY, frozenset[str]], str | None], repr=False, compare=False
    )

    @cached_property
    def key(self) -> str:
        """Of the art's content and of what is set for its parts."""
        return digest(*[part for one in self.made.art for part in (one.key, one.art.model_dump_json())])

    @cached_property
    def _owners(self) -> list[_Owner]:
        return [
            _Owner(one, part, k)
            for one in self.made.art
            for part in one.drawn.parts.values()
            for k in range(len(part.pieces))
        ]

    @cached_property
    def _middles(self) -> shapely.STRtree:
        return shapely.STRtree([owner.area.representative_point() for owner in self._owners])

    @cached_property
    def _areas(self) -> shapely.STRtree:
        return shapely.STRtree([owner.area for owner in self._owners])

    def anchor(self, at: XY) -> Anchor | None:
        """The place beside the nearest part; None where there is no art anywhere near."""
        if at not in self._anchors:
            self._anchors[at] = self._anchor(at)
        return self._anchors[at]

    def _anchor(self, at: XY) -> Anchor | None:
        if not self._owners:
            return None
        owner = self._owners[int(self._areas.nearest(Point(at)))]
        try:
            return anchor_on(owner.built, owner.part.index, *at)
        except ValidationError:
            # An anchor is at most a thousand sizes away from its part.
            return None

    def part(self, at: XY, made_from: Collection[str]) -> str | None:
        """The part of this art at a place (mm), “the e”; None where none is near."""
        asked = (at, frozenset(made_from))
        if asked not in self._names:
            owner = self._nearest(Point(at), made_from)
            self._names[asked] = owner.part_name if owner else None
        return self._names[asked]

    def parts_near(self, at: XY, within: float, made_from: Collection[str]) -> int:
        """How many parts of this art come within a distance (mm) of a place (mm)."""
        return len({(owner.art, owner.part.index) for owner in self._within(Point(at), within, made_from)})

    def _within(self, at: Point, distance: float, made_from: Collection[str]) -> list[_Owner]:
        near: list[int] = self._areas.query(at, predicate="dwithin", distance=distance).tolist()
        return [owner for i in near if (owner := self._owners[i]).art in made_from]

    def neighbours(self, made_from: Collection[str]) -> list[Neighbours]:
        """Parts of this art that stand side by side, as words have letters."""
        return [
            Neighbours(_inside(a), _inside(b), lambda by, one=one: _spreading(one, by))
            for one in self.made.art
            if one.art.id in made_from
            for a, b in one.drawn.neighbours
            if a.pieces and b.pieces
        ]

    def called(self, piece: Polygon, made_from: Collection[str], joint: float = 0) -> Called:
        """What a piece is: named after the parts whose middles it holds, or the one that it was cut from.

        Args:
            piece: of a layer, in mm.
            made_from: ids of the art that the layer is made from; other art may lie over it.
            joint: how wide a joint has to be that holds, in mm.
        """
        inside: list[int] = sorted(self._middles.query(piece, predicate="intersects").tolist())
        held = [owner for i in inside if (owner := self._owners[i]).art in made_from]
        if not held:
            return Called(self._bit(piece, made_from))
        name = _name(held)
        if len({(owner.art, owner.part.index) for owner in held}) == 1 and not _all_whole(held, piece):
            name = _part_of(name)
        apart = all(owner.built.drawn.apart_on_purpose(owner.part.index) for owner in held)
        remedy = _gathering(held, piece, joint)
        mend = mend_of(held[0].art, remedy) if remedy else None
        return Called(name, mend, remedy is None or remedy.enough, apart, _attaching(held))

    def _bit(self, piece: Polygon, made_from: Collection[str]) -> str:
        """What a piece is that holds no part's middle: a piece of a part, or something beside one."""
        owner = self._nearest(piece.representative_point(), made_from)
        # What reaches around several parts is at none of them.
        if owner is None or max(_beyond(owner.area, piece)) > _BESIDE:
            return "a piece"
        name = owner.part_name
        return _part_of(name) if owner.area.intersection(piece).area > _MOSTLY * piece.area else f"a piece by {name}"

    def _nearest(self, at: Point, made_from: Collection[str]) -> _Owner | None:
        owners = self._within(at, _BESIDE, made_from)
        found = min(owners, key=lambda owner: owner.area.distance(at), default=None)
        if found is None or len(owners) == 1:
            return found
        # What lies in a large shape, right beside a letter in it, is told by the letter.
        small = [one for one in owners if one.art != found.art and _lies_in(one.area, found.area)]
        close = min(small, key=lambda owner: owner.area.distance(at), default=found)
        return close if close.area.distance(at) < _CLOSE else found


def _inside(part: Part) -> XY:
    at = part.pieces[0].representative_point()
    return (at.x, at.y)


def _spreading(one: BuiltArt, by: float) -> Mend | None:
    remedy = one.drawn.spreading(by)
    return mend_of(one.art.id, remedy) if remedy else None


def _lies_in(part: Polygon, shape: Polygon) -> bool:
    return part.area < _SMALLER * shape.area and shapely.box(*shape.bounds).covers(shapely.box(*part.bounds))


def _name(held: Sequence[_Owner]) -> str:
    blocks = [list(block) for _, block in groupby(held, key=lambda owner: owner.art)]
    texts = ["".join(owner.part.text for owner in block) for block in blocks]
    if len(blocks) > 1 and all(texts):
        return f"“{' '.join(spelt([owner.part for owner in block]) for block in blocks)}”"
    return " and ".join(_called(block) for block in blocks)


def _called(block: Sequence[_Owner]) -> str:
    return block[0].built.drawn.called([(owner.part, owner.number) for owner in block])


def _gathering(held: Sequence[_Owner], piece: Polygon, joint: float) -> Remedy | None:
    """What may make a piece one with others of its art: not dots, what was cut off, nor one of a part's pieces."""
    if any(owner.art != held[0].art for owner in held):
        return None
    bodies = [owner for owner in held if not owner.is_mark]
    if not bodies or not _all_whole(bodies, piece):
        return None
    here = Counter(owner.part.index for owner in bodies)
    if any(here[owner.part.index] < owner.part.body for owner in bodies):
        return None
    return held[0].built.drawn.gathering(set(here), joint)


def _attaching(held: Sequence[_Owner]) -> Attachment | None:
    """What moves pieces to the part that they belong to, where they are marks of one part and nothing else."""
    parts = {(owner.art, owner.part.index) for owner in held}
    if len(parts) > 1 or not all(owner.is_mark for owner in held):
        return None
    remedy = held[0].built.drawn.attaching(held[0].part.index)
    return Attachment(held[0].art, remedy) if remedy else None


def _all_whole(held: Sequence[_Owner], piece: Polygon) -> bool:
    """Whether a piece of a layer holds pieces of parts whole, and not only what was cut off of them."""
    return all(_is_whole(owner.area, piece) for owner in held)


def _is_whole(part: Polygon, piece: Polygon) -> bool:
    # Shrinking takes as much from every side.
    lacking = [max(0.0, by) for by in _beyond(piece, part)]
    return max(lacking) - min(lacking) <= _CUT_OFF


def _beyond(one: Polygon, other: Polygon) -> tuple[float, float, float, float]:
    """How far another area reaches beyond the box of one to each side; less than 0 where it does not."""
    (left, bottom, right, top), (x0, y0, x1, y1) = one.bounds, other.bounds
    return left - x0, bottom - y0, x1 - right, y1 - top


def _part_of(name: str) -> str:
    return name if name.startswith("a part of ") else f"a part of {name}"
