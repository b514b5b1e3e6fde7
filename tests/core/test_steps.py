"""Every step against a second geometry kernel, a closed formula or a worked example, on all shipped fonts."""

from __future__ import annotations

import math
import unittest
from collections.abc import Callable
from typing import Any

import numpy as np
import shapely
from manifold3d import CrossSection, FillRule, JoinType
from shapely import Polygon, box

from tests.core.test_offset import regular
from tests.sampling import NUMBERS, sampled
from tests.support import FONTS, hairlines, lettering
from tinhalo.core.geometry.curves.precision import EXACT, SCREEN
from tinhalo.core.geometry.regions.offset import offset
from tinhalo.core.geometry.regions.overlay import intersect, subtract, union
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.regions.selection import without_specks
from tinhalo.core.recipe.evaluate import Evaluator, Named
from tinhalo.core.recipe.kinds import STEP_OPS
from tinhalo.core.recipe.recipe import Recipe
from tinhalo.core.runtime.memo import Memo

TEXT = "Zoë K"


def cooked(region: Region, *steps: dict[str, Any], **others: Region) -> Region:
    """The region after some steps; ``others`` are further sources for operands."""
    sources = {"it": region, **others}
    evaluator = Evaluator(lambda name: Named(name, sources[name]), EXACT, Memo())
    return evaluator.cook(Recipe.model_validate({"from": ["it"], "steps": steps}))


def section(region: Region) -> CrossSection:
    return CrossSection([ring for _, ring in region.rings()], FillRule.EvenOdd)


def grown(shape: CrossSection, by: float) -> CrossSection:
    return shape.offset(by, JoinType.Round, 2, 400)


def outer_rings(shape: CrossSection) -> CrossSection:
    rings = [ring for ring in shape.to_polygons() if Polygon(ring).exterior.is_ccw]
    return CrossSection(rings, FillRule.NonZero)


def shown(region: Region) -> np.ndarray:
    """A picture of the region at 0.05 mm a pixel, by GEOS' point tests, with a margin of 5 mm."""
    assert region.bounds
    x0, y0, x1, y1 = region.bounds
    xs, ys = np.meshgrid(np.arange(x0 - 5, x1 + 5, 0.05), np.arange(y0 - 5, y1 + 5, 0.05))
    shapely.prepare(region.area)
    return shapely.contains_xy(region.area, xs, ys)


#: What a step gives, from Clipper2 (through manifold3d): the same words said in another kernel's operations.
SECOND: dict[str, tuple[dict[str, Any], Callable[[CrossSection], CrossSection]]] = {
    "outside": ({}, outer_rings),
    "fill_holes": ({}, outer_rings),
    "outline": ({"gap": 1, "width": 1.5}, lambda s: grown(s, 2.5) - grown(s, 1)),
    "close_gaps": ({"up_to": 3}, lambda s: grown(grown(s, 1.5), -1.5)),
    "wall": ({"width": 0.8, "side": "centred"}, lambda s: grown(s, 0.4) - grown(s, -0.4)),
    "drop_shadow": (
        {"dx": 1, "dy": -1.2, "visible_only": True, "underlap": 0.3},
        lambda s: s.translate((1, -1.2)) - grown(s, -0.3),
    ),
    "place": (
        {"dx": 3, "dy": -2, "turn": 30, "scale_x": 2, "mirror": True, "about": "design"},
        lambda s: s.scale((-2, 1)).rotate(30).translate((3, -2)),
    ),
}


