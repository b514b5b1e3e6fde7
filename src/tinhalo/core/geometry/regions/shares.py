"""A region in shares that are worked on side by side: each some of its pieces, with what is around them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from operator import itemgetter

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import MultiPolygon, Polygon

from tinhalo.core.geometry.regions.region import Region

#: Sharing out pays where no share has more than this part of all vertices.
_PAYS = 0.75


@dataclass(frozen=True)
class Share:
    """Some pieces of a region.

    Attributes:
        region: they, and what of the others is around them.
        own: they.
    """

    region: Region
    own: NDArray[np.object_]


def shared_out(region: Region, reach: float, count: int) -> list[Share]:
    """A region in up to ``count`` shares of about as many vertices; none where that does not pay.

    Args:
        region: its pieces are shared out whole.
        reach: how far away something can be that has a part in what becomes of a piece, in mm.
        count: of the shares, at most.
    """
    pieces = np.asarray(shapely.get_parts(region.area), object)
    if len(pieces) < 2 or count < 2:
        return []
    middles = np.array([one.bounds for one in pieces]).reshape(-1, 2, 2).mean(axis=1)
    both = [_along(region, pieces[np.argsort(middle, kind="stable")], reach, count) for middle in middles.T]
    most, shares = min([(max(_size(one.region.area) for one in shares), shares) for shares in both], key=itemgetter(0))
    return shares if most <= _PAYS * _size(region.area) else []


def _along(region: Region, pieces: NDArray[np.object_], reach: float, count: int) -> list[Share]:
    """Its pieces shared out in this order."""
    sizes = np.array([_size(one) for one in pieces])
    # Each piece goes where the middle one of its vertices does.
    which = ((np.cumsum(sizes) - sizes / 2) * count / sizes.sum()).astype(np.intp)
    return [_share(region, pieces[which == k], pieces[which != k], reach) for k in np.unique(which).tolist()]


def _share(region: Region, own: NDArray[np.object_], others: NDArray[np.object_], reach: float) -> Share:
    x0, y0, x1, y1 = MultiPolygon(own.tolist()).bounds
    seen = Polygon.from_bounds(x0 - reach, y0 - reach, x1 + reach, y1 + reach)
    around = np.asarray(shapely.intersection(others, seen), object)
    return Share(Region.of(np.concatenate([own, around]), region.drawn), own)


def joined(shares: Sequence[Share], made: Sequence[Region]) -> Region | None:
    """What became of all pieces, from what became of each share; pieces may be parted, gone or one by now.

    None where that is not plain: pieces of two shares that have come to touch cannot be worked on apart.
    """
    kept = [_of_own(share, region) for share, region in zip(shares, made, strict=True)]
    if any(parts is None for parts in kept):
        return None
    parts = [part for some in kept if some is not None for part in some.tolist()]
    together = Region.of(np.array(parts, object), made[0].drawn)
    return together if together.pieces == len(parts) and together.area.is_valid else None


def _of_own(share: Share, made: Region) -> NDArray[np.object_] | None:
    """The parts that became of a share's own pieces; None where it cannot be said of each part."""
    parts = np.asarray(shapely.get_parts(made.area), object)
    pieces = shapely.STRtree(share.own)
    # What grew holds the point that its piece did, and what lost something has its own point in its piece.
    _, grown = shapely.STRtree(parts).query(shapely.point_on_surface(share.own), predicate="within")
    less, _ = pieces.query(shapely.point_on_surface(parts), predicate="within")
    own = np.union1d(grown, less)
    others = np.delete(parts, own)
    return None if len(pieces.query(others, predicate="intersects")[0]) else parts[own]


def _size(area: shapely.Geometry) -> int:
    return int(shapely.get_num_coordinates(area))  # pyright: ignore[reportUnknownMemberType]
