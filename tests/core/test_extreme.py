"""Outside the happy path: what no machine makes is refused in a sentence, and what a library trips over is told."""

from __future__ import annotations

import copy
import json
import random
import tempfile
import unittest
from pathlib import Path
from typing import Any
from unittest import mock

import shapely
from scripts.random_designs import large_design, random_design
from shapely import GEOSException

from tests.sampling import FUZZ, NUMBERS, sampled
from tests.support import LIBRARY, hairlines
from tinhalo.cli import main
from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.design.design import Design
from tinhalo.core.design.problem import DesignError
from tinhalo.core.design.reading import parse_design, read_design
from tinhalo.core.engine.build import build
from tinhalo.core.findings.survey import findings_of
from tinhalo.core.recipe.offset_step import Offset
from tinhalo.core.runtime.cancellation import CancelledError, checkpoint, given_up
from tinhalo.core.runtime.memo import Memo

Data = dict[str, Any]


def plain(*steps: Data, **words: Any) -> Data:
    art = {"id": "w", "text": "Bram", "font": "anton", "size": 24, **words}
    return {"format": "tin-halo/1", "art": [art], "layers": [{"id": "a", "recipe": {"from": ["w"], "steps": steps}}]}


def nested(depth: int) -> Data:
    recipe: Data = {"from": ["w"]}
    for _ in range(depth - 1):
        recipe = {"from": ["w"], "steps": [{"op": "union", "operand": recipe}]}
    return recipe


class Refused(unittest.TestCase):
    def test_what_no_machine_makes_is_told_by_number(self) -> None:
        cases: dict[str, Data] = {
            "The size of the words “w” must be at least 0.5 mm": plain(size=1e-6),
            "The size of the words “w” can be at most 5000 mm": plain(size=6000),
            "would be 200 m large, and 10 m is the most": plain(size=2000, place={"scale_x": 100}),
            "less than a thousandth nothing is left": plain(place={"scale_x": 0}),
            "must be at least 0.01 mm; it is 1e-07": plain({"op": "stitch", "length": 1e-7}),
            "must be at least 0.01 mm; it is 4.94066e-324": plain({"op": "bridge", "width": 5e-324}),
            "goes 11 deep; 10 is the most": plain() | {"layers": [{"id": "a", "recipe": nested(11)}]},
            "has half a character in it": plain(text="\ud800"),
            "has a character that cannot be seen or cut (U+0007)": plain(text="Br\aam"),
            "cannot be seen or cut (U+FFFE)": plain() | {"name": "Kites\ufffe"},
            "30,000 letters together; 20,000 is the most": plain(text="a" * 15_000)
            | {"art": [{"id": id, "text": "a" * 15_000, "font": "anton"} for id in "wv"]},
            "a number of 401 digits": {"format": 10**400},
        }
        for sentence, data in cases.items():
            with self.subTest(sentence), self.assertRaises(DesignError) as caught:
                parse_design(data)
            told = " ".join(problem.sentence for problem in caught.exception.problems)
            self.assertIn(sentence, told)
            told.encode()
        parse_design(plain() | {"layers": [{"id": "a", "recipe": nested(10)}]})

    def test_more_stitches_than_anybody_cuts_are_counted_and_left_out(self) -> None:
        design = parse_design(plain({"op": "stitch", "length": 0.01, "spacing": 0.01, "inset": 0}, size=96))
        found = [one.sentence for one in findings_of(design, LIBRARY, Memo()) if one.kind == "not_made"]
        # As many as the font's outline (its length by shapely) takes of 0.02 mm each.
        edge = build(parse_design(plain(size=96)), LIBRARY, exact=False).layers[0].region.area.length
        self.assertRegex(found[0], r"Step 1 of “a” would make [\d,]+ stitches, and 20,000 is the most")
        many = int(found[0].split("make ")[1].split(" ")[0].replace(",", ""))
        self.assertAlmostEqual(many, edge / 0.02, delta=edge / 0.02 * 0.01)


