"""SVG files read, against resvg's pictures of them, our own files, and closed formulas."""

from __future__ import annotations

import io
import math
import random
import unittest

import numpy as np
import resvg_py
import shapely.affinity
import svgelements
from PIL import Image

from tests.core.svg_cases import CASES
from tests.sampling import NUMBERS, sampled
from tests.support import design
from tinhalo.core.artwork.drawings.drawing_file import DrawingFile
from tinhalo.core.artwork.drawings.error import DrawingError
from tinhalo.core.artwork.drawings.svg_file import MM, read_svg
from tinhalo.core.artwork.drawings.vet import judge, vet
from tinhalo.core.artwork.lettering.own import OwnFiles, file_id
from tinhalo.core.artwork.lettering.shipped import ShippedLibrary
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.build import build
from tinhalo.core.engine.built import Build
from tinhalo.core.findings.survey import findings_of
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.output.drawing import drawing_of
from tinhalo.core.output.pack import pack_files
from tinhalo.core.output.svg_path import curves
from tinhalo.core.runtime.memo import Memo

SIDE = 500
OPEN = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 100 100"'


def drawing(inner: str, size: str = 'width="100" height="100"') -> str:
    return f"{OPEN} {size}>{inner}</svg>"


def coverage(svg: str) -> np.ndarray:
    """How much of each pixel is painted, by resvg."""
    png = resvg_py.svg_to_bytes(svg_string=svg, width=SIDE, height=SIDE, dpi=96)
    return np.asarray(Image.open(io.BytesIO(bytes(png))).convert("RGBA"))[..., 3] / 255


def redrawn(read: DrawingFile) -> str:
    """What was read, drawn as one black path: plain outlines together fill their union by the non-zero rule."""
    outline = Outline.joined([one.painted for one in read.elements if not one.hidden])
    pixels = outline.transformed(np.array([[1 / MM, 0, 0], [0, 1 / MM, 0]]))
    return drawing(f'<path d="{curves(pixels.contours())}"/>') if len(outline.segments) else drawing("")


class AsRendered(unittest.TestCase):
    def test_each_case_covers_what_resvg_paints(self) -> None:
        every = [(chapter, case) for chapter, cases in CASES.items() for case in cases]
        self.assertGreaterEqual(len(every), 120)
        # All of them, as each is another rule: a share of them let two of sixty faults through.
        for chapter, case in every:
            with self.subTest(chapter, case=case):
                wanted = coverage(drawing(case))
                found = coverage(redrawn(read_svg(drawing(case).encode())))
                self.assertGreater(wanted.sum() + ("c" in case), 0)
                self.assertLess(float(np.abs(wanted - found).mean()), 0.003)

    def test_it_has_its_true_size(self) -> None:
        """CSS Values and Units 3, section 6.2: 1 in = 96 px = 2.54 cm = 72 pt = 6 pc."""
        for size in ("25.4mm", "2.54cm", "1in", "72pt", "6pc", "96px", "96"):
            read = read_svg(drawing('<rect width="100" height="100"/>', f'width="{size}" height="{size}"').encode())
            x0, y0, x1, y1 = read.elements[0].painted.bounds()
            with self.subTest(size):
                self.assertTrue(read.sized)
                np.testing.assert_allclose([x0, y0, x1, y1], [0, -25.4, 25.4, 0], atol=1e-9)
        self.assertFalse(read_svg(drawing("<path/>", "").encode()).sized)

    def test_circles_and_strokes_have_the_areas_of_their_formulas(self) -> None:
        circle = '<circle cx="50" cy="50" r="30"'
        text = f'{circle}/>{circle} fill="none" stroke="#000" stroke-width="4"/>'
        disc, ring = read_svg(drawing(text, 'width="100mm" height="100mm"').encode()).elements
        self.assertAlmostEqual(disc.painted.areas.sum(), math.pi * 900, delta=0.02)
        self.assertAlmostEqual(ring.painted.areas.sum(), math.pi * (32**2 - 28**2), delta=0.3)
        self.assertAlmostEqual(ring.enclosed.areas.sum(), math.pi * 900, delta=0.02)
        self.assertAlmostEqual(ring.line, 4)

    def test_what_is_no_outline_is_told_and_the_rest_brought_in(self) -> None:
        read = read_svg(
            drawing(
                '<text>Ostrel</text><image width="9" height="9" href="a.png"/><rect width="9" height="9"/>'
                '<g mask="url(#m)"><rect width="5" height="9"/></g><path d="M0 0L9 9L9 0L5 x"/>'
            ).encode()
        )
        told = " ".join(read.told)
        for part in ("“Ostrel”", "1 pictures in it", "masks are not applied", "break off"):
            self.assertIn(part, told)
        self.assertEqual(3, len(read.elements))

    def test_what_it_packs_it_unpacks(self) -> None:
        read = read_svg(drawing("".join(CASES["fill rules (13.4)"])).encode())
        again = DrawingFile.from_bytes(read.to_bytes())
        self.assertEqual(len(read.elements), len(again.elements))
        for one, other in zip(read.elements, again.elements, strict=True):
            np.testing.assert_array_equal(one.painted.segments, other.painted.segments)
            self.assertEqual((one.name, one.colour, one.hidden), (other.name, other.colour, other.hidden))


