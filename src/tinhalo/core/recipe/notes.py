"""What a thickening step did: by how much it grew, and which holes closed or are new."""

from __future__ import annotations

from dataclasses import dataclass

import shapely
from shapely import Polygon, STRtree

from tinhalo.core.geometry.region import Region
from tinhalo.core.recipe.evaluate import Cooked, Evaluator
from tinhalo.core.recipe.recipe import Recipe
from tinhalo.core.recipe.thicken_step import Thicken


@dataclass(frozen=True)
class StepNote:
    """Of one step.

    Attributes:
        step: its index.
        growth: how much it grew all round in mm; None where it only thickened in places.
        closed: for each hole that closed, the growth in mm at which it does: the radius of its widest circle.
        new: number of holes that were no holes before.
    """

    step: int
    growth: float | None
    closed: tuple[float, ...]
    new: int


def step_notes(recipe: Recipe, cooked: Cooked, evaluator: Evaluator) -> tuple[StepNote, ...]:
    """A note for every step that thickens."""
    notes: list[StepNote] = []
    for index, step in enumerate(recipe.steps):
        if isinstance(step, Thicken):
            before, after = cooked.stages[index], cooked.stages[index + 1]
            gone, new = _without(before.region, after.region), _without(after.region, before.region)
            closed = tuple(sorted(shapely.maximum_inscribed_circle(hole).length for hole in gone))
            notes.append(StepNote(index, evaluator.growth(step, before), closed, len(new)))
    return tuple(notes)


def _without(these: Region, others: Region) -> list[Polygon]:
    """Holes of one region that overlap no hole of the other."""
    tree = STRtree(others.hole_areas())
    return [hole for hole in these.hole_areas() if not len(tree.query(hole, predicate="intersects"))]
