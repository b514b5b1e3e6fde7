"""Steps that could not be worked out: told, and left out, with the rest of the design made."""

from __future__ import annotations

import logging
from dataclasses import dataclass

import shapely

from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.recipe.apart import limits, run
from tinhalo.core.recipe.step import Step, StepContext, StepError, TooMuchError
from tinhalo.core.runtime.cancellation import CancelledError, TooLongError, within

_log = logging.getLogger(__name__)

#: A library that trips over a region is handed it once more on a grid of this, in mm: far below what any machine does.
_GRID = 1e-4

_TRY = "try other numbers, or fewer letters"

#: No step takes longer, in seconds, unless more is asked for: what anybody cuts takes one at most.
PATIENCE = 30.0


@dataclass(frozen=True)
class Why:
    """Why a step failed, as it is kept: trying again would take as long, to the same end."""

    sentence: str
    nbytes: int = 300


@dataclass(frozen=True)
class Failure:
    """A step that was left out.

    Attributes:
        step: its index in the recipe.
        why: what ends the sentence that begins with it.
    """

    step: int
    why: str


def attempted(step: Step, region: Region, context: StepContext, patience: float = PATIENCE) -> Region:
    """What a step makes of a region; where a library trips over it, of the region on a grid.

    Raises:
        StepError: when that fails, too; what it was is in the log.
        CancelledError: once nobody waits for it.
    """
    try:
        return _in_time(step, region, context, patience)
    except (StepError, CancelledError):
        raise
    except Exception:
        _log.exception("A step failed and is tried again on a grid: %s", step.model_dump_json()[:500])
    try:
        snapped = shapely.set_precision(region.area, _GRID)  # pyright: ignore[reportUnknownMemberType]
        return _in_time(step, Region.of(snapped, region.drawn).with_marks(region.marks), context, patience)
    except (StepError, CancelledError):
        raise
    except Exception as error:
        _log.exception("A step failed on a grid, too: %s", step.model_dump_json()[:500])
        raise StepError("could not be worked out: change its numbers, or what it works on") from error


def _in_time(step: Step, region: Region, context: StepContext, patience: float) -> Region:
    try:
        with within(patience):
            return run(step, "apply", region, context)
    except TooLongError as error:
        raise StepError(f"takes longer than {patience:g} s and is given up: {_TRY}") from error
    except TooMuchError as error:
        limit = f"{limits().seconds} s" if error.of == "time" else f"{limits().memory / 1e6:,.0f} MB"
        raise StepError(f"takes more than {limit} and is given up: {_TRY}") from error
