"""Filling, uniting and fitting on shapes made by chance (seeded) and by hand."""

from __future__ import annotations

import unittest

import numpy as np
import shapely
from shapely import Polygon

from tests.sampling import sampled
from tests.support import FONTS, farthest, lettering, words
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.fill import filled_nonzero
from tinhalo.core.geometry.curves.fitting import fit_ring
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.curves.precision import EXACT
from tinhalo.core.geometry.curves.unite import unite
from tinhalo.core.geometry.regions.fewer import with_fewer_vertices
from tinhalo.core.geometry.regions.overlay import fill_holes, intersect, subtract, union
from tinhalo.core.geometry.regions.proximity import edge_distance
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.regions.robust import clipped, overlaid
from tinhalo.core.geometry.regions.windows import within_each


def blob(seed: int, points: int = 1500) -> np.ndarray:
    """A smooth closed curve: a circle with a few waves."""
    random = np.random.default_rng(seed)
    angle = np.linspace(0, 2 * np.pi, points, endpoint=False)
    radius = 10.0 + sum(random.normal(0, 1.5 / k) * np.cos(k * angle + random.uniform(0, 6)) for k in range(2, 8))
    return np.stack([radius * np.cos(angle), radius * np.sin(angle)], axis=1)


class Filling(unittest.TestCase):
    def test_winding_numbers_decide(self) -> None:
        """A pentagram drawn in one stroke is solid by the non-zero rule, and has a hole by the even-odd rule."""
        angle = np.pi / 2 + np.arange(5) * 4 * np.pi / 5
        star = np.stack([np.cos(angle), np.sin(angle)], axis=1)
        filled = shapely.union_all(filled_nonzero([star]))
        self.assertAlmostEqual(filled.area, 1.12257, places=4)  # 10 tan(pi/10) / (3 - tan(pi/10)^2): handbook value
        inner = star * 0.2
        self.assertLess(shapely.union_all(filled_nonzero([star, inner[::-1]])).area, filled.area)
        self.assertAlmostEqual(shapely.union_all(filled_nonzero([star, inner])).area, filled.area)
        self.assertEqual(filled_nonzero([]), [])

    def test_pieces_inside_filled_holes_are_swallowed(self) -> None:
        ring = shapely.box(0, 0, 10, 10).difference(shapely.box(2, 2, 8, 8))
        region = Region.of(shapely.union_all([ring, shapely.box(4, 4, 6, 6), shapely.box(20, 0, 21, 1)]))
        filled = fill_holes(region)
        self.assertEqual((region.pieces, filled.pieces, filled.holes), (3, 2, 0))
        self.assertEqual(filled.area.area, 101)

    def test_combining_with_nothing(self) -> None:
        box, nothing = Region.of(shapely.box(0, 0, 1, 1)), Region.empty()
        self.assertEqual(union([box, nothing]).area.area, 1)
        self.assertEqual(subtract(box, nothing).area.area, 1)
        self.assertTrue(intersect(box, nothing).is_empty)
        self.assertTrue(subtract(nothing, box).is_empty and union([]).is_empty and fill_holes(nothing).is_empty)


class Uniting(unittest.TestCase):
    def test_curves_and_polygons_agree_in_every_font(self) -> None:
        """skia-pathops on the curves, GEOS on the chords: two unions of the same overlapping letters."""
        for font in sampled(FONTS, 1 / 10):
            made = words("Otto & Bram", font, 30)
            united = unite([made.outline], 0.005)
            self.assertAlmostEqual(abs(united.areas.sum()) / made.region(EXACT).area.area, 1, delta=5e-4, msg=font)

    def test_apart_groups_are_all_there(self) -> None:
        squares = [
            Outline.from_contours([Contour.of_ring(np.array([[0, 0], [2, 0], [2, 2], [0, 2]]) + 3.0 * k)])
            for k in range(9)
        ]
        self.assertAlmostEqual(abs(unite(squares, 0.001).areas).sum(), 36, places=3)
        self.assertEqual(len(unite([], 0.01).segments), 0)


class Robust(unittest.TestCase):
    def test_what_the_quick_way_refuses_is_clipped_all_the_same(self) -> None:
        """GEOS 3.14 has clip_by_rect fail on this one, which comes from a letter."""
        corners = [
            (10.762772422907513, 1.6564584539521814),
            (20.077540457981083, -4.397193043513761),
            (15.712772422907513, -6.917193043513761),
            (16.57879782669195, -6.417193043513761),
        ]
        sides = (2.188721611937195, -12.488637536748755, 15.902685347098796, 0.47740885612421613)
        expected = Polygon(corners).intersection(shapely.box(*sides))
        self.assertGreater(expected.area, 0)
        self.assertLess(clipped(Polygon(corners), sides).symmetric_difference(expected).area, 1e-9)

    def test_a_ring_that_crosses_itself_is_cut_away_all_the_same(self) -> None:
        """A square less a bow tie through its middle: the tie's two triangles of 25 mm² each."""
        tie = Polygon([(0, 0), (10, 10), (10, 0), (0, 10)])
        self.assertFalse(tie.is_valid)
        square = shapely.box(0, 0, 10, 10)
        left = overlaid(shapely.difference, np.array([square, square], object), np.array([tie, square], object))
        self.assertEqual(shapely.area(left).tolist(), [50, 0])


