"""Edges that two layers of one sheet share are cut once, and nothing is left uncut."""

from __future__ import annotations

import math
import unittest
from typing import Any

import shapely
from shapely import LineString, MultiLineString

from tests.core.test_findings import found_in, with_mend
from tests.support import build_of
from tinhalo.core.design.design import Design
from tinhalo.core.design.problem import DesignError
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.built import Build
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.output.pack import manifest, pack_files

ART = [{"id": "name", "text": "o", "font": "anton", "size": 10}]


def design(first: list[dict[str, Any]], second: list[dict[str, Any]], **more: Any) -> Design:
    layers = [
        {"id": "first", "material": "ply-3", "recipe": {"from": ["name"], "steps": first}},
        {"id": "second", "material": "ply-3", "recipe": {"from": ["name"], "steps": second}, "cut_with": ["first"]}
        | more,
    ]
    return parse_design({"format": "tin-halo/1", "art": ART, "layers": layers})


def plate(dx: float, width: float = 40, height: float = 30, shape: str = "rectangle") -> list[dict[str, Any]]:
    sized = {"op": "plate", "shape": shape, "width": width, "height": height}
    return [sized, {"op": "place", "dx": dx, "dy": 0}]


def lines(contour: Contour) -> LineString:
    points = Outline.from_contours([contour]).flattened(0.001)[0]
    ends = [contour.segments[0, 0]] if contour.closed else [contour.segments[-1, 3]]
    return LineString([*points.tolist(), *[end.tolist() for end in ends]])


def cut(made: Build, index: int) -> MultiLineString:
    """Everything that leaves for a layer, as lines."""
    one = made.layers[index]
    if one.cut_lines is None:
        assert one.cut
        return MultiLineString([lines(c) for c in one.cut.outline.contours()])
    whole = [lines(c) for c in one.cut_lines.whole]
    return MultiLineString(whole + [lines(c) for c in one.cut_lines.runs])


class SharedCuts(unittest.TestCase):
    def test_a_shared_side_leaves_once(self) -> None:
        made = build_of(design(plate(0), plate(40)))
        first, second = made.layers
        self.assertAlmostEqual(first.measures.cut_length, 140, places=3)
        # Both cuts overlap by a step of 0.2 mm at either end, at most.
        self.assertAlmostEqual(second.measures.cut_length, 110, delta=0.5)
        self.assertAlmostEqual(second.measures.area, 1200, places=3)
        assert second.cut_lines
        self.assertEqual((len(second.cut_lines.whole), len(second.cut_lines.runs)), (0, 1))
        self.assertEqual(manifest(made)["layers"][1]["cut_with"], ["first"])
        self.assertNotIn("Z", pack_files(made)["second.svg"].decode().split("<path")[1])

    def test_everything_is_cut_by_one_of_them(self) -> None:
        """The outline lies on the lines of both; what is cut twice is no more than the overlaps at their ends."""
        ring = [{"op": "plate", "shape": "ellipse", "width": 40, "height": 40, "margin": 0}]
        around = [
            {"op": "plate", "shape": "rounded", "width": 60, "height": 50, "corner_radius": 6},
            {"op": "subtract", "operand": {"from": ["name"], "steps": ring}},
        ]
        bite = [*plate(28), {"op": "subtract", "operand": {"from": ["name"], "steps": ring}}]
        letters = [{"op": "offset", "by": 6}]
        hollow = [*plate(0, 60, 50), {"op": "subtract", "operand": {"from": ["name"], "steps": letters}}]
        for name, first, second, shared in (
            ("a hole's whole edge", around, ring, 40 * math.pi),
            ("an arc", ring, bite, None),
            ("grown letters in their hole", letters, hollow, None),
            ("sides of different length", plate(0), plate(35, 30, 12), 12),
        ):
            with self.subTest(name):
                made = build_of(design(first, second))
                one, two = cut(made, 0), cut(made, 1)
                whole = made.layers[1].cut
                assert whole
                outline = MultiLineString([lines(c) for c in whole.outline.contours()])
                uncut = outline.difference(shapely.union(one, two).buffer(0.041))
                self.assertLess(uncut.length, 1e-6)
                twice = two.intersection(one.buffer(0.03))
                self.assertLess(twice.length, 1.2)
                saved = outline.length - two.length
                self.assertAlmostEqual(made.layers[1].measures.cut_length, two.length, delta=0.02)
                if shared is None:
                    self.assertGreater(saved, 5)
                else:
                    self.assertAlmostEqual(saved, shared, delta=0.6)

    def test_what_does_not_lie_on_one_sheet_leaves_whole(self) -> None:
        for change in ({"material": "ply-4"}, {"process": "score"}, {"cut_with": []}):
            made = build_of(design(plate(0), plate(40), **change))
            self.assertIsNone(made.layers[1].cut_lines)
        base = design(plate(0), plate(40)).model_dump(mode="json", by_alias=True)
        for change in ({"hidden": True}, {"process": "guide"}, {"material": "vinyl"}):
            layers = [base["layers"][0] | change, base["layers"][1]]
            made = build_of(parse_design(base | {"layers": layers}))
            self.assertIsNone(made.layers[1].cut_lines)
        # Crossing edges, and edges apart, are no shared ones.
        for dx in (20, 40.2):
            self.assertIsNone(build_of(design(plate(0), plate(dx))).layers[1].cut_lines)

    def test_edges_left_to_each_other_are_refused(self) -> None:
        data = design(plate(0), plate(40)).model_dump(mode="json", by_alias=True)
        data["layers"][0]["cut_with"] = ["second"]
        with self.assertRaisesRegex(DesignError, "nobody would cut them"):
            parse_design(data)

    def test_it_mends_doubled_edges(self) -> None:
        base = design(plate(0), plate(40), cut_with=[])
        (found,) = [f for f in found_in(base) if f.kind == "doubled_line"]
        self.assertEqual(found.mends[0].title, "Cut the shared edge once")
        made = with_mend(base, found.mends[0])
        self.assertEqual([f.kind for f in found_in(made)], [])
        self.assertAlmostEqual(sum(b.measures.cut_length for b in build_of(made).layers), 250, delta=0.5)

    def test_the_screen_shows_the_same(self) -> None:
        quick = build_of(design(plate(0), plate(40)), exact=False).layers[1]
        self.assertAlmostEqual(quick.measures.cut_length, 110, delta=0.5)
