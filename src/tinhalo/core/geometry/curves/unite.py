"""Unite overlapping outlines with their curves kept (skia-pathops)."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import pathops
import shapely

from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.curves.path_engine import hand_over, taken_back


def unite(outlines: Sequence[Outline], grain: float) -> Outline:
    """The non-zero union of closed outlines as non-overlapping contours.

    Args:
        outlines: contours in mm; direction matters (non-zero winding, as fonts are filled).
        grain: mm per unit handed to the path engine, which computes in single precision; outlines a few
            thousand units across keep their shape to far below a thousandth of a millimetre.
    Returns:
        contours whose even-odd filling is the union. Lines, quadratics and cubics stay what they were.
        The engine fails on rare inputs: callers compare the result with an independent union.
    """
    contours = [Outline.from_contours([c]) for outline in outlines for c in outline.contours()]
    return Outline.joined([_unite_together(group, grain) for group in _groups(contours)])


def _unite_together(outlines: Sequence[Outline], grain: float) -> Outline:
    path = pathops.Path()
    for outline in outlines:
        hand_over(path, outline, 1 / grain)
    path.simplify(fix_winding=True, keep_starting_points=False)
    return taken_back(path, grain)


def _groups(contours: Sequence[Outline]) -> list[list[Outline]]:
    """Contours whose boxes overlap, directly or through others: the engine's time grows with the square of each."""
    if not contours:
        return []
    low = np.array([c.segments.min(axis=(0, 1)) for c in contours])
    high = np.array([c.segments.max(axis=(0, 1)) for c in contours])
    boxes = shapely.box(low[:, 0], low[:, 1], high[:, 0], high[:, 1])
    clumps = shapely.get_parts(shapely.disjoint_subset_union_all(boxes))
    which, clump = shapely.STRtree(clumps).query(boxes, predicate="intersects")
    groups: dict[int, list[Outline]] = {}
    for contour, group in zip(which, clump, strict=True):
        groups.setdefault(int(group), []).append(contours[int(contour)])
    return list(groups.values())