class FewerVertices(unittest.TestCase):
    def test_a_circle_is_parted_as_its_sagitta_asks(self) -> None:
        """A chord that is d off a circle of radius r at most spans 2 acos(1 - d / r) (handbook)."""
        angle = np.linspace(0, 2 * np.pi, 20_000, endpoint=False)
        circle = np.array([Polygon(10 * np.stack([np.cos(angle), np.sin(angle)], axis=1))], object)
        for within in (0.002, 0.01, 0.1):
            (left,) = with_fewer_vertices(circle, within)
            asked = 2 * np.pi / (2 * np.arccos(1 - within / 10))
            self.assertAlmostEqual(len(left.exterior.coords) - 1, np.ceil(asked), delta=1 + asked / 1000)
            self.assertLess(circle[0].exterior.hausdorff_distance(left.exterior), within * 1.001)

    def test_letters_stay_within_and_keep_their_holes(self) -> None:
        """Both ways, measured by GEOS; with fewer vertices than its own Douglas-Peucker leaves."""
        own, library = 0, 0
        for font in sampled(FONTS, 1 / 10):
            region = lettering("Wren & Bjørn", font)
            simple = Region.of(with_fewer_vertices(np.asarray(shapely.get_parts(region.area), object), 0.005))
            with self.subTest(font=font):
                self.assertEqual((simple.pieces, simple.holes), (region.pieces, region.holes))
                for one, other in ((region, simple), (simple, region)):
                    along = shapely.get_coordinates(shapely.segmentize(one.area, 0.05))
                    self.assertLess(farthest([along], [ring for _, ring in other.rings()]), 0.005001)
            own += shapely.get_num_coordinates(simple.area)
            library += shapely.get_num_coordinates(shapely.simplify(region.area, 0.005))
        self.assertLess(own, 0.88 * library)

    def test_a_hole_slimmer_than_the_distance_is_still_there(self) -> None:
        """So are spikes, and a ring that runs to and fro."""
        slit = Polygon([(2, 5), (3, 5.004), (4, 5.003), (8, 5.002), (4, 5.0), (3, 5.0)])
        plate = Polygon(shapely.box(0, 0, 10, 10).exterior, [slit.exterior])
        spiked = Polygon([(0, 0), (10, 0), (10, 0.001), (30, 0.001), (10, 0.002), (10, 8), (5, 8.0001), (0, 8)])
        left = with_fewer_vertices(np.array([plate, spiked], object), 0.005)
        self.assertTrue(left[0].equals(plate))
        self.assertEqual(left[1].bounds[2], 30)
        self.assertAlmostEqual(left[1].area, spiked.area, delta=0.1)


class Near(unittest.TestCase):
    """What is looked at by windows and trees, against GEOS on the whole."""

    def test_each_of_many_boxes_holds_its_part(self) -> None:
        area = lettering("Ostrel Bay", "pacifico").area
        random = np.random.default_rng(5)
        low = random.uniform(area.bounds[:2], area.bounds[2:], (60, 2))
        boxes = np.concatenate([low, low + random.uniform(0.5, 20, (60, 2))], axis=1)
        for part, own in zip(within_each(area, boxes), shapely.box(*boxes.T), strict=True):
            self.assertLess(shapely.symmetric_difference(part, area.intersection(own)).area, 1e-9)

    def test_distances_are_those_of_the_areas(self) -> None:
        for quarter in (20, 2000):
            ring = shapely.Point(0, 0).buffer(10, quarter) - shapely.Point(0, 0).buffer(9, quarter)
            inner = shapely.Point(0.1, 0.2).buffer(8, quarter)
            self.assertAlmostEqual(edge_distance(ring, inner), 1 - np.hypot(0.1, 0.2), places=3 if quarter > 20 else 2)
            self.assertAlmostEqual(edge_distance(ring, inner), ring.distance(inner), places=12)
            self.assertAlmostEqual(edge_distance(inner, ring), edge_distance(ring, inner), places=12)


class Fitting(unittest.TestCase):
    def test_smooth_shapes(self) -> None:
        for seed in sampled(range(25), 1 / 5):
            ring = blob(seed)
            for tolerance in (0.016, 0.004):
                outline = Outline.from_contours([fit_ring(ring, tolerance)])
                fine = outline.flattened(0.0005)
                with self.subTest(seed=seed, tolerance=tolerance):
                    self.assertLess(farthest(fine, [ring]), tolerance + 1e-3)
                    self.assertLess(farthest([ring], fine), tolerance + 1e-3)
                    self.assertLess(abs(outline.areas[0] / Polygon(ring).area - 1), 2e-4)
                    self.assertLess(len(outline.segments), 60)

    def test_corners_stay_where_they_are(self) -> None:
        for seed in sampled(range(10), 1 / 5):
            cut = shapely.intersection(Polygon(blob(seed)), shapely.box(-30, -30, 3, 4))
            assert isinstance(cut, Polygon)
            ring = np.asarray(cut.exterior.coords)[:-1]
            outline = Outline.from_contours([fit_ring(ring, 0.016)])
            self.assertLess(farthest([np.array([[3.0, 4.0]])], [outline.segments[:, 0]]), 1e-9)
            # The straight cuts are lines.
            self.assertGreaterEqual(int((outline.degree == 1).sum()), 2)

    def test_without_tolerance_edges_stay(self) -> None:
        ring = blob(3, 90)
        fitted = fit_ring(ring, 0.0)
        self.assertEqual(set(fitted.degree.tolist()), {1})
        self.assertTrue(np.allclose(fitted.segments[:, 0], ring))

    def test_tiny_rings(self) -> None:
        triangle = np.array([[0, 0], [1, 0], [0, 1]], float)
        self.assertEqual(fit_ring(triangle, 0.016).degree.tolist(), [1, 1, 1])
