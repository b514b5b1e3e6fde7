"""A test cut: small shapes of a board's material, to be weeded or measured before the job is cut."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from tinhalo.core.design.hand_over import CUTS
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.sketch import Sketch
from tinhalo.core.output.drawing import Drawing

#: Sides of the square and radius of the circle in it, in mm (common practice: large enough for a caliper).
SIDE, RADIUS = 10.0, 2.5


def trial_cut(drawing: Drawing) -> Drawing:
    """A circle in a square as the first cut layer of a drawing is cut; an empty drawing where nothing of it is."""
    layer = next((one for one in drawing.layers if one.process in CUTS), None)
    if layer is None:
        return replace(drawing, layers=())
    square = Contour.of_ring(np.array([[0, 0], [SIDE, 0], [SIDE, SIDE], [0, SIDE]], float))
    middle = (SIDE / 2, SIDE / 2)
    circle = Sketch().start(SIDE / 2 + RADIUS, SIDE / 2).arc(middle, (RADIUS, RADIUS), 0, 360).close()
    own = replace(layer, pieces=((square,), tuple(circle.outline().contours())), strokes=())
    return Drawing(f"{drawing.title}, test cut", (0.0, 0.0, SIDE, SIDE), (own,))
