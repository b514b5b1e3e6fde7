"""Stitches and motifs along outlines, against plane geometry."""

from __future__ import annotations

import math
import unittest

import numpy as np
import shapely
from shapely import box

from tests.core.test_offset import regular
from tests.core.test_steps import TEXT, cooked
from tests.sampling import sampled
from tests.support import FONTS, farthest, lettering
from tinhalo.core.geometry.curves.precision import EXACT
from tinhalo.core.geometry.regions.offset import offset
from tinhalo.core.geometry.regions.region import Region


class Stitches(unittest.TestCase):
    def test_evenly_spaced_along_every_outline(self) -> None:
        worst = 0.0
        for font in sampled(FONTS, 1 / 10):
            region = cooked(lettering(TEXT, font, 40), {"op": "offset", "by": 4})
            base = offset(region, -1.5, EXACT)
            made = cooked(region, {"op": "stitch", "length": 2, "spacing": 1, "inset": 1.5})
            self.assertTrue(made.area.is_empty)
            middles = made.marks.mean(axis=1)
            self.assertLess(farthest([middles], [ring for _, ring in base.rings()]), 1e-6)
            done = 0
            for _, ring in base.rings():
                line = shapely.LinearRing(ring)
                count = round(line.length / 3)
                at = np.sort([line.project(shapely.Point(p)) for p in middles[done : done + count]])
                gaps = np.diff(np.append(at, at[0] + line.length))
                worst = max(worst, float(np.abs(gaps / (line.length / count) - 1).max()))
                done += count
            self.assertEqual(done, len(middles))
        self.assertLess(worst, 0.01)

    def test_turned_along_the_outline_and_slanted(self) -> None:
        disc = Region.of(regular(720, 30))
        made = cooked(disc, {"op": "stitch", "length": 2, "spacing": 2, "inset": 0, "slant": 20})
        way, at = made.marks[:, 1] - made.marks[:, 0], made.marks.mean(axis=1)
        angle = np.degrees(np.arctan2(at[:, 0] * way[:, 1] - at[:, 1] * way[:, 0], (at * way).sum(axis=1)))
        self.assertTrue(np.allclose(angle, 90 + 20, atol=0.3))
        self.assertTrue(np.allclose(np.hypot(*way.T), 2))

    def test_slim_closed_marks(self) -> None:
        """A mark of length l and width w with round ends: l w + pi w² / 4."""
        disc = Region.of(regular(720, 30))
        made = cooked(disc, {"op": "stitch", "length": 2, "spacing": 2, "inset": 0, "width": 0.4})
        self.assertEqual((made.pieces, len(made.marks)), (round(disc.area.length / 4), 0))
        self.assertAlmostEqual(made.area.area / made.pieces, 2 * 0.4 + math.pi * 0.04, delta=1e-3)

    def test_pairs_of_opposite_slants_meet_in_a_v(self) -> None:
        disc = Region.of(regular(720, 30))
        made = cooked(disc, {"op": "stitch", "length": 2, "spacing": 1, "inset": 0, "slant": 60, "pairs": True})
        count = round(disc.area.length / (2 * 2 * 0.5 + 1))
        left, right = made.marks[:count], made.marks[count:]
        self.assertEqual(len(right), count)
        self.assertTrue(np.allclose(left[:, 1], right[:, 1]))
        self.assertTrue(np.allclose(np.hypot(*(made.marks[:, 1] - made.marks[:, 0]).T), 2))
        # A V of 60 degrees has the third side of an equilateral triangle between its arms.
        self.assertTrue(np.allclose(np.hypot(*(left[:, 0] - right[:, 0]).T), 2))
        self.assertTrue((np.hypot(*left[:, 1].T) < np.hypot(*left[:, 0].T)).all())

    def test_by_count_along_each_outline(self) -> None:
        ring = Region.of(regular(720, 30).difference(regular(720, 10)))
        made = cooked(ring, {"op": "stitch", "length": 1, "count": 12, "inset": 0})
        radii = np.round(np.hypot(*made.marks.mean(axis=1).T))
        self.assertEqual([int((radii == r).sum()) for r in (10, 30)], [12, 12])

    def test_a_motif_of_ones_own_goes_round_turned_with_the_outline(self) -> None:
        disc, motif = Region.of(regular(720, 30)), Region.of(box(100, 50, 103, 51))
        made = cooked(disc, {"op": "stitch", "count": 20, "inset": 0, "motif": {"from": ["motif"]}}, motif=motif)
        self.assertEqual(made.pieces, 20)
        for piece in made.area.geoms:
            self.assertAlmostEqual(piece.area, 3, places=6)
            self.assertAlmostEqual(math.hypot(piece.centroid.x, piece.centroid.y), 30, delta=0.01)
            # A box that is turned with the outline is as far from the middle on both of its ends.
            self.assertAlmostEqual(piece.distance(shapely.Point(0, 0)), 29.5, delta=0.01)

    def test_marks_are_carried_on_clipped_and_placed(self) -> None:
        disc, half = Region.of(regular(720, 30)), Region.of(box(0, -50, 50, 50))
        stitch = {"op": "stitch", "length": 2, "spacing": 2, "inset": 0}
        made = cooked(disc, stitch, {"op": "offset", "by": 1}, {"op": "place", "dx": 5})
        self.assertAlmostEqual(made.marks.mean(), 2.5, delta=1e-6)
        operand = {"from": ["half"], "steps": []}
        left, right = (
            cooked(disc, stitch, {"op": op, "operand": operand}, half=half) for op in ("subtract", "intersect")
        )
        self.assertAlmostEqual(left.marks_length + right.marks_length, cooked(disc, stitch).marks_length, places=6)
        self.assertLessEqual(left.marks[..., 0].max(), 1e-9)
