"""Words set into shapes, and along curves: how deep they hold, measured by pulling them away."""

from __future__ import annotations

import math
import unittest
from typing import Any

import numpy as np
import shapely
from shapely import MultiPolygon
from shapely.affinity import translate

from tests.sampling import sampled
from tests.support import FONTS, LIBRARY, build_of, told
from tinhalo.core.artwork.lettering.lines import graphemes, lines_of
from tinhalo.core.artwork.lettering.set_words import SetWords
from tinhalo.core.design.design import Design
from tinhalo.core.design.problem import DesignError
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.build import build
from tinhalo.core.engine.built import Build

SHAPES: dict[str, dict[str, Any]] = {
    "heart": {"shape": "heart", "width": 120, "height": 104},
    "ring": {"shape": "ring", "width": 110, "height": 110, "thickness": 6},
    "arch": {"shape": "arch", "width": 90, "height": 120},
    "ellipse": {"shape": "ellipse", "width": 130, "height": 80},
}
FRAME, DEPTH = 6.0, 1.0


def design(shape: str, text: str, font: str, size: float = 30, **into: Any) -> Design:
    words = {"id": "w", "text": text, "font": font, "size": size, "join": {}, "place": {"y": -8}}
    wall = [] if shape == "ring" else [{"op": "wall", "width": FRAME, "side": "inside"}]
    both = [*wall, {"op": "union", "operand": {"from": ["w"]}}]
    return parse_design(
        {
            "format": "tin-halo/1",
            "art": [
                words | {"into": {"art": "s", "frame": FRAME, "depth": DEPTH} | into},
                {"id": "s", "kind": "shape", **SHAPES[shape]},
            ],
            "layers": [
                {"id": "frame", "recipe": {"from": ["s"], "steps": wall}},
                {"id": "both", "recipe": {"from": ["s"], "steps": both}},
            ],
        }
    )


def region(made: Build, id: str) -> MultiPolygon:
    found = {one.art.id: one.region for one in made.art} | {one.layer.id: one.region for one in made.layers}
    return found[id].area


def depth(words: MultiPolygon, frame: MultiPolygon, way: tuple[float, float]) -> float:
    """How far words can be pulled along a way before they let go of that part of the frame: by bisection."""
    low, high = 0.0, 20.0
    if not words.intersects(frame):
        return 0.0
    while high - low > 1e-3:
        half = (low + high) / 2
        if translate(words, half * way[0], half * way[1]).intersects(frame):
            low = half
        else:
            high = half
    return low


def half(frame: MultiPolygon, side: str) -> MultiPolygon:
    """The part of a frame on one side of its middle."""
    x0, y0, x1, y1 = frame.bounds
    x, y = (x0 + x1) / 2, (y0 + y1) / 2
    boxes = {"left": (x0, y0, x, y1), "right": (x, y0, x1, y1), "foot": (x0, y0, x1, y), "top": (x0, y, x1, y1)}
    return MultiPolygon(list(shapely.get_parts(shapely.intersection(frame, shapely.box(*boxes[side])))))


