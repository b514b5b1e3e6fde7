"""What can be done with an outline by hand: models with one pure function each, as steps of recipes are."""

from __future__ import annotations

from abc import abstractmethod
from typing import Annotated, Literal

import numpy as np
import shapely
from pydantic import Field
from shapely import Polygon

from tinhalo.core.artwork.error import ArtError
from tinhalo.core.artwork.outlines.path_text import MOST_NODES
from tinhalo.core.document.base import Strict
from tinhalo.core.document.fields import mm
from tinhalo.core.geometry.curves import reshaping
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.fill import filled_positive
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.curves.painted import united
from tinhalo.core.geometry.curves.precision import EXACT
from tinhalo.core.geometry.exact.recover import trace
from tinhalo.core.geometry.features.bridge import bars_between
from tinhalo.core.geometry.regions.region import Region

Index = Annotated[int, Field(ge=0, lt=MOST_NODES)]
Indices = Annotated[tuple[Index, ...], Field(min_length=1, max_length=MOST_NODES)]

_NO_STRETCH = "Take a stretch first: two nodes next to each other, or more."


class Edit(Strict):
    """Base of all edits. Kinds add ``op``, their fields and ``made``."""

    @abstractmethod
    def made(self, outline: Outline) -> Outline:
        """The outline afterwards.

        Raises:
            ArtError: with a sentence, when it cannot be done.
        """


class AtNodes(Edit):
    """Base of edits at nodes, which are counted through the whole outline."""

    nodes: Indices

    def made(self, outline: Outline) -> Outline:
        """The outline afterwards."""
        if max(self.nodes) >= len(outline.segments):
            raise ArtError("Some of these nodes are not there any more: take them anew.")
        return self.changed(outline)

    @abstractmethod
    def changed(self, outline: Outline) -> Outline:
        """The outline afterwards, with all nodes there."""


class RemoveNodes(AtNodes):
    """Take nodes out; the outline stays near where it was."""

    op: Literal["remove_nodes"] = "remove_nodes"

    def changed(self, outline: Outline) -> Outline:
        """Without them."""
        return reshaping.without_nodes(outline, self.nodes)


class Smooth(AtNodes):
    """Nodes without a corner."""

    op: Literal["smooth"] = "smooth"

    def changed(self, outline: Outline) -> Outline:
        """With them smooth."""
        return reshaping.smoothed(outline, self.nodes)


class Corner(AtNodes):
    """Nodes with a corner."""

    op: Literal["corner"] = "corner"

    def changed(self, outline: Outline) -> Outline:
        """With corners there."""
        return reshaping.cornered(outline, self.nodes)


class Straighten(AtNodes):
    """One straight line along each stretch."""

    op: Literal["straighten"] = "straighten"

    def changed(self, outline: Outline) -> Outline:
        """With straight lines."""
        made = reshaping.straightened(outline, self.nodes)
        if len(made.segments) == len(outline.segments) and np.allclose(made.segments, outline.segments):
            raise ArtError(f"{_NO_STRETCH} A whole ring cannot be one line.")
        return made


class EvenOut(AtNodes):
    """Each stretch without what is uneven."""

    op: Literal["even_out"] = "even_out"
    reach: Annotated[float, mm("along which it is evened out", ge=0.01, le=100)] = 1

    def changed(self, outline: Outline) -> Outline:
        """Evened out."""
        ends = zip(outline.starts[:-1].tolist(), outline.starts[1:].tolist(), strict=True)
        if not any(reshaping.stretches({n - a for n in self.nodes if a <= n < b}, b - a) for a, b in ends):
            raise ArtError(_NO_STRETCH)
        return reshaping.evened_out(outline, self.nodes, self.reach)


class AddNode(Edit):
    """A node more on a segment."""

    op: Literal["add_node"] = "add_node"
    segment: Index
    at: Annotated[float, Field(ge=0.01, le=0.99, allow_inf_nan=False)] = 0.5

    def made(self, outline: Outline) -> Outline:
        """The same outline."""
        if self.segment >= len(outline.segments):
            raise ArtError("That stretch is not there any more.")
        if len(outline.segments) >= MOST_NODES:
            raise ArtError(f"It has {MOST_NODES:,} nodes already, which is the most of one outline.")
        return reshaping.with_node(outline, self.segment, self.at)


