"""Printed areas that end at the edge that is cut round them, where white shows as soon as the cut is a little off."""

from __future__ import annotations

import numpy as np
import shapely
from shapely.ops import linemerge

from tinhalo.core.findings.finding import Finding, outline_of, rounded
from tinhalo.core.findings.mends.mend import Mend
from tinhalo.core.findings.surveyed import SLACK, Surveyed
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.regions.proximity import edge_tree, nearest_edges
from tinhalo.core.geometry.regions.region import Region, edges_of, prepared
from tinhalo.core.geometry.stacking.bleed import NEAR
from tinhalo.core.recipe.combine_steps import Bleed
from tinhalo.core.recipe.recipe import Recipe

#: The edge is looked at in steps of this, in mm.
_STEP = 0.4
#: Shorter stretches (mm) are only where something printed crosses the edge.
_LEAST = 1.0


def check_bleed(one: Surveyed) -> list[Finding]:
    """Whether a print that reaches the edge of what it is printed on reaches far enough over it."""
    wanted = one.limits.bleed
    if one.below is None or one.below[1].area.is_empty or not wanted:
        return []
    below, ground = one.below
    printed = prepared(one.region.area)

    def covered(points: Floats) -> np.ndarray[tuple[int], np.dtype[np.bool_]]:
        return np.asarray(shapely.contains_xy(printed, *points.T), bool)

    edges = edges_of(shapely.segmentize(ground.area, _STEP))
    middles, way = edges.mean(axis=1), edges[:, 1] - edges[:, 0]
    # The area is on the left: this points out of it.
    out = np.stack([way[:, 1], -way[:, 0]], axis=1) / np.maximum(np.hypot(*way.T), 1e-12)[:, None]
    short = np.flatnonzero(~covered(middles + out * (wanted - SLACK)))
    reaches = np.zeros(len(short), bool)
    for inwards in (0, NEAR / 2, NEAR - SLACK):
        asked = np.flatnonzero(~reaches)
        reaches[asked] = covered((middles - out * inwards)[short[asked]])
    short = short[reaches]
    if not len(short):
        return []
    lines = linemerge(shapely.multilinestrings(edges[short]))
    stretches = [line for line in shapely.get_parts(lines).tolist() if line.length >= _LEAST]
    if not stretches:
        return []
    far, _ = nearest_edges(middles[short], edge_tree(printed))
    over = np.where(covered(middles[short]), far, -far)
    longest = max(stretches, key=lambda line: line.length)
    length = sum(line.length for line in stretches)
    return [
        Finding(
            kind="hairline",
            severity="warning",
            layer=one.layer.id,
            sentence=(
                f"{one.title} ends at the edge of “{below.title}” along {one.length(round(length))}: "
                f"white shows there unless it reaches {one.length(wanted)} over."
            ),
            at=rounded(longest.interpolate(0.5, normalized=True)),
            outline=outline_of(Region.of(shapely.union_all(stretches).buffer(0.3, quad_segs=2)).area),
            measure=round(float(over.min()), 3) + 0.0,
            limit=wanted,
            unit="mm",
            mends=_mends(one, below.id, below.title),
        )
    ]


def _mends(one: Surveyed, below: str, title: str) -> tuple[Mend, ...]:
    if below in one.makes:
        return ()
    by = one.limits.bleed
    step = Bleed(by=by, operand=Recipe(sources=(below,)))
    return (Mend.by_step(f"Let it bleed {one.length(by)} over “{title}”", one.layer.id, step),)