class AgainstASecondKernel(unittest.TestCase):
    """Clipper2, through manifold3d: areas, and areas of the difference, in all shipped fonts."""

    def test_steps(self) -> None:
        worst: dict[str, float] = {}
        for font in sampled(FONTS, 1 / 10):
            region = lettering(TEXT, font, 24, SCREEN)
            shape = section(region)
            for op, (fields, second) in SECOND.items():
                ours = cooked(region, {"op": op, **fields})
                theirs = second(shape)
                off = abs(ours.area.area / theirs.area() - 1)
                apart = (section(ours) ^ theirs).area() / ours.area.area
                worst[op] = max(worst.get(op, 0.0), off, 1 - apart)
                with self.subTest(font=font, op=op):
                    self.assertLess(off, 5e-4)
                    self.assertGreater(apart, 0.999)

    def test_operands_grown_in_the_same_sentence(self) -> None:
        """The knockout: a block word less script names grown by 2 mm."""
        operand = {"from": ["names"], "steps": [{"op": "offset", "by": 2}]}
        for font in sampled(FONTS, 1 / 10):
            names = lettering("Fenna", font, 18)
            block = lettering("KIT", "anton", 50)
            a, b = section(block), grown(section(names), 2)
            for op, theirs in (("subtract", a - b), ("intersect", a ^ b), ("union", a + b)):
                ours = cooked(block, {"op": op, "operand": operand}, names=names)
                with self.subTest(font=font, op=op):
                    self.assertLess(abs(ours.area.area / theirs.area() - 1), 5e-4)
                    left = without_specks(Region.of(shapely.union_all(_polygons(theirs))))
                    self.assertEqual(ours.pieces, left.pieces)

    def test_walls_on_either_side(self) -> None:
        region = lettering(TEXT, "bevan")
        inside, outside = (cooked(region, {"op": "wall", "width": 0.6, "side": s}) for s in ("inside", "outside"))
        self.assertAlmostEqual(inside.area.area, region.area.area - offset(region, -0.6, EXACT).area.area, delta=0.01)
        self.assertAlmostEqual(outside.area.area, offset(region, 0.6, EXACT).area.area - region.area.area, delta=0.01)
        self.assertLess(outside.area.intersection(region.area).area, 1e-6)


def _polygons(shape: CrossSection) -> list[Polygon]:
    return [Polygon(p.to_polygons()[0], p.to_polygons()[1:]) for p in shape.decompose()]


class Shadows(unittest.TestCase):
    def test_a_block_shadow_is_the_union_of_all_positions(self) -> None:
        """Against 401 copies along the way: all of them inside it, and nothing between them left out."""
        for font in sampled(FONTS, 1 / 10):
            region = lettering("Zö", font, 16, SCREEN)
            dx, dy = 2.0, -1.25
            ours = cooked(region, {"op": "block_shadow", "dx": dx, "dy": dy}).area
            copies = [shapely.affinity.translate(region.area, dx * t, dy * t) for t in np.linspace(0, 1, 401)]
            dense = shapely.union_all(copies)
            with self.subTest(font=font):
                self.assertLess(dense.difference(ours.buffer(1e-6)).area, 1e-6)
                # Copies 0.006 mm apart leave scallops of at most half that depth.
                self.assertLess(ours.difference(dense).area / ours.area, 1e-3)
                self.assertTrue(dense.buffer(0.004).contains(ours))

    def test_edges_all_but_along_the_way_do_no_harm(self) -> None:
        region = offset(lettering("Zoë\nÅsa", "black-ops-one", 60), 0.8, EXACT)
        ours = cooked(region, {"op": "block_shadow", "dx": 4, "dy": -4}).area
        self.assertTrue(ours.is_valid)
        copies = shapely.union_all([shapely.affinity.translate(region.area, t, -t) for t in np.linspace(0, 4, 41)])
        self.assertLess(copies.difference(ours.buffer(1e-6)).area, 1e-6)
        self.assertLess(ours.difference(copies).area / ours.area, 2e-3)

    def test_of_a_convex_shape(self) -> None:
        """Area of a swept convex body: A + width across the way x its length (Cavalieri)."""
        for shape, across in (
            (box(0, 0, 10, 4), (10 * 3 + 4 * 4) / 5),
            (regular(720, 6), 12 * math.cos(math.pi / 720)),
        ):
            swept = cooked(Region.of(shape), {"op": "block_shadow", "dx": 4, "dy": 3})
            self.assertAlmostEqual(swept.area.area, shape.area + across * 5, delta=2e-3)

    def test_holes_close_only_as_far_as_they_are_passed_over(self) -> None:
        frame = Region.of(box(0, 0, 10, 10).difference(box(2, 2, 8, 8)))
        swept = cooked(frame, {"op": "block_shadow", "dx": 0, "dy": 4})
        self.assertTrue(swept.area.equals(box(0, 0, 10, 14).difference(box(2, 6, 8, 8))))

    def test_a_whole_drop_shadow_is_the_region_moved_with_its_curves(self) -> None:
        region = lettering("Kite", "lobster")
        moved = cooked(region, {"op": "drop_shadow", "dx": 2, "dy": -1})
        self.assertAlmostEqual(moved.area.area, region.area.area)
        self.assertEqual(len(moved.drawn), len(region.drawn))
        self.assertAlmostEqual(moved.area.bounds[0] - region.area.bounds[0], 2)


