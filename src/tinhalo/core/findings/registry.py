"""All checks of layers, in the order in which their findings are told.

What falls apart comes first, then what breaks, then what shows. A check may ask what another one told of the same
layer, so that one cause is told once.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Literal, get_args

import numpy as np
from shapely import Point, Polygon
from shapely.geometry.base import BaseGeometry
from shapely.ops import unary_union

from tinhalo.core.design.hand_over import CUTS, LINES, Process
from tinhalo.core.findings.checks.bleed import check_bleed
from tinhalo.core.findings.checks.closed_hole import check_closed_holes
from tinhalo.core.findings.checks.doubled_line import AS_ONE, check_doubled_lines, check_own_doubled
from tinhalo.core.findings.checks.hairline import check_hairlines
from tinhalo.core.findings.checks.hanging import with_hanging
from tinhalo.core.findings.checks.inner_corner import check_inner_corners
from tinhalo.core.findings.checks.left_out import check_left_out
from tinhalo.core.findings.checks.loose_piece import TOUCHING, check_loose_pieces
from tinhalo.core.findings.checks.narrow import check_thin_spots, check_tight_gaps
from tinhalo.core.findings.checks.nothing_left import check_nothing_left
from tinhalo.core.findings.checks.off_sheet import check_off_sheet
from tinhalo.core.findings.checks.overhang import check_overhang
from tinhalo.core.findings.checks.register import check_register
from tinhalo.core.findings.checks.rim import check_rims
from tinhalo.core.findings.checks.running_together import check_running_together
from tinhalo.core.findings.checks.sheet import check_sheet
from tinhalo.core.findings.checks.sliver import check_slivers
from tinhalo.core.findings.checks.uncut import check_cuts_nothing, check_uncut_print
from tinhalo.core.findings.checks.unknown_material import check_material
from tinhalo.core.findings.finding import Finding, Kind
from tinhalo.core.findings.surveyed import Surveyed
from tinhalo.core.geometry.regions.selection import holding, without_pieces

#: What another check told of the same layer, by its name.
Told = Callable[[str], list[Finding]]
#: What a check looks at: recipe and material alone; the layer's own shape; also the layers around it; also where the
#: whole job lies. Only the first are asked while outlines are still on their way, and the last are never kept.
Needs = Literal["recipe", "shape", "stack", "job"]


@dataclass(frozen=True)
class Check:
    """One check.

    Attributes:
        name: what others ask for it by.
        processes: of the layers that it looks at.
        needs: what it looks at.
        run: gives its findings of one layer.
    """

    name: str
    processes: frozenset[Process]
    needs: Needs
    run: Callable[[Surveyed, Told], list[Finding]]


#: Findings whose places are this near each other (mm) are of one place.
SAME_PLACE = 1.0
#: What falls out or gets lost anyway is not told to be thin, too.
_GONE: frozenset[Kind] = frozenset({"sliver", "drop_out"})

#: The check whose findings are kept by its name before they are asked for.
_CORNERS = "inner corner"

_CUT = CUTS
_PRINT: frozenset[Process] = frozenset({"print"})
_MARKED: frozenset[Process] = frozenset({*CUTS, *LINES, "engrave"})
_EVERY: frozenset[Process] = frozenset(get_args(Process))


def _plain(check: Callable[[Surveyed], list[Finding]]) -> Callable[[Surveyed, Told], list[Finding]]:
    return lambda look, told: check(look)


def _loose(look: Surveyed, told: Told) -> list[Finding]:
    """Loose pieces that are not slivers, and that do not lie edge to edge with others."""
    lost = {finding.at for finding in told("sliver")}
    seams = [_area(seam) for seam in told("seam")]
    return [
        finding
        for finding in check_loose_pieces(look)
        if finding.at not in lost
        and not ((finding.measure or 0) < AS_ONE and any(_area(finding).intersects(seam) for seam in seams))
    ]


def _thin(look: Surveyed, told: Told) -> list[Finding]:
    """Thin strokes of what does not get lost: where pieces touch is told of the loose one, a rim of its hole."""
    left, but = _left(look, told("loose") + told("sliver"))
    thin = look.keep(f"thin {but}", lambda: with_hanging(left, check_thin_spots(left)))
    kept = [f for f in thin if look.limits.weeded or not _touches(f)]
    return [f for f in kept if not any(_around(f, rim) for rim in told("rim"))]


def _tight(look: Surveyed, told: Told) -> list[Finding]:
    """Tight gaps that are some: edges that a machine follows as one are told of as that."""
    least = AS_ONE if told("seam") else TOUCHING
    return [f for f in all_tight(look) if (f.measure or 0) >= least]


def all_tight(look: Surveyed) -> list[Finding]:
    """Tight gaps, whatever else is told of them."""
    # What mends them hangs on whether there is a face above.
    return look.keep(f"tight {bool(look.over)}", lambda: check_tight_gaps(look))


def _all_corners(look: Surveyed) -> list[Finding]:
    return look.keep(_CORNERS, lambda: check_inner_corners(look))


def _slits(look: Surveyed, told: Told) -> list[Finding]:
    """Edges of one material that meet are told as doubled."""
    return [] if told("doubled") else check_hairlines(look)


def _print_slits(look: Surveyed, told: Told) -> list[Finding]:
    return check_hairlines(replace(look, under=look.printed))


CHECKS: tuple[Check, ...] = (
    Check("left out", _EVERY, "recipe", _plain(check_left_out)),
    Check("nothing left", _EVERY, "recipe", _plain(check_nothing_left)),
    Check("material", _EVERY, "recipe", _plain(check_material)),
    Check("uncut print", _PRINT, "recipe", _plain(check_uncut_print)),
    Check("cuts nothing", _EVERY, "recipe", _plain(check_cuts_nothing)),
    Check("loose", _CUT, "stack", _loose),
    Check("sliver", _CUT, "shape", _plain(check_slivers)),
    Check("thin", _CUT, "stack", _thin),
    Check("tight", _CUT, "stack", _tight),
    Check("seam", _CUT, "shape", _plain(check_own_doubled)),
    Check("bleed", _PRINT, "stack", _plain(check_bleed)),
    Check("slit", _CUT, "stack", _slits),
    Check("print slit", _PRINT, "stack", _print_slits),
    Check("doubled", _CUT, "stack", _plain(check_doubled_lines)),
    Check("overhang", _MARKED, "stack", _plain(check_overhang)),
    Check("running together", _MARKED, "shape", _plain(check_running_together)),
    Check("closed hole", _CUT, "stack", _plain(check_closed_holes)),
    Check("rim", _CUT, "shape", _plain(check_rims)),
    Check(_CORNERS, _CUT, "shape", _plain(check_inner_corners)),
    Check("too big", _CUT, "shape", _plain(check_sheet)),
    Check("register", _EVERY, "job", _plain(check_register)),
    Check("off sheet", _MARKED, "job", _plain(check_off_sheet)),
)

#: What takes longest of a cut layer's shape, each worth a start before it is asked for.
AHEAD: tuple[Callable[[Surveyed], list[Finding]], ...] = (all_tight, _all_corners)


def _around(thin: Finding, rim: Finding) -> bool:
    """Whether a thin spot is of the material around a hole that is told of already."""
    if thin.at is None or not rim.outline:
        return False
    return _area(rim).distance(Point(thin.at)) < SAME_PLACE + (rim.measure or 0) / 2


def _area(finding: Finding) -> BaseGeometry:
    """What a finding is outlined by, holes filled."""
    return unary_union([Polygon(ring) for ring in finding.outline])


def _touches(finding: Finding) -> bool:
    """Whether it is the point where two pieces touch."""
    return finding.measure is not None and finding.measure < TOUCHING


def _left(look: Surveyed, found: Sequence[Finding]) -> tuple[Surveyed, str]:
    """What is left of a layer once all is gone that is told to get lost, and which pieces that are."""
    pieces = look.resting.pieces.tolist()
    gone = holding(pieces, [finding.at for finding in found if finding.kind in _GONE and finding.at])
    if not gone.any():
        return look, ""
    return replace(look, region=without_pieces(look.region, gone)), str(np.flatnonzero(gone).tolist())
