"""Widths of strokes, on shapes of known width and against erosion; and thickening."""

from __future__ import annotations

import math
import unittest
from unittest import mock

import numpy as np
import shapely
from pyvoronoi import Pyvoronoi
from shapely import LineString, MultiPolygon, Point, Polygon, box
from shapely.affinity import rotate

from tests.sampling import sampled
from tests.support import FONTS, build_of, design, lettering
from tinhalo.core.geometry.curves.precision import EXACT, SCREEN
from tinhalo.core.geometry.regions.offset import offset
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.strokes import growth, voronoi
from tinhalo.core.geometry.strokes.bisectors import on_grid, sites_of
from tinhalo.core.geometry.strokes.growth import growth_for, keep_holes_open
from tinhalo.core.geometry.strokes.thicken import thicken_thin
from tinhalo.core.geometry.strokes.thinnest import thinnest_stroke
from tinhalo.core.geometry.strokes.widths import measure
from tinhalo.core.runtime.cancellation import CancelledError, given_up
from tinhalo.core.runtime.crew import Crew
from tinhalo.core.runtime.elsewhere import Sizes, computing_apart

TURNS = (0, 13, 30, 45, 77, 90)


def disc(x: float, radius: float) -> Polygon:
    return Point(x, 0).buffer(radius, quad_segs=128)


def narrowest(shape: shapely.Geometry) -> float:
    found = measure(Region.of(shape)).strokes.narrowest
    assert found is not None
    return found


SHAPES = {
    "bar": (box(0, 0, 20, 1.5), 1.5),
    "short bar": (box(0, 0, 2, 1.5), 1.5),
    "square": (box(0, 0, 1, 1), 1.0),
    "round-ended bar": (LineString([(0, 0), (10, 0)]).buffer(0.35, quad_segs=128), 0.7),
    "dumbbell": (shapely.union_all([disc(0, 3), disc(10, 3), box(0, -0.4, 10, 0.4)]), 0.8),
    "dumbbell with a small end": (shapely.union_all([disc(0, 3), disc(4, 0.6), box(0, -0.2, 4, 0.2)]), 0.4),
    "ring, off centre": (disc(0, 5).difference(disc(0.3, 4)), 0.7),
    "cross": (box(-8, -0.6, 8, 0.6).union(box(-0.9, -8, 0.9, 8)), 1.2),
    "two wedges tip to tip": (Polygon([(0, 0), (4, 0), (2.25, 10), (4, 20), (0, 20), (1.75, 10)]), 0.5),
    # Two mouths of 0.2 mm lead into a bay: what is narrow is not the shape but the gap.
    "notched block": (box(0, 0, 10, 10).difference(box(4.9, 3, 5.1, 10)), 3.0),
}


class KnownShapes(unittest.TestCase):
    """Widths by construction."""

    def test_within_a_hundredth_at_every_turn(self) -> None:
        for name, (shape, width) in SHAPES.items():
            for angle in TURNS:
                with self.subTest(shape=name, angle=angle):
                    self.assertAlmostEqual(narrowest(rotate(shape, angle, origin=(0, 0))), width, delta=0.01)

    def test_a_wedge_counts_from_twice_its_width_on(self) -> None:
        """From 1 mm to 3 mm over 20 mm: counted where the way from the end, x plus the corner, is twice 1 + x / 10."""
        wedge = Polygon([(0, -0.5), (20, -1.5), (20, 1.5), (0, 0.5)])
        for angle in TURNS:
            found = narrowest(rotate(wedge, angle, origin=(0, 0)))
            self.assertGreater(found, 1.0)
            self.assertLess(found, 1.3)

    def test_a_slim_end_that_opens_fast_counts_from_a_millimetre_on(self) -> None:
        for opens in (0.3, 0.6, 0.75):
            half = 0.15 + opens * 4.2 / 2
            slim = Polygon(
                [(0, -0.15), (0.7, -0.15), (4.9, -half), (9, -half), (9, half), (4.9, half), (0.7, 0.15), (0, 0.15)]
            )
            # From the corners the axis comes 0.21 mm along their bisectors for 0.15 mm of the strip; and the widest
            # circle there touches the sides at right angles.
            across = 0.3 + opens * (1 - 0.7 - 0.06)
            self.assertAlmostEqual(narrowest(slim), across * math.cos(math.atan(opens / 2)), delta=0.01)

    def test_pointed_ends_and_serifs_are_no_strokes(self) -> None:
        triangle = Polygon([(0, 0), (10, 0), (5, 9)])
        self.assertAlmostEqual(narrowest(triangle), 2 * 2 * triangle.area / triangle.length, delta=0.02)  # 2 x inradius
        serif = shapely.union_all([box(0, 0, 2, 12), Polygon([(-1, 0), (3, 0), (2, 0.8), (0, 0.8)])])
        self.assertAlmostEqual(narrowest(serif), 2.0, delta=0.01)

    def test_the_place_is_told(self) -> None:
        dumbbell = shapely.union_all([disc(0, 3), disc(10, 3), box(0, -0.4, 10, 0.4)])
        place = measure(Region.of(dumbbell)).strokes.narrowest_at
        assert place is not None
        self.assertTrue(2.9 < place[0] < 7.1 and abs(place[1]) < 0.01, place)
        self.assertIsNone(measure(Region.empty()).strokes.narrowest_at)

    def test_gaps_are_measured_too(self) -> None:
        pair = MultiPolygon([box(0, 0, 10, 4), box(0, 4.25, 10, 8)])
        self.assertAlmostEqual(measure(Region.of(pair)).gaps.narrowest or 0, 0.25, delta=0.002)


