"""A region in shares: nothing is in two of them or in none, and each sees what is around it."""

from __future__ import annotations

import unittest

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.regions.shares import joined, shared_out

RINGS: list[BaseGeometry] = [
    shapely.Point(20 * k, 0).buffer(8).difference(shapely.Point(20 * k, 0).buffer(5)) for k in range(12)
]
DOTS: list[BaseGeometry] = [shapely.Point(20 * k, 0).buffer(2) for k in range(12)]


class Shares(unittest.TestCase):
    def test_every_piece_is_of_one_share_and_comes_back(self) -> None:
        region = Region.of(np.array([*RINGS, *DOTS], object))
        for count in (2, 3, 4):
            with self.subTest(count):
                shares = shared_out(region, 15, count)
                self.assertEqual(len(shares), count)
                self.assertEqual(sum(len(one.own) for one in shares), region.pieces)
                back = joined(shares, [one.region for one in shares])
                assert back is not None
                self.assertEqual(back.pieces, region.pieces)
                self.assertEqual(shapely.symmetric_difference(back.area, region.area).area, 0)

    def test_what_is_near_is_there_as_it_is_and_what_is_far_is_not(self) -> None:
        region = Region.of(np.array(RINGS, object))
        for share in shared_out(region, 15, 2):
            seen = shapely.buffer(shapely.union_all(share.own), 15)
            there = shapely.symmetric_difference(share.region.area, region.area).intersection(seen)
            self.assertLess(there.area, 1e-9)
            self.assertLess(share.region.area.area, 0.75 * region.area.area)

    def test_what_comes_to_touch_is_not_joined(self) -> None:
        shares = shared_out(Region.of(np.array(RINGS, object)), 15, 2)
        for by in (1.9, 2.1):
            grown = [Region.of(shapely.buffer(np.array(one.region.area.geoms, object), by)) for one in shares]
            with self.subTest(by):
                self.assertEqual(joined(shares, grown) is None, by > 2)

    def test_pieces_of_one_share_may_come_to_touch(self) -> None:
        beside = shapely.Point(9, 9).buffer(4)
        region = Region.of(np.array([*RINGS, beside], object))

        def grown(one: Region) -> Region:
            return Region.of(shapely.buffer(one.area, 1))

        back = joined(shares := shared_out(region, 15, 2), [grown(one.region) for one in shares])
        assert back is not None
        self.assertEqual(back.pieces, len(RINGS))
        self.assertLess(shapely.symmetric_difference(back.area, grown(region).area).area, 1e-6)

    def test_a_piece_that_is_gone_is_gone_and_only_that(self) -> None:
        shares = shared_out(Region.of(np.array(RINGS, object)), 15, 2)
        gone = RINGS[2].representative_point()
        less = [Region.of(np.array([p for p in one.region.area.geoms if not p.intersects(gone)])) for one in shares]
        back = joined(shares, less)
        assert back is not None
        self.assertEqual(shapely.symmetric_difference(back.area, shapely.union_all([*RINGS[:2], *RINGS[3:]])).area, 0)

    def test_pieces_may_be_parted(self) -> None:
        region = Region.of(np.array([*RINGS, *DOTS], object))
        # Through the middle of all of them, where most have their point.
        slit = shapely.box(-20, -0.5, 260, 0.5)

        def parted(one: Region) -> Region:
            return Region.of(shapely.difference(one.area, slit))

        back = joined(shares := shared_out(region, 15, 2), [parted(one.region) for one in shares])
        assert back is not None
        self.assertEqual(back.pieces, 2 * region.pieces)
        self.assertEqual(shapely.symmetric_difference(back.area, parted(region).area).area, 0)

    def test_a_part_that_may_be_of_either_is_of_none(self) -> None:
        shares = shared_out(Region.of(np.array(RINGS, object)), 15, 2)
        # It laps over one ring, and has neither's point in the other.
        beside = shapely.box(-9, -1, -8 * np.cos(0.124), 1)
        made = [Region.of(np.array([*one.region.area.geoms, beside], object)) for one in shares]
        self.assertIsNone(joined(shares, made))

    def test_shares_have_about_as_many_vertices(self) -> None:
        fine = [shapely.segmentize(RINGS[0], 0.02), RINGS[1]]
        shares = shared_out(Region.of(np.array([*fine, *RINGS[2:]], object)), 0, 2)
        self.assertEqual(sorted(len(one.own) for one in shares), [1, 11])

    def test_what_would_not_be_quicker_is_not_shared_out(self) -> None:
        together = Region.of(np.array(RINGS, object))
        self.assertEqual(shared_out(together, 200, 2), [])
        self.assertEqual(shared_out(together, 15, 1), [])
        self.assertEqual(shared_out(Region.of(RINGS[0]), 15, 2), [])
        self.assertEqual(shared_out(Region.of(np.array([], object)), 15, 2), [])


if __name__ == "__main__":
    unittest.main()