class IntoShapes(unittest.TestCase):
    def check(self, job: Design, sides: dict[str, tuple[float, float]]) -> float:
        made = build_of(job)
        frame = region(made, "frame")
        # What is left of the words in the opening's height counts: above it they are in the frame anyway.
        found = [depth(region(made, "w"), half(frame, side), way) for side, way in sides.items()]
        self.assertEqual(made.layers[1].measures.pieces, 1)
        return max(abs(one - DEPTH) for one in found)

    def test_words_hold_on_both_sides_in_every_font_also_once_they_are_others(self) -> None:
        sides = {"left": (1.0, 0.0), "right": (-1.0, 0.0)}
        # Stencil fonts, and the F of one script, draw letters in pieces, which nothing joins.
        fonts = [one for one in FONTS if "stencil" not in one and one not in ("black-ops-one", "parisienne")]
        for font, shape in sampled([(font, shape) for font in fonts for shape in SHAPES], 1 / 10):
            for text in ("Bram", "Fenna"):
                with self.subTest(font=font, shape=shape, text=text):
                    self.assertLess(self.check(design(shape, text, font), sides), 0.05)

    def test_to_the_height_and_to_both(self) -> None:
        upright = {"foot": (0.0, 1.0), "top": (0.0, -1.0)}
        for shape in ("ellipse", "ring"):
            self.assertLess(self.check(design(shape, "Bram", "anton", fit="height"), upright), 0.05)
            every = {"left": (1.0, 0.0), "right": (-1.0, 0.0)} | upright
            self.assertLess(self.check(design(shape, "Bram", "anton", fit="both"), every), 0.05)

    def test_every_line_holds_by_itself(self) -> None:
        made = build_of(design("ellipse", "Bram\nOttoline", "anton", size=20))
        words = made.art[0].drawn
        frame = region(made, "frame")
        for line in lines_of(graphemes("Bram\nOttoline")):
            row = MultiPolygon([piece for i in line if i in words.parts for piece in words.parts[i].pieces])
            for side, way in (("left", (1.0, 0.0)), ("right", (-1.0, 0.0))):
                self.assertAlmostEqual(depth(row, half(frame, side), way), DEPTH, delta=0.05)

    def test_in_proportion_no_letter_is_stretched(self) -> None:
        for shape in SHAPES:
            job = design(shape, "Bram", "anton", fit="size")
            self.assertLess(self.check(job, {"left": (1.0, 0.0), "right": (-1.0, 0.0)}), 0.05)
            own = design(shape, "Bram", "anton").model_dump(mode="json", by_alias=True)
            own["art"][0]["into"] = None
            x0, y0, x1, y1 = region(build_of(parse_design(own)), "w").bounds
            left, low, right, high = region(build_of(job), "w").bounds
            self.assertAlmostEqual((right - left) / (high - low), (x1 - x0) / (y1 - y0), places=4)

    def test_the_frame_is_what_the_recipe_makes_whatever_it_is_made_of(self) -> None:
        """Frames grown out of a shape, of an outline and of another layer; the number beside the words is no matter."""
        sides = {"left": (1.0, 0.0), "right": (-1.0, 0.0)}
        heart = design("heart", "Bram", "anton").model_dump(mode="json", by_alias=True)
        outside = {"op": "wall", "width": 3, "side": "outside"}
        square = {"id": "s", "kind": "outline", "path": "M-50,-40 L50,-40 L50,40 L-50,40 Z"}
        for title, shape, source, steps in (
            ("grown", heart["art"][1], "s", [{"op": "offset", "by": 5}, outside]),
            ("shrunk", heart["art"][1], "s", [{"op": "offset", "by": -8}, outside]),
            ("outline", square, "s", [outside]),
            ("layer", heart["art"][1], "base", [{"op": "offset", "by": 1}]),
        ):
            with self.subTest(title):
                both = [*steps, {"op": "union", "operand": {"from": ["w"]}}]
                layers = [
                    {"id": "frame", "recipe": {"from": [source], "steps": steps}},
                    {"id": "both", "recipe": {"from": [source], "steps": both}},
                    {"id": "base", "recipe": {"from": ["s"], "steps": [outside]}},
                ]
                words = heart["art"][0] | {"into": {"art": "s", "frame": 1, "depth": DEPTH}}
                job = parse_design(heart | {"art": [words, shape], "layers": layers})
                self.assertLess(self.check(job, sides), 0.05)

    def test_what_does_not_hold_is_told_with_what_helps(self) -> None:
        data = design("heart", "Bram", "anton").model_dump(mode="json", by_alias=True)
        data["art"][0] |= {"join": None, "letter_spacing": 4}
        (found,) = told(build_of(parse_design(data)))
        self.assertEqual((found.kind, found.severity), ("not_held", "warning"))
        self.assertIn("“Bram” does not all hold to the heart: the r and the a do not reach it.", found.sentence)
        self.assertEqual([mend.title for mend in found.mends], ["Close the letters up"])
        data["art"][0] |= {"place": {"y": 400}}
        (found,) = told(build_of(parse_design(data)))
        self.assertIn("cannot be stretched until it holds to the heart", found.sentence)

    def test_only_shapes_hold_words(self) -> None:
        data = design("heart", "Bram", "anton").model_dump(mode="json", by_alias=True)
        for into, said in (
            ("nobody", "“w” is set into “nobody”, but no art has that id."),
            ("w", "“w” is set into “w”, which is words"),
        ):
            data["art"][0]["into"]["art"] = into
            with self.assertRaisesRegex(DesignError, said):
                parse_design(data)
        data["art"][0] |= {"into": {"art": "s"}, "against": {"art": "s"}}
        with self.assertRaisesRegex(DesignError, "either into a shape or against other art"):
            parse_design(data)


