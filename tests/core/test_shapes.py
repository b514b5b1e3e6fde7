"""Shapes: their sizes by formula, their curves by quadrature, grown against another kernel, their corners."""

from __future__ import annotations

import math
import unittest
from typing import Any

import numpy as np
import shapely
from manifold3d import CrossSection, FillRule, JoinType

from tests.support import build_of
from tinhalo.core.artwork.shapes.kinds import SHAPES
from tinhalo.core.design.problem import DesignError
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.built import Build
from tinhalo.core.geometry.curves.outline import Outline

SIZES = ((60.0, 52.0), (140.0, 90.0), (31.0, 77.0), (50.0, 50.0))


def made(shape: str, *steps: dict[str, Any], **fields: Any) -> Build:
    art = {"id": "s", "kind": "shape", "shape": shape} | fields
    layer = {"id": "layer", "recipe": {"from": ["s"], "steps": list(steps)}}
    return build_of(parse_design({"format": "tin-halo/1", "art": [art], "layers": [layer]}))


def ellipse_perimeter(a: float, b: float) -> float:
    """The complete elliptic integral, by Gauss' arithmetic-geometric mean (DLMF 19.8.6)."""
    x, y, total, power = max(a, b), min(a, b), 0.0, 0.5
    total = power * (x * x - y * y)
    m = x
    while abs(x - y) > 1e-14 * x:
        x, y, c = (x + y) / 2, math.sqrt(x * y), (x - y) / 2
        power *= 2
        total += power * c * c
    return 2 * math.pi * (m * m - total) / x


def polygon_of(points: list[tuple[float, float]]) -> tuple[float, float]:
    area = shapely.Polygon(points)
    return area.area, area.length


def regular(count: int, radii: list[float], w: float, h: float) -> tuple[float, float]:
    angles = [math.pi / 2 + 2 * math.pi * k / count for k in range(count)]
    points = [(radii[k % len(radii)] * math.cos(a), radii[k % len(radii)] * math.sin(a)) for k, a in enumerate(angles)]
    x, y = [p[0] for p in points], [p[1] for p in points]
    sx, sy = w / (max(x) - min(x)), h / (max(y) - min(y))
    return polygon_of([(a * sx, b * sy) for a, b in points])


def formula(shape: str, w: float, h: float) -> tuple[float, float] | None:
    """Area and perimeter of a shape with our usual settings; None where there is no formula."""
    pi = math.pi
    match shape:
        case "rectangle":
            return w * h - (4 - pi) * 25, 2 * (w + h) - 8 * 5 + 2 * pi * 5
        case "ellipse":
            return pi * w * h / 4, ellipse_perimeter(w / 2, h / 2)
        case "polygon":
            return regular(6, [1], w, h)
        case "star":
            return regular(10, [1, 0.45], w, h)
        case "arch":
            rise = min(w / 2, h)
            top = ellipse_perimeter(w / 2, rise) / 2
            return w * (h - rise) + pi * w * rise / 4, w + 2 * (h - rise) + top
        case "ring":
            inner = (w / 2 - 5, h / 2 - 5)
            area = pi * (w * h / 4 - inner[0] * inner[1])
            return area, ellipse_perimeter(w / 2, h / 2) + ellipse_perimeter(*inner)
        case "banner":
            return h * (w - 8), 2 * (w - 0) + 4 * math.hypot(8, h / 2)
        case "speech_bubble":
            body, r = h - 10, min(10, w / 2, (h - 10) / 2)
            area = w * body - (4 - pi) * r * r + 10 * 10 / 2
            return area, 2 * (w + body) - 8 * r + 2 * pi * r - 10 + 10 + math.hypot(10, 10)
        case "tag":
            area = w * h - 81 - pi * 2.5**2
            return area, 2 * (w + h) - 4 * 9 + 2 * math.hypot(9, 9) + 2 * pi * 2.5
        case _:
            return None


def by_quadrature(outline: Outline) -> tuple[float, float]:
    """Area by Green's theorem and length of curves, each by Simpson's rule: nothing of ours but the curves."""
    t = np.linspace(0, 1, 2001)[:, None]
    weight = np.r_[1, np.tile([4, 2], 999), 4, 1] / 6000
    area = length = 0.0
    for p0, p1, p2, p3 in outline.segments:
        point = (1 - t) ** 3 * p0 + 3 * t * (1 - t) ** 2 * p1 + 3 * t * t * (1 - t) * p2 + t**3 * p3
        way = 3 * ((1 - t) ** 2 * (p1 - p0) + 2 * t * (1 - t) * (p2 - p1) + t * t * (p3 - p2))
        area += float(weight @ (point[:, 0] * way[:, 1] - point[:, 1] * way[:, 0])) / 2
        length += float(weight @ np.hypot(*way.T))
    return area, length


