"""Moving, turning, stretching and lining up, by the front end's own arithmetic, held against the engine's."""

from __future__ import annotations

import random
import unittest
from typing import Any

import numpy as np

from tests.support import words
from tests.web.node import call
from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.artwork.place import Place, place_matrix
from tinhalo.core.geometry.curves.affine import after, shift
from tinhalo.core.geometry.curves.precision import SCREEN

PLACE = {"x": 3.0, "y": -2.0, "rotate": 30.0, "scale_x": 1.5, "scale_y": 0.8}
BOX = [-10.0, -1.0, 14.0, 9.0]


def engine(place: dict[str, float], point: dict[str, float]) -> list[float]:
    """Where the engine puts a point of a block."""
    matrix = after(place_matrix(Place.model_validate(place)), shift(point["x"], point["y"]))
    return matrix[:, 2].tolist()


def art(**more: Any) -> dict[str, Any]:
    return Lettering.model_validate({"id": "n", "font": "pacifico", "text": "ab c\ndé", **more}).model_dump()


class Placing(unittest.TestCase):
    def test_a_point_is_placed_as_the_engine_places_it(self) -> None:
        chance = random.Random(5)
        places = [{k: chance.uniform(-3, 3) * (60 if k == "rotate" else 1) for k in PLACE} for _ in range(50)]
        points = [{"x": chance.uniform(-9, 9), "y": chance.uniform(-9, 9)} for _ in places]
        found = call("place", "placed", *[[place, point] for place, point in zip(places, points, strict=True)])
        wanted = [engine(place, point) for place, point in zip(places, points, strict=True)]
        self.assertTrue(np.allclose([[p["x"], p["y"]] for p in found], wanted))
        back = call("place", "unplaced", [PLACE, {"x": 2, "y": 1}])[0]
        moved = np.subtract(engine(PLACE, back), engine(PLACE, {"x": 0, "y": 0}))
        self.assertTrue(np.allclose(moved, [2, 1]))

    def test_turning_keeps_the_middle(self) -> None:
        middle = {"x": 2.0, "y": 4.0}
        for made in call("place", "turned", [PLACE, BOX, 75], [PLACE, BOX, -200]):
            self.assertTrue(np.allclose(engine(made, middle), engine(PLACE, middle), atol=1e-3))
            self.assertTrue(-180 <= made["rotate"] <= 180)

    def test_stretching_keeps_the_opposite_corner_and_reaches_the_pointer(self) -> None:
        handle, opposite = {"x": 14.0, "y": 9.0}, {"x": -10.0, "y": -1.0}
        to = {"x": 30.0, "y": 25.0}
        free, locked = call("place", "stretched", *[[PLACE, handle, opposite, to, loose] for loose in (True, False)])
        for made in (free, locked):
            self.assertTrue(np.allclose(engine(made, opposite), engine(PLACE, opposite), atol=2e-3))
        self.assertTrue(np.allclose(engine(free, handle), [30, 25], atol=0.01))
        self.assertAlmostEqual(locked["scale_x"] / locked["scale_y"], 1.5 / 0.8, places=3)
        # Dragged through itself it stays a little, so that it can be dragged back.
        (flat,) = call("place", "stretched", [PLACE, handle, opposite, {"x": -9.0, "y": -9.0}, True])
        self.assertTrue(flat["scale_x"] and flat["scale_y"])

    def test_letters_move_alone_or_with_all_that_follow_on_their_line(self) -> None:
        alone, following, up = call(
            "place",
            "moveLetters",
            [art(), [1], {"x": 0.5, "y": 0.25}, False],
            [art(nudges={"1": 1}), [1], {"x": 0.5, "y": 0}, True],
            [art(), [1], {"x": 0, "y": 2}, True],
        )
        self.assertEqual(alone["moves"], {"1": {"dx": 0.5, "dy": 0.25, "turn": 0, "scale": 1}})
        self.assertEqual(following["nudges"], {"1": 1.5})
        # The b and the c behind the space, but not the next line.
        self.assertEqual({k: move["dy"] for k, move in up["moves"].items()}, {"1": 2, "3": 2})
        (back,) = call("place", "putBack", [alone, 1])
        self.assertEqual((back["moves"], back["nudges"]), ({}, {}))
        made = words("ab", "work-sans", moves={"1": alone["moves"]["1"]}).glyphs[1].matrix
        self.assertAlmostEqual(made[1, 2], 0.25)


class LiningUp(unittest.TestCase):
    def test_edges_middles_and_equal_gaps(self) -> None:
        texts = ("Ostrel", "Bay", "Kites")
        blocks = [
            art(text=t, id=f"b{i}") | {"place": PLACE | {"x": 20.0 * i * i, "y": 7.0 * i}} for i, t in enumerate(texts)
        ]
        extents = {b["id"]: list(self.extent(b)) for b in blocks}
        design = {"art": blocks, "layers": []}
        boxes = {"$map": list(extents.items())}
        for edge, (k, share) in {"left": (0, 0), "right": (0, 1), "centre": (0, 0.5), "top": (1, 1)}.items():
            (made,) = call("place", "linedUp", [design, boxes, edge])
            at = [e[k] + share * (e[k + 2] - e[k]) for e in map(self.extent, made["art"])]
            self.assertLess(max(at) - min(at), 1e-3, edge)
        (made,) = call("place", "spread", [design, boxes, True])
        spans = sorted(self.extent(b)[::2] for b in made["art"])
        self.assertAlmostEqual(spans[1][0] - spans[0][1], spans[2][0] - spans[1][1], places=3)

    def extent(self, block: dict[str, Any]) -> tuple[float, ...]:
        more = {k: block[k] for k in ("place", "align", "line_spacing")}
        bounds = words(block["text"], block["font"], block["size"], **more).region(SCREEN).bounds
        assert bounds
        return bounds

    def test_art_is_centred_on_a_box_both_ways(self) -> None:
        design = {"art": [art(place=PLACE)], "layers": []}
        (made,) = call("place", "centredOn", [design, design["art"][0]["id"], [0, 0, 10, 4], [20, 30, 60, 40]])
        before, after = design["art"][0]["place"], made["art"][0]["place"]
        self.assertEqual((35, 33), (after["x"] - before["x"], after["y"] - before["y"]))

    def test_snapping(self) -> None:
        both = {"x": True, "y": True}
        near, still, far = call(
            "place",
            "snapped",
            [[1.2, 5, 3.2, 8], [[1, 20, 9, 30]], 0.5, both],
            [[1.2, 5, 3.2, 8], [[1, 20, 9, 30]], 0.5, {"x": False, "y": True}],
            [[2, 5.7, 4.4, 8.9], [[10, 20, 19, 30]], 0.3, both],
        )
        self.assertAlmostEqual(near["by"]["x"], -0.2)
        self.assertEqual(still["by"]["x"], 0)
        self.assertEqual((far["by"], far["lines"]), ({"x": 0, "y": 0}, {}))
