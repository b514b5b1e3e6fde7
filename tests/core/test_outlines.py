"""Outlines of their own: their text, what is done at nodes, and art turned into one and back."""

from __future__ import annotations

import io
import math
import unittest
from typing import Any

import numpy as np
import resvg_py
import shapely
from PIL import Image
from scipy.spatial.distance import directed_hausdorff

from tests.support import LIBRARY, build_of
from tinhalo.core.artwork.error import ArtError
from tinhalo.core.artwork.outlines.edits import (
    AddNode,
    Corner,
    Edit,
    EvenOut,
    JoinPieces,
    RemoveNodes,
    RemoveRings,
    Simplify,
    Smooth,
    Straighten,
    pieces_of,
)
from tinhalo.core.artwork.outlines.outline_art import OutlineArt
from tinhalo.core.artwork.outlines.path_text import PathTextError, read_outline, write_outline
from tinhalo.core.design.design import Design
from tinhalo.core.engine.picking import pickable
from tinhalo.core.engine.redrawing import to_original, to_outline
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.curves.reshaping import deviation, stretches

SQUARE = "M0,0L10,0L10,10L0,10Z"
#: The usual circle of four cubics (handles of 0.5523 radii).
CIRCLE = "M10,0C10,5.523 5.523,10 0,10C-5.523,10 -10,5.523 -10,0C-10,-5.523 -5.523,-10 0,-10C5.523,-10 10,-5.523 10,0Z"


def design(**words: Any) -> Design:
    art = {"id": "name", "text": "Fenna", "font": "pacifico", "size": 24, **words}
    steps = [{"op": "offset", "by": 3}]
    layers = [
        {"id": "face", "name": "Face", "recipe": {"from": ["name"]}},
        {"id": "back", "name": "Back", "recipe": {"from": ["name"], "steps": steps}},
    ]
    return Design.model_validate({"format": "tin-halo/1", "art": [art], "layers": layers})


def polygon(outline: Outline) -> shapely.MultiPolygon:
    return shapely.MultiPolygon(pieces_of(outline))


def dense(outline: Outline) -> np.ndarray:
    """Points at most 0.05 mm apart along an outline."""
    return shapely.get_coordinates([shapely.LinearRing(ring).segmentize(0.05) for ring in outline.flattened(5e-4)])


class Text(unittest.TestCase):
    def test_what_is_written_is_read_again(self) -> None:
        for text in (SQUARE, CIRCLE, SQUARE + "M2,2L2,4L4,4Z"):
            self.assertEqual(text, write_outline(read_outline(text)))

    def test_it_is_path_data_as_svg_has_it(self) -> None:
        # Held against resvg, which reads SVG's path data by itself: covered area within 0.3 %.
        svg = f"<svg xmlns='http://www.w3.org/2000/svg' viewBox='-12 -12 24 24'><path d='{CIRCLE}'/></svg>"
        png = bytes(resvg_py.svg_to_bytes(svg_string=svg, width=480, height=480, dpi=96))
        ink = np.asarray(Image.open(io.BytesIO(png)).convert("RGBA"))[..., 3] / 255
        self.assertAlmostEqual(float(ink.sum()) / 400, float(read_outline(CIRCLE).areas.sum()), delta=0.5)

    def test_what_is_no_outline_is_told(self) -> None:
        for text, told in (
            ("M0,0L1,1", "not closed"),
            ("L0,0Z", "breaks off"),
            ("M0,0C1,1 2,2Z", "breaks off"),
            ("M0,0L1,1A3,3Z", "character 9"),
            ("M0,0L1e9,1Z", "too far"),
            ("M0,0L1e999,1Z", "too far"),
            ("M0,0" + "L1,1" * 20_001 + "Z", "20,000 nodes"),
        ):
            with self.subTest(text[:20]), self.assertRaisesRegex(PathTextError, told):
                read_outline(text)