class Thinnest(unittest.TestCase):
    def test_it_is_that_of_the_layers_and_left_to_them_where_it_would_be_waited_for(self) -> None:
        region = lettering("Zoë & Bram", "allura")
        self.assertEqual(thinnest_stroke(region), measure(region).strokes.narrowest)
        self.assertIsNone(thinnest_stroke(Region.empty()))
        dots = [box(x, y, x + 1, y + 1) for x in range(0, 100, 2) for y in range(0, 100, 2)]
        self.assertEqual(thinnest_stroke(Region.of(MultiPolygon(dots[:100]))), 1)
        self.assertIsNone(thinnest_stroke(Region.of(MultiPolygon(dots))))


class Erosion(unittest.TestCase):
    def test_just_under_the_width_nothing_falls_apart(self) -> None:
        """Eroding by less than half of the narrowest stroke (a GEOS buffer) keeps every piece and hole."""
        names = ("Fenna", "Bram", "Idris", "Otto", "Zoë", "Kite", "Ağça", "Jörg", "Wren", "Ivy")
        for font, name in sampled([(font, name) for font in FONTS for name in names], 1 / 10):
            region = lettering(name, font, precision=SCREEN)
            width = narrowest(region.area)
            # Flattening and simplifying move each side by up to 0.005 mm; where letters touch in a point it is 0.
            left = Region.of(shapely.buffer(region.area, -max(0.0, width / 2 - 0.006), quad_segs=32))
            with self.subTest(font=font, name=name, width=width):
                self.assertEqual((left.pieces, left.holes), (region.pieces, region.holes))


class Diagrams(unittest.TestCase):
    def test_edges_read_off_the_cells_are_those_that_the_library_gives(self) -> None:
        """Boost's own primary edges, asked for one by one; squares that touch at corners have the oddest ones."""
        board = MultiPolygon([box(x, y, x + 1, y + 1) for x in range(4) for y in range(4) if (x + y) % 2])
        for area in (lettering("Zoë & Bram", "great-vibes").simple, board):
            sites = sites_of(on_grid(area))
            library = Pyvoronoi(voronoi.GRID)
            for start, end in sites.tolist():
                library.AddSegment([start, end])
            library.Construct()
            theirs = [library.GetEdge(k) for k in range(0, library.CountEdges(), 2)]
            found = voronoi.voronoi(sites).edges[:, :2]
            self.assertEqual(
                sorted(tuple(sorted(ends)) for ends in found.tolist()),
                sorted(tuple(sorted((one.start, one.end))) for one in theirs if one.is_primary),
            )