class AlongLines(unittest.TestCase):
    def words(self, path: str, text: str = "Bram Kote", **more: Any) -> Build:
        line = {"path": path, "radius": 50, "height": 10, "length": 60}
        art = {"id": "w", "text": text, "font": "anton", "size": 20, "line": line} | more
        layer = {"id": "l", "recipe": {"from": ["w"]}}
        return build_of(parse_design({"format": "tin-halo/1", "art": [art], "layers": [layer]}))

    def feet(self, made: Build) -> np.ndarray:
        """The middle of each letter's foot: of the edge of its smallest upright box that is nearest to the line."""
        found = []
        for part in made.art[0].drawn.parts.values():
            found.append(part.pieces[0].centroid.coords[0])
        return np.array(found)

    def test_letters_keep_their_shape_and_stand_at_one_distance_from_the_arc(self) -> None:
        straight = build(
            parse_design(
                {
                    "format": "tin-halo/1",
                    "art": [{"id": "w", "text": "HHHH", "font": "anton", "size": 20}],
                    "layers": [],
                }
            ),
            LIBRARY,
        )
        (_x, y) = straight.art[0].drawn.parts[0].pieces[0].centroid.coords[0]
        for path, middle, way in (("arc_above", (0, -50), 1), ("arc_below", (0, 50), -1), ("circle", (0, 0), 1)):
            made = self.words(path, "HHHH")
            with self.subTest(path=path):
                for part in made.art[0].drawn.parts.values():
                    self.assertAlmostEqual(part.pieces[0].area, straight.art[0].drawn.parts[0].pieces[0].area, places=3)
                away = np.hypot(*(self.feet(made) - middle).T)
                self.assertTrue(np.allclose(away, 50 + way * y, atol=0.02), away)

    def test_words_round_a_circle_keep_their_spacing_and_begin_to_both_sides_of_the_top(self) -> None:
        straight = np.diff(self.feet(self.words("circle", "HHHH HH", line=None))[:, 0])
        feet = self.feet(self.words("circle", "HHHH HH"))
        angles = np.degrees(np.arctan2(feet[:, 0], feet[:, 1]))
        # Along the circle they are as far apart as on a straight line, blanks included.
        self.assertTrue(np.allclose(np.radians(np.diff(angles)) * 50, straight, atol=0.02), angles)
        self.assertAlmostEqual(angles[0], -angles[-1], delta=1)

    def test_a_radius_that_is_not_said_follows_the_words(self) -> None:
        for path, share in (("circle", 1), ("arc_above", 1 / 6), ("arc_below", 1 / 6)):
            for text in ("Ida", "Kite Fair Crew of Ostrel Bay"):
                with self.subTest(path=path, text=text):
                    made = self.words(path, text, line={"path": path})
                    words = made.art[0].drawn
                    assert isinstance(words, SetWords) and words.typeset.line
                    straight = self.words(path, text, line=None).art[0].drawn.region.bounds
                    assert straight
                    turned = (straight[2] - straight[0]) / (2 * math.pi * words.typeset.line.radius)
                    # Side bearings and, round a circle, a blank between the end and the beginning are the rest.
                    self.assertAlmostEqual(turned, share, delta=0.3 * share)
                    self.assertLess(turned, share)
                    self.assertNotIn("line_too_short", [one.kind for one in told(made)])

    def test_a_circle_that_is_too_small_is_told(self) -> None:
        (found,) = told(self.words("circle", "Kite Fair Crew of Ostrel Bay", line={"path": "circle", "radius": 20}))
        self.assertEqual(found.kind, "line_too_short")
        self.assertIn("is longer than the circle that it stands on", found.sentence)
        self.assertEqual([mend.title for mend in found.mends], ["Make the circle larger"])

    def test_closed_up_words_hold_together_on_every_curve(self) -> None:
        for path in ("arc_above", "arc_below", "wave"):
            for font in ("anton", "pacifico", "bevan", "courgette"):
                with self.subTest(path=path, font=font):
                    made = self.words(path, "Bram", font=font, join={})
                    self.assertEqual(made.layers[0].measures.pieces, 1)

    def test_a_wave_is_a_sine_wave(self) -> None:
        made = self.words("wave", "HHHHHHHHHHHH")
        feet = self.feet(made)
        # Feet stand on the wave, half a letter's height along its normal.
        on = np.linspace(-80, 80, 4001)
        wave = np.stack([on, 5 * np.sin(2 * math.pi * on / 60)], axis=1)
        away = np.hypot(*(feet[:, None] - wave[None]).transpose(2, 0, 1)).min(axis=1)
        self.assertLess(np.ptp(away[1:-1]), 0.6)
