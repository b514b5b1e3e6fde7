"""Edits of the document in the front end: steps as the server knows them, sources, picked places, added layers."""

from __future__ import annotations

import unittest
from itertools import pairwise
from typing import Any

from tests.support import document
from tests.web.node import call
from tinhalo.core.artwork.shapes.kinds import SHAPES
from tinhalo.core.design.reading import parse_design
from tinhalo.core.recipe.kinds import STEP_OPS


def completed(data: dict[str, Any]) -> dict[str, Any]:
    """The document as the server completes it: every field is there."""
    return parse_design(data).model_dump(mode="json", by_alias=True)


class Steps(unittest.TestCase):
    def test_every_new_step_is_the_server_s_own_with_all_its_fields(self) -> None:
        """What is offered differs from the models' defaults only where a choice has to be made."""
        chosen = {"offset": {"by"}, "thicken": {"to", "where"}, "union": {"operand"}, "subtract": {"operand"}}
        chosen["intersect"] = {"operand"}
        made = call("recipes", "newStep", *[[op, {"from": ["name"], "steps": []}] for op in STEP_OPS])
        for (op, step), given in zip(STEP_OPS.items(), made, strict=True):
            with self.subTest(op=op):
                read = step.model_validate(given).model_dump(mode="json", by_alias=True)
                self.assertEqual(read, given)
                for name, value in given.items():
                    field = step.model_fields[name]
                    if name not in chosen.get(op, set()) and not field.is_required():
                        default = step.model_construct(**{name: field.get_default(call_default_factory=True)})
                        self.assertEqual(default.model_dump(mode="json", by_alias=True)[name], value, name)


class Art(unittest.TestCase):
    def setUp(self) -> None:
        self.data = completed(document())

    def test_every_new_shape_and_block_of_words_is_the_server_s_own(self) -> None:
        added = call("art", "addShape", *[[self.data, shape, {"x": 3, "y": -4}] for shape in SHAPES])
        for shape, made in zip(SHAPES, added, strict=True):
            with self.subTest(shape=shape):
                read = completed(made)
                self.assertEqual(read, made)
                own = read["art"][1]
                self.assertEqual((own["shape"], own["place"]["x"], own["place"]["y"]), (shape, 3, -4))
                self.assertEqual(read["layers"][-1]["recipe"]["from"], [own["id"]])
        (more,) = call("art", "addWords", [self.data])
        self.assertEqual(completed(more), more)
        self.assertEqual([layer["recipe"]["from"] for layer in more["layers"]], [["name", "words"]] * 2)

    def test_more_words_go_wherever_those_beside_them_are(self) -> None:
        """In a knockout they are cut away, too; a layer of other words does not get them."""
        cut = {"op": "subtract", "operand": {"from": ["name"], "steps": [{"op": "offset", "by": 1.5}]}}
        self.data["art"].insert(0, self.data["art"][0] | {"id": "block", "text": "KITES"})
        self.data["layers"][1]["recipe"] = {"from": ["block"], "steps": [cut]}
        (more,) = call("art", "addWords", [completed(self.data)])
        face, backer = completed(more)["layers"]
        self.assertEqual(face["recipe"]["from"], ["name", "words"])
        self.assertEqual(backer["recipe"]["from"], ["block"])
        self.assertEqual(backer["recipe"]["steps"][0]["operand"]["from"], ["name", "words"])

    def test_cutting_away_begins_with_what_lies_across_and_a_channel(self) -> None:
        block = self.data["art"][0] | {"id": "block", "text": "KITES", "size": 64}
        far = self.data["art"][0] | {"id": "far"}
        data = completed(self.data | {"art": [block, *self.data["art"], far]})
        data["layers"][0]["recipe"] = {"from": ["block"], "steps": []}
        boxes = {"block": [0, 0, 100, 60], "name": [10, 20, 80, 40], "far": [200, 0, 260, 20]}
        placed = [{"id": id, "bounds_mm": box} for id, box in boxes.items()]
        recipe = data["layers"][0]["recipe"]
        cut, kept = call(
            "operand", "operandFor", *[[data, "face", recipe, op, placed] for op in ("subtract", "intersect")]
        )
        self.assertEqual((cut["from"], [step["by"] for step in cut["steps"]]), (["name"], [1.6]))
        self.assertEqual((kept["from"], kept["steps"]), (["name"], []))

    def test_words_go_into_a_shape_and_out_of_it_again(self) -> None:
        (made,) = call("art", "addShape", [self.data, "heart", {"x": 0, "y": 0}])
        (held,) = call("art", "intoShape", [made, "name", "heart", [-30, -5, 30, 15], [-30, -26, 30, 26]])
        words = completed(held)["art"][0]
        self.assertEqual((words["into"]["art"], words["place"]["y"], words["join"]["overlap"]), ("heart", -5, 0.3))
        (frame,) = call("art", "framed", [held, "name"])
        layer = completed(frame)["layers"][0]
        self.assertEqual([step["op"] for step in layer["recipe"]["steps"]], ["wall", "union"])
        (gone,) = call("art", "removeArt", [frame, "heart"])
        self.assertIsNone(completed(gone)["art"][0]["into"])
        (other,) = call("art", "reshape", [made, "heart", "star"])
        self.assertEqual((other["art"][1]["shape"], other["art"][1]["width"]), ("star", 60))
        self.assertEqual(completed(other), other)

    def test_how_a_design_leaves(self) -> None:
        order = ["svg", "dxf", "dxf_r12", "png"]
        (both,) = call("handOver", "toggleFormat", [self.data, "png", order])
        self.assertEqual(completed(both)["hand_over"]["formats"], ["svg", "png"])
        (one,) = call("handOver", "toggleFormat", [self.data, "svg", order])
        self.assertEqual(one["hand_over"]["formats"], ["svg"])
        (thick,) = call("handOver", "patchLeaving", [self.data, "cut", {"line_width": 1}])
        self.assertEqual(completed(thick)["hand_over"]["table"]["cut"]["line_width"], 1)
        self.assertEqual(
            call("handOver", "isUsual", [thick["hand_over"]["table"]], [self.data["hand_over"]["table"]]), [False, True]
        )
        (apart,) = call("handOver", "putOnBoard", [self.data, "face", " offcut "])
        self.assertEqual(completed(apart)["layers"][0]["board"], "offcut")


