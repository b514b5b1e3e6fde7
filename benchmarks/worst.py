"""The dearest steps: each on a realistic worst case and on an extreme one, in seconds, and what became of it.

In a process of its own where it is large, as on the server. Ratios are against the plain offset of the same words.
"""

from __future__ import annotations

import time
from typing import Any

from tinhalo.core.artwork.lettering.shipped import ShippedLibrary
from tinhalo.core.design.design import Design
from tinhalo.core.engine.build import build
from tinhalo.core.geometry.warm import warm
from tinhalo.core.recipe.apart import steps_apart
from tinhalo.core.runtime.memo import Memo

LIBRARY = ShippedLibrary()
NAME, LINE = "Wilhelmijn", "Ottoline and Fenna of the Launch Field, kite by kite and day"
STITCH = {"op": "stitch", "length": 3, "spacing": 1.5, "inset": 0, "width": 1}

#: Step by what it is called: words, size in mm, and the steps.
CASES: dict[str, tuple[str, float, list[dict[str, Any]]]] = {
    "thicken where thin": (LINE, 24, [{"op": "thicken", "to": 2, "where": "thin"}]),
    "thicken where thin, far": (LINE, 24, [{"op": "thicken", "to": 8, "where": "thin", "keep_open": 4}]),
    "thicken stitches": (NAME, 60, [STITCH, {"op": "thicken", "to": 2, "where": "thin"}]),
    "thicken everywhere": (LINE, 24, [{"op": "thicken", "to": 4, "where": "everywhere"}]),
    "thicken everywhere, far": (
        NAME,
        24,
        [{"op": "offset", "by": 0.8}, {"op": "thicken", "to": 6, "where": "everywhere"}],
    ),
    "round off": (LINE, 24, [{"op": "round_off", "outer": 2, "inner": 2}]),
    "round off, far": (NAME, 24, [{"op": "round_off", "outer": 500, "inner": 500}]),
    "close gaps": (LINE, 24, [{"op": "close_gaps", "up_to": 3}]),
    "close gaps, far": (LINE, 24, [{"op": "close_gaps", "up_to": 900}]),
    "open gaps": (LINE, 24, [{"op": "offset", "by": 1}, {"op": "open_gaps", "to": 1}]),
    "open gaps, far": (NAME, 24, [{"op": "open_gaps", "to": 100}]),
    "stitches": (LINE, 24, [{"op": "offset", "by": 3}, STITCH]),
    "bridges": (LINE, 24, [{"op": "bridge", "width": 1.5, "up_to": 20}]),
    "offset, far": (LINE, 24, [{"op": "offset", "by": 900}]),
}


def document(text: str, size: float, steps: list[dict[str, Any]]) -> Design:
    art = {"id": "words", "text": text, "font": "dancing-script", "size": size}
    layer = {"id": "layer", "recipe": {"from": ["words"], "steps": steps}}
    return Design.model_validate({"format": "tin-halo/1", "art": [art], "layers": [layer]})


def took(text: str, size: float, steps: list[dict[str, Any]]) -> tuple[float, str]:
    design = document(text, size, steps)
    begun = time.perf_counter()
    built = build(design, LIBRARY, exact=True, memo=Memo())
    seconds = time.perf_counter() - begun
    failures = built.layers[0].failures
    return seconds, failures[0].why if failures else "made"


def main() -> None:
    warm()
    steps_apart()
    # As on the server, where what all such processes are forked from has long been there.
    took(*CASES["thicken where thin"])
    plain = {words: took(words, size, [{"op": "offset", "by": 1}])[0] for words, size in ((NAME, 24), (LINE, 24))}
    for name, (text, size, steps) in CASES.items():
        seconds, told = took(text, size, steps)
        print(f"{name:26} {seconds:6.2f} s   {seconds / plain[text]:6.1f} times a plain border   {told}", flush=True)


if __name__ == "__main__":
    main()
