"""The stack: how high layers lie, what they lie on, and what throws its shadow on what.

A layer that is cut is as thick as its material, however thin that is, and lies on the highest of what is under it where
they overlap. What is printed, scored, engraved or carved is done to the surface it lies on and adds nothing to it.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import shapely

from tinhalo.core.design.design import Layer
from tinhalo.core.design.hand_over import CUTS
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.materials import Material

#: Layers that overlap by less than this (mm²) lie beside each other.
_BESIDE = 0.5


@dataclass(frozen=True)
class Stacked:
    """A layer that leaves, its material and its areas."""

    layer: Layer
    material: Material
    region: Region

    @property
    def thickness(self) -> float:
        """What it adds to the stack, in mm."""
        return self.material.thickness if self.layer.process in CUTS else 0.0


@dataclass(frozen=True)
class Level:
    """How one layer lies in the stack.

    Attributes:
        layer: it.
        region: its areas.
        thickness: what it adds, in mm.
        bottom: height of its underside over the table, in mm.
        rests_on: ids of the layers that it lies on, the next one under it first; none where it lies on the table.
    """

    layer: Layer
    region: Region
    thickness: float
    bottom: float
    rests_on: tuple[str, ...]

    @property
    def top(self) -> float:
        """Height of its upper side in mm."""
        return self.bottom + self.thickness


@dataclass(frozen=True)
class Stack:
    """All layers that are neither hidden nor guides, from the top to the bottom."""

    layers: tuple[Stacked, ...]

    @cached_property
    def levels(self) -> tuple[Level, ...]:
        """How each of them lies: worked out when somebody asks, as outlines do not need it."""
        levels: list[Level] = []
        for one in reversed(self.layers):
            under = [level for level in levels if level.thickness and _overlap(one.region, level.region)]
            height = max((level.top for level in under), default=0.0)
            held = [level.layer.id for level in reversed(under) if level.top == height]
            levels.append(Level(one.layer, one.region, one.thickness, height, tuple(held)))
        return tuple(reversed(levels))

    @cached_property
    def height(self) -> float:
        """Of all of it in mm."""
        return max((level.top for level in self.levels), default=0.0)

    def cut_under(self, id: str) -> list[Stacked]:
        """The cut layers that come under a layer in the stack, the next one first, whether it touches them or not."""
        return [one for one in self._after(id) if one.layer.process in CUTS]

    def cut_over(self, id: str) -> list[Stacked]:
        """The cut layers that come over a layer in the stack."""
        ids = [one.layer.id for one in self.layers]
        return [one for one in self.layers[: ids.index(id) if id in ids else 0] if one.layer.process in CUTS]

    def printed_under(self, id: str) -> list[Stacked]:
        """The print that a print is laid over on the same surface, if there is one."""
        surface = [one for one in self._after(id) if one.layer.process in {*CUTS, "print"}]
        printed = any(one.layer.id == id and one.layer.process == "print" for one in self.layers)
        return surface[:1] if printed and surface and surface[0].layer.process == "print" else []

    def _after(self, id: str) -> tuple[Stacked, ...]:
        ids = [one.layer.id for one in self.layers]
        return self.layers[ids.index(id) + 1 :] if id in ids else ()

    @cached_property
    def shadows(self) -> tuple[tuple[str, str], ...]:
        """Which layer throws its shadow on which: (id of the upper, id of the lower), from the top to the bottom.

        A layer's shadow falls just outside its edge, on the highest layer that shows there.
        """
        thrown: list[tuple[str, str]] = []
        for index, upper in enumerate(self.levels):
            if not upper.thickness:
                continue
            # The lower layers that show beside its edge: what lies higher there hides those under it.
            edge = shapely.difference(upper.region.simple.buffer(upper.thickness), upper.region.simple)
            for lower in self.levels[index + 1 :]:
                if not lower.thickness or lower.top > upper.bottom:
                    continue
                if shapely.intersection(edge, lower.region.simple).area > _BESIDE:
                    thrown.append((upper.layer.id, lower.layer.id))
                edge = shapely.difference(edge, lower.region.simple)
        return tuple(thrown)


def _overlap(one: Region, other: Region) -> bool:
    if one.area.is_empty or other.area.is_empty or not shapely.box(*one.area.bounds).intersects(other.area.envelope):
        return False
    return bool(shapely.intersection(one.simple, other.simple).area > _BESIDE)
