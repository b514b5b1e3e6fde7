"""Bleed: what is printed up to an edge reaches over it, so that a cut a little off shows no white."""

from __future__ import annotations

from tinhalo.core.geometry.curves.precision import Precision
from tinhalo.core.geometry.regions.offset import offset
from tinhalo.core.geometry.regions.overlay import intersect, subtract, union
from tinhalo.core.geometry.regions.region import Region

#: What ends this far inside an edge (mm), or nearer to it, is meant to reach it.
NEAR = 0.5


def bled(region: Region, edge: Region, by: float, precision: Precision) -> Region:
    """The region with what reaches an edge going ``by`` mm over it; further inside it stays as it is.

    Args:
        region: what is printed.
        edge: what is cut.
        by: how far it goes over the edge, in mm.
        precision: how finely arcs are drawn.
    """
    inside = offset(edge, -NEAR, precision)
    reaching = subtract(region, inside)
    if edge.is_empty or reaching.is_empty:
        return region
    rim, around = subtract(edge, inside), subtract(offset(edge, by, precision), edge)
    up_to_it = intersect(offset(reaching, NEAR, precision), rim)
    return union([region, up_to_it, intersect(offset(reaching, by + NEAR, precision), around)])
