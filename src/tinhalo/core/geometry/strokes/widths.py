"""How wide a region's strokes are, and where it is thinnest.

A stroke's width is twice the distance of its middle line (the medial axis) from the edge. Not every part of that line
is the middle of a stroke: it also runs into every corner and pointed end, where it comes as close to the edge as one
likes. So the axis is burnt back from its loose ends, as a fuse is, and a place counts as a stroke when

- the fire never gets there: rings, and what joins them; or
- it is further from the end than twice its own width, and than a millimetre: a pointed end or a serif is no stroke; or
- it is a neck: narrower than what hangs on it.

A part with no such place is as wide as its widest circle. The twice and the millimetre are our own settings, found by
trying shapes of known width; makers judge pointed ends by eye in the same way (common practice).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely
from shapely import LineString, MultiPolygon

from tinhalo.core.geometry.arrays import Floats, Ints
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.strokes.burning import burn
from tinhalo.core.geometry.strokes.medial_axis import MedialAxis, medial_axes, medial_axis

#: Widths are told right within this, in mm.
MEASURED_WITHIN = 0.02
#: How far a stroke's place is from its end at least, in widths and in mm.
TIP_WIDTHS = 2.0
TIP_LENGTH = 1.0
_NECK = 0.012
_ROUNDING = 1e-9
_SPOKE = 0.95
_TIP_SHARE = 0.5


@dataclass(frozen=True)
class Widths:
    """Widths along a medial axis.

    Attributes:
        axis: the medial axis.
        width: shape (m,), the least width in mm along each piece of the axis; infinite where it is not the middle of
            a stroke.
        place: shape (m, 2), where that is, in mm.
    """

    axis: MedialAxis
    width: Floats
    place: Floats

    @property
    def narrowest(self) -> float | None:
        """The least width in mm; None where there is nothing."""
        return float(self.width.min()) if len(self.width) else None

    @property
    def narrowest_at(self) -> tuple[float, float] | None:
        """Where that is, in mm."""
        if not len(self.width):
            return None
        x, y = self.place[self.width.argmin()].tolist()
        return (x, y)

    def thinner_than(self, width: float) -> list[LineString]:
        """The stretches of the axis where a stroke is thinner, in mm."""
        return self.between(0, width)

    def between(self, start: float, end: float) -> list[LineString]:
        """The stretches of the axis where a stroke is at least as wide as ``start``, and narrower than ``end``."""
        return self._lines(np.flatnonzero((start <= self.width) & (self.width < end)))

    def between_tips(self, width: float) -> list[LineString]:
        """The stretches of the axis where a stroke is thinner, in mm, without what runs on from them into tips."""
        pieces = np.flatnonzero(self.width < width)
        nodes = self.axis.points[self.axis.ends[pieces]]
        # Closer there than where it is thinnest: that end is not the middle of a stroke any more.
        into_tip = 2 * self.axis.radius[self.axis.ends[pieces]] < self.width[pieces, None] * (1 - _ROUNDING)
        # A thousandth of the way is left: what is widest in its middle must not become a line without length.
        thinnest = self.place[pieces, None]
        nodes = np.where(into_tip[..., None], thinnest + (nodes - thinnest) / 1000, nodes)
        return self._runs(nodes, pieces)

    def thin_strokes(self, width: float) -> list[LineString]:
        """The same, out to the ends of the strokes: into every tip that is at least half as wide as what it ends."""
        is_thin = self.width < width
        thin = set(np.flatnonzero(is_thin).tolist())
        # Only what is not thin yet can be added, and most nodes have no such piece.
        meeting: dict[int, list[int]] = {}
        ends: list[list[int]] = self.axis.ends.tolist()
        for piece in np.flatnonzero(~is_thin).tolist():
            for node in ends[piece]:
                meeting.setdefault(node, []).append(piece)
        radius: list[float] = self.axis.radius.tolist()
        waiting = [(node, radius[node] * _TIP_SHARE) for piece in thin for node in ends[piece] if node in meeting]
        while waiting:
            node, least = waiting.pop()
            for piece in meeting.get(node, ()):
                other = ends[piece][0] + ends[piece][1] - node
                if piece not in thin and least <= radius[other] < width / 2:
                    thin.add(piece)
                    waiting.append((other, least))
        return self._lines(np.array(sorted(thin), np.intp))

    def lengths_under(self, width: float) -> Floats:
        """How far along each piece of the axis a stroke is thinner, in mm, shape (m,).

        From where it is thinnest the width grows as a parabola's distance does from its focus (its square root is what
        is left of the way); where it grows evenly this is a little too far.
        """
        ends = 2 * self.axis.radius[self.axis.ends]
        least = 2 * self.axis.least
        with np.errstate(divide="ignore", invalid="ignore"):
            share = np.sqrt(np.clip((width - least)[:, None] / (ends - least[:, None]), 0, 1))
        share = np.where(ends < width, 1.0, np.nan_to_num(share))
        ways = np.stack([self.axis.share, 1 - self.axis.share], axis=1)
        return self.axis.lengths * (share * ways).sum(axis=1)

    def bays_under(self, width: float) -> list[LineString]:
        """The stretches of the axis where the sides are closer and run along each other, or meet at an angle.

        Along the spokes that run off a curve the distance grows as fast as one gets away from it; these are left out.
        """
        axis = self.axis
        radius = axis.radius[axis.ends]
        steep = np.abs(radius[:, 1] - radius[:, 0]) > _SPOKE * axis.lengths
        return self._lines(np.flatnonzero(~steep & (axis.least < width / 2)))

    def _lines(self, pieces: Ints) -> list[LineString]:
        return self._runs(self.axis.points[self.axis.ends[pieces]], pieces)

    def _runs(self, nodes: Floats, pieces: Ints) -> list[LineString]:
        runs = np.stack([nodes[:, 0], self.place[pieces], nodes[:, 1]], axis=1)
        return list(np.atleast_1d(np.asarray(shapely.linestrings(runs), object)))


@dataclass(frozen=True)
class Measured:
    """Widths of a region's strokes and of the gaps around them."""

    strokes: Widths
    gaps: Widths

    @property
    def nbytes(self) -> int:
        """Memory held, in bytes."""
        return sum(w.axis.nbytes + w.width.nbytes + w.place.nbytes for w in (self.strokes, self.gaps))


