"""A thousand random faults that break, tear or get lost, and a thousand sound narrow places, as the checks judge them.

What breaks is graded by the beam formula of ``docs/architecture.md`` with room on both sides of its limit (A·d/w², with
the area and centroid of a trapezium: Bronstein, Taschenbuch der Mathematik); limits are those of acrylic 3 mm thick.
"""

from __future__ import annotations

import random
import unittest
from collections.abc import Callable
from typing import cast

import shapely
from shapely import Polygon, box
from shapely.affinity import rotate
from shapely.geometry.base import BaseGeometry
from shapely.geometry.polygon import orient

from tests.core.test_bending import LEAST, bears, bracket
from tests.sampling import NUMBERS, sampled
from tests.support import LIBRARY
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.build import build
from tinhalo.core.findings.survey import survey
from tinhalo.core.geometry.strokes.bending import BEARS
from tinhalo.core.runtime.memo import Memo

#: What a section bears that holds, and one that breaks, with this much room to the limit.
_ROOM = 0.3
_LIMIT = BEARS * LEAST


def told(area: BaseGeometry) -> set[str]:
    """The kinds of warnings about an acrylic layer of this area."""
    rings = [ring for one in shapely.get_parts(area) for ring in _rings(cast(Polygon, one))]
    path = " ".join("M" + " L".join(f"{x:.4f},{y:.4f}" for x, y in ring[:-1]) + " Z" for ring in rings)
    art = {"id": "a", "kind": "outline", "path": path}
    layer = {"id": "l", "material": "acrylic-3", "recipe": {"from": ["a"]}}
    made = build(parse_design({"format": "tin-halo/1", "art": [art], "layers": [layer]}), LIBRARY)
    return {finding.kind for finding in survey(made, Memo()) if finding.severity != "note"}


def _rings(piece: Polygon) -> list[list[tuple[float, ...]]]:
    piece = orient(piece)
    return [list(ring.coords) for ring in (piece.exterior, *piece.interiors)]


def long_stroke(draw: random.Random) -> BaseGeometry:
    width, share = draw.uniform(0.4, LEAST - 0.2), draw.uniform(0.3, 1)
    length = LEAST
    while bears(width, length, share * width) < (1 + _ROOM) * _LIMIT:
        length += 0.2
    return bracket(width, length, share * width)


def neck(draw: random.Random) -> BaseGeometry:
    width, length = draw.uniform(0.4, LEAST - 0.2), draw.uniform(0.6, 3)
    wide, high = draw.uniform(4, 12), draw.uniform(3, 10)
    return shapely.union_all([bracket(width, length, width), box(-wide / 2, length, wide / 2, length + high)])


def thin_side(draw: random.Random) -> BaseGeometry:
    width = draw.uniform(0.4, LEAST - 0.2)
    high = draw.uniform(3, 9)
    return Polygon(box(0, 0, 20, high + 6).exterior.coords, [box(width, 3, 16, 3 + high).exterior.coords])


def slot(draw: random.Random) -> BaseGeometry:
    """Between two walls, open at both ends or closed: no beam gets through that leaves 0.2 mm."""
    width, length = draw.uniform(0.04, 0.14), draw.uniform(3, 12)
    ends = draw.choice([0.0, 4.0])
    plate = shapely.union_all([box(-6, -ends, 6, length + ends), box(-6, -3, 6, 0)])
    return plate.difference(box(-width / 2, 0, width / 2, length + 10 * (ends == 0)))


def crumb(draw: random.Random) -> BaseGeometry:
    side = draw.uniform(0.6, 2.6)
    return shapely.union_all([box(0, 0, 12, 12), box(14, 2, 14 + side, 2 + side)])


def tip(draw: random.Random) -> BaseGeometry:
    root = draw.uniform(LEAST + 0.1, 4)
    return bracket(root, root * draw.uniform(0.8, 3.5), draw.uniform(0.05, 0.5) * root)


def serif(draw: random.Random) -> BaseGeometry:
    stem, out, high = draw.uniform(1.7, 4), draw.uniform(0.8, 2.5), draw.uniform(0.9, 2)
    half = stem / 2
    foot = Polygon([(-half - out, 0), (half + out, 0), (half, high), (-half, high)])
    return shapely.union_all([box(-half, 0, half, 12), foot])


def notch(draw: random.Random) -> BaseGeometry:
    wide, deep = draw.uniform(0.4, 4), draw.uniform(1, 6)
    return box(-8, -10, 8, 0).difference(Polygon([(-wide / 2, 0.001), (wide / 2, 0.001), (0, -deep)]))


def inner_corner(draw: random.Random) -> BaseGeometry:
    base, high = draw.uniform(2, 8), draw.uniform(2, 8)
    return box(-8, -8, 8, 8).difference(Polygon([(-base / 2, -high / 2), (base / 2, -high / 2), (0, high / 2)]))


def stub(draw: random.Random) -> BaseGeometry:
    width = draw.uniform(0.7, LEAST - 0.1)
    length = 4.0
    while bears(width, length, width) > (1 - _ROOM) * _LIMIT:
        length -= 0.1
    return bracket(width, length, width)


FAULTS: tuple[Callable[[random.Random], BaseGeometry], ...] = (long_stroke, neck, thin_side, slot, crumb)
SOUND: tuple[Callable[[random.Random], BaseGeometry], ...] = (tip, serif, notch, inner_corner, stub)


class Graded(unittest.TestCase):
    def test_no_fault_is_missed(self) -> None:
        for number in sampled(NUMBERS, 1 / 20):
            draw = random.Random(number)
            make = FAULTS[number % len(FAULTS)]
            with self.subTest(make.__name__, number=number):
                self.assertTrue(told(rotate(make(draw), draw.uniform(0, 360), origin=(0, 0))))

    def test_of_sound_places_at_most_one_in_a_hundred_is_told(self) -> None:
        numbers = sampled(NUMBERS, 1 / 20)
        wrong: list[tuple[str, int, set[str]]] = []
        for number in numbers:
            draw = random.Random(number)
            make = SOUND[number % len(SOUND)]
            found = told(rotate(make(draw), draw.uniform(0, 360), origin=(0, 0)))
            if found:
                wrong.append((make.__name__, number, found))
        self.assertLessEqual(len(wrong), len(numbers) / 100, wrong)
