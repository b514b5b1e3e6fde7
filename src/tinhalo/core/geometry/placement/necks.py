"""Necks that cutting a channel out of letters leaves: strokes that give way and did not before."""

from __future__ import annotations

from functools import cached_property

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import Polygon

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.regions.overlay import subtract
from tinhalo.core.geometry.regions.region import CRUMB_AREA, Region
from tinhalo.core.geometry.regions.robust import clipped
from tinhalo.core.geometry.strokes.stretches import weak_strokes

#: A thin place of what is cut is one of the letters' own within this, in mm.
_OWN = 0.3
#: So many failures are kept in mind.
_MEMORY = 16


class Necks:
    """Counts the necks that a channel leaves of a block of letters.

    Args:
        block: the letters before they are cut.
        width: what is narrower is a neck, in mm.
    """

    def __init__(self, block: Region, width: float) -> None:
        self._block = block
        self._width = width
        self._failed: list[int] = []

    def at_least(self, channel: Region, most: int) -> int:
        """How many there are at least, at a glance: pieces that fall apart once half the width is off their edges.

        Letter by letter, those that failed last first; counting stops once there are more than ``most``.
        """
        total = 0
        met: list[int] = self._tree.query(channel.area, predicate="intersects").tolist()
        for letter in sorted(met, key=self._failed_last):
            piece: Polygon = self._pieces[letter]
            near = clipped(channel.area, piece.bounds)
            found = _falling_apart(shapely.get_parts(shapely.difference(piece, near)), self._width)
            extra = max(0, found - self._own_falls[letter])
            if extra:
                self._failed.append(letter)
            total += extra
            if total > most:
                break
        return total

    def _failed_last(self, letter: int) -> int:
        return -max((k for k, one in enumerate(self._failed[-_MEMORY:]) if one == letter), default=-1)

    @cached_property
    def _pieces(self) -> list[Polygon]:
        return [piece for piece in shapely.get_parts(self._block.area) if isinstance(piece, Polygon)]

    @cached_property
    def _tree(self) -> shapely.STRtree:
        return shapely.STRtree(self._pieces)

    @cached_property
    def _own_falls(self) -> list[int]:
        return [_falling_apart(np.array([piece], object), self._width) for piece in self._pieces]

    def count(self, channel: Region) -> int:
        """How many there are, found as the findings find them; thin places of the letters themselves do not count."""
        found = _weak_places(subtract(self._block, channel), self._width)
        if not len(found):
            return 0
        if not len(self._own):
            return len(found)
        own = shapely.STRtree(np.asarray(shapely.points(self._own), object))
        near = own.query(np.asarray(shapely.points(found), object), predicate="dwithin", distance=_OWN)[0]
        return len(found) - len(np.unique(near))

    @cached_property
    def _own(self) -> Floats:
        return _weak_places(self._block, self._width)


def _weak_places(region: Region, width: float) -> Floats:
    return np.array([section.at for _, section in weak_strokes(region, width, 0)], float).reshape(-1, 2)


def _falling_apart(pieces: NDArray[np.object_], width: float) -> int:
    """How many more parts there are once half the width is taken off all edges."""
    shrunk = np.asarray(shapely.buffer(pieces, -width / 2, quad_segs=4), object)
    parts, owner = shapely.get_parts(shrunk, return_index=True)
    areas = np.array([part.area for part in parts], float)
    counts = np.bincount(owner[areas >= CRUMB_AREA], minlength=len(pieces)) if len(parts) else np.zeros(len(pieces))
    return int(np.maximum(counts - 1, 0).sum())
