"""The pieces and holes of a layer, to be picked one by one."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from shapely import Polygon

from tinhalo.core.document.anchor import Anchor
from tinhalo.core.engine.anchoring import anchor_at
from tinhalo.core.engine.built import Build
from tinhalo.core.geometry.regions.region import Region

#: So many of each can be picked one by one.
MOST = 300


@dataclass(frozen=True)
class Pickable:
    """A piece or a hole, its area in mm, and a place in it that stays with the nearest part of some art."""

    kind: Literal["piece", "hole"]
    area: Polygon
    anchor: Anchor


def pickable(made: Build, layer: str) -> list[Pickable]:
    """The pieces, then the holes of a layer, the largest first; none where there is no such layer."""
    region = next((one.region for one in made.layers if one.layer.id == layer), Region.empty())
    found: list[Pickable] = []
    for kind, areas in _KINDS:
        for one in sorted(areas(region), key=lambda area: -area.area)[:MOST]:
            inside = one.representative_point()
            anchor = anchor_at(made.art, inside.x, inside.y)
            if anchor is not None:
                found.append(Pickable(kind, one, anchor))
    return found


_KINDS: tuple[tuple[Literal["piece", "hole"], Callable[[Region], list[Polygon]]], ...] = (
    ("piece", lambda region: list(region.area.geoms)),
    ("hole", Region.hole_areas),
)
