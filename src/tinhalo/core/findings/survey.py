"""All findings of a built design: those of the build, and those that look at the shapes of what leaves.

The latter take longer than the outlines, so they are asked for apart; ``survey`` keeps what it finds in the memo.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from math import dist

import numpy as np

from tinhalo.core.design.design import Accepted, Design
from tinhalo.core.engine.build import Library, build
from tinhalo.core.engine.built import Build, BuiltLayer, spot_place
from tinhalo.core.engine.knockout import knockouts
from tinhalo.core.findings.checks.bleed import check_bleed
from tinhalo.core.findings.checks.closed_hole import check_closed_holes
from tinhalo.core.findings.checks.doubled_line import check_doubled_lines
from tinhalo.core.findings.checks.hairline import check_hairlines
from tinhalo.core.findings.checks.inner_corner import check_inner_corners
from tinhalo.core.findings.checks.loose_piece import TOUCHING, check_loose_pieces
from tinhalo.core.findings.checks.narrow import check_thin_spots, check_tight_gaps
from tinhalo.core.findings.checks.off_sheet import check_off_sheet
from tinhalo.core.findings.checks.overhang import check_overhang
from tinhalo.core.findings.checks.rim import check_rims
from tinhalo.core.findings.checks.sheet import check_sheet
from tinhalo.core.findings.checks.sliver import check_slivers
from tinhalo.core.findings.finding import Finding, Kind
from tinhalo.core.findings.naming import Naming
from tinhalo.core.findings.surveyed import Surveyed
from tinhalo.core.geometry.curves.outline import XY
from tinhalo.core.geometry.curves.precision import EXACT
from tinhalo.core.geometry.regions.selection import holding, without_pieces
from tinhalo.core.recipe.evaluate import digest
from tinhalo.core.runtime.cancellation import checkpoint
from tinhalo.core.runtime.memo import Memo

#: What was accepted is still the same while its place moves by less than this, in mm.
_SAME_PLACE = 1.0
_LOOKED_AT = ("cut", "score", "engrave", "print")
#: What falls out or gets lost anyway is not told to be thin, too.
_GONE: frozenset[Kind] = frozenset({"sliver", "drop_out"})


def survey(made: Build, memo: Memo) -> tuple[Finding, ...]:
    """Everything to look at, layer by layer from the top, the worst kinds first; equal designs give equal lists.

    Args:
        made: the built design.
        memo: keeps widths and findings by the content of the layers.
    Raises:
        CancelledError: once nobody waits for them, see ``runtime.cancellation``.
    """
    found = list(made.findings)
    words = Naming(made)
    for index, one in enumerate(made.layers):
        if one.layer.hidden or one.layer.process not in _LOOKED_AT or one.region.area.is_empty:
            continue
        checkpoint()
        after = made.layers[index + 1 :]
        found += _layer(made, words, one, _under(after), _printed_under(one, after), memo)
        sheet, job, bounds = made.design.sheet, made.finished, one.region.bounds
        if sheet and job and bounds and one.layer.process != "print":
            found += check_off_sheet(one.layer, bounds, job, sheet, made.design.unit)
    return tuple(_known(made, words, finding) for finding in found)


def findings_of(
    design: Design, library: Library, memo: Memo, cancelled: Callable[[], bool] = lambda: False
) -> tuple[Finding, ...]:
    """All findings of the outlines that leave, without the work of making their curves.

    Raises:
        DesignError, CancelledError: as ``build`` and ``survey`` do.
    """
    made = build(design, library, exact=False, memo=memo, precision=EXACT, cancelled=cancelled)
    return survey(made, memo)


@dataclass(frozen=True)
class _Found:
    findings: tuple[Finding, ...]

    @property
    def nbytes(self) -> int:
        return 2_000 * len(self.findings) + 200


def _layer(
    made: Build,
    words: Naming,
    one: BuiltLayer,
    under: Sequence[BuiltLayer],
    printed: Sequence[BuiltLayer],
    memo: Memo,
) -> tuple[Finding, ...]:
    made_from = made.design.ancestors(one.layer)
    cut = knockouts(made.design, one.layer)
    own = (words.key, one.key, one.layer.model_dump_json(), one.material.model_dump_json(), str(cut), made.design.unit)

    def keep(name: str, find: Callable[[], list[Finding]]) -> list[Finding]:
        return list(memo.get(digest("check", name, *own), _Found, lambda: _Found(tuple(find()))).findings)

    makes = {other.id for other in made.design.layers if one.layer.id in made.design.ancestors(other)}
    look = Surveyed(
        layer=one.layer,
        material=one.material,
        region=one.region,
        stages=tuple(stage.region for stage in one.stages),
        under=tuple((other.layer, other.region) for other in under),
        made_from=frozenset(made_from),
        makes=frozenset(makes),
        knockouts=cut,
        called=lambda piece: words.called(piece, made_from),
        spot=words.spot,
        unit=made.design.unit,
        letter=lambda place: words.letter(place, made_from),
        keep=keep,
    )
    parts = [*own]
    parts += [part for other in (*under, *printed) for part in (other.key, other.layer.model_dump_json())]
    parts += [*sorted(made_from), "/", *sorted(makes)]
    prints = tuple((other.layer, other.region) for other in printed)

    def find() -> _Found:
        if one.layer.process == "print":
            return _Found(tuple(check_bleed(look) + check_hairlines(replace(look, under=prints))))
        return _Found(tuple(checked(look) if one.layer.process == "cut" else marked(look)))

    return memo.get(digest("survey", *parts), _Found, find).findings


def checked(look: Surveyed) -> list[Finding]:
    """What there is to look at in the shape of one layer."""
    slivers = _own(check_slivers, look)
    lost = {finding.at for finding in slivers}
    found = [finding for finding in _next(check_loose_pieces, look) if finding.at not in lost] + slivers
    thin = [f for f in _own(check_thin_spots, *_left(look, found)) if look.limits.weeded or not _touches(f)]
    gaps = [f for f in _own(check_tight_gaps, look) if not _touches(f)]
    rims = _own(check_rims, look)
    # A rim that is too thin is told of its hole.
    thin = [f for f in thin if not any(_close(f, rim) for rim in rims)]
    doubled = _next(check_doubled_lines, look)
    # Edges of one material that meet are told once.
    slits = [] if doubled else _next(check_hairlines, look)
    # What falls apart comes first, then what breaks, then what shows.
    checks = (found, thin, gaps, slits, doubled, _next(check_overhang, look), _next(check_closed_holes, look), rims)
    checks += (_own(check_inner_corners, look), _own(check_sheet, look))
    return [f for kind in checks for f in sorted(kind, key=_order)]


def marked(look: Surveyed) -> list[Finding]:
    """All there is to look at in the shape of a layer that is scored or engraved."""
    return sorted(check_overhang(look), key=_order)


def _own(check: Callable[[Surveyed], list[Finding]], look: Surveyed, but: str = "") -> list[Finding]:
    """What a check finds that looks at no other layer; ``but`` says what of the layer is left out."""
    return look.keep(f"{check.__name__} {but}", lambda: _next(check, look))


def _next(check: Callable[[Surveyed], list[Finding]], look: Surveyed) -> list[Finding]:
    checkpoint()
    return check(look)


def _close(one: Finding, other: Finding) -> bool:
    return one.at is not None and other.at is not None and dist(one.at, other.at) < _SAME_PLACE


def _touches(finding: Finding) -> bool:
    """Whether it is the point where two pieces touch: that is told of the loose one."""
    return finding.measure is not None and finding.measure < TOUCHING


def _left(look: Surveyed, found: Sequence[Finding]) -> tuple[Surveyed, str]:
    """What is left of a layer once all is gone that is told to get lost, and which pieces that are."""
    pieces = look.resting.pieces.tolist()
    gone = holding(pieces, [finding.at for finding in found if finding.kind in _GONE and finding.at])
    if not gone.any():
        return look, ""
    return replace(look, region=without_pieces(look.region, gone)), str(np.flatnonzero(gone).tolist())


def _order(finding: Finding) -> tuple[str, XY]:
    return (finding.kind, finding.at or (0.0, 0.0))


def _under(after: Sequence[BuiltLayer]) -> list[BuiltLayer]:
    """The cut layers of a stack that lie under another one, given all that come after it; the next one first."""
    return [one for one in after if not one.layer.hidden and one.layer.process == "cut"]


def _printed_under(one: BuiltLayer, after: Sequence[BuiltLayer]) -> list[BuiltLayer]:
    """The layer that a print is printed over on the same sheet, if any."""
    shown = [other for other in after if not other.layer.hidden and other.layer.process in ("cut", "print")]
    return shown[:1] if one.layer.process == "print" and shown and shown[0].layer.process == "print" else []


def _known(made: Build, words: Naming, finding: Finding) -> Finding:
    """The finding with its place beside a letter, and with the note it was accepted with."""
    spot = words.spot(finding.at) if finding.at else None
    note = next((one.note for one in made.design.accepted if _same(made, one, finding)), None)
    return finding.model_copy(update={"spot": spot, "accepted": note})


def _same(made: Build, accepted: Accepted, finding: Finding) -> bool:
    if (accepted.kind, accepted.layer) != (finding.kind, finding.layer):
        return False
    if accepted.spot is None or finding.at is None:
        return accepted.spot is None and finding.at is None
    art = next((one for one in made.art if one.art.id == accepted.spot.art), None)
    place = spot_place(art, accepted.spot) if art else None
    return place is not None and dist(place, finding.at) <= _SAME_PLACE
