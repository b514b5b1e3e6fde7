"""What a knockout leaves hanging by a neck: small bits that tear off as if they were slivers."""

from __future__ import annotations

import numpy as np
import shapely
from shapely import Point, Polygon

from tinhalo.core.findings.checks.sliver import places
from tinhalo.core.findings.finding import Finding, beginning
from tinhalo.core.findings.surveyed import SLACK, Surveyed
from tinhalo.core.geometry.placement.slivers import hanging_bits


def with_hanging(one: Surveyed, thin: list[Finding]) -> list[Finding]:
    """Thin spots of a knockout; those that only a small bit hangs by are told as slivers, and all may be moved away."""
    if not one.knockouts or not thin:
        return thin
    limits = one.limits
    pieces = np.asarray(shapely.get_parts(one.region.area), object)
    bits = hanging_bits(pieces, limits.least_area, limits.least_width - SLACK)
    elsewhere = tuple(places(one))
    found: list[Finding] = []
    for finding in thin:
        bit = _nearest(bits, finding, limits.least_width)
        told = {"mends": (*finding.mends, *elsewhere)}
        if bit is not None:
            name = one.called(bit).name
            neck = f"by a neck of {one.length(finding.measure or 0)}"
            told |= {"kind": "sliver", "sentence": f"{beginning(name)} in {one.title} hangs {neck}: it tears off."}
            told["mends"] = (*elsewhere, *finding.mends)
        found.append(finding.model_copy(update=told))
    return found


def _nearest(bits: list[Polygon], finding: Finding, within: float) -> Polygon | None:
    if not bits or finding.at is None:
        return None
    at = Point(finding.at)
    near = min(bits, key=lambda bit: bit.distance(at))
    return near if near.distance(at) <= within else None
