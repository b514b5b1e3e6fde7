"""The Voronoi diagram of straight edges (Boost's, through pyvoronoi), here or in another process.

The library holds the interpreter's lock while it works, for up to a second. Where others have to be answered meanwhile
(``runtime.elsewhere``) each diagram is made by one of a few processes that stay, and what takes long by one of its own,
which gives its memory back.
"""

from __future__ import annotations

import gc
from collections.abc import Generator, Iterable, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from itertools import chain
from multiprocessing.connection import Connection
from time import monotonic

import numpy as np
import pyvoronoi
from numpy.typing import NDArray

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.runtime.cancellation import CancelledError, given_up
from tinhalo.core.runtime.elsewhere import elsewhere, is_apart, sizes
from tinhalo.core.runtime.processes import ask
from tinhalo.core.runtime.progress import report
from tinhalo.core.runtime.threads import side_by_side

#: Whole numbers per mm, which a diagram is computed in.
GRID = 10_000
#: Boost's categories of cells whose site is the start or the end of an edge.
START, END = 1, 2
#: Seconds between looks whether the diagram is still wanted.
_GLANCE = 0.05

#: The share of a diagram's time after which more is not told.
_NEARLY = 0.95

#: Edges that are done in a second, by the last diagram.
_pace = 8_000.0


@dataclass(frozen=True)
class Diagram:
    """A Voronoi diagram.

    Attributes:
        vertices: shape (v, 2), in mm.
        cells: shape (c, 2): index of the edge that a cell belongs to, and Boost's category of its site: 1 its start
            point, 2 its end point, more the edge itself.
        edges: shape (e, 4): indices of both vertices, -1 where it runs to infinity, and of the cells on either side,
            that of the lower index first.
    """

    vertices: Floats
    cells: NDArray[np.int64]
    edges: NDArray[np.int64]


def voronoi(sites: Floats) -> Diagram:
    """The diagram of edges that meet in nothing but their ends; shape (k, 2, 2), in mm, k at least 1.

    Raises:
        CancelledError: once nobody waits for it, see ``patience``.
    """
    return voronoi_each([sites])[0]


def voronoi_each(parts: Sequence[Floats]) -> list[Diagram]:
    """A diagram for each part, without regard to the others; side by side where others have to be answered meanwhile.

    Raises:
        CancelledError: likewise.
    """
    if not is_apart() or sum(map(len, parts)) < sizes().sent:
        return [_diagram(sites) for sites in parts]
    most = max(map(len, parts))

    def apart(sites: Floats) -> Diagram:
        if most < sizes().long:
            return elsewhere(_diagram, sites)
        try:
            return _long(sites, tells=len(sites) == most)
        except EOFError:
            # Whatever ended the process: the diagram is wanted all the same.
            return _diagram(sites)

    return side_by_side(apart, parts)


def _long(sites: Floats, *, tells: bool) -> Diagram:
    """A diagram from a process of its own, which may report how far it is."""
    enough, begun = given_up.get(), monotonic()

    def glance() -> bool:
        # It cannot be asked how far it is: by the edges that the last one did in a second.
        if tells:
            report(min((monotonic() - begun) * _pace / len(sites), _NEARLY))
        return enough()

    try:
        made = ask(_send, (sites,), _GLANCE, glance)
    except TimeoutError as error:
        raise CancelledError from error
    _took(len(sites), monotonic() - begun)
    return made


def _took(count: int, seconds: float) -> None:
    global _pace
    _pace = count / max(seconds, _GLANCE)


def worth_dividing(count: int) -> bool:
    """Whether so many edges are done sooner as several parts side by side."""
    return is_apart() and sizes().at_once > 1 and count >= sizes().divided


def _send(answer: Connection, sites: Floats) -> None:
    answer.send(_diagram(sites))


def _diagram(sites: Floats) -> Diagram:
    made = pyvoronoi.Pyvoronoi(GRID)
    for a, b in sites.tolist():
        made.AddSegment([a, b])
    made.Construct()
    with _no_collections():
        vertices = np.array([(v.X, v.Y) for v in made.GetVertices()])
        found = made.GetCells()
        cells = np.array([(c.site, c.source_category) for c in found])
        edges = _flat([c.edges for c in found])
        # Where each edge of a cell starts, and in the end where the last one ends.
        starts = _flat([c.vertices[:-1] for c in found])
        own = np.repeat(np.arange(len(found)), [len(c.edges) for c in found])
        del found
    cell_of, start_of = np.empty_like(edges), np.empty_like(edges)
    cell_of[edges], start_of[edges] = own, starts
    # An edge and its twin follow each other; the twin starts where the edge ends.
    sides, ends = cell_of.reshape(-1, 2), start_of.reshape(-1, 2)
    kept = ~_secondary(sites, cells[sides])
    table = np.concatenate([ends[kept], sides[kept]], axis=1)
    backwards = table[:, 2] > table[:, 3]
    table[backwards] = table[backwards][:, [1, 0, 3, 2]]
    return Diagram(vertices, cells, table)


def _flat(lists: Iterable[Sequence[int]]) -> NDArray[np.int64]:
    return np.fromiter(chain.from_iterable(lists), np.int64)


def _secondary(sites: Floats, kinds: NDArray[np.int64]) -> NDArray[np.bool_]:
    """Which of the diagram's edges lie between an edge and its own end, as Boost has it; ``kinds`` is (e, 2, 2)."""
    found = np.zeros(len(kinds), bool)
    is_end = kinds[:, :, 1] <= END
    one = np.flatnonzero(is_end[:, 0] != is_end[:, 1])
    which = np.where(is_end[one, 0], 0, 1)
    end, edge = kinds[one, which], kinds[one, 1 - which]
    corner = sites[end[:, 0], np.where(end[:, 1] == START, 0, 1)]
    found[one] = (sites[edge[:, 0]] == corner[:, None]).all(axis=2).any(axis=1)
    return found


@contextmanager
def _no_collections() -> Generator[None]:
    """Tens of thousands of small objects come and go here, none in a cycle: looking for cycles takes half the time."""
    before = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if before:
            gc.enable()