class Art(unittest.TestCase):
    def built(self, svg: str, **more: object) -> Build:
        library = OwnFiles({}, {"a.svg": svg.encode()})
        art = {"id": "d", "kind": "drawing", "file": file_id(svg.encode()), "name": "a.svg", **more}
        layers = [{"id": "a", "recipe": {"from": ["d"]}}]
        return build(parse_design({"format": "tin-halo/1", "art": [art], "layers": layers}), library)

    def area(self, svg: str, **more: object) -> float:
        return self.built(svg, **more).layers[0].measures.area

    def test_our_own_pack_comes_back_as_it_left(self) -> None:
        made = build(design([{"op": "offset", "by": 3}], text="Bram", size=40), ShippedLibrary())
        files = pack_files(made, Memo(), ["svg"])
        for layer in made.layers:
            svg = files[f"{layer.layer.id}.svg"].decode()
            back = self.built(svg, lines="enclosed").layers[0].region.area
            # It lies about its own middle.
            dx, dy = (np.array(layer.region.area.centroid.coords) - np.array(back.centroid.coords))[0]
            moved = shapely.affinity.translate(back, dx, dy)
            # A cut file has its outlines as hairlines: holes are told by what lies in what.
            self.assertLess(moved.hausdorff_distance(layer.region.area), 0.02)
            self.assertEqual(layer.region.holes, sum(len(p.interiors) for p in back.geoms))

    def test_lines_kept_as_lines_leave_as_few_true_curves(self) -> None:
        bow, size = "M5 5 C 30 60 60 -20 95 40", 'width="100mm" height="100mm"'
        line = 'fill="none" stroke="#000" stroke-width="0.5"'
        svg = drawing(
            f'<path d="{bow}" {line}/><circle cx="50" cy="30" r="15" {line}/>'
            f'<polyline points="5,50 20,40 20,55" {line}/>'
            f'<rect x="70" y="5" width="10" height="10" fill="red"/>',
            size,
        )
        made = self.built(svg, lines="kept", place={"rotate": 20})
        self.assertAlmostEqual(made.layers[0].region.area.area, 100, delta=0.001)
        # Lengths by an independent reader of path data, and of the circle and the line by their formulas.
        wanted = [svgelements.Path(bow).length(), 30 * math.pi, math.hypot(15, 10) + 15]
        strokes = drawing_of(made).layers[0].strokes
        self.assertEqual([False, True, False], [one.closed for one in strokes])
        for stroke, length, most in zip(strokes, wanted, (6, 6, 2), strict=True):
            self.assertAlmostEqual(Outline.from_contours([stroke]).length, length, delta=0.01)
            self.assertLessEqual(len(stroke.segments), most)
        self.assertEqual(3, made.layers[0].measures.marks)
        # What was read before lines could be kept is painted as it was.
        file = DrawingFile.from_bytes(read_svg(svg.encode()).to_bytes())
        self.assertEqual([1, 4, 2, 0], [min(len(one.course.segments), 4) for one in file.elements])

    def test_white_takes_away_lines_enclose_and_elements_are_left_out(self) -> None:
        size = 'width="100mm" height="100mm"'
        svg = drawing('<rect width="40" height="40"/><rect x="10" y="10" width="20" height="20" fill="#fff"/>', size)
        self.assertAlmostEqual(self.area(svg), 1200, delta=0.01)
        self.assertAlmostEqual(self.area(svg, white_cuts=False), 1600, delta=0.01)
        self.assertAlmostEqual(self.area(svg, left_out=[1]), 1600, delta=0.01)
        turned = {"rotate": 30, "scale_x": -2, "scale_y": 2, "x": 7}
        self.assertAlmostEqual(self.area(svg, place=turned), 4800, delta=0.05)
        hair = 'fill="none" stroke="red" stroke-width="0.1"'
        nested = drawing(f'<rect width="40" height="40" {hair}/><rect x="9" y="9" width="9" height="9" {hair}/>', size)
        self.assertAlmostEqual(self.area(nested), 1600 - 81, delta=0.01)
        self.assertAlmostEqual(self.area(nested, lines="painted"), (160 + 36) * 0.1, delta=0.01)
        hidden = drawing('<rect width="40" height="40"/><rect x="50" width="5" height="5" display="none"/>', size)
        self.assertAlmostEqual(self.area(hidden), 1600, delta=0.01)
        self.assertAlmostEqual(self.area(hidden, brought=[1]), 1625, delta=0.01)

    def test_hairlines_that_meet_end_to_end_are_one_outline(self) -> None:
        size = 'width="100mm" height="100mm"'
        hair = 'fill="none" stroke="red" stroke-width="0.1"'
        corners = ["M0 0L40 0", "M40.02 0L40 40", "M0 40V0", "M40 40H0"]
        lines = "".join(f'<path d="{one}" {hair}/>' for one in corners)
        self.assertAlmostEqual(self.area(drawing(lines, size)), 1600, delta=1)
        # A line of its own, and one of another colour, stay by themselves.
        blue = hair.replace("red", "#00f")
        more = lines + f'<path d="M60 60L70 70" {hair}/><path d="M80 0V9" {blue}/>'
        read = read_svg(drawing(more, size).encode())
        self.assertEqual([2, 2], [one.ends for one in read.elements])
        self.assertIn("joined", read.elements[0].name)
        # The blue one goes round nothing, and is cut as wide as it is.
        self.assertAlmostEqual(self.area(drawing(more, size)), 1600.9, delta=1)

    def test_a_drawing_whose_file_is_not_here_is_told(self) -> None:
        art = {"id": "d", "kind": "drawing", "file": "file-none", "name": "Crest.svg"}
        data = {"format": "tin-halo/1", "art": [art], "layers": [{"id": "a", "recipe": {"from": ["d"]}}]}
        found = findings_of(parse_design(data), ShippedLibrary(), Memo())
        self.assertIn("unknown_file", [one.kind for one in found])

    def test_a_drawing_that_would_slide_past_is_told(self) -> None:
        words = {"id": "w", "text": "Bram", "font": "anton"}
        for x, told in ((0, False), (500, True)):
            stands = {"place": {"x": x, "y": -60}, "against": {"art": "w", "side": "below"}}
            art = {"id": "d", "kind": "drawing", "file": "gull", **stands}
            layers = [{"id": "a", "recipe": {"from": ["w", "d"]}}]
            design = parse_design({"format": "tin-halo/1", "art": [words, art], "layers": layers})
            found = [one.kind for one in findings_of(design, ShippedLibrary(), Memo())]
            self.assertEqual(told, "cannot_touch" in found)