class Documents(unittest.TestCase):
    def setUp(self) -> None:
        spot = {"art": "name", "part": 3, "x": 0.1, "y": 0}
        nested = {"from": ["name"], "steps": [{"op": "keep", "pieces": [spot]}]}
        self.data = completed(
            document(
                [
                    {"op": "fill_holes", "only": [spot, spot | {"part": 0}]},
                    {"op": "subtract", "operand": nested},
                    {"op": "tab", "along": {"from": ["face"]}},
                ]
            )
        )

    def steps(self, data: dict[str, Any]) -> list[dict[str, Any]]:
        return completed(data)["layers"][1]["recipe"]["steps"]

    def test_picked_places_follow_their_letters(self) -> None:
        (typed,) = call("art", "retextWords", [self.data, "name", "Oh Fenna", 3, {"start": 0, "end": 0}])
        fill, cut, _ = self.steps(typed)
        self.assertEqual([spot["part"] for spot in fill["only"]], [6, 3])
        self.assertEqual(cut["operand"]["steps"][0]["pieces"][0]["part"], 6)
        (shorter,) = call("art", "retextWords", [self.data, "name", "enna", 0, {"start": 0, "end": 1}])
        fill, _, _ = self.steps(shorter)
        self.assertEqual(fill["only"][0]["part"], 2)
        # The F is gone, and no letter takes its place.
        self.assertGreater(fill["only"][1]["part"], 10_000)

    def test_what_is_removed_is_forgotten_everywhere(self) -> None:
        (without,) = call("layers", "removeLayer", [self.data, "face"])
        self.assertIsNone(without["layers"][0]["recipe"]["steps"][2]["along"])
        (wordless,) = call("art", "removeArt", [self.data, "name"])
        fill, cut, _ = wordless["layers"][1]["recipe"]["steps"]
        self.assertEqual((fill["only"], cut["operand"]["from"]), ([], []))
        self.assertEqual(cut["operand"]["steps"][0]["pieces"], [])

    def test_circles_through_a_tab_s_edge_are_seen(self) -> None:
        self.assertEqual(
            call("recipes", "wouldCircle", [self.data, "face", "backer"], [self.data, "backer", "face"]),
            [
                True,
                False,
            ],
        )

    def test_layers_made_from_another(self) -> None:
        (stepped,) = call("steppingOut", "stepOut", [self.data, "backer", ["#111111", "#555555", "#999999"], 1.5])
        made = completed(stepped)["layers"][2:]
        self.assertEqual([one["colour"] for one in made], ["#111111", "#555555", "#999999"])
        self.assertEqual([one["recipe"]["steps"][0]["by"] for one in made], [1.5, 3, 4.5])
        self.assertEqual({one["recipe"]["from"][0] for one in made}, {"backer"})
        for edit, process, by, place in (
            ("addEngraved", "engrave", -1, 0),
            ("addPlacingLine", "score", -0.25, 1),
            ("addBorderLine", "score", -3, 0),
        ):
            (after,) = call("layers", edit, [self.data, "face"])
            layer = completed(after)["layers"][place]
            self.assertEqual((layer["process"], layer["recipe"]["steps"][-1]["by"]), (process, by))

    def test_a_set_of_steps_has_one_count_and_one_width(self) -> None:
        colours = ["#111111", "#555555", "#999999", "#bbbbbb"]
        (design,) = call("steppingOut", "stepOut", [self.data, "backer", colours[:3], 1.5])
        for count, by in ((4, 2), (2, 2.5)):
            (design,) = call("steppingOut", "stepOut", [design, "backer", colours[:count], by])
            (found,) = call("steppingOut", "stepsUnder", [design, "backer"])
            self.assertEqual((count, by), (len(found["layers"]), found["by"]))
            # They stay in the order of the stack.
            self.assertEqual([one["id"] for one in completed(design)["layers"][2:]], found["layers"])
        # A layer with a width of its own is taken out of the set, which goes on up to there.
        (design,) = call("steppingOut", "stepOut", [design, "backer", colours, 2])
        design["layers"][-1]["recipe"]["steps"][0]["by"] = 9
        (found,) = call("steppingOut", "stepsUnder", [design, "backer"])
        self.assertEqual([one["id"] for one in design["layers"][2:5]], found["layers"])

    def test_colours_are_read_by_their_codes_and_shaded_apart(self) -> None:
        read = call("../layers/colours", "toColour", ["#1F2A44"], ["fff"], [" 0a0 "], ["red"], ["#12345"], [""])
        self.assertEqual(read, ["#1f2a44", "#ffffff", "#00aa00", None, None, None])
        for base in ("#1f4e63", "#f4f1ea", "#c9a06a"):
            (made,) = call("../layers/colours", "shades", [base, 5])
            greens = [int(one[3:5], 16) for one in (base, *made)]
            self.assertGreater(min(abs(a - b) for a, b in pairwise(greens)), 13)
        (made,) = call("layers", "colourLayers", [self.data, ["face", "backer"], "#1f2a44"])
        self.assertEqual([one["colour"] for one in completed(made)["layers"]][:2], ["#1f2a44"] * 2)
        vinyl = {"id": "vinyl", "name": "Vinyl", "thickness": 0.08, "colour": "#c8452f", "limits": {}}
        (made,) = call("layers", "madeOf", [made, "face", vinyl, False])
        self.assertIsNone(made["layers"][0]["colour"])

    def test_what_was_let_be_follows_its_letter_and_is_asked_about_again(self) -> None:
        spot = {"art": "name", "part": 3, "x": 0.1, "y": 0}
        finding = {"kind": "thin_spot", "layer": "face", "spot": spot}
        (once,) = call("accept", "accepted", [self.data, finding, "glued"])
        (twice,) = call("accept", "accepted", [once, finding | {"spot": spot | {"x": 0.9}}, "on purpose"])
        (typed,) = call("art", "retextWords", [twice, "name", "Oh Fenna", 3, {"start": 0, "end": 0}])
        self.assertEqual([one["spot"]["part"] for one in completed(typed)["accepted"]], [6, 6])
        near = finding | {"spot": spot | {"part": 6, "x": 0.8}, "accepted": "on purpose"}
        (again,) = call("accept", "reopened", [typed, near])
        self.assertEqual([one["note"] for one in again["accepted"]], ["glued"])
        (gone,) = call("layers", "removeLayer", [twice, "face"])
        self.assertEqual(gone["accepted"], [])
