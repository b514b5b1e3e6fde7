"""Pieces that are not joined to the rest of their layer: beside it, or inside one of its holes."""

from __future__ import annotations

from collections.abc import Iterator

import shapely
from shapely import MultiPolygon, Polygon

from tinhalo.core.checks.finding import Finding, Mend, beginning, mm, outline_of, rounded
from tinhalo.core.checks.surveyed import Called, Surveyed
from tinhalo.core.design import Layer
from tinhalo.core.geometry.apart import nearest_gaps
from tinhalo.core.lettering.art import Join
from tinhalo.core.recipe.bridge_step import Bridge, Stencil
from tinhalo.core.recipe.fill_holes_step import FillHoles

#: Pieces nearer than this touch, in mm.
TOUCHING = 1e-3
#: A bridge reaches a little further than the gap is wide.
_MORE = 1.05
#: Over a wider gap (mm) nobody wants a bridge.
_LONGEST = 200.0


def check_loose_pieces(one: Surveyed) -> list[Finding]:
    """Each piece but the largest: what falls out of the sheet, or out of a hole, when it is cut."""
    pieces = list(one.region.area.geoms)
    # What is weeded stays on its carrier.
    if len(pieces) < 2 or one.limits.weeded:
        return []
    largest = max(range(len(pieces)), key=lambda i: pieces[i].area)
    shells = shapely.STRtree([Polygon(piece.exterior) for piece in pieces])
    gaps = nearest_gaps(pieces)
    found: list[Finding] = []
    glued: list[tuple[Polygon, str]] = []
    for i, piece in enumerate(pieces):
        called = one.called(piece)
        if i == largest or called.on_purpose:
            continue
        if one.below and one.below[1].area.covers(piece):
            glued.append((piece, called.name))
            continue
        around = [j for j in shells.query(piece, predicate="covered_by").tolist() if j != i]
        found.append(_inside(one, piece, called, gaps[i]) if around else _beside(one, piece, called, gaps[i]))
    return found + (_glued(one, glued, one.below[0]) if glued and one.below else [])


def _glued(one: Surveyed, pieces: list[tuple[Polygon, str]], below: Layer) -> list[Finding]:
    """What lies on the layer below does not get lost, but somebody has to put it there."""
    if len(pieces) == 1:
        told = f"{beginning(pieces[0][1])} is a piece of its own: it has"
    else:
        told = f"{len(pieces)} pieces of {one.title} are not joined to its largest: they have"
    sentence = f"{told} to be glued onto “{below.title}”."
    all_of_them = MultiPolygon([piece for piece, _ in pieces])
    return [_finding("loose_piece", "note", one, all_of_them, None, sentence, ())]


def _inside(one: Surveyed, piece: Polygon, called: Called, gap: float) -> Finding:
    inside = one.spot(rounded(piece.representative_point()))
    fill = FillHoles(only=(inside,)) if inside else FillHoles()
    width = one.limits.least_width
    held = Mend(title=f"Hold it by 2 bars, {mm(width)} wide", layer=one.layer.id, step=Stencil(width=width))
    mends = (held, *_bridges(one, gap), Mend(title="Fill that hole", layer=one.layer.id, step=fill))
    sentence = f"{beginning(called.name)} stands free in a hole of {one.title}: it drops out when it is cut."
    return _finding("drop_out", "warning", one, piece, gap, sentence, mends)


def _beside(one: Surveyed, piece: Polygon, called: Called, gap: float) -> Finding:
    name = beginning(called.name)
    mends = [*_bridges(one, gap)]
    if gap > TOUCHING:
        sentence = f"{name} is loose: {mm(gap)} from the rest of {one.title}."
    else:
        sentence = f"{name} touches the rest of {one.title} in a point only: it will break off."
    if called.art is not None:
        mends.insert(0, Mend(title="Close the letters up", art=called.art, join=Join()))
    return _finding("loose_piece", "warning", one, piece, gap, sentence, tuple(mends))


def _bridges(one: Surveyed, gap: float) -> Iterator[Mend]:
    if gap > _LONGEST:
        return
    step = Bridge(width=one.limits.least_width, up_to=_round_up(max(gap, 0.1)))
    yield Mend(title=f"Bridge it, {mm(step.width)} wide", layer=one.layer.id, step=step)


def _finding(
    kind: str,
    severity: str,
    one: Surveyed,
    piece: Polygon | MultiPolygon,
    gap: float | None,
    sentence: str,
    mends: tuple[Mend, ...],
) -> Finding:
    return Finding.model_validate(
        {
            "kind": kind,
            "severity": severity,
            "layer": one.layer.id,
            "sentence": sentence,
            "at": rounded(piece.representative_point()),
            "outline": outline_of(piece),
            "measure": None if gap is None else round(gap, 3),
            "limit": None if gap is None else 0,
            "unit": None if gap is None else "mm",
            "mends": mends,
        }
    )


def _round_up(length: float) -> float:
    """A little more than a length, to a tenth of a millimetre."""
    return round(length * _MORE + 0.05, 1)
