"""The finished size: reached exactly, with distances kept or scaled."""

from __future__ import annotations

import unittest
from typing import Any

from tests.support import LIBRARY, block, design
from tinhalo.core.design.design import Design
from tinhalo.core.design.problem import DesignError
from tinhalo.core.engine.build import build
from tinhalo.core.engine.resize import resize
from tinhalo.core.recipe.offset_step import Offset
from tinhalo.core.runtime.memo import Memo

MEMO = Memo()


def extent(job: Design) -> tuple[float, float]:
    bounds = build(job, LIBRARY, memo=MEMO).bounds
    assert bounds
    return bounds[2] - bounds[0], bounds[3] - bounds[1]


def border(job: Design) -> float:
    step = job.layers[1].recipe.steps[0]
    assert isinstance(step, Offset)
    return step.by


class FinishedSize(unittest.TestCase):
    def test_both_sides_and_both_ways(self) -> None:
        more: dict[str, Any] = {"nudges": {"2": 1.0}, "moves": {"0": {"dy": 1.5}}, "letter_spacing": 0.2}
        for distances in ("kept", "scaled"):
            for side, index in (("width", 0), ("height", 1)):
                for to in (40.0, 120.0):
                    job = design(**more)
                    made = resize(job, LIBRARY, side, to, distances, MEMO)  # type: ignore[arg-type]
                    with self.subTest(distances=distances, side=side, to=to):
                        self.assertAlmostEqual(extent(made)[index], to, delta=0.01)
                        factor = block(made).size / block(job).size
                        self.assertAlmostEqual(block(made).nudges["2"], factor)
                        self.assertAlmostEqual(block(made).moves["0"].dy, 1.5 * factor)
                        self.assertAlmostEqual(border(made), 4.0 if distances == "kept" else 4 * factor)

    def test_a_size_smaller_than_the_distances_is_refused(self) -> None:
        with self.assertRaisesRegex(DesignError, "cannot be reached while distances keep their size"):
            resize(design(), LIBRARY, "width", 5, "kept", MEMO)
        made = resize(design(), LIBRARY, "width", 5, "scaled", MEMO)
        self.assertAlmostEqual(extent(made)[0], 5, delta=0.01)

    def test_nothing_has_no_size(self) -> None:
        with self.assertRaisesRegex(DesignError, "Nothing leaves yet"):
            resize(design(text=""), LIBRARY, "width", 50, "kept", MEMO)
