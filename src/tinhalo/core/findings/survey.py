"""All findings of a built design.

Those that look at shapes take longer than the outlines, so they are asked for apart; what is found is kept in the memo.
"""

from __future__ import annotations

import logging
from collections.abc import Callable, Iterable
from contextlib import nullcontext
from dataclasses import dataclass, replace
from functools import partial
from math import dist

from tinhalo.core.artwork.library import Library
from tinhalo.core.design.design import Accepted, Design
from tinhalo.core.design.hand_over import CUTS
from tinhalo.core.engine.anchoring import anchor_place
from tinhalo.core.engine.build import build
from tinhalo.core.engine.built import Build, BuiltLayer
from tinhalo.core.engine.knockout import knockouts
from tinhalo.core.findings.checks.art import check_art
from tinhalo.core.findings.checks.print_fill import check_print_fills
from tinhalo.core.findings.finding import Finding
from tinhalo.core.findings.naming import Naming
from tinhalo.core.findings.registry import AHEAD, CHECKS, SAME_PLACE, Check, Needs
from tinhalo.core.findings.surveyed import Surveyed
from tinhalo.core.geometry.arrays import XY
from tinhalo.core.geometry.curves.precision import EXACT
from tinhalo.core.recipe.failure import PATIENCE
from tinhalo.core.runtime.cancellation import CancelledError, checkpoint, within
from tinhalo.core.runtime.elsewhere import is_apart
from tinhalo.core.runtime.memo import Memo, digest
from tinhalo.core.runtime.threads import beside

_log = logging.getLogger(__name__)


def survey(made: Build, memo: Memo, *, shapes: bool = True) -> tuple[Finding, ...]:
    """Everything to look at, layer by layer from the top, the worst kinds first; equal designs give equal lists.

    Args:
        made: the built design.
        memo: keeps widths and findings by the content of the layers.
        shapes: whether shapes are looked at, or only what is known without.
    Raises:
        CancelledError: once nobody waits for them, see ``runtime.cancellation``.
    """
    names = Naming(made)
    found = check_art(made)
    undrawn = frozenset(one.art for one in found if one.art and one.severity == "error")
    for one in made.layers:
        found += told_of(replace(_surveyed(made, names, one, memo), undrawn=undrawn), "recipe")
    found += check_print_fills(made)
    if shapes:
        found += _told_of_shapes(made, names, memo)
    return tuple(_known(made, names, finding) for finding in found)


def findings_of(design: Design, library: Library, memo: Memo) -> tuple[Finding, ...]:
    """All findings of the outlines that leave, without the work of making their curves.

    Raises:
        DesignError, CancelledError: as ``build`` and ``survey`` do.
    """
    return survey(build(design, library, exact=False, memo=memo, precision=EXACT), memo)


@dataclass(frozen=True)
class _Found:
    findings: tuple[Finding, ...]

    @property
    def nbytes(self) -> int:
        return 2_000 * len(self.findings) + 200


def _own_key(made: Build, names: Naming, one: BuiltLayer) -> tuple[str, ...]:
    """What findings of a layer's own shape depend on."""
    cut = knockouts(made.design, one.layer)
    return (
        names.key,
        one.key,
        one.layer.model_dump_json(),
        one.material.model_dump_json(),
        str(cut),
        made.design.unit,
    )


def _makes(made: Build, one: BuiltLayer) -> set[str]:
    """Ids of the layers that are made from a layer."""
    return {other.id for other in made.design.layers if one.layer.id in made.design.ancestors(other)}


def _key(made: Build, names: Naming, one: BuiltLayer) -> str:
    """What all findings of a layer's shape depend on."""
    parts = [*_own_key(made, names, one)]
    keys = {built.layer.id: built.key for built in made.layers}
    around = (*made.stack.cut_under(one.layer.id), *made.stack.printed_under(one.layer.id))
    parts += [part for other in around for part in (keys[other.layer.id], other.layer.model_dump_json())]
    parts += [*sorted(made.design.ancestors(one.layer)), "/", *sorted(_makes(made, one)), "/"]
    parts += [other.layer.id for other in made.stack.cut_over(one.layer.id)]
    return digest("survey", *parts)


