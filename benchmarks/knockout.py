"""Finding a place on 24 knockouts of the shipped fonts: the answers against a full search's, and the time it takes."""

from __future__ import annotations

import statistics
import time

from tests.core.test_knockout import full_search, knockout

from tinhalo.core.geometry.placement.find_place import SliverLimits, find_place

BLOCKS = ("anton", "bebas-neue", "alfa-slab-one", "bevan", "baloo-2", "work-sans")
NAMES = ("pacifico", "kaushan-script", "lobster", "allura")


def compare(verbose: bool = False) -> str:
    """A line with the figures: 24 pairs of fonts, half of them with small slivers allowed."""
    times: list[float] = []
    same = none = 0
    for number, (block_font, font) in enumerate((b, n) for b in BLOCKS for n in NAMES):
        block, channel, ends = knockout(block_font, font, ("Fenna", "Ottoline")[number // 4 % 2])
        sliver = SliverLimits() if number % 2 else SliverLimits(6, 1)
        start = time.perf_counter()
        found = find_place(block, channel, ends, sliver)
        times.append(time.perf_counter() - start)
        full = full_search(block, channel, ends, sliver)
        same += found == full
        none += found.slivers > 0
        if verbose:
            print(block_font, font, f"{times[-1]:.2f} s, full {time.perf_counter() - start - times[-1]:.1f} s", found)
            if found != full:
                print("   full:", full)
    return (
        f"find a place: {same} of {len(times)} as in a full search ({none} have none); "
        f"median {statistics.median(times):.2f} s, worst {max(times):.2f} s"
    )


if __name__ == "__main__":
    print(compare(verbose=True))
