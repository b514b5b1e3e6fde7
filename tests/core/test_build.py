"""The engine: recipes, what an edit recomputes, the memo's bound, and bad documents."""

from __future__ import annotations

import unittest
from typing import Any
from unittest import mock

import shapely

from tests.support import LIBRARY, design, document, lettering, told
from tinhalo.core.artwork.lettering.settings import MOST_LETTERS
from tinhalo.core.design.problem import DesignError
from tinhalo.core.design.reading import parse_design, read_design
from tinhalo.core.engine.build import build
from tinhalo.core.engine.built import Build
from tinhalo.core.geometry.curves.precision import EXACT
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.output.pack import manifest
from tinhalo.core.recipe.offset_step import Offset
from tinhalo.core.runtime.cancellation import CancelledError, given_up
from tinhalo.core.runtime.memo import Memo


def area(made: Build, layer: str) -> float:
    return next(b.region.area.area for b in made.layers if b.layer.id == layer)


class Recipes(unittest.TestCase):
    def test_steps_run_in_order_and_operands_have_steps_of_their_own(self) -> None:
        name = lettering("Fenna").area
        for op, wanted in (
            ("union", lambda a, b: a.union(b)),
            ("subtract", lambda a, b: a.difference(b)),
            ("intersect", lambda a, b: a.intersection(b)),
        ):
            operand = {"from": ["name"], "steps": [{"op": "offset", "by": 1}]}
            made = build(design([{"op": "offset", "by": 3}, {"op": op, "operand": operand}]), LIBRARY)
            expected = wanted(name.buffer(3, quad_segs=64), name.buffer(1, quad_segs=64)).area
            self.assertAlmostEqual(area(made, "backer"), expected, delta=expected * 1e-4)

    def test_filling_holes_keeps_the_outline(self) -> None:
        filled = build(design([{"op": "fill_holes"}]), LIBRARY)
        shells = [shapely.Polygon(p.exterior) for p in lettering("Fenna").area.geoms]
        self.assertAlmostEqual(area(filled, "backer"), shapely.union_all(shells).area, places=6)
        self.assertEqual(filled.layers[1].measures.holes, 0)

    def test_a_layer_can_come_from_a_layer_listed_after_it(self) -> None:
        data = document()
        data["layers"][0]["recipe"] = {"from": ["backer"], "steps": [{"op": "offset", "by": 1}]}
        made = build(parse_design(data), LIBRARY)
        self.assertGreater(area(made, "face"), area(made, "backer"))

    def test_the_example_of_the_format_is_read(self) -> None:
        data = document(
            letter_spacing=0,
            line_spacing=1.2,
            align="center",
            kind="lettering",
            nudges={"2": -0.4},
            moves={"0": {"dy": 1.5}},
            place={"x": 0, "y": 0, "rotate": 0, "scale_x": 1, "scale_y": 1},
        )
        self.assertEqual(told(build(parse_design(data | {"unit": "mm"}), LIBRARY)), ())


class Cancelled(unittest.TestCase):
    def test_a_long_search_is_given_up_when_nobody_waits(self) -> None:
        asked: list[int] = []

        def cancelled() -> bool:
            asked.append(1)
            return len(asked) > 4

        long = design([{"op": "thicken", "to": 3.0, "where": "everywhere"}], font="allura")
        waiting = given_up.set(cancelled)
        self.addCleanup(given_up.reset, waiting)
        with self.assertRaises(CancelledError):
            build(long, LIBRARY, exact=False)
        self.assertEqual(len(asked), 5)


class Memoised(unittest.TestCase):
    def test_a_changed_distance_recomputes_only_what_depends_on_it(self) -> None:
        memo = Memo()
        data = document()
        data["layers"].append(
            {"id": "ground", "recipe": {"from": ["backer"], "steps": [{"op": "offset", "by": 2, "corners": "miter"}]}}
        )
        data["layers"].append({"id": "slim", "recipe": {"from": ["name"], "steps": [{"op": "offset", "by": -0.2}]}})
        build(parse_design(data), LIBRARY, memo=memo)
        before = memo.computed
        data["layers"][1]["recipe"]["steps"][0]["by"] = 4.1
        with mock.patch.object(Offset, "apply", autospec=True, side_effect=Offset.apply) as offsets:
            build(parse_design(data), LIBRARY, memo=memo)
        self.assertEqual([call.args[0].by for call in offsets.call_args_list], [4.1, 2])
        # Backer: offset, filled, what filling did, its curves; ground: offset, its curves.
        self.assertEqual(memo.computed - before, 6)

    def test_a_renamed_layer_or_unit_recomputes_nothing(self) -> None:
        memo = Memo()
        build(design(), LIBRARY, memo=memo)
        before = memo.computed
        data: dict[str, Any] = document() | {"name": "Other", "unit": "in"}
        data["art"][0]["id"] = data["layers"][0]["recipe"]["from"][0] = data["layers"][1]["recipe"]["from"][0] = "x"
        data["layers"][0] |= {"id": "top", "name": "Top", "material": "felt"}
        build(parse_design(data), LIBRARY, memo=memo)
        self.assertEqual(memo.computed, before)

    def test_the_same_design_gives_the_same_result(self) -> None:
        one, two = (build(design(), LIBRARY) for _ in range(2))
        self.assertEqual([b.measures for b in one.layers], [b.measures for b in two.layers])

    def test_memory_is_bounded_and_the_least_used_goes_first(self) -> None:
        memo = Memo(budget=20_000)
        regions = [lettering(c, "anton", 20 + i) for i, c in enumerate("ABCDEFGH")]
        for index, region in enumerate(regions):
            memo.get(index, Region, lambda r=region: r)
            memo.get(0, Region, lambda: self.fail("the one in use was dropped"))
            self.assertLessEqual(memo.held, 20_000)
        self.assertGreater(sum(r.nbytes for r in regions), 20_000)
        with self.assertRaises(TypeError):
            memo.get(0, str, lambda: "")  # type: ignore[type-var]


