"""The checks of the starters: how long findings take once the outlines are there, and how that grows with the words."""

from __future__ import annotations

import argparse
import gc
import time

from benchmarks.starters import DOCS, LIBRARY, NAME, cost, edits, lines_of
from tinhalo.core.design.design import Design
from tinhalo.core.engine.build import build
from tinhalo.core.findings.survey import survey
from tinhalo.core.geometry.curves.precision import EXACT
from tinhalo.core.geometry.warm import warm
from tinhalo.core.runtime.elsewhere import computing_apart
from tinhalo.core.runtime.memo import Memo
from tinhalo.core.runtime.processes import read_ahead
from tinhalo.core.starters import STARTERS, with_words

SIZES = (190, 1900)
#: Script and block letters, few and many findings; the exact build of so many letters takes a minute.
GROWN = ("Plain", "Drop-shadow title", "Block-shadow title")


def took(design: Design) -> float:
    """Seconds of all checks of an exact build."""
    memo = Memo()
    made = build(design, LIBRARY, memo=memo)
    gc.collect()
    start = time.perf_counter()
    survey(made, memo)
    return time.perf_counter() - start


def took_after(design: Design, edit: Design) -> float:
    """Seconds of all checks after an edit, at the precision of what leaves: what the screen waits for in a drag."""
    memo = Memo()
    for one in (design, edit):
        made = build(one, LIBRARY, exact=False, memo=memo, precision=EXACT)
        gc.collect()
        start = time.perf_counter()
        survey(made, memo)
    return time.perf_counter() - start


def ratio(design: Design) -> float:
    """The same as a multiple of the library calls in it."""
    made = build(design, LIBRARY)

    def filled() -> Memo:
        memo = Memo()
        build(design, LIBRARY, memo=memo)
        return memo

    return cost(filled, lambda memo: survey(made, memo), times=3).ratio


def rows() -> list[str]:
    """A line of a table for every starter."""
    found: list[str] = []
    for starter in STARTERS:
        design = with_words(starter.document, NAME)
        grown = "– | – | –"
        if starter.title in GROWN:
            # Some before and after the many: a change of the machine's pace meets both.
            few, lot = (with_words(starter.document, lines_of(size)) for size in SIZES)
            before, many, later = took(few), took(lot), took(few)
            some = (before + later) / 2
            grown = f"{some:.1f} s | {many:.0f} s | {many / some:.1f}"
        name = 1000 * min(took(design) for _ in range(3))
        with computing_apart():
            # The first one waits until the processes are there.
            served = 1000 * sorted(took(design) for _ in range(8))[3]
            edited = sorted(1000 * min(took_after(design, edit) for _ in range(2)) for edit in edits(design))
        after = f"{edited[len(edited) // 2]:.0f} to {edited[-1]:.0f} ms" if edited else "–"
        told = f"{name:.0f} ms | {served:.0f} ms | {after} | {ratio(design):.2f} | {grown}"
        found.append(f"| {starter.title} | {told} |\n")
        print(found[-1], end="", flush=True)
    return found


_BEGIN = "\n## Checks\n"
HEAD = f"""{_BEGIN}
All findings of a starter with the same name, once its exact outlines are there: in one process, and in the server,
which has others for what takes long (the median); there after single edits as above, too (the median one to the
slowest). Some with 190 and 1,900 letters in one process, and how many times longer ten times the letters take. *Ratio*
as above, in one process.

| starter | checks | in the server | after an edit | ratio | 190 letters | 1,900 letters | times |
|---|---|---|---|---|---|---|---|
"""


def main() -> None:
    parser = argparse.ArgumentParser(description="Measure the checks.")
    parser.add_argument("--write", action="store_true", help="write them into docs/speed.md, below the starters")
    write = parser.parse_args().write
    read_ahead("tinhalo.core.geometry.strokes.voronoi")
    warm()
    print(HEAD, end="")
    found = rows()
    if write:
        page = DOCS / "speed.md"
        page.write_text(page.read_text().split(_BEGIN)[0] + HEAD + "".join(found))


if __name__ == "__main__":
    main()