class Corners(unittest.TestCase):
    """A right corner rounded with radius r loses (1 - pi / 4) r²; one of angle a: r² (cot(a/2) - (pi - a) / 2)."""

    def test_of_polygons(self) -> None:
        for sides in (3, 4, 6):
            shape = regular(sides, 20)
            angle = math.pi * (sides - 2) / sides
            for r in (0.3, 1, 3):
                lost = sides * r * r * (1 / math.tan(angle / 2) - (math.pi - angle) / 2)
                rounded = cooked(Region.of(shape), {"op": "round_off", "outer": r})
                self.assertAlmostEqual(shape.area - rounded.area.area, lost, delta=0.002 * lost + 1e-4)
                hole = Region.of(box(-40, -40, 40, 40).difference(shape))
                inner = cooked(hole, {"op": "round_off", "outer": 0, "inner": r})
                self.assertAlmostEqual(inner.area.area - hole.area.area, lost, delta=0.002 * lost + 1e-4)

    def test_no_stroke_is_lost_and_nothing_grows(self) -> None:
        for font in sampled(FONTS, 1 / 10):
            region = lettering(TEXT, font)
            rounded = cooked(region, {"op": "round_off", "outer": 1.5})
            with self.subTest(font=font):
                self.assertEqual((rounded.pieces, rounded.holes), (region.pieces, region.holes))
                self.assertLess(rounded.area.difference(region.area).area, 1e-6)
                self.assertLess(shapely.hausdorff_distance(region.area, rounded.area), 1.52)

    def test_no_slit_or_hair_is_left_along_the_sides_of_a_corner(self) -> None:
        for font in sampled(FONTS, 1 / 10):
            for by in (0, 1):
                region = offset(lettering("Ostrel Bay", font), by, EXACT)
                with self.subTest(font=font, by=by):
                    rounded = cooked(region, {"op": "round_off", "outer": 0.6, "inner": 0.9})
                    self.assertLess(hairlines(rounded.area), 0.01)
                    self.assertGreater(_shortest(rounded.area), 3e-6)

    def test_a_thin_bar_gets_the_largest_halved_radius_that_it_can_have(self) -> None:
        rounded = cooked(Region.of(box(0, 0, 20, 1.1)), {"op": "round_off", "outer": 4})
        self.assertAlmostEqual(rounded.area.area, 22 - (4 - math.pi) * 0.25, delta=0.002)

    def test_a_spike_without_width_is_left(self) -> None:
        """Its sides turn back by exactly half a turn as floating-point numbers go."""
        spiked = Polygon([(0, -5), (10, -5), (10, 0), (15, 5e-17), (10, 1e-16), (10, 5), (0, 5)])
        self.assertTrue(spiked.is_valid)
        rounded = cooked(Region.of(spiked), {"op": "round_off", "outer": 1})
        self.assertAlmostEqual(rounded.area.area, 100 - (4 - math.pi), delta=0.005)


