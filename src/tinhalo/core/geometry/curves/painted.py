"""What painting comes to: outlines that cover every point of an area once, and nothing else.

Drawing files fill by either of two rules, let contours cross, paint over each other, clip and stroke. Here all of it
becomes *plain* outlines: shells run counter-clockwise and holes clockwise, none crosses another, so that outlines put
together fill their union by the non-zero rule. The path engine (skia-pathops) keeps curves what they are; its result
is compared with the areas of GEOS, which stands where they differ.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Literal, cast

import numpy as np
import pathops
import shapely
from shapely import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.affine import shift
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.fill import filled_nonzero
from tinhalo.core.geometry.curves.outline import MAX_TURN_DEGREES, Outline, followed
from tinhalo.core.geometry.curves.path_engine import CONICS, hand_over, taken_back

Rule = Literal["nonzero", "evenodd"]
Cap = Literal["butt", "round", "square"]
Join = Literal["miter", "round", "bevel"]

#: The engine computes in single precision: outlines are handed over this large.
_LARGE = 8192.0
#: Chords for the comparison, as a share of the whole, and how far areas may differ, as a share of chord times edge.
_CHORD = 2e-5
_SAME = 3.0
_CAPS = {"butt": pathops.LineCap.BUTT_CAP, "round": pathops.LineCap.ROUND_CAP, "square": pathops.LineCap.SQUARE_CAP}
_JOINS = {
    "miter": pathops.LineJoin.MITER_JOIN,
    "round": pathops.LineJoin.ROUND_JOIN,
    "bevel": pathops.LineJoin.BEVEL_JOIN,
}
_OPS = {
    "union": pathops.PathOp.UNION,
    "difference": pathops.PathOp.DIFFERENCE,
    "intersection": pathops.PathOp.INTERSECTION,
}
_RULES = {"nonzero": pathops.FillType.WINDING, "evenodd": pathops.FillType.EVEN_ODD}


def filled(outline: Outline, rule: Rule) -> Outline:
    """The plain outline of what closed contours fill."""
    if not len(outline.segments):
        return outline
    rings = outline.flattened(_chord(outline))
    lines = shapely.MultiLineString([np.vstack([ring, ring[:1]]) for ring in rings if len(ring) >= 3])
    if lines.is_empty:
        return Outline.empty()
    if shapely.is_simple(lines):
        turned = _turned(outline, rings, rule)
        if turned is not None:
            return turned
    area = _area(rings, rule)

    return _believed(lambda scale: _path(outline, scale, rule), outline, area)


def combined(operation: Literal["union", "difference", "intersection"], one: Outline, other: Outline) -> Outline:
    """The plain outline of two plain outlines together."""
    if not len(one.segments):
        return other if operation == "union" else one
    if not len(other.segments):
        return Outline.empty() if operation == "intersection" else one
    both = Outline.joined([one, other])
    area = getattr(shapely, operation)(area_of(one, _chord(both)), area_of(other, _chord(both)))

    return _believed(lambda scale: pathops.op(_path(one, scale), _path(other, scale), _OPS[operation]), both, area)


def united(outlines: Sequence[Outline]) -> Outline:
    """The plain outline of everything that several plain outlines cover."""
    drawn = [one for one in outlines if len(one.segments)]
    if not drawn:
        return Outline.empty()
    joined = Outline.joined(drawn)
    if len(drawn) == 1:
        return joined
    chord = _chord(joined)
    areas = np.array([area_of(one, chord) for one in drawn], object)
    first, second = shapely.STRtree(areas).query(areas, predicate="intersects")
    if (first == second).all():
        return joined

    return _believed(lambda scale: _path(joined, scale), joined, _multi(shapely.union_all(areas)))


def stroked(
    contours: list[Contour], width: float, cap: Cap, join: Join, miter: float, dashes: list[float], dash_offset: float
) -> Outline:
    """The plain outline of lines of a width, as SVG strokes them (SVG 2, 13.5); lengths in the contours' unit."""
    drawn = [one for one in contours if len(one.segments)]
    if not drawn or width <= 0:
        return Outline.empty()
    reach = max(float(np.abs(one.segments).max()) for one in drawn) + width * max(1.0, miter)
    scale = _LARGE / reach
    path = pathops.Path()
    pen = path.getPen(allow_open_paths=True)
    for one in drawn:
        one.transformed(shift(0, 0, scale)).draw(pen)
    try:
        spaced = [one * scale for one in dashes] or None
        path.stroke(width * scale, _CAPS[cap], _JOINS[join], miter, spaced, dash_offset * scale)
        # Round ends are conics, which the engine's own union gets wrong.
        path.convertConicsToQuads(CONICS)
        path.simplify(fix_winding=True, keep_starting_points=False)
        return _turned_out(taken_back(path, 1 / scale))
    except pathops.PathOpsError:
        return _buffered(drawn, width, cap, join, miter)


