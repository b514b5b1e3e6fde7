"""Layers as solids: each as high as it is, let in, engraved, filled down to the table or united, as the design says."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import shapely
from shapely import MultiPolygon

from tinhalo.core.design.hand_over import CUTS
from tinhalo.core.design.solids import Solids
from tinhalo.core.engine.built import Build, BuiltLayer
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.solids.combined import united, without
from tinhalo.core.geometry.solids.mesh import Mesh
from tinhalo.core.geometry.solids.raised import raised
from tinhalo.core.geometry.strokes.narrow_places import narrow_strokes
from tinhalo.core.output.marked_area import marked_area
from tinhalo.core.runtime.cancellation import checkpoint
from tinhalo.core.units import length

#: Areas that overlap by less than this, in mm², do not lie on each other: as in the stack.
_OVERLAP = 0.5
#: How far what only touches itself in a point is parted, in mm: solids that share an edge there are none.
_PARTED = 0.005
#: Half of the narrowest strip that is filled under what hangs over, in mm.
_HAIR = 0.05
#: How far a cut goes over a face, in mm.
_OVER = 1.0


@dataclass(frozen=True)
class Solid:
    """One object.

    Attributes:
        id: of its layer; empty of all of them as one.
        title: what it is called.
        colour: #rrggbb.
        mesh: in mm, in register with all others.
        told: sentences on what may go wrong with it.
    """

    id: str
    title: str
    colour: str
    mesh: Mesh
    told: tuple[str, ...] = ()


@dataclass(frozen=True, eq=False)
class _Raised:
    """A layer between two heights, and what is cut out of it."""

    built: BuiltLayer
    area: MultiPolygon
    bottom: float
    top: float
    told: tuple[str, ...]
    cuts: tuple[Mesh, ...] = ()


def solids_of(build: Build) -> list[Solid]:
    """The solids of a built design, the lowest first; none where nothing is cut."""
    options = build.design.hand_over.solids
    lying: list[_Raised] = []
    for built in reversed(build.leaving()):
        checkpoint()
        if built.region.is_empty:
            continue
        if built.layer.process in CUTS and not built.region.area.is_empty:
            lying = _laid(build, built, lying, options)
        elif built.layer.process in ("engrave", "score", "draw", "carve"):
            lying = _engraved(build, built, lying, options)
    made = [_solid(one, lying[:k], options) for k, one in enumerate(lying)]
    if options.as_one and len(made) > 1:
        told = tuple(sentence for one in made for sentence in one.told)
        return [Solid("", build.design.name, made[0].colour, united([one.mesh for one in made]), told)]
    return made


def _laid(build: Build, built: BuiltLayer, lying: list[_Raised], options: Solids) -> list[_Raised]:
    """One more layer upon those that lie; where it is let in, they get pockets."""
    told: list[str] = []
    title, unit = built.layer.title, build.design.unit
    area, parted = _parted(built.region.area)
    if parted:
        told.append(f"Parts of “{title}” touch in a point only: they are kept {length(2 * _PARTED, unit)} apart.")
    under = [one for one in lying if shapely.intersection(one.area, area).area > _OVERLAP]
    rests = max((one.top for one in under), default=0.0)
    bottom = rests - (options.let_in if under else 0.0)
    height = options.height_of(built.layer.id, built.material.thickness)
    thin = narrow_strokes(built.region.area, options.least)
    if thin is not None and thin.narrowest is not None:
        narrow = length(thin.narrowest, unit)
        told.append(f"“{title}” is only {narrow} wide in places: {length(options.least, unit)} is wanted.")
    if height < 0.2:
        told.append(f"“{title}” is {length(height, unit)} high, less than a printed layer or two: say its height.")
    cut = [one for one in under if one.top > bottom]
    told += [
        f"“{title}” is let in right through “{one.built.layer.title}”."
        for one in cut
        if bottom <= one.bottom and options.let_in > 0
    ]
    if options.let_in > 0 and cut:
        grown = Region.of(shapely.buffer(area, options.clearance, quad_segs=16)).area
        pocket = raised(grown, bottom, rests + _OVER)
        lying = [replace(one, cuts=(*one.cuts, pocket)) if one in cut else one for one in lying]
    return [*lying, _Raised(built, area, max(bottom, 0.0), max(bottom, 0.0) + height, tuple(told))]


def _engraved(build: Build, mark: BuiltLayer, lying: list[_Raised], options: Solids) -> list[_Raised]:
    """What is engraved or scored, cut into the highest of what lies under it."""
    area = marked_area(mark, options.line_width, 8)
    under = [one for one in lying if shapely.intersects(one.area, area)]
    top = max((one.top for one in under), default=0.0)
    made: list[_Raised] = []
    for one in lying:
        if one in under and one.top == top:
            told = one.told
            if options.engraved >= one.top - one.bottom:
                told = (*told, f"“{mark.layer.title}” is cut right through “{one.built.layer.title}”.")
            cut = raised(area, top - options.engraved, top + _OVER)
            made.append(replace(one, cuts=(*one.cuts, cut), told=told))
        else:
            made.append(one)
    return made


def _solid(one: _Raised, lower: Sequence[_Raised], options: Solids) -> Solid:
    mesh = raised(one.area, one.bottom, one.top, options.edge, options.edge_size)
    if options.flat and one.bottom > 0:
        mesh = united([mesh, *_foot(one, lower)])
    if one.cuts:
        mesh = without(mesh, one.cuts)
    layer = one.built.layer
    told = one.told
    if not mesh.single().is_closed:
        told = (*told, f"“{layer.title}” touches itself along a line: not every program will take it as a solid.")
    return Solid(layer.id, layer.title, one.built.material.colour, mesh, told)


def _foot(one: _Raised, lower: Sequence[_Raised]) -> list[Mesh]:
    """What fills the air under a solid: from what lies there, or from the table, up to it."""
    carried = shapely.union_all([other.area for other in lower if other.top == one.bottom])
    # Uncovered by a hair only, it lies on: no printer makes walls so thin.
    hanging = Region.of(shapely.buffer(shapely.buffer(shapely.difference(one.area, carried), -_HAIR), _HAIR)).area
    hanging = Region.of(shapely.intersection(hanging, one.area)).area
    if hanging.is_empty:
        return []
    beneath = [
        raised(other.area, other.bottom, other.top) for other in lower if shapely.intersects(other.area, hanging)
    ]
    foot = raised(hanging, 0.0, one.bottom)
    return [without(foot, beneath)] if beneath else [foot]


def _parted(area: MultiPolygon) -> tuple[MultiPolygon, bool]:
    """An area none of whose rings touch in a point, and whether they did."""
    rings = [np.asarray(ring.coords)[:-1] for one in area.geoms for ring in (one.exterior, *one.interiors)]
    points = np.concatenate(rings)
    if len(np.unique(points, axis=0)) == len(points):
        return area, False
    return Region.of(shapely.buffer(area, -_PARTED, join_style="mitre")).area, True
