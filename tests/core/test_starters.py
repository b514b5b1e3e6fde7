"""Every starter from its words to its files; places that stay with their letters."""

from __future__ import annotations

import io
import json
import math
import unittest
from typing import Any

import numpy as np
import shapely
import svgelements
from shapely import LinearRing

from tests.sampling import sampled
from tests.support import LIBRARY, block, build_of, design, document, farthest, told
from tinhalo.core.design.problem import DesignError
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.anchoring import anchor_at, anchor_place
from tinhalo.core.engine.build import build
from tinhalo.core.engine.resize import scaled
from tinhalo.core.output.pack import pack_files
from tinhalo.core.recipe.kinds import STEP_OPS
from tinhalo.core.runtime.memo import Memo
from tinhalo.core.starters import STARTERS, with_words


class Starters(unittest.TestCase):
    def test_outlines_and_files(self) -> None:
        """What leaves keeps to what was computed; files are read back by svgelements."""
        memo = Memo()
        for starter in sampled(STARTERS, 1 / 5):
            made = build(with_words(starter.document, "Zoë Bram"), LIBRARY, memo=memo)
            self.assertEqual([f.sentence for f in told(made) if f.severity == "error"], [])
            for layer in made.layers:
                assert layer.cut
                rings = [ring for _, ring in layer.region.rings()]
                with self.subTest(starter=starter.id, layer=layer.layer.id):
                    self.assertGreater(len(rings) + layer.measures.marks, 0)
                    if rings:
                        fine = layer.cut.outline.flattened(0.0005)
                        self.assertLess(max(farthest(fine, rings), farthest(rings, fine)), 0.02)
                        self.assertTrue(all(LinearRing(ring).is_simple for ring in fine))
            files = pack_files(made, memo)
            entries = json.loads(files["manifest.json"])["layers"]
            self.assertEqual({e["id"] for e in entries}, {b.layer.id for b in made.leaving()})
            for entry in entries:
                if entry["marks"]:
                    self.check_marks(files[entry["file"]].decode(), entry)

    def check_marks(self, svg: str, entry: dict[str, Any]) -> None:
        """Open strokes leave as open lines, each by itself, of the length that the manifest says."""
        (path,) = svgelements.SVG.parse(io.StringIO(svg)).elements(lambda e: isinstance(e, svgelements.Path))
        lines = [s for s in path if isinstance(s, svgelements.Line)]
        self.assertFalse(any(isinstance(s, svgelements.Close) for s in path))
        self.assertEqual((len(lines), entry["pieces"], entry["area_mm2"]), (entry["marks"], 0, 0))
        # svgelements reads in pixels of 1/96 inch.
        length = sum(line.length() for line in lines) * 25.4 / 96
        self.assertAlmostEqual(length, entry["cut_length_mm"], delta=0.01)

    def test_distances_scale_with_the_job_or_stay(self) -> None:
        for starter in STARTERS:
            one = build_of(starter.document, exact=False)
            twice = build_of(scaled(starter.document, 2, "scaled"), exact=False)
            for a, b in zip(one.layers, twice.layers, strict=True):
                if not a.region.area.is_empty:
                    ratio = b.measures.area / a.measures.area
                    self.assertAlmostEqual(ratio, 4, delta=0.02, msg=f"{starter.id} {a.layer.id}")
            kept = scaled(starter.document, 2, "kept")
            self.assertEqual([x.recipe for x in kept.layers], [x.recipe for x in starter.document.layers])

    def test_other_words_keep_the_recipes(self) -> None:
        for starter in STARTERS:
            other = with_words(starter.document, "Zoë")
            self.assertEqual(block(other).text, "Zoë")
            self.assertEqual(other.layers, starter.document.layers)