class Hostile(unittest.TestCase):
    def test_each_is_answered_in_a_sentence(self) -> None:
        bomb = "".join(f'<!ENTITY b{i} "{(f"&b{i - 1};" * 10) if i else "ha"}">' for i in range(10))
        cases = {
            "entities": f"<!DOCTYPE svg [{bomb}]><svg xmlns='http://www.w3.org/2000/svg'><text>&b9;</text></svg>",
            "outside": "<!DOCTYPE svg [<!ENTITY e SYSTEM 'file:///etc/passwd'>]><svg xmlns='http://www.w3.org/2000/svg'>"
            "<text>&e;</text></svg>",
            "deep": "<svg xmlns='http://www.w3.org/2000/svg'>" + "<g>" * 100_000 + "</g>" * 100_000 + "</svg>",
            "many": drawing(f'<path d="M0 0{"l1 1" * 1_000_000}"/>'),
            "copies": drawing(
                '<g id="a0"><rect width="1" height="1"/></g>'
                + "".join(f'<g id="a{i}">{f"""<use href="#a{i - 1}"/>""" * 10}</g>' for i in range(1, 9))
                + '<use href="#a8"/>'
            ),
            "itself": drawing('<g id="a"><use href="#a"/></g>'),
            "nan": drawing('<path d="M NaN 0 L inf 3"/>'),
            "far": drawing('<path d="M0 0L1e300 0L0 1e300z"/>'),
            "script": drawing("<script>alert(1)</script>"),
            "nothing": "",
            "text": "This is no drawing.",
            "dxf": "0\nSECTION\n2\nENTITIES\n0\nLINE",
        }
        for name, text in cases.items():
            with self.subTest(name), self.assertRaises(DrawingError) as caught:
                vet(text.encode(), "a.svg")
            self.assertRegex(str(caught.exception), r"^a\.svg .*\.$")
            self.assertNotIn("root:", str(caught.exception))

    def test_damaged_files_end_in_a_drawing_or_a_sentence(self) -> None:
        sound = drawing("".join(case for cases in CASES.values() for case in cases[:3])).encode()
        for seed in sampled(NUMBERS, 1 / 100):
            chance = random.Random(seed)
            data = bytearray(sound)
            for _ in range(chance.choice((1, 3, 30))):
                at = chance.randrange(len(data))
                match chance.randrange(3):
                    case 0:
                        data[at] = chance.randrange(256)
                    case 1:
                        del data[at : at + chance.choice((1, 20))]
                    case _:
                        data[at:at] = bytes(
                            chance.choices(b"0123456789-.eE<>\"'/ MmLlzhHaA#()", k=chance.choice((1, 8)))
                        )
            with self.subTest(seed):
                found = judge(bytes(data))
                if isinstance(found, bytes):
                    DrawingFile.from_bytes(found)
                else:
                    self.assertRegex(found, r"^(it|its|there|reading) [a-z]")


if __name__ == "__main__":
    unittest.main()