class LeftOut(unittest.TestCase):
    """GEOS and its like refuse an operation now and then: here always, or the first time only."""

    def made(self, design: Design, fails: Any) -> tuple[float, list[str]]:
        with mock.patch.object(Offset, "apply", fails), self.assertLogs("tinhalo.core.recipe.failure"):
            built = build(design, LIBRARY, exact=False)
            found = findings_of(design, LIBRARY, Memo())
        return built.layers[-1].region.area.area, [one.sentence for one in found if one.kind == "not_made"]

    def test_a_step_that_fails_is_told_and_the_rest_is_made(self) -> None:
        def fails(*_: Any) -> Any:
            raise GEOSException("side location conflict")

        alone = build(parse_design(plain()), LIBRARY, exact=False).layers[0].region.area.area
        area, told = self.made(parse_design(plain({"op": "offset", "by": 2}, {"op": "fill_holes"})), fails)
        filled = build(parse_design(plain({"op": "fill_holes"})), LIBRARY, exact=False).layers[0].region.area.area
        self.assertGreater(filled, alone)
        self.assertAlmostEqual(area, filled)
        self.assertEqual(1, len(told))
        self.assertIn("Step 1 of “a” could not be worked out", told[0])
        self.assertNotIn("side location", told[0])

    def test_in_an_operand_the_step_that_takes_it_is_told(self) -> None:
        def fails(*_: Any) -> Any:
            raise ValueError("anything")

        operand = {"from": ["w"], "steps": [{"op": "offset", "by": 2}]}
        _, told = self.made(parse_design(plain({"op": "subtract", "operand": operand})), fails)
        self.assertIn("Step 1 of “a” takes from what could not be made: its own step 1 could not", told[0])

    def test_what_fails_once_is_tried_again_on_a_grid(self) -> None:
        real, tries = Offset.apply, []

        def fails(step: Offset, region: Any, context: Any) -> Any:
            tries.append(region)
            if len(tries) % 2:
                raise GEOSException("side location conflict")
            return real(step, region, context)

        design = parse_design(plain({"op": "offset", "by": 2}))
        area, told = self.made(design, fails)
        self.assertEqual([], told)
        wanted = build(design, LIBRARY, exact=False).layers[0].region.area.area
        self.assertAlmostEqual(area, wanted, delta=wanted * 1e-4)

    def test_a_step_that_takes_too_long_is_given_up_once_and_told(self) -> None:
        tries: list[int] = []

        def endless(*_: Any) -> Any:
            tries.append(1)
            while True:
                checkpoint()

        design, memo = parse_design(plain({"op": "offset", "by": 2})), Memo()
        with mock.patch.object(Offset, "apply", endless):
            built = [build(design, LIBRARY, exact=False, memo=memo, patience=0.05) for _ in range(3)]
        self.assertEqual(1, len(tries))
        self.assertIn("takes longer than", built[-1].layers[0].failures[0].why)
        with mock.patch.object(Offset, "apply", endless), self.assertRaises(CancelledError):
            token = given_up.set(lambda: True)
            try:
                build(design, LIBRARY, exact=False)
            finally:
                given_up.reset(token)

    def test_words_that_cannot_be_drawn_are_told(self) -> None:
        with (
            mock.patch.object(Lettering, "draw", side_effect=IndexError("no")),
            self.assertLogs("tinhalo.core.engine.build"),
        ):
            found = findings_of(parse_design(plain()), LIBRARY, Memo())
        self.assertTrue(any("“Bram” cannot be drawn like this" in one.sentence for one in found))

    def test_the_command_line_says_by_its_exit_code_that_a_layer_is_not_as_asked(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            path = Path(name) / "d.json"
            for data, code in (
                (plain({"op": "stitch", "length": 0.01, "spacing": 0}, size=96), 1),
                (plain(), 0),
                (plain(size=0), 2),
            ):
                path.write_text(json.dumps(data))
                self.assertEqual(code, main(["pack", str(path), "--out", name]))


class Fuzz(unittest.TestCase):
    """Random designs, half of them with extreme values put in: each is built and looked at, or refused in sentences."""

    def test_random_designs_end_in_files_or_in_sentences(self) -> None:
        refused = 0
        seeds = sampled(NUMBERS, 1 / 80)
        for seed in seeds:
            data = random_design(seed) if seed % 6 else large_design(seed)
            if seed % 2:
                data = extreme(data, seed)
            with self.subTest(seed):
                try:
                    design = read_design(json.dumps(data))
                except DesignError as error:
                    refused += 1
                    for problem in error.problems:
                        self.assertNotRegex(problem.sentence, r"Input should|validat|pydantic|traceback")
                    continue
                for layer in build(design, LIBRARY, exact=False).layers:
                    self.assertTrue(shapely.is_valid(layer.region.area))
                    self.assertLess(hairlines(layer.region.area), 0.2)
                findings_of(design, LIBRARY, Memo())
        if FUZZ:
            self.assertTrue(FUZZ / 12 < refused < FUZZ / 2)


VALUES = (0, 1e-9, 0.01, 0.5, 999.0, 1e4, 1e9, -1, -1e4, float("nan"), 10**30, "", "x", None, True, [], {})


def extreme(data: Data, seed: int) -> Data:
    """One or two numbers somewhere in a document changed for what nobody would write there."""
    chance = random.Random(seed)
    made = copy.deepcopy(data)
    places: list[tuple[Any, Any]] = []

    def walk(value: Any) -> None:
        pairs = list(value.items()) if isinstance(value, dict) else list(enumerate(value))
        for key, held in pairs:
            if isinstance(held, dict | list):
                walk(held)
            elif isinstance(held, int | float) and not isinstance(held, bool):
                places.append((value, key))

    walk(made)
    for _ in range(chance.choice((1, 2))):
        owner, key = chance.choice(places)
        owner[key] = chance.choice(VALUES)
    return made
