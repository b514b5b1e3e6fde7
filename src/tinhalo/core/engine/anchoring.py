"""Where anchors are, and the anchors of places."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import shapely
from shapely import MultiPolygon

from tinhalo.core.document.anchor import Anchor
from tinhalo.core.engine.built import BuiltArt
from tinhalo.core.geometry.arrays import XY, Floats


def anchor_place(built: BuiltArt, anchor: Anchor) -> XY | None:
    """Where an anchor is, in mm; None when its part is not there."""
    middle = _middle(built, anchor.part)
    if middle is None:
        return None
    x, y = (middle + built.art.basis() @ (anchor.x, anchor.y)).tolist()
    # Picked places need not be exact, but must not change with the last digit of a middle.
    return (round(x, 6), round(y, 6))


def anchor_at(built: Sequence[BuiltArt], x: float, y: float) -> Anchor | None:
    """The anchor of a place (mm), on the nearest part of any of the art; None when there is none."""
    near = [
        (MultiPolygon(part.pieces).distance(shapely.Point(x, y)), one, index)
        for one in built
        for index, part in one.drawn.parts.items()
        if part.pieces
    ]
    if not near:
        return None
    _, one, index = min(near, key=lambda found: found[0])
    return anchor_on(one, index, x, y)


def anchor_on(built: BuiltArt, part: int, x: float, y: float) -> Anchor:
    """The anchor of a place (mm) on one of its parts that has an outline."""
    middle = _middle(built, part)
    along = np.linalg.solve(built.art.basis(), np.array([x, y]) - middle)
    return Anchor(art=built.art.id, part=part, x=round(float(along[0]), 5), y=round(float(along[1]), 5))


def _middle(built: BuiltArt, index: int) -> Floats | None:
    """The middle of a part's largest piece, in mm."""
    part = built.drawn.parts.get(index)
    return None if part is None or not part.pieces else shapely.get_coordinates(part.pieces[0].centroid)[0]
