"""Borders follow what they border: however the face is edited, they keep the margin that is asked of them."""

from __future__ import annotations

import unittest

import shapely

from tests.sampling import sampled
from tests.support import LIBRARY
from tinhalo.core.design.design import Design
from tinhalo.core.engine.build import build
from tinhalo.core.geometry.curves.precision import EXACT
from tinhalo.core.recipe.border_steps import CloseGaps, OutlineRing
from tinhalo.core.recipe.fill_holes_step import FillHoles
from tinhalo.core.recipe.offset_step import Offset
from tinhalo.core.recipe.step import Step
from tinhalo.core.recipe.thicken_step import Thicken
from tinhalo.core.starters import STARTERS, with_words


def with_last(design: Design, layer: str, step: Step) -> Design:
    """The design with one more step in a layer."""
    steps = next(one for one in design.layers if one.id == layer).recipe.steps
    grown = [
        one.model_copy(update={"recipe": one.recipe.model_copy(update={"steps": (*steps, step)})})
        if one.id == layer
        else one
        for one in design.layers
    ]
    return design.model_copy(update={"layers": tuple(grown)})


class Margins(unittest.TestCase):
    def test_borders_keep_their_margin_whatever_becomes_of_the_face(self) -> None:
        """By GEOS: from a border's outer edge, or a line, to the nearest place of the face, within 0.01 mm."""
        measured = 0
        for starter in sampled(STARTERS, 1 / 3):
            face = starter.document.layers[0].id
            for name, edited in {
                "as it is": starter.document,
                "other words": with_words(starter.document, "Wim & Zoë"),
                "every stroke thicker": with_last(starter.document, face, Offset(by=0.6)),
                "thickened": with_last(starter.document, face, Thicken(to=4)),
                "thinner": with_last(starter.document, face, Offset(by=-0.2)),
            }.items():
                made = build(edited, LIBRARY, exact=False, precision=EXACT)
                regions = {one.layer.id: one.region.area for one in made.layers}
                for layer in edited.layers:
                    sources = [regions[one] for one in layer.recipe.sources if one in regions]
                    margin = self.margin(layer.recipe.steps)
                    if not sources or margin is None:
                        continue
                    measured += 1
                    area = regions[layer.id]
                    # A line around it keeps off by its gap, a border goes out by its width.
                    line = any(isinstance(one, OutlineRing) for one in layer.recipe.steps)
                    edges = [area] if line else [piece.exterior for piece in area.geoms]
                    with self.subTest(starter=starter.id, edit=name, layer=layer.id):
                        nearest = shapely.union_all(edges).distance(shapely.union_all(sources))
                        self.assertAlmostEqual(nearest, margin, delta=0.01)
        self.assertGreater(measured, 0)

    def margin(self, steps: tuple[Step, ...]) -> float | None:
        """How far out from its source the outer edge of a border lies, if it is one and nothing else changes that."""
        outer = [one for one in steps if not isinstance(one, CloseGaps | FillHoles)]
        if len(outer) != 1:
            return None
        match outer[0]:
            case Offset(by=by) if by > 0:
                return by
            case OutlineRing(gap=gap):
                return gap
            case _:
                return None
