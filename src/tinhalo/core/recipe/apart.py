"""Steps on large regions, in a process of their own: with limits on time and memory that nothing can overrun.

Libraries cannot be interrupted in the middle of a call, and take what memory they want; a process can be held to both.
What is small is done where it is asked for: a process and the way there and back take some hundredths of a second.
"""

from __future__ import annotations

from collections.abc import Callable, Generator, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from dataclasses import dataclass, replace
from multiprocessing.connection import Connection
from threading import Event
from typing import Any, Literal

from tinhalo.core.document.anchor import Anchor
from tinhalo.core.geometry.arrays import XY
from tinhalo.core.geometry.curves.precision import Precision
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.regions.shares import joined, shared_out
from tinhalo.core.geometry.strokes.widths import Measured, measure
from tinhalo.core.recipe.step import Nested, Step, StepContext, StepError, TooMuchError
from tinhalo.core.runtime.cancellation import CancelledError, given_up
from tinhalo.core.runtime.processes import OverLimitError, ask, limit, read_ahead

#: A large region is shared out to so many processes, where it can be.
_SHARES = 2
#: Seconds between looks whether it is still wanted.
_GLANCE = 0.05

read_ahead(f"{__name__}_warm")

Method = Literal["apply", "find_growth"]


@dataclass(frozen=True)
class Limits:
    """Where steps on large regions are done, and what they may take there.

    Attributes:
        apart: whether they get processes of their own.
        large: a step is large where it costs as much as a plain offset of this many vertices, or more.
        seconds: what it may take apart, of computing.
        memory: what it may take there, in bytes beyond what a process has from the start.
    """

    apart: bool = False
    large: int = 30_000
    seconds: int = 20
    memory: int = 1_000_000_000


_limits = Limits()


def limits() -> Limits:
    """Those that hold now."""
    return _limits


def steps_apart() -> None:
    """Do steps on large regions in processes of their own from now on."""
    global _limits
    _limits = replace(_limits, apart=True)


@contextmanager
def limited(limits: Limits) -> Generator[None]:
    """Have other limits meanwhile."""
    global _limits
    before, _limits = _limits, limits
    try:
        yield
    finally:
        _limits = before


@dataclass(frozen=True)
class Prepared:
    """All that a step may ask for, found beforehand; a ``StepContext`` that can be sent to another process.

    Attributes:
        precision: how finely curves are followed.
        regions: of the step's recipes, by their JSON.
        places: of its anchors; None where a part is gone.
        grown: what its ``find_growth`` gave, where it has been asked.
        at: the middle of all art in mm, where the step goes by it.
    """

    precision: Precision
    regions: Mapping[str, Region]
    places: Mapping[str, XY | None]
    grown: float | None
    at: XY | None

    def cook(self, recipe: Nested) -> Region:
        """See ``StepContext``."""
        return self.regions[recipe.model_dump_json()]

    def growth(self, step: Step) -> float | None:
        """See ``StepContext``."""
        return self.grown

    def measure(self, region: Region) -> Measured:
        """See ``StepContext``."""
        return measure(region)

    def place(self, anchor: Anchor) -> XY | None:
        """See ``StepContext``."""
        return self.places[anchor.model_dump_json()]

    @property
    def middle(self) -> XY:
        """See ``StepContext``."""
        if self.at is None:
            raise ValueError("the step did not say that it goes by the middle")
        return self.at


def run(step: Step, method: Method, region: Region, context: StepContext) -> Any:
    """What a method of a step gives for a region: here, or where that is large in processes of its own.

    Raises:
        StepError: when it says so itself.
        TooMuchError: when it takes more than its limits.
        CancelledError: once nobody waits for it.
    """
    large = step.cost(region) >= _limits.large
    apart = _limits.apart and large and (method == "apply" or step.measures_growth)
    prepared = _prepared(step, method, context) if apart else None
    if method == "apply" and large and (made := _in_shares(step, region, context, prepared)) is not None:
        return made
    if prepared is None:
        return getattr(step, method)(region, context)
    return _asked(step, method, region, prepared, _limits.memory, given_up.get())


def _in_shares(step: Step, region: Region, context: StepContext, prepared: Prepared | None) -> Region | None:
    """What a step makes of a region that is shared out, in processes where that is prepared; None where it cannot be.

    Wherever it is done, the same is shared out: what comes of it is the same on every machine.
    """
    within = step.depends_within
    shares = shared_out(region, within, _SHARES) if within is not None else []
    if not shares:
        return None
    regions = [one.region for one in shares]
    made = _side_by_side(step, regions, prepared) if prepared else [step.apply(one, context) for one in regions]
    return joined(shares, made)


def _side_by_side(step: Step, regions: Sequence[Region], prepared: Prepared) -> list[Region]:
    """What a step makes of each of several regions, in as many processes; when one fails, the others are ended."""
    wanted, failed = given_up.get(), Event()

    def enough() -> bool:
        return failed.is_set() or wanted()

    def asked(region: Region) -> Region:
        try:
            return _asked(step, "apply", region, prepared, _limits.memory // len(regions), enough)
        except BaseException:
            failed.set()
            raise

    with ThreadPoolExecutor(len(regions)) as threads:
        going = [threads.submit(asked, region) for region in regions]
    errors = [error for one in going if (error := one.exception()) is not None]
    if errors:
        # Not what was only ended because of another one.
        raise next((error for error in errors if not isinstance(error, CancelledError)), errors[0])
    return [one.result() for one in going]


def _asked(
    step: Step, method: Method, region: Region, prepared: Prepared, memory: int, enough: Callable[[], bool]
) -> Any:
    """What it gives in a process of its own."""
    try:
        kind, made = ask(_work, (_limits.seconds, memory, step, method, region, prepared), _GLANCE, enough)
    except TimeoutError as error:
        raise CancelledError from error
    except OverLimitError as error:
        raise TooMuchError(error.of) from error
    if kind == "told":
        raise StepError(made)
    if kind == "memory":
        raise TooMuchError("memory")
    if kind == "failed":
        raise RuntimeError(made)
    return made


def _prepared(step: Step, method: Method, context: StepContext) -> Prepared:
    regions = {one.model_dump_json(): context.cook(one) for one in step.operands()}
    places = {one.model_dump_json(): context.place(one) for one in step.anchors()}
    finds = method == "apply" and type(step).find_growth is not Step.find_growth
    grown = context.growth(step) if finds else None
    return Prepared(context.precision, regions, places, grown, context.middle if step.goes_by_middle else None)


def _work(
    answer: Connection, seconds: float, memory: int, step: Step, method: Method, region: Region, context: Prepared
) -> None:
    limit(seconds, memory)
    try:
        answer.send(("made", getattr(step, method)(region, context)))
    except StepError as error:
        answer.send(("told", str(error)))
    except MemoryError:
        answer.send(("memory", ""))
    except Exception as error:
        # GEOS says so in words of its own.
        kind = "memory" if "bad_alloc" in str(error) else "failed"
        answer.send((kind, f"{type(error).__name__}: {error}"))
