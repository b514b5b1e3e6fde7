"""The Voronoi diagram of straight edges (Boost's, through pyvoronoi), here or in a process of its own.

The library holds the interpreter's lock while it works, for up to a second. A server has others to answer meanwhile: it
calls ``compute_apart`` once, and from then on each diagram is made by a child process.
"""

from __future__ import annotations

import gc
import os
from collections.abc import Generator, Sequence
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from dataclasses import dataclass
from multiprocessing.connection import Connection
from time import monotonic

import numpy as np
import pyvoronoi
from numpy.typing import NDArray

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.runtime.cancellation import CancelledError, given_up
from tinhalo.core.runtime.processes import ask
from tinhalo.core.runtime.progress import progress

#: Whole numbers per mm, which a diagram is computed in.
GRID = 10_000
#: Fewer edges than this are done sooner than a process has started.
_FEW = 600
#: Diagrams that are made side by side at most, for one question.
AT_ONCE = min(4, os.cpu_count() or 1)
#: Seconds between looks whether the diagram is still wanted.
_GLANCE = 0.05

#: The share of a diagram's time after which more is not told.
_NEARLY = 0.95

_apart = False
#: Edges that are done in a second, by the last diagram.
_pace = 8_000.0


@dataclass(frozen=True)
class Diagram:
    """A Voronoi diagram.

    Attributes:
        vertices: shape (v, 2), in mm.
        cells: shape (c, 2): index of the edge that a cell belongs to, and Boost's category of its site: 1 its start
            point, 2 its end point, more the edge itself.
        edges: shape (e, 4): indices of both vertices, -1 where it runs to infinity, and of the cells on either side.
            Each edge comes in both directions.
    """

    vertices: Floats
    cells: NDArray[np.int64]
    edges: NDArray[np.int64]


def compute_apart() -> None:
    """Make diagrams in processes of their own from now on."""
    global _apart
    _apart = True


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
    if not _apart or sum(map(len, parts)) < _FEW:
        return [_diagram(sites) for sites in parts]
    enough, tell = given_up.get(), progress.get()

    most = max(map(len, parts))

    def apart(sites: Floats) -> Diagram:
        begun = monotonic()

        def glance() -> bool:
            # It cannot be asked how far it is: by the edges that the last one did in a second.
            if len(sites) == most:
                tell(min((monotonic() - begun) * _pace / most, _NEARLY))
            return enough()

        try:
            made = ask(_send, (sites,), _GLANCE, glance)
            _took(len(sites), monotonic() - begun)
            return made
        except TimeoutError as error:
            raise CancelledError from error
        except EOFError:
            # Whatever ended the child: the diagram is wanted all the same.
            return _diagram(sites)

    if len(parts) == 1:
        return [apart(parts[0])]
    with ThreadPoolExecutor(AT_ONCE) as threads:
        return list(threads.map(apart, parts))


def _took(count: int, seconds: float) -> None:
    global _pace
    _pace = count / max(seconds, _GLANCE)


def worth_dividing(count: int) -> bool:
    """Whether so many edges are done sooner as several parts side by side."""
    return _apart and AT_ONCE > 1 and count >= 2 * _FEW


def _send(answer: Connection, sites: Floats) -> None:
    answer.send(_diagram(sites))


def _diagram(sites: Floats) -> Diagram:
    made = pyvoronoi.Pyvoronoi(GRID)
    for a, b in sites.tolist():
        made.AddSegment([a, b])
    made.Construct()
    with _no_collections():
        vertices = np.array([(v.X, v.Y) for v in made.GetVertices()])
        cells = np.array([(c.site, c.source_category) for c in made.GetCells()])
        edges = made.GetEdges()
        table = np.array([(e.start, e.end, e.cell, edges[e.twin].cell) for e in edges if e.is_primary])
        del edges
    return Diagram(vertices, cells, table)


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