def _surveyed(made: Build, names: Naming, one: BuiltLayer, memo: Memo) -> Surveyed:
    made_from = made.design.ancestors(one.layer)

    def keep(name: str, find: Callable[[], list[Finding]]) -> list[Finding]:
        key = digest("check", name, *_own_key(made, names, one))
        return list(memo.get(key, _Found, lambda: _Found(tuple(find()))).findings)

    return Surveyed(
        layer=one.layer,
        material=one.material,
        region=one.region,
        stages=tuple(stage.region for stage in one.stages),
        emptied_by=one.emptied_by,
        failures=one.failures,
        under=tuple((other.layer, other.region) for other in made.stack.cut_under(one.layer.id)),
        over=tuple(other.layer.id for other in made.stack.cut_over(one.layer.id)),
        printed=tuple((other.layer, other.region) for other in made.stack.printed_under(one.layer.id)),
        middle=made.middle,
        job=made.finished,
        design=made.design,
        made_from=frozenset(made_from),
        makes=frozenset(_makes(made, one)),
        knockouts=tuple(knockouts(made.design, one.layer)),
        called=lambda piece: names.called(piece, made_from, one.material.limits.least_width),
        anchor=names.anchor,
        part=lambda place: names.part(place, made_from),
        parts_near=lambda place, within: names.parts_near(place, within, made_from),
        neighbours=lambda: names.neighbours(made_from),
        keep=keep,
    )


def _told_of_shapes(made: Build, names: Naming, memo: Memo) -> list[Finding]:
    """What the checks tell of the layers that are seen."""
    seen = [one for one in made.layers if not one.layer.hidden and not one.region.area.is_empty]
    looks = [(_key(made, names, one), _surveyed(made, names, one, memo)) for one in seen]

    def tell(key: str, look: Surveyed) -> list[Finding]:
        return list(memo.get(key, _Found, lambda: _Found(tuple(told_of(look, "shape", "stack")))).findings)

    new = [(key, look) for key, look in looks if memo.peek(key, _Found) is None]
    ahead = [_ahead(look, find) for _, look in new if look.layer.process in CUTS for find in AHEAD]
    # This thread begins with the first layer: others that have time for more begin with the last.
    ahead += [partial(tell, key, look) for key, look in reversed(new[1:])]
    found: list[Finding] = []
    with beside(*ahead) if new and is_apart() else nullcontext():
        for key, look in looks:
            checkpoint()
            found += tell(key, look)
            found += told_of(look, "job")
    return found


def _ahead(look: Surveyed, find: Callable[[Surveyed], object]) -> Callable[[], object]:
    """What keeps the findings of a layer that take longest, before they are asked for."""

    def work() -> None:
        with within(PATIENCE):
            find(look)

    return work


def told_of(look: Surveyed, *needs: Needs) -> list[Finding]:
    """What the checks of these needs tell of a layer, in the order of the registry."""
    known: dict[str, list[Finding]] = {}
    by_name = {check.name: check for check in CHECKS}

    def told(name: str) -> list[Finding]:
        if name not in known:
            checkpoint()
            known[name] = _run(by_name[name])
        return known[name]

    def _run(check: Check) -> list[Finding]:
        try:
            with within(PATIENCE):
                if check.needs == "shape":
                    return look.keep(check.name, lambda: check.run(look, told))
                return check.run(look, told)
        except CancelledError:
            raise
        except Exception:
            _log.exception("The check “%s” failed for the layer %s.", check.name, look.layer.id)
            sentence = f"{look.title} could not be looked at for everything ({check.name}): look closely yourself."
            return [Finding(kind="not_checked", severity="warning", layer=look.layer.id, sentence=sentence)]

    wanted: Iterable[Check] = (c for c in CHECKS if c.needs in needs and look.layer.process in c.processes)
    return [finding for check in wanted for finding in sorted(told(check.name), key=_order)]


def _order(finding: Finding) -> tuple[str, XY]:
    return (finding.kind, finding.at or (0.0, 0.0))


def _known(made: Build, names: Naming, finding: Finding) -> Finding:
    """The finding with its place beside a part of some art, that part, and the note it was accepted with."""
    spot = names.anchor(finding.at) if finding.at else None
    note = next((one.note for one in made.design.accepted if _same(made, one, finding)), None)
    layer = next((one for one in made.design.layers if one.id == finding.layer), None)
    where = names.part(finding.at, made.design.ancestors(layer)) if finding.at and layer else None
    return finding.model_copy(update={"spot": spot, "where": where or "", "accepted": note})


def _same(made: Build, accepted: Accepted, finding: Finding) -> bool:
    if (accepted.kind, accepted.layer) != (finding.kind, finding.layer):
        return False
    if accepted.everywhere:
        return True
    if accepted.spot is None or finding.at is None:
        return accepted.spot is None and finding.at is None
    art = next((one for one in made.art if one.art.id == accepted.spot.art), None)
    place = anchor_place(art, accepted.spot) if art else None
    return place is not None and dist(place, finding.at) <= SAME_PLACE
