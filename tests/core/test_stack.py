"""The stack: heights, what lies on what, and shadows, for boards whose answer is plain to see."""

from __future__ import annotations

import json
import unittest
from typing import Any

from tests.support import build_of
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.built import Build
from tinhalo.core.materials import MATERIALS
from tinhalo.core.output.pack import manifest


def boards(*layers: tuple[str, str, str, float, float]) -> Build:
    """A design of upright boards of 10 mm height: id, material, process, left and right edge, from the top down."""
    data: dict[str, Any] = {
        "format": "tin-halo/1",
        "name": "Boards",
        "art": [
            {
                "id": f"{id}-board",
                "kind": "shape",
                "shape": "rectangle",
                "width": right - left,
                "height": 10,
                "place": {"x": (left + right) / 2},
            }
            for id, _, _, left, right in layers
        ],
        "layers": [
            {"id": id, "material": material, "process": process, "recipe": {"from": [f"{id}-board"]}}
            for id, material, process, *_ in layers
        ],
    }
    return build_of(parse_design(data))


THICKNESS = {one.id: one.thickness for one in MATERIALS}


class Stacks(unittest.TestCase):
    def levels(self, made: Build) -> dict[str, tuple[float, float, tuple[str, ...]]]:
        return {one.layer.id: (one.bottom, one.thickness, one.rests_on) for one in made.stack.levels}

    def test_each_lies_on_the_highest_that_it_overlaps(self) -> None:
        made = boards(
            ("top", "acrylic-2", "cut", 0, 60),
            ("right", "ply-4", "cut", 40, 60),
            ("left", "ply-3", "cut", 0, 20),
            ("aside", "ply-3", "cut", 100, 120),
        )
        self.assertEqual(
            self.levels(made),
            {"top": (4, 2, ("right",)), "right": (0, 4, ()), "left": (0, 3, ()), "aside": (0, 3, ())},
        )
        self.assertEqual(made.stack.height, 6)

    def test_it_may_lie_on_several_of_one_height(self) -> None:
        made = boards(("top", "ply-3", "cut", 0, 60), ("b", "ply-3", "cut", 40, 60), ("a", "ply-3", "cut", 0, 20))
        self.assertEqual(self.levels(made)["top"], (3, 3, ("b", "a")))

    def test_what_is_done_to_a_surface_adds_nothing(self) -> None:
        made = boards(
            ("print", "ply-3", "print", 0, 20), ("line", "ply-3", "score", 0, 60), ("plate", "ply-3", "cut", 0, 60)
        )
        self.assertEqual(self.levels(made)["print"], (3, 0, ("plate",)))
        self.assertEqual(made.stack.height, 3)

    def test_thin_material_counts_with_its_real_thickness(self) -> None:
        made = boards(("sticker", "vinyl", "cut", 0, 20), ("card", "card", "cut", 0, 60))
        self.assertEqual(made.stack.height, THICKNESS["vinyl"] + THICKNESS["card"])
        self.assertLess(THICKNESS["vinyl"], 0.2)

    def test_what_only_touches_lies_beside(self) -> None:
        made = boards(("right", "ply-3", "cut", 20, 40), ("left", "ply-3", "cut", 0, 20))
        self.assertEqual(self.levels(made)["right"], (0, 3, ()))

    def test_hidden_layers_and_guides_hold_nothing_up(self) -> None:
        made = boards(("top", "ply-3", "cut", 0, 60), ("guide", "ply-3", "guide", 0, 60))
        self.assertEqual(self.levels(made), {"top": (0, 3, ())})

    def test_a_shadow_falls_on_the_highest_that_shows_beside_the_edge(self) -> None:
        made = boards(("top", "ply-3", "cut", 10, 30), ("mid", "ply-3", "cut", 0, 40), ("base", "ply-3", "cut", 0, 60))
        self.assertEqual(made.stack.shadows, (("top", "mid"), ("mid", "base")))
        # Over both: its shadow falls on each.
        made = boards(("top", "ply-3", "cut", 30, 50), ("mid", "ply-3", "cut", 0, 40), ("base", "ply-3", "cut", 0, 60))
        self.assertIn(("top", "mid"), made.stack.shadows)

    def test_the_manifest_tells_the_same(self) -> None:
        made = boards(("top", "acrylic-2", "cut", 0, 60), ("base", "ply-3", "cut", 0, 60))
        told = json.loads(json.dumps(manifest(made)))
        self.assertEqual(told["thickness_mm"], 5)
        self.assertEqual(
            [
                (one["id"], one["bottom_mm"], one["thickness_mm"], one["rests_on"], one["shadow_on"])
                for one in told["layers"]
            ],
            [("top", 3, 2, ["base"], []), ("base", 0, 3, [], [])],
        )


if __name__ == "__main__":
    unittest.main()
