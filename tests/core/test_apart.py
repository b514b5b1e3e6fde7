"""Steps in a process of their own come to what they come to here."""

from __future__ import annotations

import unittest
from typing import Any
from unittest import mock

from tests.support import LIBRARY, document
from tinhalo.core.design.design import Design
from tinhalo.core.engine.build import build
from tinhalo.core.recipe import apart
from tinhalo.core.runtime.memo import Memo

STEPS: tuple[dict[str, Any], ...] = (
    {"op": "thicken", "to": 3, "where": "thin"},
    {"op": "thicken", "to": 4, "where": "everywhere"},
    {"op": "offset", "by": 2},
    {"op": "round_off", "outer": 1, "inner": 1},
    {"op": "subtract", "operand": {"from": ["name"]}},
    {"op": "plate", "shape": "ellipse", "margin": 3},
)


class Apart(unittest.TestCase):
    def test_each_step_gives_the_same(self) -> None:
        for step in STEPS:
            # What is taken off has to leave something.
            steps = [{"op": "offset", "by": 3}, step] if step["op"] == "subtract" else [step]
            design = Design.model_validate(document(steps))
            here = build(design, LIBRARY, memo=Memo()).layers[1]
            large = mock.patch.multiple(apart, _apart=True, _LARGE=0)
            with large, mock.patch.object(apart, "ask", wraps=apart.ask) as asked:
                there = build(design, LIBRARY, memo=Memo()).layers[1]
            with self.subTest(step):
                self.assertTrue(asked.called)
                self.assertTrue(there.region.area.equals_exact(here.region.area))
                self.assertEqual(there.notes, here.notes)

    def test_what_a_step_says_is_told(self) -> None:
        design = Design.model_validate(document([{"op": "stitch", "length": 0.01, "spacing": 0.01}], size=96))
        here = build(design, LIBRARY, memo=Memo()).layers[1]
        with mock.patch.multiple(apart, _apart=True, _LARGE=0):
            there = build(design, LIBRARY, memo=Memo()).layers[1]
        self.assertEqual(len(here.failures), 1)
        self.assertEqual(there.failures, here.failures)


if __name__ == "__main__":
    unittest.main()