class Apart(unittest.TestCase):
    """Measuring in other processes, as a server does."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.crew = Crew(1)
        cls.addClassCleanup(cls.crew.close)

    def test_gives_the_same_widths(self) -> None:
        region = lettering("Fenna", "allura")
        here = measure(region)
        for long in (10_000, 100):
            with self.subTest(long=long), computing_apart(self.crew, Sizes(long=long)):
                there = measure(region)
                self.assertTrue(np.array_equal(here.strokes.width, there.strokes.width))
                self.assertTrue(np.array_equal(here.gaps.place, there.gaps.place))

    def test_is_given_up_when_nobody_waits(self) -> None:
        waiting = given_up.set(lambda: True)
        self.addCleanup(given_up.reset, waiting)
        with computing_apart(self.crew), self.assertRaises(CancelledError):
            measure(lettering("Ostrel Bay Kite Fair", "great-vibes"))


class Thickening(unittest.TestCase):
    def test_where_thin_it_reaches_the_width_and_keeps_holes_and_pieces(self) -> None:
        cases = (("allura", 0.6), ("playball", 0.8), ("great-vibes", 0.8), ("lobster", 1.5), ("bevan", 1.5))
        for font, to in sampled(cases, 2 / 5):
            region = lettering("Bram & Zoë", font)
            made = thicken_thin(region, measure, to, 0.3, EXACT)
            with self.subTest(font=font):
                self.assertLess(narrowest(region.area), to)
                self.assertGreaterEqual(narrowest(made.area), to - 0.01)
                self.assertEqual((made.pieces, made.holes), (region.pieces, region.holes))
                self.assertLess(shapely.difference(region.area, made.area).area, 1e-6)
                # What an opening by the wanted width takes off is thin; nothing grows but beside that.
                opened = region.area.buffer(-to / 2, quad_segs=32).buffer(to / 2, quad_segs=32)
                thin = shapely.difference(region.area, opened).buffer(-0.02).buffer(0.02)
                added = shapely.difference(made.area, region.area)
                self.assertLess(shapely.difference(added, thin.buffer(to)).area, 1e-3)

    def test_far_thicker_than_they_are_strokes_leave_no_crumbs_of_holes(self) -> None:
        for text, font, to in (("Bram Fenna", "great-vibes", 5), ("Field Idris", "allura", 3)):
            region = lettering(text, font, 16)
            made = thicken_thin(region, measure, to, 0.3, EXACT)
            with self.subTest(font):
                self.assertEqual((made.pieces, made.holes), (region.pieces, region.holes))
                self.assertTrue(made.area.is_valid)
                self.assertLess(shapely.difference(region.area, made.area).area, 1e-6)

    def test_everywhere_against_a_brute_scan(self) -> None:
        """The dumbbell needs (1.2 - 0.8) / 2; a real word is scanned in steps of 0.005 mm."""
        dumbbell = Region.of(shapely.union_all([disc(0, 3), disc(10, 3), box(0, -0.4, 10, 0.4)]))
        self.assertAlmostEqual(growth_for(dumbbell, measure, 1.2, EXACT), 0.2, delta=0.01)
        region = lettering("Bram", "lobster")
        found = growth_for(region, measure, 1.0, EXACT)
        scan = next(b for b in np.arange(0, 0.6, 0.005) if narrowest(offset(region, float(b), EXACT).area) >= 0.995)
        self.assertAlmostEqual(found, scan, delta=0.01)

    def test_by_an_amount_adds_it_to_every_stroke(self) -> None:
        bar = Region.of(box(0, 0, 20, 1.5))
        made = build_of(design([{"op": "thicken", "by": 0.4}], font="work-sans"), exact=False).layers[1]
        plain = build_of(design([{"op": "offset", "by": 0.2}], font="work-sans"), exact=False).layers[1]
        self.assertEqual(made.region.area.area, plain.region.area.area)
        self.assertAlmostEqual(narrowest(offset(bar, 0.2, EXACT).area), 1.9, delta=0.01)

    def test_looking_first_where_it_was_too_narrow_only_saves_time(self) -> None:
        cases = [
            (lettering("Zoë Br", font, 24, SCREEN), to, keep_open)
            for font, to, keep_open in sampled(
                (("great-vibes", 1.2, 0.0), ("allura", 0.8, 0.4), ("lobster", 2.5, 0.0)), 1 / 3
            )
        ]
        # Its tip is no stroke once it is grown by 3.3 mm, and one again at 3.6, when its bay has closed.
        sickle = """MULTIPOLYGON (((-2.2 1.8, -2.5 2.7, -2.2 4.8, -1.2 6.6, 0.4 7.9, 2.4 8.5, 4.4 8.3, 6.3 7.3, 7.2 6.2,
            6.4 6.9, 5.1 7.5, 3.7 7.7, 2.8 7.6, 1.5 7.1, 0.4 6.3, -0.5 5.2, -0.8 4.4, -1.1 3, -1 2, -0.8 1.4, 4 0.1,
            3.9 -0.2, -0.7 1.1, -0.3 0.3, 0.3 -0.4, 1 -1, 2.3 -1.6, 3.7 -1.8, 4.7 -1.7, 3.3 -2.1, 1.3 -1.9, -0.6 -0.9,
            -1.9 0.7, -2.1 1.5, -2.3 1.5, -2.2 1.8)), ((-4.5 1.9, -4.7 1.6, -5.1 1.4, -5.9 1.3, -6.4 1.7, -6.7 2.1,
            -6.8 6.7, -6.6 7.3, -6 7.7, -5.1 7.7, -4.7 7.4, -4.5 7, -4.4 2.2, -4.5 1.9)))"""
        cases.append((Region.of(shapely.from_wkt(sickle)), 8.0, 0.0))
        for k, (region, to, keep_open) in enumerate(cases):
            found = growth_for(region, measure, to, SCREEN, keep_open)
            # All of it is looked at for every amount.
            with self.subTest(k), mock.patch.object(growth, "narrow_stroke_at", return_value=None):
                self.assertEqual(growth_for(region, measure, to, SCREEN, keep_open), found)

    def test_holes_that_close_are_told_with_the_width_that_does_it(self) -> None:
        """Against a brute sweep: the hole of the o is gone with strokes so much wider, and no sooner."""
        steps = [{"op": "thicken", "by": 6.0}]
        layer = build_of(design(steps, text="o", font="work-sans")).layers[1]
        (note,) = layer.notes
        assert note
        self.assertEqual((note.wider, len(note.closed), note.new_holes), (6.0, 1, 0))
        region = lettering("o", "work-sans")
        at = note.closed[0] / 2
        self.assertEqual([offset(region, by, EXACT).holes for by in (at - 0.01, at + 0.01)], [1, 0])

    def test_contrast_falls_by_no_more_than_the_least_width_asks_for(self) -> None:
        """The thickest stroke stays: by the largest disc that fits inside, as two thin ones that cross have less."""
        for font in sampled([one for one in FONTS if "stencil" not in one], 1 / 5):
            with self.subTest(font):
                before = lettering("Fenna", font, 18)
                thickest = 2 * shapely.maximum_inscribed_circle(before.area).length
                after = thicken_thin(before, measure, thickest / 2, 0.2, EXACT)
                self.assertLess(2 * shapely.maximum_inscribed_circle(after.area).length, 1.05 * thickest)
                self.assertGreaterEqual(after.area.area, before.area.area)

    def test_holes_are_kept_open_on_demand(self) -> None:
        closing = [{"op": "thicken", "by": 6.0}]
        kept = [{"op": "thicken", "by": 6.0, "keep_open": 0.8}]
        for text, font in (("o", "work-sans"), ("eB8", "pacifico")):
            first, then = (build_of(design(s, text=text, font=font)).layers for s in (closing, kept))
            with self.subTest(text=text):
                self.assertLess(first[1].measures.holes, first[0].measures.holes)
                self.assertGreaterEqual(then[1].measures.holes, then[0].measures.holes)
                old, new = ([Polygon(r) for p in b.region.area.geoms for r in p.interiors] for b in then)
                for hole in new:
                    if any(hole.intersects(one) for one in old):
                        self.assertGreaterEqual(2 * shapely.maximum_inscribed_circle(hole).length, 0.79)
                note = then[1].notes[0]
                self.assertEqual(note and note.closed, ())

    def test_holes_are_not_kept_open_into_their_tips(self) -> None:
        """A hole that points at an edge 1 mm away; grown by b, its tip is filled up over b / sin(half its angle)."""
        plate = Region(MultiPolygon([Polygon(box(0, 0, 20, 14).exterior, [[(10, 1), (11.2, 11), (8.8, 11)]])]))
        by = growth_for(plate, measure, 1.5, EXACT)
        kept = keep_holes_open(plate, offset(plate, by, EXACT), measure(plate), by, 0.2, EXACT)
        self.assertAlmostEqual(by, 0.5 / (1 + 1 / math.sin(math.atan(0.12))), delta=0.004)
        self.assertEqual(kept.holes, 1)
        self.assertGreaterEqual(measure(kept).strokes.narrowest or 0, 1.49)

    def test_what_is_kept_open_is_made_up_for_by_more_growth(self) -> None:
        region = lettering("Ella-Lou", "allura", 18)
        widths: list[float] = []
        for keep_open in (0.0, 0.3):
            by = growth_for(region, measure, 0.8, EXACT, keep_open)
            kept = keep_holes_open(region, offset(region, by, EXACT), measure(region), by, 0.3, EXACT)
            widths.append(measure(kept).strokes.narrowest or 0)
        self.assertLess(widths[0], 0.79)
        self.assertGreaterEqual(widths[1], 0.79)

    def test_either_by_or_to(self) -> None:
        from tinhalo.core.design.problem import DesignError

        for step in ({"op": "thicken"}, {"op": "thicken", "by": 1, "to": 1}, {"op": "thicken", "to": -1}):
            with self.assertRaises(DesignError) as caught:
                design([step])
            self.assertRegex(str(caught.exception), "thicken, or to what width|at least 0.01")