def _shortest(area: shapely.MultiPolygon) -> float:
    """The length of its shortest edge in mm."""
    return min(float(np.hypot(*(ring - np.roll(ring, 1, axis=0)).T).min()) for _, ring in Region(area).rings())


class Plates(unittest.TestCase):
    """Areas by formula; an ellipse's is pi a b, a circle segment's r² (angle - sin(angle)) / 2."""

    def plate(self, **fields: Any) -> Region:
        return cooked(Region.of(box(-20, -5, 20, 5)), {"op": "plate", **fields})

    def test_areas(self) -> None:
        self.assertAlmostEqual(self.plate(shape="rectangle", margin=5).area.area, 50 * 20)
        rounded = self.plate(shape="rounded", margin=5, corner_radius=4)
        self.assertAlmostEqual(rounded.area.area, 50 * 20 - (4 - math.pi) * 16, delta=0.01)
        ellipse = self.plate(shape="ellipse", width=90, height=40)
        self.assertAlmostEqual(ellipse.area.area, math.pi * 45 * 20, delta=0.3)
        arch = self.plate(shape="arch", width=40, height=50)
        rise, r = 10.0, (20**2 + 10**2) / 20
        angle = 2 * math.asin(20 / r)
        self.assertAlmostEqual(arch.area.area, 40 * (50 - rise) + r * r * (angle - math.sin(angle)) / 2, delta=0.1)

    def test_the_art_lies_on_it_with_its_margin(self) -> None:
        for font in sampled(FONTS, 1 / 10):
            region = lettering(TEXT, font)
            for shape in ("rectangle", "rounded", "ellipse", "arch"):
                plate = cooked(region, {"op": "plate", "shape": shape, "margin": 4, "corner_radius": 3})
                with self.subTest(font=font, shape=shape):
                    self.assertTrue(plate.area.contains(region.area))
                    self.assertGreaterEqual(plate.area.boundary.distance(region.area), 3.98)


class Tabs(unittest.TestCase):
    def test_the_hole_is_round_has_its_rim_and_hangs_on(self) -> None:
        for font in sampled(FONTS, 1 / 10):
            region = cooked(lettering("Bram", font), {"op": "offset", "by": 3}, {"op": "close_gaps", "up_to": 6})
            for at in range(0, 360, 45):
                made = cooked(region, {"op": "tab", "hole": 4, "rim": 2, "reach": 3, "at": at})
                with self.subTest(font=font, at=at):
                    self.assertEqual(made.pieces, region.pieces)
                    self.assertEqual(made.holes, region.holes + 1)
                    new = [h for h in made.hole_areas() if abs(h.area - math.pi * 4) < 0.01]
                    self.assertEqual(len(new), 1)
                    # No closer to the art's old edge than asked, and 2 mm of rim all round.
                    self.assertAlmostEqual(new[0].centroid.distance(region.area), 3, delta=0.01)
                    rim = new[0].centroid.buffer(3.99).difference(new[0].buffer(0.01))
                    self.assertTrue(made.area.buffer(1e-6).contains(rim))

    def test_it_stays_at_the_corner_when_the_words_get_longer(self) -> None:
        for text in ("Bo", "Ottoline"):
            region = cooked(lettering(text, "lobster"), {"op": "plate", "shape": "rectangle", "margin": 3})
            x0, _, _, y1 = region.area.bounds
            made = cooked(region, {"op": "tab", "hole": 4, "rim": 2, "reach": 0, "at": 135})
            (hole,) = made.hole_areas()
            self.assertLess(abs(hole.centroid.x - x0) + abs(hole.centroid.y - y1), 0.02)

    def test_holes_of_several_layers_line_up(self) -> None:
        face = lettering("Bram", "lobster")
        backer = cooked(face, {"op": "offset", "by": 4})
        tab = {"op": "tab", "at": 100, "along": {"from": ["backer"]}}
        holes = [cooked(r, tab, backer=backer).hole_areas() for r in (face, backer)]
        a, b = (min(hs, key=lambda h: abs(h.area - math.pi * 4)).centroid for hs in holes)
        self.assertLess(a.distance(b), 1e-6)

    def test_a_row_of_holes(self) -> None:
        sheet = Region.of(box(0, 0, 100, 30))
        row = {"op": "hole", "diameter": 4, "at": {"x": 0.5, "y": 1, "inset": 5}, "row": {"count": 3, "dx": 40}}
        made = cooked(sheet, row)
        self.assertEqual([h.centroid.coords[0] for h in _rounded(made)], [(10, 25), (50, 25), (90, 25)])
        self.assertAlmostEqual(made.area.area, 3000 - 3 * math.pi * 4, delta=0.01)