def measure(region: Region) -> Measured:
    """Measure all strokes and gaps of a region."""
    strokes, gaps = medial_axes(region)
    return Measured(_widths(strokes), _widths(gaps))


def measure_one(area: MultiPolygon, *, inside: bool) -> Widths:
    """Measure only an area's strokes, or only the gaps around them, with its edges as they are."""
    return _widths(medial_axis(area, inside=inside))


def _widths(axis: MedialAxis) -> Widths:
    if not len(axis.ends):
        return Widths(axis, np.zeros(0), np.zeros((0, 2)))
    width, place = _stroke_widths(axis)
    # A small part without strokes is as wide as its widest circle.
    reach = axis.radius[axis.ends].max(axis=1)
    for part in np.setdiff1d(axis.part, axis.part[np.isfinite(width)]):
        own = np.flatnonzero(axis.part == part)
        widest = own[reach[own].argmax()]
        width[widest] = 2 * reach[widest]
        place[widest] = axis.points[axis.ends[widest, axis.radius[axis.ends[widest]].argmax()]]
    return Widths(axis, width, place)


def _stroke_widths(axis: MedialAxis) -> tuple[Floats, Floats]:
    """Least width of a stroke along each piece, infinite where there is none; and its place, shape (m, 2)."""
    lengths = axis.lengths
    fire = burn(axis, lengths)
    burnt, beyond, first = fire.way, fire.beyond, fire.first
    backwards = first == axis.ends[:, 1]
    share = np.where(backwards, 1 - axis.share, axis.share)
    width, at = 2 * axis.least, axis.least_at.copy()
    counts = burnt + share * lengths >= np.maximum(TIP_WIDTHS * width, TIP_LENGTH)
    counts |= (first < 0) | (axis.least < beyond - _NECK)

    # A long piece may begin as a pointed end and become a stroke on its way, widening evenly: as soon as it is long
    # enough, and where it widens slower than it goes on, once it is so for its width.
    late = np.flatnonzero(~counts)
    far = axis.ends[late, np.where(backwards[late], 0, 1)]
    start, end = width[late], 2 * axis.radius[far]
    since, left = burnt[late] + share[late] * lengths[late], (1 - share[late]) * lengths[late]
    wanting, gain = TIP_WIDTHS * start - since, left - TIP_WIDTHS * (end - start)
    with np.errstate(divide="ignore", invalid="ignore"):
        on = np.fmin(np.fmax((TIP_LENGTH - since) / left, np.where(gain > 0, wanting / gain, 0.0)), 1.0)
    becomes = (on < 1) & (wanting <= on * gain + _ROUNDING)
    on = np.where(becomes, on, 1.0)
    width[late] = np.where(becomes, start + (end - start) * on, np.inf)
    at[late] = at[late] + (axis.points[far] - at[late]) * on[:, None]
    return width, at
