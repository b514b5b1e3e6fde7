"""Narrow places found in windows against the whole axis, and the gaps between pieces against GEOS' own distance."""

from __future__ import annotations

import unittest

import numpy as np
import shapely
from shapely import MultiPolygon, Point

from tests.sampling import sampled
from tests.support import FONTS, lettering
from tinhalo.core.geometry.curves.precision import SCREEN
from tinhalo.core.geometry.regions.proximity import nearest_gaps
from tinhalo.core.geometry.strokes.narrow_places import narrow_gaps, narrow_strokes
from tinhalo.core.geometry.strokes.widths import Widths, measure

#: Widths are those of simplified outlines, in mm.
_CLOSE = 0.01


class Windows(unittest.TestCase):
    def same(self, whole: Widths, found: Widths | None, least: float) -> int:
        """Both say the same of every place, but just at the limit; how many pieces of the axis are narrower."""
        surely, at_most = (whole.place[whole.width < least + more] for more in (-_CLOSE, _CLOSE))
        here = np.zeros((0, 2)) if found is None else found.place[np.isfinite(found.width)]
        for these, those in ((surely, here), (here, at_most)):
            if len(these):
                self.assertTrue(len(those))
                tree = shapely.STRtree([Point(place) for place in those])
                near = those[tree.nearest([Point(place) for place in these])]
                self.assertLess(np.hypot(*(near - these).T).max(), 0.5)
        if found is not None and len(surely):
            self.assertAlmostEqual(whole.width.min(), found.width.min(), delta=0.01)
        return len(surely)

    def test_they_find_what_the_whole_axis_has(self) -> None:
        narrow = 0
        for font in sampled(FONTS, 1 / 10):
            region = lettering("Brig & Zoë", font, 24, SCREEN)
            area, whole = region.simple, measure(region)
            for least in (0.4, 1.2, 2.5):
                with self.subTest(font=font, least=least):
                    narrow += self.same(whole.strokes, narrow_strokes(area, least), least)
                    narrow += self.same(whole.gaps, narrow_gaps(area, least), least)
        self.assertGreater(narrow, 300)

    def test_nothing_has_no_narrow_places(self) -> None:
        self.assertIsNone(narrow_strokes(MultiPolygon(), 1))
        self.assertIsNone(narrow_gaps(MultiPolygon(), 1))


class Apart(unittest.TestCase):
    def test_each_piece_is_as_far_from_the_next_as_geos_says(self) -> None:
        for font in sampled(FONTS, 1 / 10):
            pieces = list(lettering("Fliing ij!", font, 24, SCREEN).area.geoms)
            for piece, (gap, _) in zip(pieces, nearest_gaps(pieces), strict=True):
                least = min(piece.distance(other) for other in pieces if other is not piece)
                # Of two that are all but equally far, either may be taken.
                self.assertTrue(least - 1e-9 <= gap <= least + 0.1, (font, gap, least))
