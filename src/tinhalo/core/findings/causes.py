"""Findings told by their cause: one line for each layer and kind, the worst place first, what spoils material first."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterable, Iterator, Sequence

from pydantic import BaseModel, ConfigDict

from tinhalo.core.design.design import Design
from tinhalo.core.findings.finding import Finding, Kind
from tinhalo.core.findings.mends.mend import Mend, SetStep
from tinhalo.core.units import Unit, area, length

#: What falls apart or cannot be made at all; then what breaks or gets lost; all else only costs care.
_SPOILS: frozenset[Kind] = frozenset(
    {"not_made", "drop_out", "loose_piece", "missing_character", "empty_words", "text_too_long"}
)
_BREAKS: frozenset[Kind] = frozenset(
    {"sliver", "thin_spot", "hole_near_edge", "cannot_touch", "not_held", "too_big", "off_sheet"}
)
#: A stroke under this share of what it needs is as good as cut through.
_FAR_BELOW = 0.5
#: The larger what was measured, the worse.
_MORE_IS_WORSE: frozenset[Kind] = frozenset(
    {
        "out_of_register",
        "overhang",
        "loose_piece",
        "drop_out",
        "closed_hole",
        "doubled_line",
        "hairline",
        "off_sheet",
        "too_big",
    }
)


class Cause(BaseModel):
    """Findings with one cause.

    Attributes:
        id: the same as long as it stays.
        kind: of all of them.
        severity: of the worst.
        layer: id of the layer concerned, if any.
        art: id of the art concerned, if any.
        accepted: whether all of them are let be.
        count: how many there are.
        sentence: what is the matter, in how many places, and where most.
        findings: their indices among all findings, the worst first.
        mends: changes that each mend all of them.
    """

    model_config = ConfigDict(frozen=True, json_schema_serialization_defaults_required=True)

    id: str
    kind: Kind
    severity: str
    layer: str | None
    art: str | None
    accepted: bool
    count: int
    sentence: str
    findings: tuple[int, ...]
    mends: tuple[Mend, ...]


def causes_of(findings: Sequence[Finding], design: Design) -> tuple[Cause, ...]:
    """All findings by their cause: open ones first, what spoils material first of all."""
    groups: dict[str, list[int]] = {}
    for index, finding in enumerate(findings):
        groups.setdefault(finding.cause, []).append(index)
    order = [layer.id for layer in design.layers]

    def rank(indices: list[int]) -> tuple[int, int, int]:
        worst = findings[indices[0]]
        return (_state(worst), _spoils(worst), order.index(worst.layer) if worst.layer in order else -1)

    sorted_groups = [sorted(indices, key=lambda k: _badness(findings[k])) for indices in groups.values()]
    return tuple(_cause([findings[k] for k in indices], indices, design) for indices in sorted(sorted_groups, key=rank))


def summary(findings: Sequence[Finding], design: Design) -> list[str]:
    """The sentences of what is still open, one for each cause."""
    return list(dict.fromkeys(one.sentence for one in causes_of([f for f in findings if f.open], design)))


def _state(one: Finding) -> int:
    return 2 if one.accepted is not None else 0 if one.severity != "note" else 1


def _spoils(one: Finding) -> int:
    if one.severity == "error":
        return 0
    far = one.kind == "thin_spot" and one.measure is not None and one.measure < _FAR_BELOW * (one.limit or 0)
    if one.kind in _SPOILS or far:
        return 1
    return 2 if one.kind in _BREAKS else 3


def _badness(one: Finding) -> float:
    measure = one.measure or 0.0
    if one.kind in _MORE_IS_WORSE:
        return -measure
    # What was measured in other units or against other limits is compared by how much it misses.
    return measure / one.limit if one.limit else measure


def _cause(group: list[Finding], indices: Iterable[int], design: Design) -> Cause:
    worst = group[0]
    return Cause(
        id=worst.cause,
        kind=worst.kind,
        severity=worst.severity,
        layer=worst.layer,
        art=worst.art,
        accepted=worst.accepted is not None,
        count=len(group),
        sentence=worst.sentence if len(group) == 1 else _sentence(group, design),
        findings=tuple(indices),
        mends=_mends(group),
    )


def _mends(group: list[Finding]) -> tuple[Mend, ...]:
    """What mends all: changes of the whole layer, or those of each place together."""
    if len(group) == 1:
        return group[0].mends
    offered = [(mend.model_dump_json(), mend) for finding in group for mend in finding.mends if not mend.here]
    times = Counter(key for key, _ in offered)
    # What all of them offer comes first, then what only helps some.
    every = dict(sorted(dict(offered).items(), key=lambda one: times[one[0]] < len(group)))
    # Where each place is best mended by itself, all of that together comes first.
    first = [finding.mends[0] for finding in group if finding.mends and finding.mends[0].here]
    if len(first) < len(group):
        return (*_one_each(group, times), *every.values())
    distinct = {change.model_dump_json(): change for mend in first for change in mend.changes}
    together = Mend(title=f"{first[0].title}, in all {len(group)} places", changes=tuple(distinct.values()))
    return (together, *every.values())


def _one_each(group: list[Finding], times: Counter[str]) -> Iterator[Mend]:
    """The first mends of all together, where none is for all and each changes something of its own."""
    first = list({mend.model_dump_json(): mend for finding in group for mend in finding.mends[:1]}.values())
    changes = [change for mend in first for change in mend.changes]
    own = {(change.layer, change.at) for change in changes if isinstance(change, SetStep) and change.at is not None}
    if max(times.values(), default=0) == 1 and 1 < len(first) == len(group) and len(own) == len(changes):
        titles = [first[0].title, *[mend.title[:1].lower() + mend.title[1:] for mend in first[1:]]]
        yield Mend(title="; ".join(titles), changes=tuple(changes))


def _sentence(group: list[Finding], design: Design) -> str:
    worst, unit = group[0], design.unit
    layer = next((one for one in design.layers if one.id == worst.layer), None)
    told = _TOLD.get(worst.kind)
    if layer is None or told is None:
        return f"{worst.sentence} And {len(group) - 1} more like it."
    where = f" at {worst.where}" if worst.where else ""
    sentence = told(group, f"“{layer.title}”", where, unit)
    return sentence if any(one.mends for one in group) else f"{sentence} {_HELPS.get(worst.kind, _ELSE)}"


def _thin(group: list[Finding], title: str, where: str, unit: Unit) -> str:
    least, most = length(group[0].limit or 0, unit), length(group[0].measure or 0, unit)
    return f"{title} is thinner than {least} in {len(group)} places, {most}{where or ' at the least'}."


def _tight(group: list[Finding], title: str, where: str, unit: Unit) -> str:
    least, most = length(group[0].limit or 0, unit), length(group[0].measure or 0, unit)
    return f"Gaps in {title} are narrower than {least} in {len(group)} places, {most}{where or ' at the least'}."


def _loose(group: list[Finding], title: str, where: str, unit: Unit) -> str:
    far = f", the furthest {length(group[0].measure, unit)} from the rest{where}" if group[0].measure else where
    return f"{len(group)} pieces of {title} are loose{far}."


def _dropping(group: list[Finding], title: str, where: str, unit: Unit) -> str:
    one = where and f", one{where}"
    return f"{len(group)} pieces stand free in holes of {title}{one}: they drop out when it is cut."


def _slivers(group: list[Finding], title: str, where: str, unit: Unit) -> str:
    one = group[0]
    measure = one.measure or 0
    size = area(measure, unit) if one.unit == "mm2" else f"{length(measure, unit)} wide"
    return f"{len(group)} slivers in {title}, the least {size}{where}: they get lost."


def _overhanging(group: list[Finding], title: str, where: str, unit: Unit) -> str:
    if group[0].limit:
        return (
            f"{title} is nearer to the edge below it than {length(group[0].limit, unit)} in {len(group)} places{where}."
        )
    most = length(group[0].measure or 0, unit)
    return f"{title} hangs over the edge of what it lies on in {len(group)} places, {most}{where or ' at the most'}."


def _closed(group: list[Finding], title: str, where: str, unit: Unit) -> str:
    widest = length(group[0].measure or 0, unit)
    return f"{len(group)} holes of {title} are closed, the widest {widest}{where}; others stay open."


def _rims(group: list[Finding], title: str, where: str, unit: Unit) -> str:
    least, most = length(group[0].limit or 0, unit), length(group[0].measure or 0, unit)
    return f"Holes of {title} have less than {least} around them in {len(group)} ways, {most} at the least."


def _corners(group: list[Finding], title: str, where: str, unit: Unit) -> str:
    tool = length(2 * (group[0].limit or 0), unit)
    return f"A tool {tool} wide does not get into {len(group)} inner corners of {title}{where and f', one{where}'}."


def _doubled(group: list[Finding], title: str, where: str, unit: Unit) -> str:
    all_of_it = length(round(sum(one.measure or 0 for one in group), 1), unit)
    return f"{title} shares {all_of_it} of edge in {len(group)} places: from one sheet that is cut twice."


#: What to change where nothing that is offered would help.
_HELPS: dict[Kind, str] = {
    "overhang": "Make what it lies on larger, or move it.",
    "sliver": "Make it larger, or cut less away.",
    "thin_spot": "Make it larger, or take a bolder font.",
    "tight_gap": "Make it larger, or space the letters out.",
    "loose_piece": "Move it closer, or give it a backer.",
    "drop_out": "Bridge it to the rest, or leave the hole out.",
}
_ELSE = "Change its steps, or what it is made from."


_TOLD: dict[Kind, Callable[[list[Finding], str, str, Unit], str]] = {
    "thin_spot": _thin,
    "tight_gap": _tight,
    "loose_piece": _loose,
    "drop_out": _dropping,
    "sliver": _slivers,
    "overhang": _overhanging,
    "closed_hole": _closed,
    "hole_near_edge": _rims,
    "sharp_corner": _corners,
    "doubled_line": _doubled,
}
