"""How wide the strokes of a layer are: measured when somebody asks, as that takes longer than the layer itself."""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass

from shapely import LineString

from tinhalo.core.engine.built import BuiltLayer
from tinhalo.core.geometry.strokes.widths import Measured
from tinhalo.core.recipe.evaluate import measured
from tinhalo.core.runtime.memo import Memo

#: Where a band ends and the next begins, in least widths of the material.
_EDGES = (1.0, 1.5, 2.5)


@dataclass(frozen=True)
class Band:
    """The middle lines of strokes from one width up to another, in mm; the last band has no end."""

    begin: float
    end: float
    middles: list[LineString]


def layer_widths(built: BuiltLayer, memo: Memo) -> Measured:
    """Widths of a layer's strokes and gaps; kept."""
    return measured(built.key, built.region, memo)


def width_bands(built: BuiltLayer, memo: Memo) -> list[Band]:
    """The strokes of a layer in bands of width: those in the first are too thin for its material."""
    strokes = layer_widths(built, memo).strokes
    edges = [0.0, *(share * built.material.limits.least_width for share in _EDGES), math.inf]
    return [Band(start, end, list(strokes.between(start, end))) for start, end in itertools.pairwise(edges)]
