"""Lists of names: 300 rows of mixed scripts, against one build and pack of each row, in the same run."""

from __future__ import annotations

import os
import resource
import tempfile
import threading
import time
from pathlib import Path

from benchmarks.starters import LIBRARY
from tinhalo.core.design.design import Design
from tinhalo.core.design.names import Column, Names
from tinhalo.core.engine.build import build
from tinhalo.core.findings.causes import causes_of
from tinhalo.core.findings.survey import survey
from tinhalo.core.geometry.warm import warm
from tinhalo.core.listing.batch import Job, batch
from tinhalo.core.listing.each import row_of
from tinhalo.core.listing.rows import Asked, look
from tinhalo.core.output.pack import pack_files
from tinhalo.core.runtime.crew import Crew
from tinhalo.core.runtime.memo import Memo
from tinhalo.core.starters import STARTERS

ROWS = 300
#: Names of several lengths and scripts: Latin with and without accents, Greek, Cyrillic, Arabic, Hebrew.
FIRST = (
    *("Fenna", "Bram", "Ottoline", "Zoë", "Idris", "Mia", "Anna Sophia", "Jo", "Åsa", "Wilhelmijn", "François"),
    *("Ελένη", "Дмитрий", "محمد", "נועה", "Jürgen-Maximilian", "Ñandú", "Łucja", "Đặng", "Ø"),
)
LAST = (
    "",
    " B.",
    " de Vries",
    " Wren",
    " Oude",
    " IJ",
    " K",
    " van Ostrel",
    " Kite",
    " M.",
    " Ash",
    " Fay",
    " Lee",
    " Oz",
)


def listed(starter: str) -> Design:
    """A starter with the list."""
    design = next(one for one in STARTERS if one.id == starter).document
    rows = tuple((f"{FIRST[k % len(FIRST)]}{LAST[k // len(FIRST) % len(LAST)]}",) for k in range(ROWS))
    return design.model_copy(update={"names": Names(columns=(Column(use="words", art=design.art[0].id),), rows=rows)})


def held() -> float:
    """Memory of all child processes now, in MB."""
    pages = 0
    for one in Path("/proc").iterdir():
        try:
            stat = (one / "stat").read_text().rsplit(")", 1)[1].split()
            if os.getpgrp() == int(stat[2]) and int(one.name) != os.getpid():
                pages += int((one / "statm").read_text().split()[1])
        except (OSError, ValueError):
            continue
    return pages * resource.getpagesize() / 1e6


class Watch(threading.Thread):
    """Looks how much memory child processes have at most."""

    def __init__(self) -> None:
        super().__init__(daemon=True)
        self.most = 0.0
        self.over = threading.Event()

    def run(self) -> None:
        while not self.over.wait(0.2):
            self.most = max(self.most, held())


def main() -> None:
    warm()
    crew = Crew()
    starter = "name-keyring"
    design = listed(starter)
    names = design.names or Names()
    list(crew.each(look, [(Asked.of(design, k),) for k in range(2 * crew.processes)]))
    memo = Memo(128 * 1024 * 1024)
    start = time.perf_counter()
    for index in range(ROWS):
        row = row_of(design, names, index, LIBRARY, memo)
        built = build(row.design, LIBRARY, memo=memo)
        causes_of(survey(built, memo), row.design)
    bare = time.perf_counter() - start
    start = time.perf_counter()
    list(crew.each(look, [(Asked.of(design, k),) for k in range(ROWS)]))
    told(f"{starter}, {ROWS} rows looked at", time.perf_counter() - start, bare, crew.processes)

    memo = Memo(128 * 1024 * 1024)
    start = time.perf_counter()
    for index in range(ROWS):
        row = row_of(design, names, index, LIBRARY, memo)
        pack_files(build(row.design, LIBRARY, memo=memo), memo)
    bare = time.perf_counter() - start
    watch = Watch()
    watch.start()
    with tempfile.TemporaryDirectory() as out:
        start = time.perf_counter()
        list(batch(Job(design, Path(out)), crew))
        told(f"{starter}, {ROWS} packs", time.perf_counter() - start, bare, crew.processes)
    watch.over.set()
    print(f"  {watch.most:.0f} MB in {crew.processes} processes and what they are forked from, at most")
    crew.close()


def told(what: str, took: float, bare: float, processes: int) -> None:
    share = took / (bare / processes)
    print(f"{what}: {took:.1f} s, {share:.2f} x single builds ({bare:.1f} s) by {processes} processes", flush=True)


if __name__ == "__main__":
    main()
