"""Finding a place on 200 knockouts: how long it takes, whether what it calls clean is, and what a full search finds."""

from __future__ import annotations

import argparse
import statistics
import time
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from typing import Any

import numpy as np
import shapely
from tests.core.test_knockout import cut, falls, words

from benchmarks.starters import LIBRARY
from tinhalo.core.design.design import Design
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.build import build
from tinhalo.core.engine.knockout import Knockout
from tinhalo.core.findings.mends.mend import FindPlace
from tinhalo.core.findings.mends.placing import Placed, find_place
from tinhalo.core.geometry.curves.precision import EXACT
from tinhalo.core.geometry.placement.clearance import clearance_inside, clearance_outside
from tinhalo.core.geometry.placement.cut_pieces import faults_at, parts_of
from tinhalo.core.geometry.placement.place_search import Pose
from tinhalo.core.runtime.memo import Memo

BLOCKS = (
    ("KITES", "anton"),
    ("BLOCK", "bebas-neue"),
    ("OSTREL", "alfa-slab-one"),
    ("MUM", "bevan"),
    ("Team", "baloo-2"),
    ("LOVE", "work-sans"),
    ("HOME", "anton"),
    ("WILLOW", "graduate"),
)
NAMES = ("Fenna", "Ottoline", "Idris", "Mimi", "Wolfram")
FONTS = ("pacifico", "kaushan-script", "lobster", "allura", "dancing-script")
FIND = FindPlace(layer="word", step=0)
_STEP, _TURNS = 0.25, np.arange(-10, 11, 2)
#: A full search looks at so many places exactly that samples call clean, spread over all of them.
_EXACTLY = 60


def knockouts() -> Iterator[tuple[str, str, str, str]]:
    """Block word and font, name and font."""
    for word, block in BLOCKS:
        for name in NAMES:
            for font in FONTS:
                yield word, block, name, font


def document(word: str, block: str, name: str, font: str) -> Design:
    """A name across the middle of a block word, all with its defaults."""
    art = [words("block", word, block, 60), words("name", name, font, 20, place={"y": 12})]
    layer: dict[str, Any] = {"id": "word", "material": "vinyl", "recipe": {"from": ["block"], "steps": [cut("name")]}}
    return parse_design({"format": "tin-halo/1", "art": art, "layers": [layer]})


def judged(case: tuple[str, str, str, str], full: bool) -> tuple[float, bool, str]:
    """Seconds, whether a clean place was found, and what is wrong with the answer."""
    design, memo = document(*case), Memo()
    # What is drawn already is on the screen.
    build(design, LIBRARY, exact=False, memo=memo)
    start = time.perf_counter()
    *_, placed = find_place(design, FIND, LIBRARY, memo)
    seconds = time.perf_counter() - start
    assert isinstance(placed, Placed)
    if placed.faults:
        return seconds, False, "a full search finds one" if full and any_clean(design) else ""
    made = build(placed.design or design, LIBRARY, exact=False, precision=EXACT)
    area, letters = made.layers[0].region.area, made.art[0].region.area
    wrong = ""
    if any(piece.area < FIND.least_area or piece.buffer(-FIND.least_width / 2 + 0.02).is_empty for piece in area.geoms):
        wrong = "a sliver"
    # Tips of the letters come off by erosion: what fell apart before is no neck of the channel's making.
    elif falls(area, FIND.least_width / 2 - 0.02) > falls(letters, FIND.least_width / 2 - 0.02):
        wrong = "a neck"
    return seconds, True, wrong


def any_clean(design: Design) -> bool:
    """Whether some place on a grid of 0.25 mm and 2° with all ends on the letters is clean."""
    knockout = Knockout(design, LIBRARY, "word", 0, FIND.limits, Memo())
    block, pivot, limits = knockout.block.area, knockout.pivot, knockout.limits
    half, least = limits.width / 2, limits.area / _STEP**2
    fields = [clearance_inside(piece, _STEP) for piece in block.geoms]
    frames, begin = list[tuple[int, ...]](), 0
    for one in fields:
        frames.append((begin, *one.values.shape, one.row, one.column, parts_of(one.values, 1, half)))
        begin += one.values.size
    samples = np.concatenate([one.values.ravel() for one in fields])
    x0, y0, x1, y1 = block.bounds
    for turn in sorted(_TURNS.tolist(), key=abs):
        matrix = Pose(turn=turn).matrix(pivot)
        away = clearance_outside(knockout.channel.transformed(matrix).area, _STEP, half)
        ends = knockout.ends @ matrix[:, :2].T + matrix[:, 2]
        rows = np.arange(int((y0 - pivot[1]) / _STEP), int((y1 - pivot[1]) / _STEP))
        columns = np.arange(int((x0 - pivot[0]) / _STEP), int((x1 - pivot[0]) / _STEP))
        places = np.stack([one.ravel() for one in np.meshgrid(rows, columns, indexing="ij")], axis=1)
        at = places[:, None, ::-1] * _STEP + ends
        places = places[shapely.contains_xy(block, at[..., 0], at[..., 1]).all(axis=1)]
        if not len(places):
            continue
        corner = np.array([away.row, away.column])
        counts = faults_at(samples, np.array(frames), away.values, corner, places, 1, half, least, 0)[:, 0]
        clean = places[counts == 0]
        for row, column in clean[:: max(1, len(clean) // _EXACTLY)].tolist():
            if knockout.faults(Pose(column * _STEP, row * _STEP, turn), pivot, 0) == 0:
                return True
    return False


def compare(every: int = 1, full: bool = False, verbose: bool = False) -> str:
    """A line with the figures."""
    cases = list(knockouts())[::every]
    with ProcessPoolExecutor(1 if not full else None) as pool:
        judgements = list(pool.map(judged, cases, [full] * len(cases)))
    if verbose:
        for case, (seconds, clean, wrong) in zip(cases, judgements, strict=True):
            print(*case, f"{seconds:.2f} s", "clean" if clean else "not clean", wrong)
    times = [seconds for seconds, *_ in judgements]
    clean = sum(found for _, found, _ in judgements)
    wrong = [reason for _, found, reason in judgements if found and reason]
    missed = sum(bool(reason) for _, found, reason in judgements if not found)
    found = f", and {missed} more by a full search" if full else ""
    return (
        f"find a place: {clean} of {len(cases)} clean{found}, {len(wrong)} of them not so by erosion; "
        f"median {statistics.median(times):.2f} s, worst {max(times):.2f} s"
    )


if __name__ == "__main__":
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--every", type=int, default=1, help="take one knockout of so many")
    parser.add_argument("--full", action="store_true", help="look everywhere where no clean place was found")
    asked = parser.parse_args()
    print(compare(asked.every, asked.full, verbose=True))
