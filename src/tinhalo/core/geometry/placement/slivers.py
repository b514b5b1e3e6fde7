"""Slivers: pieces that are too small or nowhere wide enough to be weeded, and bits that hang on by less."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import Polygon

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.regions.region import CRUMB_AREA


@dataclass(frozen=True)
class SliverLimits:
    """What is a sliver: a piece under ``area`` mm², or nowhere as wide as ``width`` mm."""

    area: float
    width: float


def slivers_of(pieces: NDArray[np.object_], sliver: SliverLimits) -> NDArray[np.bool_]:
    """Which pieces are slivers; crumbs that no outline keeps are none."""
    area: Floats = np.array([piece.area for piece in pieces], float)
    edge: Floats = np.array([piece.length for piece in pieces], float)
    small = (area < sliver.area) & (area >= CRUMB_AREA)
    # An area A with an edge P holds a circle of radius A / P: only what may be narrower is looked at closely.
    unsure = np.flatnonzero(~small & (area >= CRUMB_AREA) & (area < edge * sliver.width / 2))
    shrunk = np.asarray(shapely.buffer(pieces[unsure], -sliver.width / 2, quad_segs=8), object)
    small[unsure] = shapely.is_empty(shrunk)
    return small


def hanging_bits(pieces: NDArray[np.object_], area: float, width: float) -> list[Polygon]:
    """Parts of pieces that hang on the rest by necks under ``width`` mm, and are under ``area`` mm² themselves."""
    shrunk = np.asarray(shapely.buffer(pieces, -width / 2, quad_segs=8), object)
    found: list[Polygon] = []
    for cores in shrunk[np.asarray(shapely.get_num_geometries(shrunk)) > 1]:  # pyright: ignore[reportUnknownMemberType]
        parts = [part for part in shapely.get_parts(cores) if part.area >= CRUMB_AREA]
        whole = [part.buffer(width / 2, quad_segs=8) for part in parts]
        largest = max(range(len(whole)), key=lambda k: whole[k].area, default=None)
        found += [one for k, one in enumerate(whole) if k != largest and one.area < area]
    return found
