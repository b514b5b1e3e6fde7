"""Inner corners that are too sharp for a milling tool."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
import shapely
from shapely import MultiPolygon, Point, Polygon
from shapely.geometry.base import BaseGeometry

from tinhalo.core.findings.finding import Finding, outline_of, rounded
from tinhalo.core.findings.mends.mend import Mend
from tinhalo.core.findings.surveyed import SLACK, Surveyed
from tinhalo.core.geometry.arrays import XY
from tinhalo.core.geometry.regions.fewer import with_fewer_if_valid
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.regions.robust import clipped, overlaid
from tinhalo.core.geometry.regions.windows import within_each
from tinhalo.core.recipe.border_steps import CloseGaps
from tinhalo.core.recipe.shape_steps import RoundOff
from tinhalo.core.runtime.cancellation import checkpoint
from tinhalo.core.runtime.threads import side_by_side

#: The tool leaves more than this (mm²) standing in a corner that is worth telling.
_LEAST = 0.02
#: Less than this is left by the way arcs are followed.
_CRUMB = 1e-4
#: A closing comes out of the area by less than this, in mm.
_OVER = 1e-4
#: A corner's own radius is found to within this, in mm, with edges followed this closely: every vertex becomes an arc.
_WITHIN, _DRAWN = 0.01, 0.0003
#: Corners that are filled deeper than this, in radii, are too sharp to be rounded off: under 60 degrees.
_DEEP = 0.98
#: Most corners are sharper than this, in mm: it is asked first.
_SHARP = 0.04
#: Edges where an area was cut off are looked at from so far, in mm; what is in a corner is further from others' edges.
_MARGIN, _ASIDE = 0.1, 1.0


@dataclass(frozen=True)
class _Corner:
    """An inner corner.

    Attributes:
        left: what the tool leaves in it.
        near: what there is of its piece around that.
        at: where it is deepest.
        deep: how far (mm) that is from where the tool can be.
    """

    left: Polygon
    near: MultiPolygon
    at: Point
    deep: float


def check_inner_corners(one: Surveyed) -> list[Finding]:
    """Each inner corner that a round tool of the material's diameter cannot get into."""
    tool = one.limits.tool
    if tool is None:
        return []
    radius = tool / 2
    found: list[Finding] = []
    corners = list(_corners(one.region.area, radius))
    sharp = any(corner.deep > _DEEP * radius for corner in corners)
    # Most of the time is GEOS's.
    radii = side_by_side(lambda corner: _radius(corner, radius), corners)
    for corner, own in zip(corners, radii, strict=True):
        at = rounded(corner.at)
        found.append(
            Finding(
                kind="sharp_corner",
                severity="warning",
                layer=one.layer.id,
                sentence=(
                    f"An inner corner of {one.title}{one.at_letter(at)} has a radius of {one.length(own)}: "
                    f"a tool {one.length(tool)} wide leaves it at {one.length(radius)}."
                ),
                at=at,
                outline=outline_of(corner.left),
                measure=round(own, 3),
                limit=radius,
                unit="mm",
                mends=tuple(_rounding(one, own, radius, at if len(corners) > 1 else None, sharp=sharp)),
            )
        )
    return found


def _rounding(one: Surveyed, own: float, radius: float, at: XY | None, *, sharp: bool) -> Iterator[Mend]:
    """Corners are rounded; where one is round already, or a sharp crotch, what the tool leaves is filled.

    With ``at`` there are other corners, too: one of the mends is for that one only.
    """
    if own < 2 * _WITHIN and not sharp:
        title, step = f"Round inner corners to {one.length(radius)}", RoundOff(outer=0, inner=radius)
    else:
        title, step = f"Fill what a tool {one.length(2 * radius)} wide leaves", CloseGaps(up_to=2 * radius)
    yield Mend.by_step(title, one.layer.id, step)
    if at and (spot := one.anchor(at)):
        alone = step.model_copy(update={"only": (spot,)})
        yield Mend.by_step(f"{title.split()[0]} only this one", one.layer.id, alone, here=True)


def _corners(area: MultiPolygon, radius: float) -> Iterator[_Corner]:
    """Where a tool of that radius leaves something beside a piece; between two it is told as a tight gap."""
    covered = area.buffer(_OVER)
    by = max(2 * radius, _ASIDE) + _MARGIN
    for piece in area.geoms:
        parts = _left(piece, covered, radius - SLACK)
        if not parts:
            continue
        boxes = np.array([part.bounds for part in parts]) + np.array([-by, -by, by, by])
        for part, around in zip(parts, within_each(piece, boxes), strict=True):
            near = Region.of(around).area
            yield _Corner(part, near, *_deepest(part, near))


def _left(area: Polygon, covered: BaseGeometry, radius: float) -> list[Polygon]:
    """What a tool of that radius cannot clear beside an area and is worth telling: the closing less what there is."""
    closed = area.buffer(radius, quad_segs=32).buffer(-radius, quad_segs=32)
    return _pieces(closed.difference(covered), _LEAST)


def _leaves_some(part: Polygon, sides: MultiPolygon, covered: BaseGeometry, radius: float) -> bool:
    """Whether a smaller tool leaves something, too, where a larger one leaves a part."""
    # What is elsewhere is cut off before it is worked on: it does not matter, and takes most of the time.
    grown = clipped(sides.buffer(radius, quad_segs=32), _beyond(part, radius + _MARGIN))
    closed = clipped(grown.buffer(-radius, quad_segs=32), _beyond(part, _MARGIN))
    return any(left.intersects(part) for left in _pieces(overlaid(shapely.difference, closed, covered), _CRUMB))


def _beyond(part: Polygon, by: float) -> tuple[float, float, float, float]:
    x0, y0, x1, y1 = part.bounds
    return x0 - by, y0 - by, x1 + by, y1 + by


def _pieces(area: BaseGeometry, least: float) -> list[Polygon]:
    return [one for one in shapely.get_parts(area) if isinstance(one, Polygon) and one.area > least]


def _near(area: MultiPolygon, part: Polygon, by: float) -> MultiPolygon:
    """What of an area lies in the box around a part, and so far beyond it, in mm."""
    return Region.of(clipped(area, _beyond(part, by))).area


def _deepest(part: Polygon, near: MultiPolygon) -> tuple[Point, float]:
    """The vertex of a part that lies deepest in the corner, and how far (mm) it is from where the tool can be."""
    edge = part.exterior.difference(_near(near, part, _ASIDE).buffer(1e-3))
    vertices = np.asarray(shapely.points(np.asarray(part.exterior.coords)[:, :2]), object)
    deep = np.asarray(shapely.distance(vertices, edge), float)  # pyright: ignore[reportUnknownMemberType]
    deepest = int(deep.argmax())
    return vertices[deepest], float(deep[deepest])


def _radius(corner: _Corner, most: float) -> float:
    """The radius of a corner: of the largest tool that leaves nothing there.

    Where a disc fits that holds a place only depends on what is within its width of there.
    """
    checkpoint()
    part = corner.left
    near = Region.of(with_fewer_if_valid(np.array(corner.near.geoms, object), _DRAWN)).area
    covered = near.buffer(_OVER)
    low, high, middle = 0.0, most, min(_SHARP, most / 2)
    while high - low > _WITHIN:
        sides = _near(near, part, 2 * middle + _MARGIN)
        if _leaves_some(part, sides, covered, middle):
            high = middle
        else:
            low = middle
        middle = (low + high) / 2
    return low
