"""Offsets against closed formulas and against other geometry kernels."""

from __future__ import annotations

import math
import unittest

import numpy as np
import shapely
from manifold3d import CrossSection, FillRule, JoinType
from shapely import Polygon
from shapely.affinity import rotate

from tests.sampling import sampled
from tests.support import FONTS, hairlines, lettering
from tinhalo.core.geometry.curves.precision import EXACT, SCREEN, Precision
from tinhalo.core.geometry.regions.offset import Corners, offset
from tinhalo.core.geometry.regions.region import Region

JOINS: dict[Corners, JoinType] = {"round": JoinType.Round, "miter": JoinType.Miter, "bevel": JoinType.Bevel}


def regular(sides: int, radius: float) -> Polygon:
    angle = 2 * np.pi * np.arange(sides) / sides
    return Polygon(np.stack([np.cos(angle), np.sin(angle)], axis=1) * radius)


class ConvexShapes(unittest.TestCase):
    """Steiner's formula for parallel bodies (J. Steiner, 1840): area A + P r + pi r², perimeter P + 2 pi r."""

    def test_area_and_perimeter(self) -> None:
        shapes = [shapely.box(0, 0, 40, 7), regular(3, 5), regular(5, 12), regular(48, 9), shapely.box(0, 0, 0.5, 30)]
        for shape in shapes:
            for r in (0.2, 1, 4, 15):
                grown = offset(Region.of(shape), r, EXACT).area
                area = shape.area + shape.length * r + math.pi * r * r
                with self.subTest(corners=len(shape.exterior.coords) - 1, r=r):
                    self.assertLess(abs(grown.area / area - 1), 1e-4)
                    self.assertLess(abs(grown.length / (shape.length + 2 * math.pi * r) - 1), 1e-4)

    def test_other_corners_of_a_rectangle(self) -> None:
        """Worked by hand: a square corner mitres to r x r and bevels to half of it."""
        box = Region.of(shapely.box(0, 0, 10, 5))
        self.assertAlmostEqual(offset(box, 2, EXACT, "miter").area.area, 14 * 9)
        self.assertAlmostEqual(offset(box, 2, EXACT, "bevel").area.area, 14 * 9 - 4 * 2)
        self.assertAlmostEqual(offset(box, -2, EXACT).area.area, 6 * 1)

    def test_miter_limit_cuts_the_tip_at_that_distance(self) -> None:
        """miter-clip, SVG 2 section 13.5.5: the tip of a sharp corner ends at limit x distance from the corner."""
        spike = Region.of(Polygon([(0, 0), (30, -1), (30, 1)]))
        for limit in (1.5, 3, 8):
            grown = offset(spike, 2, EXACT, "miter", limit)
            self.assertAlmostEqual(grown.area.bounds[0], -2 * limit, places=6)

    def test_what_meets_just_so_leaves_nothing_between_and_nothing_of_no_width(self) -> None:
        bars = shapely.union_all([shapely.box(0, 0, 10, 3), shapely.box(0, 5, 10, 8), shapely.box(3, 3, 4, 5)])
        flag = shapely.union_all([shapely.box(0, 0, 10, 2), shapely.box(10, -5, 15, 5)])
        for turn in range(0, 90, 7):
            with self.subTest(turn):
                grown = offset(Region.of(rotate(bars, turn, origin=(0, 0))), 1, EXACT)
                self.assertEqual((grown.pieces, grown.holes), (1, 0))
                self.assertLess(hairlines(grown.area, 1e-7), 1e-3)
                left = offset(Region.of(rotate(flag, turn, origin=(0, 0))), -1, EXACT)
                self.assertEqual(left.pieces, 1)
                self.assertLess(hairlines(left.area, 1e-7), 1e-3)
                # Two quarters of a disc are missing where the line begins.
                self.assertAlmostEqual(left.area.area, 3 * 8 + 2 - math.pi / 2, delta=1e-3)

    def test_growing_adds_up_and_does_not_fill_up_with_vertices(self) -> None:
        """Growing by discs is Minkowski's sum: six times a fifth is once by six fifths (H. Minkowski, 1903)."""
        region = lettering("Ostrel Bay", "great-vibes")
        stepwise = region
        for _ in range(6):
            stepwise = offset(stepwise, 0.2, EXACT)
        once = offset(region, 1.2, EXACT)
        self.assertLess(abs(stepwise.area.area / once.area.area - 1), 1e-4)
        # Most at the ends of bays, where two edges meet at a sharp angle; 0.007 mm with every vertex there is.
        self.assertLess(stepwise.area.hausdorff_distance(once.area), 0.01)
        self.assertLess(shapely.get_num_coordinates(stepwise.area), 15 * stepwise.area.length)

    def test_nothing_remains_when_shrunk_by_more_than_half(self) -> None:
        self.assertTrue(offset(Region.of(shapely.box(0, 0, 10, 5)), -2.6, EXACT).is_empty)


class Lettering(unittest.TestCase):
    """Clipper2, through manifold3d, as the second kernel: all shipped fonts, all kinds of corners."""

    def test_areas_agree_with_a_second_kernel(self) -> None:
        worst = 0.0
        for font in sampled(FONTS, 1 / 10):
            # As coarse as files are at most: the second kernel needs a multiple of our time.
            region = lettering(
                "Zoë Ağ Kite", font, precision=Precision(chord=0.004, turn=6, arc_turn=1.5, needless=EXACT.needless)
            )
            section = CrossSection([ring for _, ring in region.rings()], FillRule.EvenOdd)
            for by in (4, 1, -0.2):
                for corners, join in JOINS.items():
                    # Beyond the limit Clipper2 squares a corner at the distance itself, where we clip it at the limit
                    # times the distance. At a limit of 1 that is the same, and every corner is beyond it.
                    ours = offset(region, by, EXACT, corners, 1.0001).area.area
                    theirs = section.offset(by, join, 1.0001, 400).area()
                    off = abs(ours / theirs - 1)
                    worst = max(worst, off)
                    with self.subTest(font=font, by=by, corners=corners):
                        self.assertLess(off, 5e-4)

    def test_full_mitres_agree_where_no_corner_reaches_the_limit(self) -> None:
        for font in ("alfa-slab-one", "bevan", "graduate", "work-sans", "baloo-2", "black-ops-one"):
            region = lettering("Zoë Ağ Kite", font)
            section = CrossSection([ring for _, ring in region.rings()], FillRule.EvenOdd)
            for by in (4, 1, -0.2):
                theirs = section.offset(by, JoinType.Miter, 30, 400).area()
                self.assertLess(abs(offset(region, by, EXACT, "miter", 30).area.area / theirs - 1), 5e-4, (font, by))

    def test_grown_solid_parts_stay_solid(self) -> None:
        """GEOS alone left a hole inside the bar of this "e" when bevelled."""
        region = lettering("Kite", "work-sans")
        grown = offset(region, 4, EXACT, "bevel")
        self.assertLess(region.area.difference(grown.area).area, 1e-9)

    def test_bevelled_lies_between_shape_and_round(self) -> None:
        region = lettering("Kite", "alfa-slab-one")
        for by in (2, -0.3):
            bevelled, rounded = (offset(region, by, SCREEN, kind).area for kind in ("bevel", "round"))
            inner, outer = (bevelled, rounded) if by > 0 else (rounded, bevelled)
            self.assertLess(inner.difference(outer).area, 1e-6)
            self.assertGreater(outer.area - inner.area, 1e-3)