EXTRA: dict[str, dict[str, Any]] = {"rectangle": {"corner_radius": 5}}


class Sizes(unittest.TestCase):
    def test_area_perimeter_and_bounds_are_those_of_the_formula(self) -> None:
        """Formulas of plane geometry; an ellipse's perimeter by the arithmetic-geometric mean (DLMF 19.8)."""
        worst = 0.0
        for shape in SHAPES:
            for w, h in SIZES:
                with self.subTest(shape=shape, width=w, height=h):
                    outline = SHAPES[shape](id="s", width=w, height=h, **EXTRA.get(shape, {})).outline()
                    wanted = formula(shape, w, h) or by_quadrature(outline)
                    layer = made(shape, width=w, height=h, **EXTRA.get(shape, {})).layers[0]
                    off = (layer.measures.area / wanted[0] - 1, layer.measures.cut_length / wanted[1] - 1)
                    worst = max(worst, *map(abs, off))
                    self.assertLess(max(map(abs, off)), 1e-4)
                    assert layer.measures.bounds
                    self.assertTrue(np.allclose(layer.measures.bounds, (-w / 2, -h / 2, w / 2, h / 2), atol=1e-3))

    def test_every_shape_keeps_its_own_curves(self) -> None:
        for shape in SHAPES:
            with self.subTest(shape=shape):
                layer = made(shape).layers[0]
                outline = SHAPES[shape](id="s").outline()
                assert layer.cut
                self.assertLessEqual(len(layer.cut.outline.segments), len(outline.segments))
                self.assertEqual(layer.measures.pieces, 1)

    def test_grown_shapes_agree_with_another_kernel(self) -> None:
        """Clipper2's offsets, through manifold3d."""
        worst = 0.0
        for shape in SHAPES:
            for by in (3.0, -1.5):
                with self.subTest(shape=shape, by=by):
                    rings = SHAPES[shape](id="s").outline().flattened(0.0005, 1)
                    grown = CrossSection([r.tolist() for r in rings], FillRule.NonZero)
                    wanted = grown.offset(by, JoinType.Round, circular_segments=2_000).area()
                    layer = made(shape, {"op": "offset", "by": by}).layers[0]
                    worst = max(worst, abs(layer.measures.area / wanted - 1))
                    self.assertLess(abs(layer.measures.area / wanted - 1), 4e-4)

    def test_corners_stay_corners(self) -> None:
        """A heart grown with mitres has its tip at the tip's mitre: the distance over the sine of half its angle."""
        layer = made("heart", {"op": "offset", "by": 4, "corners": "miter", "miter_limit": 10}).layers[0]
        first = SHAPES["heart"](id="s").outline().segments[0]
        half = math.atan2(first[1, 0] - first[0, 0], first[1, 1] - first[0, 1])
        assert layer.measures.bounds
        self.assertAlmostEqual(layer.measures.bounds[1], -26 - 4 / math.sin(half), delta=0.03)

    def test_what_cannot_be_is_refused_with_a_sentence(self) -> None:
        for fields, said in (
            ({"shape": "ring", "thickness": 30}, "The shape “s” is not right: a ring's band must be thinner"),
            ({"shape": "hart"}, 'has a “shape” that this version does not know: "hart". It knows arch, banner'),
            ({"shape": "star", "points": 2}, "must be at least 3; it is 2"),
            ({"shape": "tag", "hole": 40}, "a tag's hole must lie inside it"),
            ({"shape": "heart", "sides": 4}, "“sides” of the shape “s” is not something this version knows"),
            ({"shape": "heart", "width": -1}, "The width of the shape “s” must be at least 0.01 mm; it is -1"),
        ):
            with self.subTest(said=said), self.assertRaises(DesignError) as caught:
                made(**{"shape": "heart"} | fields)
            self.assertIn(said, str(caught.exception))


class OnTheDrawing(unittest.TestCase):
    def test_picks_follow_a_shape_that_is_moved_turned_and_stretched(self) -> None:
        """The hole of a tag stays filled: it is picked by a place in the tag's own sizes."""
        spot = {"art": "s", "x": -26 / 70, "y": 0}
        for place in ({}, {"x": 30, "y": -4, "rotate": 33}, {"scale_x": 2, "scale_y": 0.7}, {"scale_x": -1}):
            layer = made("tag", {"op": "fill_holes", "only": [spot]}, place=place).layers[0]
            self.assertEqual(layer.measures.holes, 0, place)
        wide = made("tag", {"op": "fill_holes", "only": [spot]}, width=140, inset=18).layers[0]
        self.assertEqual(wide.measures.holes, 0)
