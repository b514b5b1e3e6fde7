"""What is made from what: order, circles and ancestors of things that name others, by their ids."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from graphlib import CycleError, TopologicalSorter

#: Of each thing the ids of those that it names.
Names = Mapping[str, Iterable[str]]


def in_order(names: Names) -> list[str]:
    """All ids so that each comes after those that it names, otherwise in their own order.

    Raises:
        CycleError: see ``circle``.
    """
    sorter = TopologicalSorter({id: [name for name in named if name in names] for id, named in names.items()})
    return list(sorter.static_order())


def circle(names: Names) -> list[str]:
    """Ids of which each names the next and the last one the first; none where there is no circle."""
    try:
        in_order(names)
    except CycleError as error:
        # The library lists it from what is named to what names it, its beginning twice.
        found: list[str] = error.args[1]
        return found[:0:-1]
    return []


def ancestors(names: Names, id: str) -> set[str]:
    """All ids that one names, directly or through others; also those that stand for themselves."""
    found: set[str] = set()
    waiting = list(names.get(id, ()))
    while waiting:
        name = waiting.pop()
        if name not in found:
            found.add(name)
            waiting += names.get(name, ())
    return found
