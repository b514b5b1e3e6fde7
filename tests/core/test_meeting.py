"""Places where layers should meet: found all along, with the slit that was made, and none where edges are apart."""

from __future__ import annotations

import unittest

import numpy as np
from shapely import MultiPolygon, Point, Polygon, box

from tinhalo.core.geometry.stacking.meeting import meetings


def disc(radius: float) -> Polygon:
    return Point(0, 0).buffer(radius, quad_segs=64)


def around(inner: float, outer: float) -> MultiPolygon:
    return MultiPolygon([Polygon(disc(outer).exterior, [disc(inner).exterior])])


DISC = MultiPolygon([disc(20)])


class Meetings(unittest.TestCase):
    def test_a_round_seam_is_looked_at_all_along(self) -> None:
        """Its length by plain geometry, 2 pi r; the slit as it was made."""
        for slit in (0.0, 0.1, 0.3):
            with self.subTest(slit=slit):
                found = meetings([DISC, around(20 + slit, 26)])
                self.assertAlmostEqual(sum(one.length for one in found), 2 * np.pi * 20, delta=0.2)
                self.assertAlmostEqual(max(one.gap for one in found), slit, delta=0.01)
                self.assertTrue(all(abs(np.hypot(*one.at) - 20) < 0.05 for one in found))
                # Close enough to each other to see all of it.
                self.assertTrue(all(one.length <= 30 for one in found))

    def test_what_reaches_under_has_no_slit_and_what_ends_elsewhere_does_not_meet(self) -> None:
        self.assertEqual({one.gap for one in meetings([DISC, around(19.7, 26)])}, {0.0})
        self.assertEqual(meetings([DISC, around(10, 26)]), [])
        self.assertEqual(meetings([DISC, MultiPolygon([box(-40, -40, 40, 40)])]), [])
        self.assertEqual(meetings([DISC, MultiPolygon()]), [])

    def test_the_widest_slit_comes_first(self) -> None:
        plate = MultiPolygon([box(0, 0, 40, 20)])
        right, left = box(40.05, 0, 60, 20), box(-20, 0, -0.4, 20)
        found = meetings([plate, MultiPolygon([right]), MultiPolygon([left])])
        self.assertEqual([(one.lower, one.gap) for one in found][:1], [(2, 0.4)])
        self.assertIn((1, 0.05), [(one.lower, one.gap) for one in found])
