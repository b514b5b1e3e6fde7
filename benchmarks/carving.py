"""Carving: paths of a delicate script line and of a large board, against the bare library calls in the same run."""

from __future__ import annotations

import gc
import sys
import time
from collections.abc import Callable
from contextlib import nullcontext

import shapely

from benchmarks.starters import LIBRARY
from tinhalo.core.design.design import Design
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.build import build
from tinhalo.core.engine.carved import carved
from tinhalo.core.geometry.carving.v_paths import Cone, carve
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.strokes.bisectors import sites_of
from tinhalo.core.geometry.strokes.voronoi import voronoi
from tinhalo.core.geometry.warm import warm
from tinhalo.core.output import gcode
from tinhalo.core.output.milling import work_of
from tinhalo.core.output.relief import relief
from tinhalo.core.runtime.elsewhere import computing_apart
from tinhalo.core.runtime.memo import Memo
from tinhalo.core.runtime.processes import read_ahead

SCRIPT = "Wilhelmijna Bergr"
LARGE = ["Harbourmaster", "of Ostrel Bay", "and Launch Field"]


def sign(upper: str, font: str, size: float, width: float, height: float) -> Design:
    """One raised text on a board, engraved by a 60° bit."""
    art = [
        {"id": "w", "text": upper, "font": font, "size": size},
        {"id": "b", "kind": "shape", "shape": "rectangle", "width": width, "height": height},
    ]
    layers = [
        {"id": "words", "process": "carve", "material": "board-18", "recipe": {"from": ["w"]}},
        {
            "id": "frame",
            "process": "carve",
            "material": "board-18",
            "recipe": {"from": ["b"], "steps": [{"op": "wall", "width": 10, "side": "inside"}]},
        },
        {"id": "board", "material": "board-18", "recipe": {"from": ["b"]}},
    ]
    carving = {"board": "board", "levels": [{"layers": ["words", "frame"], "depth": 3}]}
    return parse_design({"format": "tin-halo/1", "art": art, "layers": layers, "carving": carving})


def took(work: Callable[[], object]) -> float:
    """Seconds, the best of three."""
    best = float("inf")
    for _ in range(3):
        gc.collect()
        start = time.perf_counter()
        work()
        best = min(best, time.perf_counter() - start)
    return best


def main() -> None:
    apart = "--apart" in sys.argv
    with computing_apart() if apart else nullcontext():
        run("in other processes, as in the server" if apart else "in this process")


def run(where: str) -> None:
    """Measure all of it and print what it took."""
    warm()
    # As in the server. What this module imports is read in ahead, as the server has it there.
    for name in ("benchmarks.starters", "tinhalo.core.output.relief", "tinhalo.core.output.gcode"):
        read_ahead(name)
    design = sign(SCRIPT, "great-vibes", 60, 480, 120)
    made = build(design, LIBRARY)
    script = made.layers[0].region.area
    plain = Region.of(shapely.simplify(script, Cone.of(60).within * 2 / 3)).area
    found = carve(script, Cone.of(60), 3)
    points = sum(map(len, (*found.walls, *found.grooves)))
    bare = took(lambda: voronoi(sites_of(plain)))
    ours = took(lambda: carve(script, Cone.of(60), 3))
    print(where)
    print(f"{SCRIPT}, 60 mm, letters carved: {ours:.2f} s, {ours / bare:.2f} x Boost's diagram, {points} points")
    measure("the same raised on a board of 480 x 120 mm", design)
    measure("600 x 300 mm, 40 letters", sign("\n".join(LARGE), "lobster", 60, 600, 300))


def measure(title: str, design: Design) -> None:
    """All paths of a board, its files and its relief."""
    planned = carved(build(design, LIBRARY))
    assert planned
    bare = took(lambda: voronoi(sites_of(planned.passes[0].area)))
    all_paths = took(lambda: work_of(planned, "mm", Memo()))
    work = work_of(planned, "mm", Memo())
    text = took(lambda: gcode.files("Sign", planned, work))
    surface = took(lambda: relief(planned, work, 1_200))
    moves = sum(len(path) for op in work.operations for path in op.paths)
    print(
        f"{title}: all paths {all_paths:.2f} s ({all_paths / bare:.1f} x Boost's diagram), {moves} places; "
        f"G-code {text:.2f} s, relief {surface:.2f} s"
    )


if __name__ == "__main__":
    main()
