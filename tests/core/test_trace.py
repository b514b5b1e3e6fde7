"""The outlines that leave: close to what was computed, few and smooth curves, nothing crossing or touching."""

from __future__ import annotations

import unittest

import numpy as np
import shapely
from shapely import LinearRing, Polygon

from tests.core.test_font_files import VARIABLE
from tests.sampling import sampled
from tests.support import FONTS, farthest, lettering, words
from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.artwork.lettering.face import Face
from tinhalo.core.artwork.lettering.typeset import typeset
from tinhalo.core.artwork.lettering.vet import vet
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.fitting import CORNER_DEGREES
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.curves.precision import EXACT, Precision
from tinhalo.core.geometry.exact.recover import CutOutline, trace
from tinhalo.core.geometry.regions.offset import offset
from tinhalo.core.geometry.regions.overlay import fill_holes, union
from tinhalo.core.geometry.regions.region import Region


def smooth_joints(cut: CutOutline) -> np.ndarray:
    """Turns of less than a corner at the joints with a curve on one side at least, in degrees.

    Two straights may meet at any angle: that is a corner however small it is.
    """
    found = []
    for contour in cut.outline.contours():
        segments, degree = contour.segments, contour.degree
        arriving = segments[:, 3] - segments[:, 2]
        leaving = np.roll(segments[:, 1] - segments[:, 0], -1, axis=0)
        cross = arriving[:, 0] * leaving[:, 1] - arriving[:, 1] * leaving[:, 0]
        turn = np.degrees(np.abs(np.arctan2(cross, (arriving * leaving).sum(axis=1))))
        curved = (degree > 1) | (np.roll(degree, -1) > 1)
        found.append(turn[curved & (turn < CORNER_DEGREES)])
    return np.concatenate(found)


#: For counting: what is computed, with chords within 0.003 mm.
COUNTED = Precision(chord=0.003, turn=EXACT.turn, arc_turn=EXACT.arc_turn, needless=EXACT.needless)


