"""The hand-over's searches: how long machine paths are against a strong search, and how tight sheets against rows.

python -m benchmarks.hand_over
"""

from __future__ import annotations

import json
import random
import time
from collections.abc import Sequence
from pathlib import Path

import numpy as np
from shapely import Polygon

from tinhalo.core.artwork.lettering.shipped import ShippedLibrary
from tinhalo.core.design.design import Design
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.build import build
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.output.drawing import Drawing, drawing_of
from tinhalo.core.output.items import laid_boards
from tinhalo.core.output.nesting import nest, placed
from tinhalo.core.output.path_order import ORDER, Way, ordered, travel

DEMOS = sorted((Path(__file__).parents[1] / "src/tinhalo/demo/designs").glob("*.json"))
RESTARTS, KICKS = 20, 30
COPIES, APART = 30, 2.0


def main() -> None:
    library = ShippedLibrary()
    print("machine paths: demo, lines, seconds, travel in mm, against the best of a strong search")
    for path in DEMOS:
        drawing = drawing_of(build(read(path), library))
        start = time.perf_counter()
        strokes = ordered(drawing)
        took = time.perf_counter() - start
        way, best = travel(strokes, drawing.page), strong(drawing)
        print(f"  {path.stem:20} {len(strokes):4} {took:6.2f} {way:8.1f} {way / max(best, 1e-9):6.3f}")
    print(f"sheets: {COPIES} copies of the largest piece, seconds, length in mm, against rows of boxes")
    for path in DEMOS:
        for board in laid_boards(build(read(path), library))[-1:]:
            hull, size = board.items[0].hull, board.size
            start = time.perf_counter()
            found = nest([hull], [COPIES], size, 0, APART, "quarter")
            took = time.perf_counter() - start
            if max(one.sheet for one in found) > 0:
                continue
            length = max(placed(hull, one).bounds[2] for one in found)
            upright, turned = rows(hull, size[1]), rows(Polygon([(y, -x) for x, y in hull.exterior.coords]), size[1])
            ratios = [f"{length / one:6.3f}" for one in (upright, min(upright, turned))]
            print(f"  {path.stem:20} {took:6.1f} {length:8.1f} as they stand {ratios[0]}, best way round {ratios[1]}")


def read(path: Path) -> Design:
    return parse_design(json.loads(path.read_text()))


def rows(hull: Polygon, height: float) -> float:
    """How long rows of the box around it are."""
    x0, y0, x1, y1 = hull.bounds
    each = int((height + APART) // (y1 - y0 + APART))
    return -(-COPIES // max(each, 1)) * (x1 - x0 + APART) - APART


def strong(drawing: Drawing) -> float:
    """The shortest travel that restarts from random orders find, each bettered and kicked."""
    x0, _, _, y1 = drawing.page or (0.0, 0.0, 0.0, 0.0)
    here, total, chance = np.array([x0, y1]), 0.0, random.Random(1)
    for process in ORDER:
        lines = [one for layer in drawing.layers if layer.process == process for one in layer.followed]
        if lines:
            length, here = searched(lines, here, chance)
            total += length
    return total


def searched(lines: Sequence[Contour], start: Floats, chance: random.Random) -> tuple[float, Floats]:
    best, end = np.inf, start
    way = Way(lines, start)
    for _ in range(RESTARTS):
        order = way.settled(way.shuffled(chance))
        order = way.kicked(order, chance, KICKS)
        if way.length(order) < best:
            best, end = way.length(order), way.end(order)
    return best, end


if __name__ == "__main__":
    main()
