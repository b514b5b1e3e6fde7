"""Pieces that are not joined to the rest of their layer: beside it, or inside one of its holes."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from shapely import MultiPolygon, Polygon

from tinhalo.core.design.design import Layer
from tinhalo.core.findings.finding import Finding, beginning, outline_of, rounded
from tinhalo.core.findings.mends.mend import Mend, mend_of
from tinhalo.core.findings.surveyed import Called, Surveyed
from tinhalo.core.geometry.regions.proximity import joined_at, nearest_gaps
from tinhalo.core.geometry.regions.selection import standing_inside
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
    pieces = one.resting.pieces.tolist()
    # What is weeded stays on its carrier.
    if len(pieces) < 2 or one.limits.weeded:
        return []
    largest = max(range(len(pieces)), key=lambda i: pieces[i].area)
    inside = standing_inside(pieces)
    gaps, spans = nearest_gaps(pieces), joined_at(pieces, largest, _LONGEST)
    # One that joins all is one for all.
    widest = max((span for span in spans if span <= _LONGEST), default=0.0)
    found: list[Finding] = []
    glued: list[tuple[Polygon, Called]] = []
    for i, piece in enumerate(pieces):
        called = one.called(piece)
        if i == largest or called.on_purpose:
            continue
        if one.resting.whole[i]:
            glued.append((piece, called))
            continue
        gap, neighbour = gaps[i]
        # A bar to a piece that is loose as well would not help.
        span = widest if spans[i] <= _LONGEST else spans[i]
        bridges = tuple(_bridges(one, piece if neighbour == largest else None, gap, span))
        found.append((_inside if inside[i] else _beside)(one, piece, called, gap, bridges))
    return found + (_glued(one, glued, one.below[0]) if glued and one.below else [])


def _glued(one: Surveyed, pieces: list[tuple[Polygon, Called]], below: Layer) -> list[Finding]:
    """What lies on the layer below does not get lost, but somebody has to put it there."""
    if len(pieces) == 1:
        told = f"{beginning(pieces[0][1].name)} is a piece of its own: it has"
    else:
        told = f"{len(pieces)} pieces of {one.title} are not joined to its largest: they have"
    sentence = f"{told} to be glued onto “{below.title}”."
    all_of_them = MultiPolygon([piece for piece, _ in pieces])
    mends = tuple(_lowering([called for _, called in pieces]))
    return [_finding("loose_piece", "note", one, all_of_them, None, sentence, mends)]


def _inside(one: Surveyed, piece: Polygon, called: Called, gap: float, bridges: tuple[Mend, ...]) -> Finding:
    spot = one.anchor(rounded(piece.representative_point()))
    width = one.limits.least_width
    mends = [*_lowering([called])]
    if spot:
        held = Stencil(width=width, only=(spot,))
        mends.append(Mend.by_step(f"Hold it by 2 bars, {one.length(width)} wide", one.layer.id, held, here=True))
    mends.append(
        Mend.by_step(f"Hold all in holes by 2 bars, {one.length(width)} wide", one.layer.id, Stencil(width=width))
    )
    mends += bridges
    fill = FillHoles(only=(spot,)) if spot else FillHoles()
    mends.append(Mend.by_step("Fill that hole", one.layer.id, fill, here=spot is not None))
    sentence = f"{beginning(called.name)} stands free in a hole of {one.title}: it drops out when it is cut."
    return _finding("drop_out", "warning", one, piece, gap, sentence, tuple(mends))


def _beside(one: Surveyed, piece: Polygon, called: Called, gap: float, bridges: tuple[Mend, ...]) -> Finding:
    name = beginning(called.name)
    mends = [*_lowering([called])]
    closing = [called.gathering] if called.gathering else []
    # Words that stand apart stay apart however their letters are closed up.
    mends += [*closing, *bridges] if called.gathers_all else [*bridges, *closing]
    if gap > TOUCHING:
        sentence = f"{name} is loose: {one.length(gap)} from the rest of {one.title}."
    else:
        sentence = f"{name} touches the rest of {one.title} in a point only: it will break off."
    return _finding("loose_piece", "warning", one, piece, gap, sentence, tuple(mends))


def _lowering(pieces: Sequence[Called]) -> Iterator[Mend]:
    """Dots and accents moved to what they belong to, where the pieces are nothing else."""
    found = [called.attachment for called in pieces if called.attachment]
    if not found or len(found) < len(pieces):
        return
    changes = {one.model_dump_json(): one for a in found for one in mend_of(a.art, a.remedy).changes}
    title = found[0].remedy.title if len(pieces) == 1 else found[0].remedy.several
    yield Mend(title=title, changes=tuple(changes.values()), here=len(pieces) == 1)


def _bridges(one: Surveyed, piece: Polygon | None, gap: float, span: float) -> Iterator[Mend]:
    """A bar for one piece, and bars for all that is no further apart than it takes to hold it."""
    width = one.limits.least_width
    spot = one.anchor(rounded(piece.representative_point())) if piece else None
    if spot and gap <= _LONGEST:
        step = Bridge(width=width, up_to=_round_up(max(gap, 0.1)), only=(spot,))
        yield Mend.by_step(f"Bridge it, {one.length(width)} wide", one.layer.id, step, here=True)
    if span <= _LONGEST:
        every = Bridge(width=width, up_to=_round_up(max(span, 0.1)))
        yield Mend.by_step(
            f"Bridge all gaps up to {one.length(every.up_to)}, {one.length(width)} wide", one.layer.id, every
        )


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
