"""Where parts of art run into each other."""

from __future__ import annotations

from collections.abc import Iterable

import shapely
from shapely import LineString
from shapely.geometry.base import BaseGeometry

from tinhalo.core.artwork.art import Part


def seams(parts: Iterable[Part]) -> list[LineString]:
    """The stretches of parts' outlines that lie inside a neighbour, in mm: gone once the parts are united."""
    pieces = [piece for part in parts for piece in part.pieces]
    if not pieces:
        return []
    pairs: list[tuple[int, int]] = shapely.STRtree(pieces).query(pieces, predicate="intersects").T.tolist()
    found: list[BaseGeometry] = [pieces[i].exterior.intersection(pieces[j]) for i, j in pairs if i != j]
    return [line for line in shapely.get_parts(found) if isinstance(line, LineString) and line.length > 0]
