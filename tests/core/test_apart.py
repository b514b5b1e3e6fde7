"""Steps in a process of their own come to what they come to here."""

from __future__ import annotations

import unittest
from collections.abc import Callable
from threading import Event
from typing import Any
from unittest import mock

import shapely

from tests.sampling import sampled
from tests.support import LIBRARY, document
from tinhalo.core.design.design import Design
from tinhalo.core.engine.build import build
from tinhalo.core.geometry.curves.precision import EXACT
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.recipe import apart
from tinhalo.core.recipe.apart import Limits, limited
from tinhalo.core.recipe.offset_step import Offset
from tinhalo.core.recipe.step import StepError
from tinhalo.core.recipe.thicken_step import Thicken
from tinhalo.core.runtime.memo import Memo

#: All steps are done in processes of their own.
EVERY = Limits(apart=True, large=0)
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
        for step in sampled(STEPS, 1 / 3):
            # What is taken off has to leave something.
            steps = [{"op": "offset", "by": 3}, step] if step["op"] == "subtract" else [step]
            design = Design.model_validate(document(steps))
            here = build(design, LIBRARY, memo=Memo()).layers[1]
            with limited(EVERY), mock.patch.object(apart, "ask", wraps=apart.ask) as asked:
                there = build(design, LIBRARY, memo=Memo()).layers[1]
            with self.subTest(step):
                self.assertTrue(asked.called)
                self.assertTrue(there.region.area.equals_exact(here.region.area))
                self.assertEqual(there.notes, here.notes)

    def test_words_that_are_shared_out_become_the_same_here_and_there(self) -> None:
        thicker = {"op": "thicken", "to": 3, "where": "thin"}
        rounder = {"op": "round_off", "outer": 1, "inner": 0.5}
        for font, step in sampled((("great-vibes", thicker), ("anton", thicker), ("anton", rounder)), 1 / 3):
            design = Design.model_validate(document([step], text="Zoë Bram Kite", font=font, size=30))
            with limited(Limits(large=0)):
                here = build(design, LIBRARY, memo=Memo()).layers[1].region
            with (
                self.subTest(font, step=step["op"]),
                limited(EVERY),
                mock.patch.object(apart, "ask", wraps=apart.ask) as asked,
            ):
                there = build(design, LIBRARY, memo=Memo()).layers[1].region
                self.assertEqual(asked.call_count, 2)
                self.assertTrue(there.area.equals_exact(here.area))
            # All in one may be thickened otherwise where a width is within what is enough of the one that is wanted.
            whole = build(design, LIBRARY, memo=Memo()).layers[1].region
            self.assertEqual((there.pieces, there.holes), (whole.pieces, whole.holes))
            apart_by = shapely.symmetric_difference(there.area, whole.area).area
            self.assertLess(apart_by, 1e-4 * whole.area.area)

    def test_letters_of_straight_lines_are_shared_out_for_their_corners(self) -> None:
        words = "Kite by kite and day by day, Ottoline and Fenna"
        design = Design.model_validate(document([{"op": "round_off"}], text=words, font="graduate", size=24))
        with limited(Limits(apart=True)), mock.patch.object(apart, "ask", wraps=apart.ask) as asked:
            build(design, LIBRARY, memo=Memo())
        self.assertEqual(asked.call_count, 2)

    def test_pieces_that_come_to_touch_are_done_in_one(self) -> None:
        # Seen to be apart, they would lie over each other.
        class Wider(Offset):
            @property
            def depends_within(self) -> float:
                return 0.0

        bars = Region.of(shapely.MultiPolygon([shapely.box(x, 0, x + 8, 20) for x in range(0, 200, 10)]))
        with limited(Limits(large=0)):
            made = apart.run(Wider(by=1.5), "apply", bars, apart.Prepared(EXACT, {}, {}, None, None))
        self.assertEqual(made.pieces, 1)
        self.assertTrue(made.area.is_valid)

    def test_when_a_share_fails_the_others_are_not_waited_for(self) -> None:
        words = Region.of(shapely.MultiPolygon([shapely.box(x, 0, x + 5, 20) for x in range(0, 500, 10)]))
        wide = Thicken(to=8)
        begun, never = Event(), Event()

        def ask(_: object, arguments: tuple[Any, ...], glance: float, enough: Callable[[], bool]) -> object:
            if arguments[4].bounds[0] > 0:
                begun.wait(10)
                return "told", "could not be made"
            begun.set()
            while not enough():
                never.wait(glance)
            raise TimeoutError

        with (
            limited(EVERY),
            mock.patch.object(apart, "ask", ask),
            self.assertRaisesRegex(StepError, "could not be made"),
        ):
            apart.run(wide, "apply", words, apart.Prepared(EXACT, {}, {}, None, None))

    def test_what_a_step_says_is_told(self) -> None:
        design = Design.model_validate(document([{"op": "stitch", "length": 0.01, "spacing": 0.01}], size=96))
        here = build(design, LIBRARY, memo=Memo()).layers[1]
        with limited(EVERY):
            there = build(design, LIBRARY, memo=Memo()).layers[1]
        self.assertEqual(len(here.failures), 1)
        self.assertEqual(there.failures, here.failures)

    def test_what_takes_more_than_it_may_is_stopped_and_told_and_the_rest_is_made(self) -> None:
        stitches = {"op": "stitch", "length": 3, "spacing": 1.5, "inset": 0, "width": 1}
        data = document([stitches, {"op": "thicken", "to": 3, "where": "thin"}], text="Wilhelmijn", size=60)
        data["layers"].append({"id": "plain", "recipe": {"from": ["name"]}})
        design = Design.model_validate(data)
        cases = (
            (Limits(apart=True, large=10_000, seconds=0), "more than 0 s"),
            (Limits(apart=True, large=10_000, memory=40_000_000), "more than 40 MB"),
        )
        for limits, why in cases:
            with self.subTest(why), limited(limits):
                built = build(design, LIBRARY, exact=False, memo=Memo())
                self.assertEqual([one.step for one in built.layers[1].failures], [1])
                self.assertIn(why, built.layers[1].failures[0].why)
                self.assertFalse(built.layers[2].region.is_empty)
                # What the step was given stays.
                self.assertGreater(built.layers[1].region.pieces, 100)


if __name__ == "__main__":
    unittest.main()
