"""Volume in the gate: a share of many cases of one kind, drawn anew each day; all of them with ``make fuzz``.

``SEED=2026-12-01 make test`` draws what was drawn on that day.
"""

from __future__ import annotations

import inspect
import os
import random
from collections.abc import Sequence
from datetime import UTC, datetime
from typing import TypeVar

T = TypeVar("T")

SEED = os.environ.get("SEED") or datetime.now(UTC).date().isoformat()
#: How many random cases of a kind ``make fuzz`` takes; 0 in the gate.
FUZZ = int(os.environ.get("FUZZ") or 0)
#: Cases that are made from a number each: there are as many of these as are asked for.
NUMBERS = range(FUZZ or 1000)


def sampled(cases: Sequence[T], share: float) -> list[T]:
    """Some of the cases, in their order: ``share`` of them, one at the least; all of them with ``make fuzz``.

    Each test draws for itself, so that not all of them see the same few fonts.
    """
    if FUZZ:
        return list(cases)
    frame = inspect.currentframe()
    assert frame and frame.f_back
    chance = random.Random(f"{SEED} {frame.f_back.f_code.co_qualname}")
    drawn = chance.sample(range(len(cases)), max(1, round(len(cases) * share)))
    return [cases[index] for index in sorted(drawn)]