class Outlines(unittest.TestCase):
    def check(self, region: Region, *, fitted: bool) -> CutOutline:
        cut = trace(region)
        rings = [ring for _, ring in region.rings()]
        fine = cut.outline.flattened(0.0005)
        self.assertEqual(len(fine), len(rings))
        self.assertLess(farthest(fine, rings), 0.02)
        self.assertLess(farthest(rings, fine), 0.02)
        lines = [LinearRing(ring) for ring in fine]
        self.assertTrue(all(line.is_simple for line in lines))
        tree = shapely.STRtree(lines)
        a, b = tree.query(lines, predicate="dwithin", distance=1e-5)
        self.assertEqual([(i, j) for i, j in zip(a, b, strict=True) if i != j], [])
        if fitted:
            self.assertLess(smooth_joints(cut).max(initial=0), 0.1)
        return cut

    def test_stretched_turned_closed_up_and_variable_lettering(self) -> None:
        place = {"x": 3, "y": -8, "rotate": 33, "scale_x": 1.7, "scale_y": 0.6}
        more = {"place": place, "join": {}, "moves": {"1": {"dy": 0.7, "turn": 8, "scale": 1.2}}, "nudges": {"3": -0.4}}
        (variable,) = vet(VARIABLE.read_bytes(), VARIABLE.name)
        art = Lettering.model_validate({"id": "n", "text": "Ostrel", "font": "x", "size": 24, **more})
        made = [words("Ostrel", font, 24, **more) for font in ("pacifico", "allura", "bevan")]
        made.append(typeset(art, Face(variable.data, "x", {"wght": 555, "wdth": 83})))
        for one in made:
            region = one.region(EXACT)
            face = self.check(region, fitted=False)
            self.assertLess(len(face.outline.segments), 1.2 * len(one.outline.segments))
            for by in (4.0, -0.2):
                self.check(offset(region, by, EXACT), fitted=True)

    def test_offset_lettering_in_every_font(self) -> None:
        ratios: dict[str, list[float]] = {}
        for font in sampled(FONTS, 1 / 10):
            region = lettering("Ostrel B", font, 30)
            counted = lettering("Ostrel B", font, 30, COUNTED)
            for by in (4.0, 2.0, -0.2):
                grown = offset(region, by, EXACT)
                with self.subTest(font=font, by=by):
                    cut = self.check(grown, fitted=True)
                    vertices = sum(len(ring) for _, ring in offset(counted, by, COUNTED).rings())
                    curves = int((cut.outline.degree == 3).sum())
                    # A font of straight lines only has next to no curves once it is shrunk.
                    if curves > 20:
                        ratios.setdefault(font, []).append(vertices / curves)
        # How many vertices of the outline flattened at 0.003 mm there are for each curve.
        for font, found in ratios.items():
            self.assertGreaterEqual(min(found), 25, font)

    def test_united_lettering_keeps_the_font_s_own_curves(self) -> None:
        worst, rings, fitted = 0.0, 0, 0
        for font in FONTS:
            made = words("Ostrel Zoë", font, 30)
            with self.subTest(font=font):
                cut = self.check(made.region(EXACT), fitted=False)
                own = set(made.outline.degree.tolist()) | {1}
                rings += len(cut.outline.starts) - 1
                fitted += sum(not set(one.degree.tolist()) <= own for one in cut.outline.contours())
                worst = max(worst, len(cut.outline.segments) / len(made.outline.segments))
        self.assertLessEqual(worst, 1.2)
        # Where two curves cross at a hair's angle, the path engine and GEOS can disagree on the place.
        self.assertLessEqual(fitted / rings, 0.01)

    def test_rings_that_are_still_the_font_s_keep_its_curves_beside_fitted_ones(self) -> None:
        region = lettering("oo", "work-sans")
        filled = trace(fill_holes(region))
        self.assertEqual(set(filled.outline.degree.tolist()) - {1}, {2})
        ring = offset(lettering("o", "work-sans", place={"x": 60}), 2, EXACT)
        both = trace(union([region, ring]))
        self.assertEqual(set(both.outline.degree.tolist()) & {2, 3}, {2, 3})

    def test_straights_and_corners_stay(self) -> None:
        box = Region.of(shapely.box(0, 0, 30, 10))
        self.assertEqual(trace(box).outline.degree.tolist(), [1, 1, 1, 1])
        grown = trace(offset(box, 3, EXACT))
        self.assertEqual(sorted(grown.outline.degree.tolist()), [1, 1, 1, 1, 3, 3, 3, 3])
        self.assertEqual(len(smooth_joints(grown)), 8)
        self.assertLess(smooth_joints(grown).max(), 0.1)

    def test_slits_and_slivers_do_not_close_or_cross(self) -> None:
        angle = np.linspace(0, 2 * np.pi, 400, endpoint=False)
        circle = np.stack([np.cos(angle), np.sin(angle)], axis=1)
        for gap in (0.01, 0.003, 0.001):
            two = Region.of(shapely.union_all([Polygon(circle * 8), Polygon(circle * 8 + [16 + gap, 0])]))
            ring = Region.of(Polygon(circle * 8, [circle[::-1] * (8 - gap)]))
            for region in (two, ring):
                with self.subTest(gap=gap):
                    self.check(region, fitted=False)

    def test_shells_run_counter_clockwise_and_holes_clockwise(self) -> None:
        cut = trace(lettering("Boo", "anton"))
        for piece in cut.pieces():
            areas = Outline.from_contours(piece).areas
            self.assertGreater(areas[0], 0)
            self.assertTrue((areas[1:] < 0).all())

    def test_measures_of_curves_are_exact(self) -> None:
        """A full circle of four cubics with handles 0.5522847 r encloses pi r² within 0.03 % (common practice)."""
        k = 0.5522847498 * 10
        quarter = np.array([[10, 0], [10, k], [k, 10], [0, 10]], float)
        turn = np.array([[0, -1], [1, 0]], float)
        parts = [quarter]
        for _ in range(3):
            parts.append(parts[-1] @ turn.T)
        circle = Outline.from_contours([Contour(np.array(parts), np.full(4, 3, np.uint8))])
        dense = Polygon(circle.flattened(1e-6, 1)[0])
        self.assertAlmostEqual(circle.areas[0], dense.area, places=3)
        self.assertAlmostEqual(circle.length, dense.length, places=4)
        self.assertLess(abs(circle.areas[0] / (np.pi * 100) - 1), 3e-4)
        self.assertTrue(np.allclose(circle.bounds(), (-10, -10, 10, 10)))
        square = Outline.from_contours([Contour.of_ring(np.array([[0, 0], [3, 0], [3, 2], [0, 2]], float))])
        self.assertAlmostEqual(square.areas[0], 6)
        self.assertAlmostEqual(square.length, 10)