def _rounded(region: Region) -> list[Polygon]:
    return sorted((shapely.set_precision(h, 1e-4) for h in region.hole_areas()), key=lambda h: h.centroid.x)


class Sifted(unittest.TestCase):
    def test_holes_under_an_area_or_a_width(self) -> None:
        sheet = box(0, 0, 40, 20)
        slot, dot, big = box(2, 2, 12, 3), box(15, 5, 18, 8), box(22, 4, 34, 16)
        region = Region.of(shapely.difference(sheet, shapely.union_all([slot, dot, big])))
        left = {"smaller_than": [slot, big], "narrower_than": [dot, big]}
        for field, value in (("smaller_than", 9.5), ("narrower_than", 1.2)):
            made = cooked(region, {"op": "fill_holes", field: value})
            self.assertTrue(made.area.equals(shapely.difference(sheet, shapely.union_all(left[field]))))

    def test_a_filled_hole_takes_in_what_stands_in_it(self) -> None:
        region = Region.of(shapely.union(box(0, 0, 9, 9).difference(box(1, 1, 8, 8)), box(4, 4, 5, 5)))
        self.assertTrue(cooked(region, {"op": "fill_holes", "smaller_than": 50}).area.equals(box(0, 0, 9, 9)))

    def test_tidy_drops_what_is_small_and_tells_it(self) -> None:
        parts = [box(0, 0, 10, 10).difference(box(4, 4, 5, 5)), box(20, 0, 21, 1), box(30, 0, 50, 0.4)]
        region = Region.of(shapely.union_all(parts))
        for fields, dropped, filled in (
            ({"area": 2}, 1, 0),
            ({"area": None, "width": 0.5}, 1, 0),
            ({"area": 2, "width": 0.5, "holes_too": True}, 2, 1),
        ):
            step = STEP_OPS["tidy"].model_validate({"op": "tidy", **fields})
            named = Named("it", region)
            evaluator = Evaluator(lambda name, one=named: one, EXACT, Memo())
            after = cooked(region, {"op": "tidy", **fields})
            note = evaluator.note(step, named, Named("after", after))  # pyright: ignore[reportArgumentType]
            assert note
            self.assertEqual((note.dropped, note.filled), (dropped, filled))
            self.assertEqual(after.pieces, 3 - dropped)


class Morphology(unittest.TestCase):
    """Closing by a disc as it is defined, point by point on a grid."""

    def test_closed_gaps_are_those_that_no_disc_gets_into(self) -> None:
        region = lettering("FAIR", "anton", 12)
        made = cooked(region, {"op": "close_gaps", "up_to": 2})
        x0, y0, x1, y1 = region.area.bounds
        points = np.stack(np.meshgrid(np.arange(x0, x1, 0.2), np.arange(y0, y1, 0.2)), axis=-1).reshape(-1, 2)
        outside = points[~shapely.contains_xy(region.area, *points.T)]
        # A point stays open if a disc of radius 1 that has no point of the region in it covers it.
        free = shapely.box(x0 - 5, y0 - 5, x1 + 5, y1 + 5).difference(region.area.buffer(1, quad_segs=90))
        away: np.ndarray = np.asarray(shapely.distance(shapely.points(outside), free))
        closed: np.ndarray = np.asarray(shapely.contains_xy(made.area, *outside.T))
        sure = np.abs(away - 1) > 0.01
        self.assertTrue(np.array_equal(closed[sure], away[sure] > 1))


