"""The starters: how much a build costs beyond the library calls it makes, and how it grows with the words.

The library calls are timed inside the very build that is measured: every function of shapely, pathops' union and
HarfBuzz' shaping add up their own time, nested calls counted once, and the flattening of curves in numpy with them.
"""

from __future__ import annotations

import argparse
import functools
import gc
import statistics
import time
import types
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any
from unittest import mock

import pathops
import shapely
import uharfbuzz as hb

from tinhalo.core.build import build
from tinhalo.core.design import Design
from tinhalo.core.geometry.outline import Outline
from tinhalo.core.geometry.warm import warm
from tinhalo.core.lettering.shipped import ShippedLibrary
from tinhalo.core.recipe.combine_steps import Intersect, Subtract, Union
from tinhalo.core.recipe.fields import unit_of
from tinhalo.core.recipe.memo import Memo
from tinhalo.core.recipe.recipe import Recipe
from tinhalo.core.starters import STARTERS, with_words

LIBRARY = ShippedLibrary()
NAME = "Wilhelmijnad"
SMALL = 4.0
SIZES = (19, 190, 1900)
DOCS = Path(__file__).parents[1] / "docs"


class Clock:
    """Adds up the time spent inside the calls it wraps."""

    def __init__(self) -> None:
        self.spent, self._depth = 0.0, 0

    def wrap(self, call: Callable[..., Any]) -> Callable[..., Any]:
        @functools.wraps(call)
        def timed(*args: Any, **kwargs: Any) -> Any:
            self._depth += 1
            start = time.perf_counter()
            try:
                return call(*args, **kwargs)
            finally:
                self._depth -= 1
                if self._depth == 0:
                    self.spent += time.perf_counter() - start

        return timed


@contextmanager
def library_calls() -> Iterator[Clock]:
    """Time every call of the libraries while it lasts."""
    clock = Clock()
    calls = {name: clock.wrap(found) for name, found in vars(shapely).items() if _is_call(found)}
    with (
        mock.patch.dict(vars(shapely), calls),
        mock.patch.object(Outline, "flattened", clock.wrap(Outline.flattened)),
        mock.patch.object(hb, "shape", clock.wrap(hb.shape)),
        mock.patch.object(pathops, "union", clock.wrap(vars(pathops)["union"])),
        mock.patch.object(shapely.Polygon, "__new__", clock.wrap(shapely.Polygon.__new__)),
        mock.patch.object(shapely.STRtree, "__init__", clock.wrap(shapely.STRtree.__init__)),
        mock.patch.object(shapely.STRtree, "query", clock.wrap(shapely.STRtree.query)),
    ):
        yield clock


def _is_call(found: object) -> bool:
    return isinstance(found, types.FunctionType) and found.__module__.startswith("shapely")