class Spots(unittest.TestCase):
    """A hole that was picked stays picked while the words are moved, resized, turned, and edited in front of it."""

    def filled(self, only: list[dict[str, Any]], **art: Any) -> tuple[int, int]:
        made = build_of(design([{"op": "fill_holes", "only": only}], **art), exact=False).layers[1]
        note = made.notes[0]
        assert note
        return note.filled, note.missing

    def test_picked_holes(self) -> None:
        made = build_of(design([{"op": "outside"}], text="Bee"), exact=False)
        holes = made.layers[0].region.hole_areas()
        spot = anchor_at(made.art, *holes[1].representative_point().coords[0])
        assert spot
        picked = [spot.model_dump()]
        for art in (
            {},
            {"size": 80},
            {"place": {"x": 30, "y": -8, "rotate": 40, "scale_x": 2, "scale_y": 0.7}},
            {"moves": {"2": {"dy": 4}}},
            {"join": {}},
        ):
            with self.subTest(art=art):
                self.assertEqual(self.filled(picked, text="Bee", **art), (1, 0))
        moved = [picked[0] | {"part": spot.part + 3}]
        self.assertEqual(self.filled(moved, text="Oh Bee"), (1, 0))
        self.assertEqual(self.filled(moved, text="Bee"), (0, 1))
        self.assertEqual(self.filled([picked[0] | {"part": 0, "y": 5}], text="Bee"), (0, 1))

    def test_nothing_picked_fills_nothing_also_after_everything_was(self) -> None:
        memo = Memo()
        for step, holes in (({}, 0), ({"only": []}, 2), ({}, 0)):
            made = build(design([{"op": "fill_holes", **step}], text="Bee"), LIBRARY, exact=False, memo=memo)
            self.assertEqual(made.layers[1].measures.holes, holes)

    def test_a_spot_is_where_it_was_picked(self) -> None:
        made = build_of(design([], text="Fenna", place={"x": 5, "rotate": 30, "scale_x": 1.5}), exact=False)
        for x, y in ((0.0, 0.0), (12.3, 7.0), (-20.0, -3.5)):
            spot = anchor_at(made.art, x, y)
            assert spot
            there = anchor_place(made.art[0], spot)
            assert there
            self.assertLess(math.dist(there, (x, y)), 0.01)

    def test_pieces_are_kept_or_dropped(self) -> None:
        made = build_of(design([], text="Bo", font="anton"), exact=False)
        at = made.layers[0].region.area.geoms[0].representative_point()
        spot = anchor_at(made.art, at.x, at.y)
        assert spot
        kept, dropped = (
            build_of(design([{"op": op, "pieces": [spot.model_dump()]}], text="Bo", font="anton"), exact=False)
            for op in ("keep", "drop")
        )
        self.assertTrue(kept.layers[1].region.area.contains(at))
        self.assertFalse(dropped.layers[1].region.area.contains(at))
        both = shapely.union(kept.layers[1].region.area, dropped.layers[1].region.area)
        self.assertTrue(both.equals(made.layers[0].region.area))


class BadSteps(unittest.TestCase):
    def test_each_is_refused_with_a_sentence(self) -> None:
        for step, said in (
            ({"op": "outline", "width": 0}, "The width of the layer “Backer” must be at least 0.01 mm"),
            ({"op": "tab", "hole": -4}, "The hole of the layer “Backer” must be at least 0.01 mm"),
            ({"op": "plate", "shape": "heart"}, "can be"),
            ({"op": "hole", "row": {"count": 0}}, "must be at least 1"),
            ({"op": "tidy", "area": None}, "say under which area or width"),
            ({"op": "place", "scale_x": 0}, "nothing is left"),
            ({"op": "stitch", "length": "long"}, "must be a number"),
            ({"op": "glow"}, "does not know"),
            ({"op": "fill_holes", "only": [{"art": "nobody", "letter": 0}]}, "no art has that id"),
            ({"op": "tab", "along": {"from": ["backer"]}}, "go round in a circle"),
            ({"op": "tab", "along": {"from": ["nobody"]}}, "no art and no layer has that id"),
        ):
            with self.subTest(step=step), self.assertRaises(DesignError) as caught:
                parse_design(document([step]))
            self.assertIn(said, str(caught.exception))

    def test_every_step_takes_nothing_and_next_to_nothing(self) -> None:
        """Words without an outline, and a step that leaves nothing, are no trouble for what follows."""
        gone = {"op": "offset", "by": -50}
        operand = {"operand": {"from": ["name"]}}
        fields: dict[str, dict[str, Any]] = {"offset": {"by": 2}, "thicken": {"by": 1}}
        fields |= {"subtract": operand, "intersect": operand, "bleed": operand, "underlap": operand}
        for op in STEP_OPS.keys() - {"union"}:
            self.check_empty([gone, {"op": op, **fields.get(op, {})}])

    def check_empty(self, steps: list[dict[str, Any]]) -> None:
        for text in ("Bo", ""):
            with self.subTest(step=steps[-1]["op"], text=text):
                made = build_of(design(steps, text=text)).layers[1]
                self.assertTrue(made.region.is_empty)
                self.assertEqual((made.measures.pieces, made.measures.bounds), (0, None))
                self.assertTrue(np.isfinite(made.measures.cut_length))