def _buffered(contours: list[Contour], width: float, cap: Cap, join: Join, miter: float) -> Outline:
    """The same by GEOS, without dashes: where the path engine gives up."""
    chord = max(width, 1e-6) * 1e-3
    lines = [followed(one, chord) for one in contours]
    area = shapely.buffer(
        shapely.MultiLineString([line for line in lines if len(line) > 1]),
        width / 2,
        cap_style="flat" if cap == "butt" else cap,
        join_style="mitre" if join == "miter" else join,
        mitre_limit=miter,
    )
    return _edges(_multi(area))


def area_of(outline: Outline, chord: float, turn: float = MAX_TURN_DEGREES) -> MultiPolygon:
    """The area of a plain outline, its curves followed within ``chord`` and in turns of ``turn`` degrees at most."""
    rings = [ring for ring in outline.flattened(chord, turn) if len(ring) >= 3]
    if not rings:
        return MultiPolygon()
    lines = shapely.MultiLineString([np.vstack([ring, ring[:1]]) for ring in rings])
    built = shapely.build_area(lines)
    if not shapely.is_valid(built):
        built = shapely.make_valid(built, method="structure", keep_collapsed=False)
    return _multi(built)


def _multi(area: BaseGeometry) -> MultiPolygon:
    parts = [part for part in list(shapely.get_parts(area)) if part.geom_type == "Polygon"]
    return MultiPolygon(parts)


def _chord(outline: Outline) -> float:
    x0, y0, x1, y1 = outline.bounds()
    return max(max(x1 - x0, y1 - y0) * _CHORD, 1e-9)


def _turned(outline: Outline, rings: list[Floats], rule: Rule) -> Outline | None:
    """Contours that do not cross, each turned as its place asks; None where some are too small to tell."""
    contours = outline.contours()
    if len(rings) != len(contours) or any(len(ring) < 3 for ring in rings):
        return None
    areas = outline.areas
    if len(rings) == 1:
        return outline if areas[0] > 0 else Outline.from_contours([contours[0].reversed()])
    polygons = np.array([Polygon(ring) for ring in rings], object)
    inside, outside = shapely.STRtree(polygons).query(polygons, predicate="within")
    winding = np.where(areas > 0, 1, -1)
    around = np.zeros(len(rings), int)
    count = np.zeros(len(rings), int)
    other = inside != outside
    np.add.at(around, inside[other], winding[outside[other]])
    np.add.at(count, inside[other], 1)
    if rule == "evenodd":
        before, after = count % 2 == 1, count % 2 == 0
    else:
        before, after = around != 0, around + winding != 0
    # What has paint on both sides of it is no edge.
    kept = np.flatnonzero(before != after)
    made = [contours[i] if (areas[i] > 0) == after[i] else contours[i].reversed() for i in kept]
    return Outline.from_contours(made)


def _area(rings: list[Floats], rule: Rule) -> MultiPolygon:
    if rule == "nonzero":
        return _multi(shapely.union_all(np.array(filled_nonzero(rings), object)))
    lines = [np.vstack([ring, ring[:1]]) for ring in rings if len(ring) >= 3]
    return _multi(shapely.make_valid(shapely.MultiPolygon([Polygon(line) for line in lines]), method="linework"))


def _believed(drawn: Callable[[float], pathops.Path], outline: Outline, area: MultiPolygon) -> Outline:
    """What the path engine unites of it, where that has the area it should have; else the area's own edges."""
    reach = float(np.abs(outline.segments).max())
    scale = _LARGE / max(reach, 1e-12)
    try:
        path = drawn(scale)
        path.simplify(fix_winding=True, keep_starting_points=False)
        found = _turned_out(taken_back(path, 1 / scale))
        chord = _chord(outline)
        off = area_of(found, chord).symmetric_difference(area).area
        if off <= _SAME * chord * max(area.length, 1e-12) + reach**2 * 1e-10:
            return found
    except pathops.PathOpsError:
        pass
    return _edges(area)


def _edges(area: MultiPolygon) -> Outline:
    """An area's own edges."""
    polygons = cast("list[Polygon]", shapely.get_parts(shapely.orient_polygons(area)).tolist())
    rings = [ring for one in polygons for ring in (one.exterior, *one.interiors)]
    return Outline.from_contours([Contour.of_ring(np.asarray(ring.coords)[:-1, :2]) for ring in rings])


def _path(outline: Outline, scale: float, rule: Rule = "nonzero") -> pathops.Path:
    path = pathops.Path(fillType=_RULES[rule])
    hand_over(path, outline, scale)
    return path


def _turned_out(outline: Outline) -> Outline:
    """Contours of an engine that fixes windings to even-odd, turned so that shells are counter-clockwise."""
    rings = outline.flattened(_chord(outline)) if len(outline.segments) else []
    return (_turned(outline, rings, "evenodd") if rings else outline) or outline