def lines_of(letters: int) -> str:
    """So many letters in lines of nineteen."""
    return "\n".join([(NAME + "ostrelba")[:19]] * (letters // 19))


def screen(design: Design, memo: Memo) -> None:
    build(design, LIBRARY, exact=False, memo=memo)


def edits(design: Design) -> list[Design]:
    """The design after every single edit of a length in a step, by a tenth of a millimetre."""
    made: list[Design] = []
    for number, layer in enumerate(design.layers):
        for recipe in _edited(layer.recipe):
            layers = [*design.layers]
            layers[number] = layer.model_copy(update={"recipe": recipe})
            made.append(design.model_copy(update={"layers": tuple(layers)}))
    return made


def _edited(recipe: Recipe) -> Iterator[Recipe]:
    """The recipe after each edit, those of nested recipes included."""
    for place, step in enumerate(recipe.steps):
        changes: list[dict[str, Any]] = [
            {field: value + 0.1}
            for field in type(step).model_fields
            if unit_of(type(step), field) == "mm" and (value := getattr(step, field)) is not None
        ]
        if isinstance(step, Subtract | Union | Intersect):
            changes += [{"operand": operand} for operand in _edited(step.operand)]
        for change in changes:
            steps = [*recipe.steps]
            steps[place] = step.model_copy(update=change)
            yield recipe.model_copy(update={"steps": tuple(steps)})


def ratio(prepare: Callable[[], Memo], run: Callable[[Memo], None], times: int = 5) -> tuple[float, float]:
    """Least milliseconds of a run, and the least ratio of a run to the library calls in it."""
    best, least = float("inf"), float("inf")
    for _ in range(times):
        memo = prepare()
        gc.collect()
        start = time.perf_counter()
        run(memo)
        best = min(best, time.perf_counter() - start)
        memo = prepare()
        gc.collect()
        with library_calls() as clock:
            start = time.perf_counter()
            run(memo)
            whole = time.perf_counter() - start
        least = min(least, whole / clock.spent) if clock.spent else least
    return best * 1000, least


def table() -> list[tuple[str, float, float, float, float]]:
    """Per starter: cold milliseconds and ratio; the median edit's milliseconds, and the worst ratio of edits.

    Edits that cost less than ``SMALL`` ms are left out of the worst ratio: there a build's fixed millisecond counts.
    """
    rows: list[tuple[str, float, float, float, float]] = []
    for starter in STARTERS:
        design = with_words(starter.document, NAME)

        def filled(one: Design = design) -> Memo:
            memo = Memo()
            screen(one, memo)
            return memo

        cold, cold_ratio = ratio(Memo, lambda memo, d=design: screen(d, memo))
        found = [ratio(filled, lambda memo, d=edit: screen(d, memo), times=4) for edit in edits(design)]
        took = statistics.median(t for t, _ in found) if found else 0.0
        worst = max((r for t, r in found if t >= SMALL), default=float("nan"))
        rows.append((starter.title, cold, cold_ratio, took, worst))
        print(f"  {starter.title:28} cold {cold:6.1f} ms x{cold_ratio:4.2f}   edit {took:6.1f} ms worst x{worst:4.2f}")
    return rows


def growth(sizes: tuple[int, ...] = SIZES) -> dict[str, list[float]]:
    """Per starter: seconds of a cold screen build with so many letters, set in lines of nineteen."""
    found: dict[str, list[float]] = {}
    for starter in STARTERS:
        took: list[float] = []
        for size in sizes:
            design = with_words(starter.document, lines_of(size))
            runs = []
            for _ in range(3 if size < 1000 else 2):
                gc.collect()
                start = time.perf_counter()
                screen(design, Memo())
                runs.append(time.perf_counter() - start)
            took.append(min(runs))
        found[starter.title] = took
        print(
            f"  {starter.title:28}",
            "  ".join(f"{n} letters {t:6.2f} s" for n, t in zip(sizes, took, strict=True)),
            end="",
        )
        print(f"   ten times the letters: x{took[-1] / took[-2]:.1f}")
    return found


def plot(found: dict[str, list[float]], sizes: tuple[int, ...] = SIZES) -> str:
    """A small picture of the growth, both axes by powers of ten; the dashed line is 14 times for 10 times."""
    from math import log10

    def x(size: float) -> float:
        return 60 + (log10(size) - 1) / 2.5 * 480

    def y(seconds: float) -> float:
        return 300 - (log10(seconds) + 3) / 4.5 * 280

    lines = "".join(
        f'<polyline points="{" ".join(f"{x(n):.1f},{y(t):.1f}" for n, t in zip(sizes, took, strict=True))}" '
        f'fill="none" stroke="#0b7793" stroke-width="1.5" opacity="0.6"><title>{name}</title></polyline>'
        for name, took in found.items()
    )
    start = max(took[0] for took in found.values())
    ends = f"M{x(SIZES[0]):.1f},{y(start):.1f}L{x(SIZES[-1]):.1f},{y(start * 14**2):.1f}"
    limit = f'<path d="{ends}" stroke="#a8321c" stroke-dasharray="5 4"/>'
    marks = "".join(f'<text x="{x(n):.0f}" y="320" text-anchor="middle">{n}</text>' for n in sizes) + "".join(
        f'<text x="52" y="{y(t) + 4:.0f}" text-anchor="end">{t:g} s</text>' for t in (0.001, 0.01, 0.1, 1, 10)
    )
    return (
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 580 345" font-family="sans-serif" font-size="12">'
        f'<rect width="580" height="345" fill="#fffdf8"/>{lines}{limit}{marks}'
        '<text x="320" y="340" text-anchor="middle">letters</text></svg>\n'
    )


def main() -> None:
    parser = argparse.ArgumentParser(description="Measure the starters.")
    parser.add_argument("--write", action="store_true", help="write docs/speed.md and docs/speed.svg")
    write = parser.parse_args().write
    warm()
    print("Starters with a 12-letter name, against the library calls inside the same build (screen)")
    rows = table()
    print("Growth with the number of letters, cold (screen)")
    found = growth()
    if write:
        cells = "".join(
            f"| {name} | {cold:.0f} ms | {a:.2f} | {took:.0f} ms | {b:.2f} "
            f"| {found[name][1]:.2f} s | {found[name][2]:.1f} s | {found[name][2] / found[name][1]:.1f} |\n"
            for name, cold, a, took, b in rows
        )
        (DOCS / "speed.md").write_text(SPEED + cells)
        (DOCS / "speed.svg").write_text(plot(found))


SPEED = """# Speed of the starters

Written by `python -m benchmarks.starters --write`, on a machine with two cores; figures move by a few tens of percent
from run to run, ratios less. *Ratio* is a build's time over the time of the library calls inside it (GEOS, the path
engine, HarfBuzz, flattening): from cold, and for the worst of all single edits of a length that cost
4 ms or more (below that the fixed millisecond of a build counts). The last columns are cold
builds with 190 and 1,900 letters, and how many times longer ten times the letters take.

![growth](speed.svg)

| starter | cold | ratio | an edit | worst ratio | 190 letters | 1,900 letters | times |
|---|---|---|---|---|---|---|---|
"""

if __name__ == "__main__":
    main()