class BadDocuments(unittest.TestCase):
    def refused(self, data: Any) -> str:
        with self.assertRaises(DesignError) as caught:
            parse_design(data)
        return str(caught.exception)

    def test_each_is_refused_with_a_sentence(self) -> None:
        step = [{"op": "offset", "by": float("inf")}]
        cases = [
            (document(size=0), "The size of the words “name” must be at least 0.5 mm; it is 0."),
            (document(size=-1), "must be at least 0.5 mm; it is -1."),
            (document(size=float("nan")), "must be a number; it is not a number."),
            (document(size="big"), 'must be a number; it is "big".'),
            (document(step), "The distance of the layer “Backer” must be a number; it is endless."),
            (document([{"op": "offset"}]), "The distance of the layer “Backer” is missing."),
            (document([{"op": "melt"}]), "A step of the layer “Backer” has an “op” that this version does not know"),
            (document([{"op": "thicken", "by": 1, "to": 2}]), "Step 1 of the layer “Backer” is not right: say either"),
            (document() | {"layers": [3]}, "The layer number 1 must be an object"),
            (document(colour="red"), "The colour of the words “name” is not something this version knows"),
            (document(text="x" * 20_001), "The text of the words “name” is too long"),
            (document() | {"format": "tin-halo/2"}, 'Its format is "tin-halo/2", but this version'),
            ({"art": []}, "It names no format"),
            ([], "A design is a JSON object"),
        ]
        for data, sentence in cases:
            with self.subTest(sentence=sentence):
                self.assertIn(sentence, self.refused(data))

    def test_references(self) -> None:
        data = document()
        data["layers"][1]["recipe"]["from"] = ["nmae"]
        self.assertIn("“Backer” is made from “nmae”, but no art and no layer has that id", self.refused(data))
        data["layers"][1]["recipe"]["from"] = ["face"]
        data["layers"][0]["recipe"] = {
            "from": ["name"],
            "steps": [{"op": "subtract", "operand": {"from": ["backer"]}}],
        }
        self.assertIn("“Face” is made from “Backer”, “Backer” is made from “Face”", self.refused(data))
        data["layers"][0]["recipe"] = {"from": ["face"]}
        self.assertIn("“Face” is made from “Face”", self.refused(data))
        data = document()
        data["layers"][1]["id"] = "name"
        self.assertIn("The id “name” is used twice", self.refused(data))

    def test_broken_json(self) -> None:
        for text in (b"{", b"\xff", "{]", '{"format": "tin-halo/1"'):
            with self.assertRaises(DesignError):
                read_design(text)


class Findings(unittest.TestCase):
    def findings(self, **art: Any) -> list[tuple[str, str]]:
        return [(f.kind, f.sentence) for f in told(build(design(**art), LIBRARY))]

    def test_words_that_cannot_be_drawn(self) -> None:
        self.assertEqual([k for k, _ in self.findings(text="  \n")], ["empty_words"])
        ((kind, sentence),) = self.findings(text="Fenna 字")
        self.assertEqual(kind, "missing_character")
        self.assertIn("Pacifico lacks the character “字” (cjk unified ideograph-5b57)", sentence)
        ((kind, sentence),) = self.findings(text="字字")
        self.assertIn("Nothing else is left to draw", sentence)
        ((kind, sentence),) = self.findings(font="nope")
        self.assertEqual((kind, "“nope”" in sentence), ("unknown_font", True))
        ((kind, sentence),) = self.findings(text="x" * 5_000)
        self.assertEqual(kind, "text_too_long")
        self.assertIn(f"5,000 letters; one block can draw {MOST_LETTERS:,}", sentence)

    def test_nothing_left_names_the_step(self) -> None:
        made = build(design([{"op": "offset", "by": -9}]), LIBRARY)
        (finding,) = told(made)
        self.assertEqual((finding.kind, finding.layer), ("nothing_left", "backer"))
        self.assertIn("shrinking by 9 mm", finding.sentence)
        self.assertEqual(made.layers[1].measures.pieces, 0)
        self.assertIsNotNone(made.bounds)

    def test_an_unknown_material_is_told_and_kept(self) -> None:
        data = document()
        data["layers"][1]["material"] = "cheese"
        made = build(parse_design(data), LIBRARY)
        self.assertEqual([(f.kind, f.severity) for f in told(made)], [("unknown_material", "warning")])
        self.assertEqual(manifest(made)["layers"][1]["material"], "cheese")

    def test_a_layer_of_nothing(self) -> None:
        data = document()
        data["layers"][0]["recipe"] = {}
        (finding,) = told(build(parse_design(data), LIBRARY))
        self.assertEqual(finding.kind, "no_source")

    def test_points_and_crumbs_are_no_area(self) -> None:
        mixed = shapely.GeometryCollection(
            [shapely.Point(0, 0), shapely.box(0, 0, 0.005, 0.005), shapely.MultiPolygon([shapely.box(1, 1, 2, 2)])]
        )
        self.assertEqual(Region.of(mixed).pieces, 1)
        self.assertTrue(Region.empty().bounds is None and Region.of(shapely.Point(0, 0)).is_empty)
        self.assertGreater(EXACT.quarter_segments(0.001), 0)
