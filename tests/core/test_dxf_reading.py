"""DXF files read: written by ezdxf, every kind of line and unit, against the formulas of their areas."""

from __future__ import annotations

import io
import math
import random
import unittest
from collections.abc import Callable
from typing import Any

import ezdxf
import numpy as np
from ezdxf import units

from tests.sampling import sampled
from tests.support import design
from tinhalo.core.artwork.drawings.drawing_file import DrawingFile
from tinhalo.core.artwork.drawings.dxf_file import read_dxf
from tinhalo.core.artwork.drawings.vet import judge
from tinhalo.core.artwork.lettering.shipped import ShippedLibrary
from tinhalo.core.engine.build import build
from tinhalo.core.output.pack import pack_files
from tinhalo.core.runtime.memo import Memo


def written(draw: Callable[[Any, Any], Any], unit: int = units.MM) -> bytes:
    document = ezdxf.new(units=unit)
    draw(document.modelspace(), document)
    made = io.StringIO()
    document.write(made)
    return made.getvalue().encode()


def area(read: DrawingFile) -> float:
    return float(sum(one.enclosed.areas.sum() for one in read.elements))


#: By what is drawn: how, and area and box (min x, min y, max x, max y) in mm.
HALF = 4 * math.atan(0.5)
SHAPES: dict[str, tuple[Callable[[Any, Any], Any], float, tuple[float, float, float, float]]] = {
    "polyline": (
        lambda m, _: m.add_lwpolyline([(0, 0), (40, 0), (40, 30), (0, 30)], close=True),
        1200,
        (0, 0, 40, 30),
    ),
    # A bulge is the tangent of a quarter of the arc's angle (DXF reference, LWPOLYLINE).
    "bulge": (
        lambda m, _: m.add_lwpolyline([(0, 0, 1), (40, 0, 1)], format="xyb", close=True),
        math.pi * 400,
        (0, -20, 40, 20),
    ),
    "old polyline": (
        lambda m, _: m.add_polyline2d([(0, 0), (40, 0), (0, 30)], close=True),
        600,
        (0, 0, 40, 30),
    ),
    "circle": (lambda m, _: m.add_circle((10, 5), 20), math.pi * 400, (-10, -15, 30, 25)),
    "ellipse": (lambda m, _: m.add_ellipse((0, 0), (30, 0), 0.5), math.pi * 450, (-30, -15, 30, 15)),
    "arcs joined": (
        lambda m, _: [m.add_arc((0, 0), 10, 0, 180), m.add_arc((0, 0), 10, 180, 360)],
        math.pi * 100,
        (-10, -10, 10, 10),
    ),
    "lines joined end to end": (
        lambda m, _: [
            m.add_line((0, 0), (40, 0)),
            m.add_line((40, 30.02), (40, 0)),
            m.add_line((0, 30), (40, 30)),
            m.add_line((0, 30), (0, 0.02)),
        ],
        1200,
        (0, 0, 40, 30),
    ),
    "line and arc": (
        lambda m, _: [m.add_line((-10, 0), (10, 0)), m.add_arc((0, 0), 10, 0, 180)],
        math.pi * 50,
        (-10, 0, 10, 10),
    ),
    # A cubic Bézier as a B-spline: the integral of 60 t (1 - t) times 180 t (1 - t) from 0 to 1.
    "spline": (
        lambda m, _: [
            m.add_open_spline([(0, 0), (0, 20), (30, 20), (30, 0)], degree=3),
            m.add_line((30, 0), (0, 0)),
        ],
        10_800 / 30,
        (0, 0, 30, 15),
    ),
    "block": (
        lambda m, d: [
            d.blocks.new("B").add_circle((0, 0), 5),
            m.add_blockref("B", (50, 0), dxfattribs={"xscale": 2, "yscale": 2, "rotation": 30}),
            m.add_blockref("B", (0, 0)),
        ],
        math.pi * 125,
        (-5, -10, 60, 10),
    ),
    "hole": (
        lambda m, _: [m.add_circle((0, 0), 20), m.add_circle((0, 0), 10)],
        math.pi * 300,
        (-20, -20, 20, 20),
    ),
}


class Reading(unittest.TestCase):
    def test_every_kind_has_its_area_and_bounds(self) -> None:
        for name, (draw, wanted, box) in SHAPES.items():
            with self.subTest(name):
                read = read_dxf(written(lambda m, d, draw=draw: draw(m, d)))
                # 0.02 mm all along its edge.
                edge = 2 * (box[2] - box[0] + box[3] - box[1])
                self.assertAlmostEqual(area(read), wanted, delta=0.02 * edge)
                boxes = np.array([one.enclosed.bounds() for one in read.elements])
                found = [*boxes[:, :2].min(axis=0), *boxes[:, 2:].max(axis=0)]
                np.testing.assert_allclose(found, box, atol=0.025)

    def test_units(self) -> None:
        """$INSUNITS of the DXF reference: 1 inches, 4 millimetres, 5 centimetres, 0 none."""
        for unit, scale, sized in ((1, 25.4, True), (4, 1, True), (5, 10, True), (0, 1, False)):
            read = read_dxf(written(lambda m, _: m.add_lwpolyline([(0, 0), (4, 0), (4, 3), (0, 3)], close=True), unit))
            with self.subTest(unit):
                self.assertEqual(sized, read.sized)
                self.assertAlmostEqual(area(read), 12 * scale**2, places=6)

    def test_what_is_no_line_is_told_and_open_ends_counted(self) -> None:
        read = read_dxf(written(lambda m, _: [m.add_text("Ostrel"), m.add_line((0, 0), (9, 0)), m.add_point((1, 1))]))
        self.assertIn("1 text were left out.", read.told)
        self.assertEqual(2, read.elements[0].ends)

    def test_our_own_pack_comes_back_as_it_left(self) -> None:
        made = build(design([{"op": "offset", "by": 3}], text="Bram", size=40), ShippedLibrary())
        files = pack_files(made, Memo(), ["dxf"])
        for layer in made.layers:
            read = read_dxf(files[f"{layer.layer.id}.dxf"])
            assert layer.cut
            self.assertAlmostEqual(area(read), layer.cut.area, delta=0.02 * layer.region.area.length)

    def test_damaged_files_end_in_a_drawing_or_a_sentence(self) -> None:
        sound = written(lambda m, d: [draw(m, d) for draw, *_ in SHAPES.values()])
        for seed in sampled(range(20), 1 / 5):
            chance = random.Random(seed)
            data = bytearray(sound)
            for _ in range(chance.choice((1, 5, 50))):
                at = chance.randrange(len(data))
                if chance.random() < 0.5:
                    data[at] = chance.randrange(256)
                else:
                    del data[at : at + chance.choice((1, 40))]
            with self.subTest(seed):
                found = judge(bytes(data))
                if isinstance(found, bytes):
                    DrawingFile.from_bytes(found)
                else:
                    self.assertRegex(found, r"^(it|there|reading) [a-z]")


if __name__ == "__main__":
    unittest.main()