class Algebra(unittest.TestCase):
    def blobs(self, rng: np.random.Generator) -> Region:
        disc = np.asarray(regular(24, 1).exterior.coords)[:-1]
        discs = [Polygon(rng.uniform(-20, 20, 2) + rng.uniform(2, 9) * disc) for _ in range(6)]
        made = discs[0]
        for disc in discs[1:]:
            made = made.symmetric_difference(disc)
        return Region.of(made)

    def test_nothing_is_lost_in_a_subtraction(self) -> None:
        """area(A) = area(A - B) + area(A and B), on random pairs."""
        for seed in sampled(NUMBERS, 1 / 10):
            rng = np.random.default_rng(seed)
            a, b = self.blobs(rng), self.blobs(rng)
            parts = subtract(a, b).area.area + intersect(a, b).area.area
            self.assertAlmostEqual(parts / a.area.area, 1, delta=1e-6, msg=seed)

    def test_what_drew_a_region_is_known_once_however_often_it_is_joined_with_itself(self) -> None:
        words = lettering("Bay")
        joined = words
        for _ in range(4):
            joined = union([joined, intersect(offset(joined, 1, EXACT), words), words])
        self.assertEqual(len(joined.drawn), len(words.drawn))
        self.assertTrue(joined.drawn)

    def test_laws(self) -> None:
        for seed in sampled(range(40), 1 / 5):
            rng = np.random.default_rng(seed)
            a, b = self.blobs(rng), self.blobs(rng)
            self.assertTrue(union([a, b]).area.equals(union([b, a]).area))
            self.assertTrue(union([a, a]).area.equals(a.area))
            back = union([subtract(a, b), intersect(a, b)]).area
            self.assertLess(back.symmetric_difference(a.area).area, 1e-6 * a.area.area)
            self.assertLess(a.area.difference(offset(a, 0.5, SCREEN).area).area, 1e-9)
            twice, once = offset(offset(a, 0.7, EXACT), 0.5, EXACT).area, offset(a, 1.2, EXACT).area
            self.assertLess(shapely.hausdorff_distance(twice, once), 0.02)

    def test_equal_steps_are_equal_everywhere(self) -> None:
        """Each step of a stack lies 2 mm further out than the one above, within 0.02 mm, measured along its edge."""
        for font in sampled(FONTS, 1 / 10):
            region = lettering(TEXT, font)
            last = region.area
            for number in (1, 2, 3):
                step = cooked(region, {"op": "offset", "by": 2.0 * number}).area
                edge = shapely.points(shapely.get_coordinates(step))
                away = shapely.distance(last, edge)
                with self.subTest(font=font, number=number):
                    self.assertLess(float(np.abs(away - 2).max()), 0.02)
                last = step

    def test_the_memo_changes_nothing_and_a_step_that_is_off_does_nothing(self) -> None:
        region = lettering(TEXT, "lobster")
        steps = [{"op": "offset", "by": 2}, {"op": "round_off", "outer": 1}, {"op": "tab"}]
        memo = Memo()
        evaluator = Evaluator(lambda name: Named(name, region), EXACT, memo)
        warm = [evaluator.cook(Recipe.model_validate({"from": ["it"], "steps": steps})) for _ in range(2)]
        self.assertTrue(all(one.area.equals(cooked(region, *steps).area) for one in warm))
        off = [steps[0], steps[1] | {"off": True}, steps[2]]
        self.assertTrue(cooked(region, *off).area.equals(cooked(region, steps[0], steps[2]).area))
