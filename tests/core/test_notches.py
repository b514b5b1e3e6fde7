"""Which tight gaps are told: slots and passages are, notches that narrow to a point are not."""

from __future__ import annotations

import math
import random
import unittest

import shapely
from shapely import Polygon, box
from shapely.affinity import rotate
from shapely.geometry import MultiPolygon
from shapely.geometry.base import BaseGeometry

from tests.core.test_bending import told
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.strokes.notches import gaps_at

LEAST = 0.3


def wedge(degrees: float, depth: float) -> BaseGeometry:
    """A block with a notch from its top, so deep, its sides at an angle."""
    half = depth * math.tan(math.radians(degrees / 2))
    return box(-12, -6, 12, 8).difference(Polygon([(-half, 8.001), (half, 8.001), (0, 8 - depth)]))


def slot(width: float, depth: float) -> BaseGeometry:
    return box(-12, -6, 12, 8).difference(box(-width / 2, 8 - depth, width / 2, 9))


class Notches(unittest.TestCase):
    def kind(self, piece: BaseGeometry, at: tuple[float, float], turn: float) -> bool:
        place = shapely.get_coordinates(rotate(shapely.Point(at), turn, origin=(0, 0)))[0].tolist()
        (gap,) = gaps_at(Region.of(rotate(piece, turn, origin=(0, 0))), [(place[0], place[1])], LEAST)
        return gap.notch

    def test_wedges_are_notches_and_slots_are_none(self) -> None:
        draw = random.Random(44)
        for _ in range(60):
            turn = draw.uniform(0, 360)
            degrees, depth = draw.uniform(4, 50), draw.uniform(4, 7)
            up = 0.8 * LEAST / 2 / math.tan(math.radians(degrees / 2))
            with self.subTest(degrees=degrees, depth=depth):
                self.assertTrue(self.kind(wedge(degrees, depth), (0, 8 - depth + min(up, depth / 2)), turn))
            width, deep = draw.uniform(0.1, LEAST - 0.05), draw.uniform(1.5, 6)
            with self.subTest(width=width, deep=deep):
                self.assertFalse(self.kind(slot(width, deep), (0, 8 - deep / 2), turn))

    def test_a_passage_between_two_pieces_is_none(self) -> None:
        discs = [shapely.Point(x, 0).buffer(5, quad_segs=64) for x in (-5.1, 5.1)]
        (gap,) = gaps_at(Region.of(MultiPolygon(discs)), [(0.0, 0.0)], LEAST)
        self.assertFalse(gap.notch)

    def test_what_is_told_of_acrylic(self) -> None:
        self.assertFalse(told(wedge(8, 6), "tight_gap"))
        self.assertTrue(told(slot(0.12, 5), "tight_gap"))
