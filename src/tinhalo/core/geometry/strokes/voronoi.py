"""The Voronoi diagram of straight edges (Boost's, through pyvoronoi), here or in a process of its own.

The library holds the interpreter's lock while it works, for up to a second. A server has others to answer meanwhile: it
calls ``compute_apart`` once, and from then on each diagram is made by a child process.
"""

from __future__ import annotations

import gc
from collections.abc import Generator
from contextlib import contextmanager
from dataclasses import dataclass
from multiprocessing.connection import Connection

import numpy as np
import pyvoronoi
from numpy.typing import NDArray

from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.runtime.cancellation import CancelledError, given_up
from tinhalo.core.runtime.processes import ask

#: Whole numbers per mm, which a diagram is computed in.
GRID = 10_000
#: Fewer edges than this are done sooner than a process has started.
_FEW = 600
#: Seconds between looks whether the diagram is still wanted.
_GLANCE = 0.05

_apart = False


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
    if not _apart or len(sites) < _FEW:
        return _diagram(sites)
    try:
        return ask(_send, (sites,), _GLANCE, given_up.get())
    except TimeoutError as error:
        raise CancelledError from error
    except EOFError:
        # Whatever ended the child: the diagram is wanted all the same.
        return _diagram(sites)


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
