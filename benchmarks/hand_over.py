"""The hand-over: what share of a machine's time goes to the ways between lines, and how tight sheets are against rows.

python -m benchmarks.hand_over
"""

from __future__ import annotations

import json
import time
from pathlib import Path

from shapely import Polygon

from tinhalo.core.artwork.lettering.shipped import ShippedLibrary
from tinhalo.core.design.design import Design
from tinhalo.core.design.laying import Margins
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.build import build
from tinhalo.core.output.blank import Blank, Blanks
from tinhalo.core.output.drawing import drawing_of
from tinhalo.core.output.items import laid_boards
from tinhalo.core.output.job import TRAVEL_SPEED, job_of
from tinhalo.core.output.nesting import nest
from tinhalo.core.output.raster_nesting import placed

DEMOS = sorted((Path(__file__).parents[1] / "src/tinhalo/demo/designs").glob("*.json"))
COPIES, APART = 30, 2.0


def main() -> None:
    library = ShippedLibrary()
    print("machine paths: demo, lines, seconds to order them, seconds between lines as a share of all")
    for path in DEMOS:
        built = build(read(path), library)
        drawing = drawing_of(built)
        start = time.perf_counter()
        job = job_of(built, drawing)
        took = time.perf_counter() - start
        between = job.travel / TRAVEL_SPEED
        print(
            f"  {path.stem:20} {len(job.strokes):4} {took:6.2f} {between:6.1f} {between / max(job.seconds, 1e-9):6.3f}"
        )
    print(f"sheets: {COPIES} copies of the largest piece, seconds, length in mm, against rows of boxes")
    for path in DEMOS:
        for board in laid_boards(build(read(path), library))[-1:]:
            hull, size = board.items[0].hull, board.blanks.whole.size
            start = time.perf_counter()
            found = nest([hull], [COPIES], Blanks(Blank(size, Margins.all(0))), APART, "quarter")
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


if __name__ == "__main__":
    main()
