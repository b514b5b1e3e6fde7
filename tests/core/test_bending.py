"""Which narrow strokes are told: against the moment and the section modulus of a beam, by formula."""

from __future__ import annotations

import math
import random
import unittest
from typing import cast

import shapely
from shapely import Polygon, box
from shapely.affinity import rotate
from shapely.geometry.base import BaseGeometry
from shapely.geometry.polygon import orient

from tests.support import build_of
from tinhalo.core.design.reading import parse_design
from tinhalo.core.findings.survey import survey
from tinhalo.core.geometry.strokes.bending import BEARS, Section, around, gives_way
from tinhalo.core.runtime.memo import Memo

LEAST = 1.5


def bracket(width: float, length: float, tip: float) -> Polygon:
    """A broad base with one stroke on it, which narrows evenly from ``width`` to ``tip`` mm over its length."""
    stroke = Polygon([(-width / 2, 0), (width / 2, 0), (tip / 2, length), (-tip / 2, length)])
    return cast(Polygon, shapely.union_all([stroke, box(-8, -6, 8, 0)]))


def bears(width: float, length: float, tip: float) -> float:
    """A·d/w² at the root: area and centroid of a trapezium (Bronstein, Taschenbuch der Mathematik)."""
    area = (width + tip) / 2 * length
    centroid = length / 3 * (width + 2 * tip) / (width + tip)
    return area * centroid / width**2


def told(made: BaseGeometry, kind: str = "thin_spot") -> bool:
    """Whether a piece of acrylic is told to be thin, in any direction."""
    piece = orient(cast(Polygon, made))
    path = " ".join(
        "M" + " L".join(f"{x:.4f},{y:.4f}" for x, y in ring.coords[:-1]) + " Z"
        for ring in (piece.exterior, *piece.interiors)
    )
    art = {"id": "a", "kind": "outline", "path": path}
    layer = {"id": "l", "material": "acrylic-3", "recipe": {"from": ["a"]}}
    built = build_of(parse_design({"format": "tin-halo/1", "art": [art], "layers": [layer]}))
    return any(finding.kind == kind for finding in survey(built, Memo()))


class Sections(unittest.TestCase):
    def test_a_root_is_told_where_it_bears_more_than_the_formula_allows(self) -> None:
        draw = random.Random(44)
        tried = 0
        for _ in range(300):
            width, share = draw.uniform(0.4, LEAST - 0.1), draw.uniform(0, 1)
            length = draw.uniform(0.5, 5) * LEAST
            wanted = bears(width, length, share * width)
            # At the root the base takes part: right there a section is no beam's.
            if abs(wanted - BEARS * LEAST) < 0.25 * LEAST:
                continue
            turn = draw.uniform(0, 360)
            piece = rotate(bracket(width, length, share * width), turn, origin=(0, 0))
            up = 0.02
            at = (-up * math.sin(math.radians(turn)), up * math.cos(math.radians(turn)))
            section = Section(width, at)
            found = gives_way(piece, piece.intersection(around(section, LEAST)), section, length, LEAST)
            with self.subTest(width=width, share=share, length=length):
                self.assertEqual(wanted > BEARS * LEAST, found)
            tried += 1
        self.assertGreater(tried, 200)


class Told(unittest.TestCase):
    def test_what_breaks_is_told(self) -> None:
        for name, piece in {
            "a stroke of 1 mm, 6 mm long": bracket(1, 6, 1),
            "a block on a neck of 1 mm": shapely.union_all([bracket(1, 1.2, 1), box(-5, 1.2, 5, 8)]),
            "a long thin side of a loop": Polygon(
                box(0, 0, 20, 12).exterior.coords, [box(1, 4, 16, 8).exterior.coords]
            ),
        }.items():
            with self.subTest(name):
                self.assertTrue(told(piece))

    def test_what_holds_is_not_told(self) -> None:
        for name, piece in {
            "the tip of a tapering stroke": bracket(2.4, 7, 0.6),
            "a serif": shapely.union_all([box(-1.5, 0, 1.5, 12), Polygon([(-4, 0), (4, 0), (1.5, 1.6), (-1.5, 1.6)])]),
            "a short stub of 1.3 mm": bracket(1.3, 2, 1.3),
            "a stroke as wide as it needs": bracket(1.6, 12, 1.6),
        }.items():
            with self.subTest(name):
                self.assertFalse(told(piece))

    def test_a_side_of_a_loop_is_told_by_how_far_it_is_thin(self) -> None:
        # A side of a loop that dips to 1.45 mm over less than its own width holds; over 6 mm it does not.
        for far, breaks in ((0.2, False), (6, True)):
            loop = Polygon(box(0, 0, 20, 14).exterior.coords, [box(1.8, 4, 16, 10).exterior.coords])
            dip = box(-1, 7 - far / 2, 0.35, 7 + far / 2)
            self.assertEqual(breaks, told(loop.difference(dip)), far)