class Nodes(unittest.TestCase):
    def made(self, text: str, edit: Edit) -> Outline:
        made = edit.made(read_outline(text))
        self.assertTrue(all(shapely.is_valid(one) for one in pieces_of(made)))
        return made

    def test_a_node_more_changes_nothing(self) -> None:
        before = read_outline(CIRCLE)
        after = self.made(CIRCLE, AddNode(segment=1, at=0.3))
        self.assertEqual(5, len(after.segments))
        self.assertAlmostEqual(float(before.areas[0]), float(after.areas[0]), places=9)
        self.assertLess(deviation(before, after), 1e-3)

    def test_a_node_taken_out_keeps_what_it_can(self) -> None:
        corner = self.made(SQUARE, RemoveNodes(nodes=(1,)))
        self.assertAlmostEqual(50, float(corner.areas[0]))
        # Half a circle of radius 10 by one cubic with its ends and tangents: 0.03 radii off at best (memory).
        half = self.made(CIRCLE, RemoveNodes(nodes=(1,)))
        self.assertEqual(3, len(half.segments))
        self.assertLess(deviation(read_outline(CIRCLE), half), 0.35)
        self.assertEqual(0, len(self.made(SQUARE, RemoveNodes(nodes=(0, 1))).segments))

    def test_corners_become_smooth_and_smooth_nodes_corners(self) -> None:
        smooth = self.made(SQUARE, Smooth(nodes=(1,)))
        arriving = smooth.segments[0, 3] - smooth.segments[0, 2]
        leaving = smooth.segments[1, 1] - smooth.segments[1, 0]
        self.assertAlmostEqual(0, float(arriving[0] * leaving[1] - arriving[1] * leaving[0]))
        corner = self.made(CIRCLE, Corner(nodes=(0,)))
        ways = [corner.segments[3, 3] - corner.segments[3, 2], corner.segments[0, 1] - corner.segments[0, 0]]
        turn = math.degrees(np.diff([math.atan2(y, x) for x, y in ways])[0])
        self.assertAlmostEqual(90, turn % 360)

    def test_a_stretch_is_straightened(self) -> None:
        made = self.made(CIRCLE, Straighten(nodes=(3, 0)))
        # A quarter of the disc less its triangle goes.
        self.assertAlmostEqual(math.pi * 100 - (math.pi * 25 - 50), float(made.areas[0]), delta=0.1)
        for nodes in ((0, 2), (0, 1, 2, 3)):
            with self.assertRaises(ArtError):
                self.made(SQUARE, Straighten(nodes=nodes))

    def test_a_stretch_is_evened_out_and_its_ends_stay(self) -> None:
        # A wave of 0.2 mm upon a straight: evened out along 1 mm little is left of it.
        x = np.linspace(0, 20, 41)
        top = np.stack([x[::-1], 10 + 0.2 * np.sin(x[::-1] * 2 * math.pi)], axis=1)
        top[[0, -1], 1] = 10
        text = "M0,0L20,0" + "".join(f"L{a:.5f},{b:.5f}" for a, b in top) + "Z"
        made = self.made(text, EvenOut(nodes=tuple(range(2, 43)), reach=1))
        ring = dense(made)
        upper = ring[(ring[:, 1] > 5) & (ring[:, 0] > 2) & (ring[:, 0] < 18)]
        self.assertLess(float(np.abs(upper[:, 1] - 10).max()), 0.06)
        self.assertLess(len(made.segments), 30)
        np.testing.assert_allclose(made.bounds()[:3], (0, 0, 20), atol=1e-9)

    def test_stretches_go_round_the_end(self) -> None:
        self.assertEqual([(8, 3)], stretches([8, 9, 0, 1], 10))
        self.assertEqual([(3, 1), (6, 2)], stretches([3, 4, 6, 7, 8], 10))
        self.assertEqual([(0, 10)], stretches(range(10), 10))
        self.assertEqual([], stretches([1, 3], 10))

    def test_what_is_not_there_any_more_is_told(self) -> None:
        for edit in (RemoveNodes(nodes=(9,)), AddNode(segment=9), RemoveRings(rings=(3,)), JoinPieces(rings=(0, 5))):
            with self.subTest(edit.__class__.__name__), self.assertRaisesRegex(ArtError, "not there any more"):
                self.made(SQUARE, edit)


