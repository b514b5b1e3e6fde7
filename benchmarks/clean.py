"""How many first designs open clean: every starter with sixty ordinary names, checked as the screen checks them."""

from __future__ import annotations

import argparse
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from itertools import product

from benchmarks.starters import LIBRARY
from tinhalo.core.findings.survey import findings_of
from tinhalo.core.runtime.memo import Memo
from tinhalo.core.starters import STARTERS, begun

#: Short and long, with i, j, M and W, with accents, of two words, in capitals, and in the scripts that fonts have.
NAMES = (
    *("Al", "Bo", "Ida", "Zoë", "Uma", "Fenna", "Bram", "Idris", "Ottoline", "Marit", "Jonas", "Willem", "Mia", "Jip"),
    *("Benjamin", "Wilhelmina", "Maximilian", "Josephine", "Anneliese", "Christopher", "Alexandra", "Bartholomew"),
    *("Mimi", "Juliet", "Wim", "Emma", "Winnie", "Jimmy", "Miriam", "Jasmijn"),
    *("Zoë & Bram", "Åse", "Łukasz", "Søren", "Noël", "François", "Jürgen", "Šárka", "Chloé", "Iñigo", "Ágnes"),
    *("Kite Crew", "Ostrel Bay", "High Wind", "Team Fenna", "Mum & Dad", "Best Friend", "Launch Field", "Tea Time"),
    *("FENNA", "BRAM", "WILLOW", "JAMIE", "MAX", "OSTREL", "HOME", "EMMA 7"),
    *("Δανάη", "Иван", "Fenna 12", "Ann-Marie", "O'Neill"),
)


def opened(starter: str, name: str) -> list[tuple[str, str, str]]:
    """What asks for something in a starter with a name: kind, layer and sentence of each cause."""
    memo = Memo()
    document = begun(next(one for one in STARTERS if one.id == starter).document, name, LIBRARY, memo)
    found = findings_of(document, LIBRARY, memo)
    told = {finding.cause: finding for finding in found if finding.open or finding.kind == "not_checked"}
    return [(one.kind, one.layer or "", one.sentence) for one in told.values()]


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--every", type=int, default=1, help="take one name of so many")
    parser.add_argument("--starter", action="append", help="only this starter; may be given again")
    parser.add_argument("--told", action="store_true", help="print every sentence")
    asked = parser.parse_args()
    starters = [one.id for one in STARTERS if not asked.starter or one.id in asked.starter]
    names = NAMES[:: asked.every]
    clean = Counter[str]()
    lacking = Counter[str]()
    causes = Counter[str]()
    jobs = list(product(starters, names))
    with ProcessPoolExecutor() as pool:
        for (starter, name), told in zip(jobs, pool.map(opened, *zip(*jobs, strict=True)), strict=True):
            if any(kind == "missing_character" for kind, *_ in told):
                # Only the maker can choose another font.
                lacking[starter] += 1
                continue
            clean[starter] += not told
            causes.update(f"{starter} {kind} {layer}" for kind, layer, _ in told)
            if asked.told:
                print(*(f"{starter} “{name}”: {sentence}" for *_, sentence in told), sep="\n")
    for starter in starters:
        own = {cause.removeprefix(f"{starter} "): n for cause, n in causes.items() if cause.startswith(f"{starter} ")}
        print(f"{starter:20} {clean[starter]:3} of {len(names) - lacking[starter]} clean  {own or ''}")
    of = len(jobs) - lacking.total()
    print(f"opens clean: {clean.total()} of {of}, {clean.total() / of:.1%}; {lacking.total()} not in the font's script")


if __name__ == "__main__":
    main()
