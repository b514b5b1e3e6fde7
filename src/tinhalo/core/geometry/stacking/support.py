"""How a region lies on the one below it."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import cast

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import MultiPolygon

from tinhalo.core.geometry.regions.region import Region, prepared


@dataclass(frozen=True)
class Resting:
    """A region on the ground that it lies on; without any ground nothing of it lies."""

    region: Region
    ground: Region

    @cached_property
    def pieces(self) -> NDArray[np.object_]:
        """The region's pieces."""
        return np.asarray(shapely.get_parts(self.region.area), object)

    @cached_property
    def whole(self) -> NDArray[np.bool_]:
        """Of each piece whether all of it lies on the ground."""
        return np.asarray(shapely.covers(prepared(self.ground.area), self.pieces), bool)

    @cached_property
    def off(self) -> Region:
        """The pieces that do not all lie on the ground."""
        if not self.whole.any():
            return self.region
        return Region(cast(MultiPolygon, shapely.multipolygons(self.pieces[~self.whole])))

    @cached_property
    def lying(self) -> Region:
        """What lies on the ground, with fewer vertices, to measure."""
        # Where edges run along each other, GEOS takes a time that grows with their vertices.
        partly = shapely.get_parts(shapely.intersection(self.off.simple, self.ground.simple))
        return Region.of(np.concatenate([self.pieces[self.whole], np.asarray(partly, object)]))
