"""The starters: how much a build costs beyond the library calls it makes, and how it grows with the words.

The library calls are timed inside a build that is run again with clocks: every function of shapely and numpy and
pathops' union add up their own time, nested calls counted once, and HarfBuzz' shaping of a line, Boost's Voronoi
diagrams and the flattening of curves with them. Arithmetic on arrays by operators and methods does not count. The same
without numpy's functions stands beside it.
"""

from __future__ import annotations

import argparse
import functools
import gc
import math
import statistics
import sys
import time
import types
from collections.abc import Callable, Iterator
from contextlib import ExitStack, contextmanager, nullcontext
from dataclasses import dataclass
from pathlib import Path
from typing import Any
from unittest import mock

import numpy as np
import pathops
import shapely

from tinhalo.core.artwork.lettering.face import Face
from tinhalo.core.artwork.lettering.shipped import ShippedLibrary
from tinhalo.core.design.design import Design
from tinhalo.core.document.fields import unit_of
from tinhalo.core.engine.build import build
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.strokes import voronoi
from tinhalo.core.geometry.warm import warm
from tinhalo.core.recipe.combine_steps import Intersect, Subtract, Union
from tinhalo.core.recipe.recipe import Recipe
from tinhalo.core.runtime.memo import Memo
from tinhalo.core.starters import STARTERS, with_words

LIBRARY = ShippedLibrary()
NAME = "Wilhelmijnad"
SMALL = 2.5
SIZES = (19, 190, 1900)
DOCS = Path(__file__).parents[1] / "docs"


class Clock:
    """Adds up the time spent inside the calls it wraps, and counts them."""

    def __init__(self) -> None:
        self.spent, self.calls, self._depth = 0.0, 0, 0

    def wrap(self, call: Callable[..., Any]) -> Callable[..., Any]:
        @functools.wraps(call)
        def timed(*args: Any, **kwargs: Any) -> Any:
            self._depth += 1
            self.calls += 1
            start = time.perf_counter()
            try:
                return call(*args, **kwargs)
            finally:
                self._depth -= 1
                if self._depth == 0:
                    self.spent += time.perf_counter() - start

        return timed


@functools.cache
def _burden() -> float:
    """Seconds that a clock counts for a call beyond what the call takes."""
    times = 2_000
    found: list[float] = []
    for _ in range(20):
        clock = Clock()
        timed = clock.wrap(_nothing)
        for _ in range(times):
            timed()
        start = time.perf_counter()
        for _ in range(times):
            _nothing()
        found.append((clock.spent - (time.perf_counter() - start)) / times)
    return max(0.0, min(found))


def _nothing() -> None:
    pass


@contextmanager
def library_calls(arrays: bool = True) -> Iterator[Clock]:
    """Time every call of the libraries while it lasts, with ``arrays`` numpy's functions, too."""
    clock = Clock()
    calls = {name: clock.wrap(found) for name, found in vars(shapely).items() if _is_call(found)}
    with (
        mock.patch.dict(vars(shapely), calls),
        _arrays_timed(clock) if arrays else nullcontext(),
        mock.patch.object(Outline, "flattened", clock.wrap(Outline.flattened)),
        mock.patch.object(Face, "shape", clock.wrap(Face.shape)),
        mock.patch.object(pathops, "union", clock.wrap(vars(pathops)["union"])),
        mock.patch.object(voronoi, "_diagram", clock.wrap(vars(voronoi)["_diagram"])),
        mock.patch.object(shapely.Polygon, "__new__", clock.wrap(shapely.Polygon.__new__)),
        mock.patch.object(shapely.STRtree, "__init__", clock.wrap(shapely.STRtree.__init__)),
        mock.patch.object(shapely.STRtree, "query", clock.wrap(shapely.STRtree.query)),
    ):
        yield clock


def _is_call(found: object) -> bool:
    return isinstance(found, types.FunctionType) and found.__module__.startswith("shapely")


@contextmanager
def _arrays_timed(clock: Clock) -> Iterator[None]:
    """Time every function of numpy that our own modules call, and not those that other libraries call inside."""
    functions = {name: found for name, found in vars(np).items() if callable(found) and not isinstance(found, type)}
    clocked = {
        name: _Timed(clock, found) if isinstance(found, np.ufunc) else clock.wrap(found)
        for name, found in functions.items()
    }
    timed = types.SimpleNamespace(**vars(np) | clocked)
    with ExitStack() as patched:
        for name, module in list(sys.modules.items()):
            if name.startswith("tinhalo.") and getattr(module, "np", None) is np:
                patched.enter_context(mock.patch.object(module, "np", timed))
        yield


class _Timed:
    """A universal function whose calls are timed; there is more to it than these."""

    def __init__(self, clock: Clock, call: Callable[..., Any]) -> None:
        self._whole, self._call = call, clock.wrap(call)

    def __call__(self, *args: Any, **kwargs: Any) -> Any:
        return self._call(*args, **kwargs)

    def __getattr__(self, name: str) -> Any:
        return getattr(self._whole, name)


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


@contextmanager
def _no_collection() -> Iterator[None]:
    gc.collect()
    gc.disable()
    try:
        yield
    finally:
        gc.enable()


@dataclass(frozen=True)
class Cost:
    """Least milliseconds of a run; its multiple of the library calls in it (the median), and without numpy's."""

    ms: float
    ratio: float
    less_arrays: float