class Simplify(Edit):
    """Fewer nodes, nowhere further than so much from what it was."""

    op: Literal["simplify"] = "simplify"
    within: Annotated[float, mm("that it may deviate at most", ge=0.001, le=10)] = 0.05

    def made(self, outline: Outline) -> Outline:
        """The simpler outline."""
        return reshaping.simplified(outline, self.within)


class RemoveRings(Edit):
    """Pieces deleted, with the holes in them; holes filled."""

    op: Literal["remove_rings"] = "remove_rings"
    rings: Indices

    def made(self, outline: Outline) -> Outline:
        """Without them."""
        contours = _there(outline, self.rings)
        areas = outline.areas
        gone = set(self.rings)
        owners = owners_of(outline)
        gone |= {i for i, owner in enumerate(owners) if areas[i] < 0 and owner in self.rings}
        return Outline.from_contours([one for i, one in enumerate(contours) if i not in gone])


class JoinPieces(Edit):
    """Pieces joined by straight bars between where they are nearest to each other."""

    op: Literal["join_pieces"] = "join_pieces"
    rings: Indices
    width: Annotated[float, mm("of the bars", ge=0.05, le=1_000)] = 1

    def made(self, outline: Outline) -> Outline:
        """One piece of them."""
        _there(outline, self.rings)
        pieces = pieces_of(outline)
        on = [next((k for k, piece in enumerate(pieces) if _has(piece, outline, ring)), None) for ring in self.rings]
        chosen = [pieces[k] for k in dict.fromkeys(on) if k is not None]
        if len(chosen) < 2:
            raise ArtError("Take two pieces first, or more: these are one piece already.")
        bars = bars_between(chosen, self.width, 1e6, EXACT)
        if _crosses(outline):
            # What is dragged over itself has no plain outline yet.
            return trace(Region.of(shapely.union_all([*pieces, *bars]), (outline,))).outline
        edges = [Outline.from_contours([Contour.of_ring(np.asarray(bar.exterior.coords)[:-1])]) for bar in bars]
        turned = [one if one.areas[0] > 0 else Outline.from_contours([one.contours()[0].reversed()]) for one in edges]
        return united([outline, *turned])


AnyEdit = Annotated[
    RemoveNodes | AddNode | Smooth | Corner | Straighten | EvenOut | Simplify | RemoveRings | JoinPieces,
    Field(discriminator="op"),
]


def pieces_of(outline: Outline) -> list[Polygon]:
    """The areas of an outline in its own mm, without an order."""
    area = shapely.union_all(np.array(filled_positive(outline.flattened(EXACT.chord)), object))
    return [one for one in shapely.get_parts(area).tolist() if isinstance(one, Polygon)]


def owners_of(outline: Outline) -> list[int]:
    """Of each contour the smallest one that it lies in; -1 of those that lie in none."""
    rings = [Polygon(ring) if len(ring) >= 3 else Polygon() for ring in outline.flattened(0.01)]
    size = [ring.area for ring in rings]
    starts = [shapely.Point(at) for at in outline.segments[outline.starts[:-1], 0]]
    inner, outer = shapely.STRtree(rings).query(starts, "within")
    owners = [-1] * len(rings)
    for i, k in zip(inner.tolist(), outer.tolist(), strict=True):
        if i != k and size[k] > size[i] and (owners[i] < 0 or size[k] < size[owners[i]]):
            owners[i] = k
    return owners


def _crosses(outline: Outline) -> bool:
    """Whether contours cross themselves or each other."""
    rings = [ring for ring in outline.flattened(EXACT.chord) if len(ring) >= 3]
    return not shapely.MultiLineString([np.vstack([ring, ring[:1]]) for ring in rings]).is_simple


def _there(outline: Outline, rings: tuple[int, ...]) -> list[Contour]:
    contours = outline.contours()
    if max(rings) >= len(contours):
        raise ArtError("Some of these pieces are not there any more: take them anew.")
    return contours


def _has(piece: Polygon, outline: Outline, ring: int) -> bool:
    """Whether a contour is one of a piece's edges."""
    return piece.boundary.distance(shapely.Point(outline.segments[outline.starts[ring], 0])) < EXACT.chord