class Simpler(unittest.TestCase):
    def test_it_stays_within_what_is_asked(self) -> None:
        art = to_outline(design(), "name", LIBRARY).art[0]
        assert isinstance(art, OutlineArt)
        before = read_outline(art.path)
        points = dense(before)
        last = len(before.segments)
        for within in (0.02, 0.1, 0.4):
            after = Simplify(within=within).made(before)
            self.assertLess(len(after.segments), last)
            last = len(after.segments)
            self.assertLessEqual(deviation(before, after), within)
            # By scipy, between points 0.05 mm apart.
            others = dense(after)
            apart = max(directed_hausdorff(points, others)[0], directed_hausdorff(others, points)[0])
            self.assertLess(apart, within + 0.02)
            self.assertAlmostEqual(float(before.areas.sum()), polygon(after).area, delta=within * 60)

    def test_what_would_cross_stays(self) -> None:
        # Two steps a hair apart: either alone could be one line.
        lower = "M0,0L30,0L30,1L20,1L20,1.3L10,1.3L10,1L0,1Z"
        upper = "M0,1.05L9.9,1.05L9.9,1.35L20.1,1.35L20.1,1.05L30,1.05L30,2L0,2Z"
        before = read_outline(lower + upper)
        after = Simplify(within=0.5).made(before)
        one, other = pieces_of(after)
        self.assertEqual(0, one.intersection(other).area)
        self.assertLessEqual(deviation(before, after), 0.5)


class Rings(unittest.TestCase):
    def test_a_piece_goes_with_its_holes_and_a_hole_is_filled(self) -> None:
        # Inside its hole a piece of its own, which stays.
        text = "M0,0L30,0L30,30L0,30ZM5,5L5,25L25,25L25,5ZM10,10L20,10L20,20L10,20Z"
        outline = read_outline(text)
        self.assertAlmostEqual(100, polygon(RemoveRings(rings=(0,)).made(outline)).area)
        self.assertAlmostEqual(900, polygon(RemoveRings(rings=(1,)).made(outline)).area)
        joined = JoinPieces(rings=(0, 2), width=2).made(outline)
        self.assertEqual(1, len(pieces_of(joined)))
        # The bar is 5 mm long and 2 wide where it crosses the gap.
        self.assertAlmostEqual(900 - 400 + 100 + 10, polygon(joined).area, places=3)

    def test_one_piece_cannot_be_joined(self) -> None:
        with self.assertRaisesRegex(ArtError, "one piece already"):
            JoinPieces(rings=(0, 1)).made(read_outline("M0,0L30,0L30,30L0,30ZM5,5L5,25L25,25L25,5Z"))

    def test_a_hole_that_reaches_over_the_edge_is_a_notch(self) -> None:
        outline = read_outline("M0,0L10,0L10,10L0,10ZM8,4L8,6L12,6L12,4Z")
        self.assertAlmostEqual(96, polygon(outline).area)


class Turned(unittest.TestCase):
    def test_words_become_an_outline_at_the_same_place_and_come_back(self) -> None:
        placed = {"place": {"x": 5, "y": 3, "rotate": 20, "scale_x": -1.2, "scale_y": 0.8}, "join": {"overlap": 0.3}}
        before = design(**placed)
        made = to_outline(before, "name", LIBRARY)
        self.assertEqual("outline", made.art[0].kind)
        for old, new in zip(build_of(before).layers, build_of(made).layers, strict=True):
            self.assertLess(old.region.area.symmetric_difference(new.region.area).area, 0.02)
            # What leaves has the font's own curves still.
            assert old.cut and new.cut
            self.assertAlmostEqual(len(old.cut.outline.segments), len(new.cut.outline.segments), delta=3)
        self.assertEqual(before, to_original(made, "name", LIBRARY))

    def test_what_is_picked_stays_picked(self) -> None:
        before = design(text="Bo")
        hole = next(one for one in pickable(build_of(before), "face") if one.kind == "hole")
        document = before.model_dump(mode="json", by_alias=True)
        document["layers"][0]["recipe"]["steps"] = [{"op": "fill_holes", "only": [hole.anchor.model_dump()]}]
        told = Design.model_validate(document)
        made = to_outline(told, "name", LIBRARY)
        areas = [build_of(one).layers[0].region.area.area for one in (before, told, made)]
        self.assertGreater(areas[1] - areas[0], 1)
        self.assertAlmostEqual(areas[1], areas[2], delta=0.01)

    def test_what_cannot_be_turned_is_told(self) -> None:
        with self.assertRaisesRegex(ArtError, "nothing of it"):
            to_outline(design(text=" "), "name", LIBRARY)
        with self.assertRaisesRegex(ArtError, "not made of anything"):
            to_original(design(), "name", LIBRARY)
        with self.assertRaisesRegex(ArtError, "not in the design"):
            to_outline(design(), "other", LIBRARY)