def cost(prepare: Callable[[], Memo], run: Callable[[Memo], object], times: int) -> Cost:
    """What a run costs, each time with a memo of its own.

    A run without clocks is set against the calls of the run after it, so that a change of the machine's pace meets
    both; what the clocks count of themselves is taken off. As in Python's ``timeit``, no garbage is collected while
    the time is taken.
    """
    took: list[float] = []
    multiples: dict[bool, list[float]] = {True: [], False: []}
    for arrays, found in multiples.items():
        with _no_collection():
            for _ in range(times):
                memo = prepare()
                start = time.perf_counter()
                run(memo)
                took.append(time.perf_counter() - start)
                memo = prepare()
                with library_calls(arrays) as clock:
                    run(memo)
                if clock.spent:
                    found.append(took[-1] / (clock.spent - clock.calls * _burden()))
    ratio, less_arrays = (statistics.median(found or [math.nan]) for found in multiples.values())
    return Cost(min(took) * 1000, ratio, less_arrays)


@dataclass(frozen=True)
class Row:
    """A starter's cost from cold; the median edit's milliseconds, and the worst ratios of edits.

    Edits that cost less than ``SMALL`` ms are left out of the worst ratios: there a build's fixed millisecond counts.
    """

    title: str
    cold: Cost
    edit: float
    worst: tuple[float, float]


def table() -> list[Row]:
    """A row for every starter."""
    rows: list[Row] = []
    for starter in STARTERS:
        design = with_words(starter.document, NAME)

        def filled(one: Design = design) -> Memo:
            memo = Memo()
            screen(one, memo)
            return memo

        cold = cost(Memo, lambda memo, d=design: screen(d, memo), times=30)
        found = [cost(filled, lambda memo, d=edit: screen(d, memo), times=8) for edit in edits(design)]
        took = statistics.median(one.ms for one in found) if found else 0.0
        large = [one for one in found if one.ms >= SMALL]
        worst = (
            max((one.ratio for one in large), default=float("nan")),
            max((one.less_arrays for one in large), default=float("nan")),
        )
        rows.append(Row(starter.title, cold, took, worst))
        print(
            f"  {starter.title:28} cold {cold.ms:6.1f} ms x{cold.ratio:4.2f} ({cold.less_arrays:4.2f})"
            f"   edit {took:6.1f} ms worst x{worst[0]:4.2f} ({worst[1]:4.2f})"
        )
    return rows


@dataclass(frozen=True)
class Growth:
    """Least seconds of a cold screen build of each size, and how many times longer the last takes than the one before.

    The largest is set against the mean of a smaller one before and after it, so that a change of the machine's pace
    meets both; the median of three.
    """

    took: list[float]
    times: float


def growth(sizes: tuple[int, ...] = SIZES) -> dict[str, Growth]:
    """Per starter: what so many letters cost, set in lines of nineteen."""
    found: dict[str, Growth] = {}
    for starter in STARTERS:
        rounds: list[list[float]] = []
        for _ in range(3):
            rounds.append([])
            for size in (*sizes, sizes[-2]):
                design = with_words(starter.document, lines_of(size))
                gc.collect()
                start = time.perf_counter()
                screen(design, Memo())
                rounds[-1].append(time.perf_counter() - start)
        took = [min(runs) for runs in zip(*rounds, strict=True)][: len(sizes)]
        times = statistics.median(many / ((before + after) / 2) for *_, before, many, after in rounds)
        found[starter.title] = Growth(took, times)
        print(
            f"  {starter.title:28}",
            "  ".join(f"{n} letters {t:6.2f} s" for n, t in zip(sizes, took, strict=True)),
            f"  ten times the letters: x{times:.1f}",
        )
    return found


def plot(found: dict[str, Growth], sizes: tuple[int, ...] = SIZES) -> str:
    """A small picture of the growth, both axes by powers of ten; the dashed line is 14 times for 10 times."""
    from math import log10

    def x(size: float) -> float:
        return 60 + (log10(size) - 1) / 2.5 * 480

    def y(seconds: float) -> float:
        return 300 - (log10(seconds) + 3) / 4.5 * 280

    lines = "".join(
        f'<polyline points="{" ".join(f"{x(n):.1f},{y(t):.1f}" for n, t in zip(sizes, one.took, strict=True))}" '
        f'fill="none" stroke="#0b7793" stroke-width="1.5" opacity="0.6"><title>{name}</title></polyline>'
        for name, one in found.items()
    )
    start = max(one.took[0] for one in found.values())
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
            f"| {row.title} | {row.cold.ms:.0f} ms | {_both(row.cold.ratio, row.cold.less_arrays)} "
            f"| {row.edit:.0f} ms | {_both(*row.worst)} "
            f"| {found[row.title].took[1]:.2f} s | {found[row.title].took[2]:.1f} s | {found[row.title].times:.1f} |\n"
            for row in rows
        )
        (DOCS / "speed.md").write_text(SPEED + cells)
        (DOCS / "speed.svg").write_text(plot(found))


def _both(ratio: float, less_arrays: float) -> str:
    return "–" if math.isnan(ratio) else f"{ratio:.2f} ({less_arrays:.2f})"


SPEED = """# Speed of the starters

Written by `python -m benchmarks.starters --write`, on a machine with two cores; figures move by a few tens of percent
from run to run, ratios less. *Ratio* is a build's time over the time of the library calls in the same build (GEOS, the
path engine, HarfBuzz, Boost's Voronoi diagrams, numpy's functions and flattening; in brackets without numpy's
functions), no garbage collected meanwhile, as in Python's `timeit`: from cold, and for the worst of all single edits of
a length that cost 2.5 ms or more (below that the fixed millisecond of a build counts). The last columns are cold builds
with 190 and 1,900 letters, and how many times longer ten times the letters take.

![growth](speed.svg)

| starter | cold | ratio | an edit | worst ratio | 190 letters | 1,900 letters | times |
|---|---|---|---|---|---|---|---|
"""

if __name__ == "__main__":
    main()
