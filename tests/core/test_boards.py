"""Boards as they are cut: no cut layer lies over another one, and what is marked stays on the piece that it is on."""

from __future__ import annotations

import unittest
from itertools import combinations
from typing import Any

import numpy as np
from shapely import Polygon
from shapely.geometry.base import BaseGeometry

from tests.core.test_machine_files import DEMOS, demo
from tests.sampling import sampled
from tests.support import build_of
from tinhalo.core.design.laying import Laying
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.built import Build
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.output.board import boards_of, on_board
from tinhalo.core.output.drawing import DrawnLayer, drawing_of
from tinhalo.core.output.lining_up import framed_drawing
from tinhalo.core.starters import STARTERS


def area(layer: DrawnLayer) -> BaseGeometry:
    """What the closed outlines of a layer enclose."""
    found: BaseGeometry = Polygon()
    for piece in layer.pieces:
        for ring in Outline.from_contours(piece).flattened(0.02):
            found = found.symmetric_difference(Polygon(ring).buffer(0))
    return found


def stack(*layers: dict[str, Any], **more: Any) -> Build:
    art = {"id": "w", "text": "Bram", "font": "anton", "size": 30}
    made = [{"material": "ply-3", "process": "cut", **one} for one in layers]
    return build_of(parse_design({"format": "tin-halo/1", "art": [art], "layers": made, **more}))


FACE = {"id": "face", "recipe": {"from": ["w"]}}
BACK = {"id": "back", "recipe": {"from": ["face"], "steps": [{"op": "offset", "by": 4}, {"op": "fill_holes"}]}}
LINE = {
    "id": "line",
    "process": "score",
    "recipe": {"from": ["face"], "steps": [{"op": "offset", "by": -0.25}]},
}


class Boards(unittest.TestCase):
    def test_no_cut_layer_of_any_board_lies_over_another_one(self) -> None:
        builds = [build_of(one.document) for one in sampled(STARTERS, 1 / 3)] + [demo(path) for path in DEMOS]
        for made in builds:
            drawing = framed_drawing(made)
            for board in boards_of(made):
                laid = on_board(made, drawing, board)
                cut = {one.id: area(one) for one in laid.layers if one.process == "cut"}
                for (one, first), (other, second) in combinations(cut.items(), 2):
                    with self.subTest(made.design.name, board=board.title, layers=(one, other)):
                        self.assertLess(first.intersection(second).area, 1e-3)
                # Each is all there, as large as in the stack, and on the page.
                own = {one.id: one for one in drawing.layers}
                for layer in laid.layers:
                    self.assertAlmostEqual(area(layer).area, area(own[layer.id]).area, places=6)
                    if layer.lines and laid.page:
                        x0, y0, x1, y1 = Outline.from_contours(layer.lines).bounds()
                        self.assertGreaterEqual(np.subtract((x0, y0), laid.page[:2]).min(), -1e-6)
                        self.assertGreaterEqual(np.subtract(laid.page[2:], (x1, y1)).min(), -1e-6)

    def test_steps_of_one_stock_are_side_by_side_with_their_marks(self) -> None:
        made = stack(FACE, LINE, BACK)
        drawing = drawing_of(made)
        (board,) = boards_of(made)
        laid = {one.id: one for one in on_board(made, drawing, board).layers}
        face, back, line = (laid[id].box for id in ("face", "back", "line"))
        self.assertAlmostEqual(Laying().spacing, back[0] - face[2], places=6)
        # The line was drawn for the layer under it, and stays where it lay on that.
        before = {one.id: one.box for one in drawing.layers}
        np.testing.assert_allclose(np.subtract(line, back), np.subtract(before["line"], before["back"]), atol=1e-9)

    def test_a_copy_is_cut_in_a_place_of_its_own(self) -> None:
        made = stack(FACE, FACE | {"id": "copy"})
        laid = on_board(made, drawing_of(made), boards_of(made)[0])
        first, second = (one.box for one in laid.layers)
        self.assertGreater(second[0], first[2])

    def test_what_does_not_lie_over_another_layer_stays_where_it_is(self) -> None:
        aside = {"id": "aside", "recipe": {"from": ["w"], "steps": [{"op": "place", "dx": 100, "dy": 0}]}}
        made = stack(FACE, aside)
        drawing = drawing_of(made)
        laid = on_board(made, drawing, boards_of(made)[0])
        self.assertEqual([one.box for one in drawing.layers], [one.box for one in laid.layers])

    def test_a_board_that_leaves_mirrored_is_laid_first_and_mirrored_then(self) -> None:
        plain, mirrored = (stack(FACE, BACK, hand_over={"mirror": way}) for way in ("none", "all"))
        pages = [on_board(made, drawing_of(made), boards_of(made)[0]) for made in (plain, mirrored)]
        self.assertEqual(pages[0].page, pages[1].page)
        x0, _, x1, _ = pages[0].page or (0, 0, 0, 0)
        for one, other in zip(pages[0].layers, pages[1].layers, strict=True):
            self.assertAlmostEqual(one.box[0] - x0, x1 - other.box[2], places=6)
