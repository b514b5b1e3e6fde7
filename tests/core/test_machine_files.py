"""Files for printers and machines read back by others: PDF by pypdf and PDFium, EPS and HP-GL by interpreters here."""

from __future__ import annotations

import io
import json
import re
import unittest
from itertools import pairwise
from pathlib import Path
from typing import Any

import numpy as np
import pypdf
import pypdfium2
import shapely

from tests.core.test_formats import sign
from tests.support import LIBRARY, build_of
from tinhalo.core.design.hand_over import HandOver
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.build import build
from tinhalo.core.engine.built import Build
from tinhalo.core.output import eps, hpgl, pdf, tiles
from tinhalo.core.output.drawing import Drawing, drawing_of, kerf_of
from tinhalo.core.output.pack import manifest, pack_files
from tinhalo.core.output.path_order import ORDER, Stroke, ordered, travel

DEMOS = sorted((Path(__file__).parents[2] / "src/tinhalo/demo/designs").glob("*.json"))
#: The same by their names.
BY_NAME = {path.stem: path for path in DEMOS}
POINT = 25.4 / 72


def demo(path: Path) -> Build:
    return build_of(parse_design(json.loads(path.read_text())))


def flattened(
    start: tuple[float, ...], a: tuple[float, ...], b: tuple[float, ...], end: tuple[float, ...]
) -> np.ndarray:
    t = np.linspace(0, 1, 65)[1:, None]
    u = 1 - t
    p, q, r, s = (np.array(one) for one in (start, a, b, end))
    return u**3 * p + 3 * u * u * t * q + 3 * u * t * t * r + t**3 * s


def area_and_box(rings: list[np.ndarray]) -> tuple[float, np.ndarray]:
    """The even-odd area of rings and their bounds."""
    area = shapely.Polygon()
    for ring in rings:
        area = area.symmetric_difference(shapely.Polygon(ring).buffer(0))
    return area.area, np.array(area.bounds)


def postscript(text: str) -> list[np.ndarray]:
    """Rings in mm that the path operators of PostScript draw (PostScript Language Reference, 4.4), 3rd edition."""
    rings: list[np.ndarray] = []
    points: list[tuple[float, ...]] = []
    stack: list[float] = []
    for word in text.split():
        if re.fullmatch(r"-?[\d.]+", word):
            stack.append(float(word))
            continue
        if word == "moveto":
            points = [(stack[-2], stack[-1])]
        elif word == "lineto":
            points.append((stack[-2], stack[-1]))
        elif word == "curveto":
            x1, y1, x2, y2, x3, y3 = stack[-6:]
            points += [tuple(one) for one in flattened(points[-1], (x1, y1), (x2, y2), (x3, y3))]
        elif word == "closepath":
            rings.append(np.array(points) * POINT)
        stack = []
    return rings


def plotter(text: str) -> list[tuple[int, np.ndarray]]:
    """Pens and lines in mm of HP-GL (HP 7475A manual, chapters 3 and 4: 0.025 mm a unit)."""
    lines: list[tuple[int, list[tuple[int, int]]]] = []
    pen, down, here = 0, False, (0, 0)
    for command in re.findall(r"([A-Z]{2})([^;A-Z]*);", text):
        name, numbers = command[0], [int(one) for one in command[1].split(",") if one.strip()]
        if name == "SP":
            pen = numbers[0] if numbers else 0
        elif name in ("PU", "PD", "PA"):
            if name != "PA":
                down = name == "PD"
            for x, y in zip(numbers[::2], numbers[1::2], strict=True):
                if down:
                    if not lines or lines[-1][1][-1] != here:
                        lines.append((pen, [here]))
                    lines[-1][1].append((x, y))
                here = (x, y)
            if name == "PU":
                lines.append((0, [here]))
    return [(pen, np.array(points) * 0.025) for pen, points in lines if len(points) > 1]


class ReadBack(unittest.TestCase):
    def drawings(self) -> list[tuple[str, Drawing, float, np.ndarray]]:
        """Layers of a sign as they are and mirrored: name, drawing, area, and bounds from the page's corner."""
        made = sign()
        drawing = drawing_of(made)
        found: list[tuple[str, Drawing, float, np.ndarray]] = []
        for one in made.leaving():
            if one.measures.marks:
                continue
            for mirrored in (False, True):
                part = drawing.only("", [one.layer.id])
                part = part.mirrored() if mirrored else part
                assert part.page and one.measures.bounds
                x0, y0, x1, y1 = one.measures.bounds
                if mirrored:
                    x0, x1 = part.page[0] + part.page[2] - x1, part.page[0] + part.page[2] - x0
                box = np.array([x0, y0, x1, y1]) - np.array([part.page[0], part.page[1]] * 2)
                found.append((f"{one.layer.id} {mirrored}", part, one.measures.area, box))
        return found

    def test_eps(self) -> None:
        for name, drawing, area, box in self.drawings():
            with self.subTest(name):
                text = eps.write(drawing).decode("ascii")
                found, bounds = area_and_box(postscript(text))
                self.assertLess(abs(found / area - 1), 5e-4)
                self.assertLess(np.abs(bounds - box).max(), 0.03)
                # EPSF 3.0, section 3: the box of the page in points.
                width, height = (float(v) for v in re.findall(r"HiResBoundingBox: 0 0 (\S+) (\S+)", text)[0])
                self.assertAlmostEqual(width * POINT, drawing.size[0], places=3)
                self.assertAlmostEqual(height * POINT, drawing.size[1], places=3)
                self.assertLess(max(len(line) for line in text.splitlines()), 256)

    def test_hp_gl(self) -> None:
        for name, drawing, area, box in self.drawings():
            with self.subTest(name):
                lines = plotter(hpgl.write(drawing, HandOver()).decode("ascii"))
                if drawing.layers[0].style.fill:
                    # What is filled is printed or burnt area by area: no pen goes round it.
                    self.assertEqual([], lines)
                    continue
                found, bounds = area_and_box([points for _, points in lines])
                # Or by what rounding to half a unit makes of few corners.
                length = sum(float(np.hypot(*np.diff(points, axis=0).T).sum()) for _, points in lines)
                self.assertLess(abs(found - area), max(5e-4 * area, 0.0125 / 4 * length))
                self.assertLess(np.abs(bounds - box).max(), 0.03)

    def test_every_single_mark_is_plotted(self) -> None:
        made = sign()
        board = drawing_of(made).only("", ["board"])
        lines = plotter(hpgl.write(board, HandOver()).decode("ascii"))
        marks = next(one.measures.marks for one in made.leaving() if one.layer.id == "board")
        self.assertGreater(marks, 10)
        self.assertEqual(marks, len([points for _, points in lines if len(points) == 2]))

    def test_pdf_has_its_size_boxes_and_spot_colours(self) -> None:
        drawing = drawing_of(sign())
        read = pypdf.PdfReader(io.BytesIO(pdf.write(drawing)))
        page = read.pages[0]
        for box in (page.mediabox, page.cropbox, page.bleedbox, page.trimbox):
            size = float(box.width) * POINT, float(box.height) * POINT
            np.testing.assert_allclose(size, drawing.size, atol=0.001)
        # ISO 32000-1, 8.6.6.4: [/Separation name alternate transform].
        spaces: Any = page["/Resources"]["/ColorSpace"]  # type: ignore[index]
        names = {str(spaces[key].get_object()[1]) for key in spaces}
        self.assertEqual({"/Cut", "/Score"}, names)

    def test_pdf_covers_what_it_should(self) -> None:
        """PDFium paints it; areas leave here, so that what is covered can be measured."""
        table = {"cut": {"draw": "area", "colour": "#000000"}}
        drawing = drawing_of(sign(hand_over={"table": table}))
        for id in ("face", "plate-layer"):
            part = drawing.only("", [id])
            shown = pypdfium2.PdfDocument(pdf.write(part))[0].render(scale=8)
            ink = 1 - shown.to_numpy()[..., :3].mean(axis=2) / 255
            per_dot = part.size[0] / ink.shape[1] * part.size[1] / ink.shape[0]
            area = next(b.measures.area for b in sign().leaving() if b.layer.id == id)
            self.assertLess(abs(ink.sum() * per_dot / area - 1), 2e-3)

    def test_the_same_design_gives_the_same_bytes(self) -> None:
        drawing = drawing_of(sign())
        self.assertEqual(pdf.write(drawing), pdf.write(drawing))

    def test_tiles_cover_the_page_and_say_how_long_100_mm_are(self) -> None:
        drawing = drawing_of(demo(next(one for one in DEMOS if one.stem == "launch-field-sign")))
        assert drawing.page
        columns, rows = tiles.sheets_of(drawing.page)
        read = pypdf.PdfReader(io.BytesIO(tiles.write(drawing)))
        self.assertEqual(columns * rows, len(read.pages))
        self.assertGreater(columns * rows, 1)
        # ISO 216: two of A4 are one of A3; ANSI's letter is 8.5 by 11 inches.
        for paper, size in (("a3", (297, 420)), ("letter", (215.9, 279.4)), ("legal", (215.9, 355.6))):
            options = HandOver.model_validate({"tiling": {"paper": paper, "overlap": 5}})
            box = pypdf.PdfReader(io.BytesIO(tiles.write(drawing, options))).pages[0].mediabox
            np.testing.assert_allclose([float(box.width) * POINT, float(box.height) * POINT], size, atol=0.01)
        # ISO 216: A4 is 210 x 297 mm.
        size = read.pages[0].mediabox
        np.testing.assert_allclose([float(size.width) * POINT, float(size.height) * POINT], (210, 297), atol=0.01)
        self.assertIn("100 mm", read.pages[0].extract_text())
        # The ruler's line, measured in the picture.
        shown = pypdfium2.PdfDocument(tiles.write(drawing))[0].render(scale=4).to_numpy()[..., 0]
        row = shown[round((297 - 10) / POINT * 4), : round(112 / POINT * 4)]
        dark = np.flatnonzero(row < 128)
        self.assertAlmostEqual(100, (dark.max() - dark.min()) * POINT / 4, delta=0.3)

    def test_tiles_that_nothing_lies_on_are_left_out(self) -> None:
        """A ring of 700 mm has its middle on no line: of four by three sheets two are empty."""
        art = [{"id": "r", "kind": "shape", "shape": "rectangle", "width": 700, "height": 700}]
        layers = [{"id": "a", "material": "card", "recipe": {"from": ["r"]}}]
        drawing = drawing_of(build_of(parse_design({"format": "tin-halo/1", "art": art, "layers": layers})))
        assert drawing.page
        columns, rows = tiles.sheets_of(drawing.page)
        self.assertEqual((4, 3), (columns, rows))
        self.assertEqual(columns * rows - 2, len(pypdf.PdfReader(io.BytesIO(tiles.write(drawing))).pages))


class Order(unittest.TestCase):
    def test_inner_before_outer_and_cutting_last(self) -> None:
        strokes = ordered(drawing_of(sign()))
        ranks = [ORDER.index(one.process) for one in strokes]
        self.assertEqual(sorted(ranks), ranks)
        cut = [one for one in strokes if one.process == "cut" and one.contour.closed]
        rings = [shapely.Polygon(one.contour.segments[:, 0]) for one in cut]
        for k, ring in enumerate(rings):
            self.assertFalse([j for j in range(k) if rings[j].contains(ring)])

    def test_every_line_leaves_once_and_unchanged(self) -> None:
        for path in DEMOS:
            drawing = drawing_of(demo(path))
            # What is printed is no tool's, nor the outline of what is filled.
            lines = [
                c
                for layer in drawing.layers
                if layer.process != "print"
                for c in (*(c for p in layer.pieces if layer.style.stroke for c in p), *layer.strokes)
            ]
            strokes = ordered(drawing)
            self.assertEqual(len(lines), len(strokes))
            sums = [
                sorted(round(float(np.abs(one.segments).sum()), 6) for one in every)
                for every in (lines, [one.contour for one in strokes])
            ]
            self.assertEqual(*sums)

    def test_the_way_between_is_shorter_than_as_it_lies(self) -> None:
        found, lying = 0.0, 0.0
        for path in DEMOS:
            drawing = drawing_of(demo(path))
            plain = [
                Stroke(layer.id, process, one)
                for process in ORDER[2:]
                for layer in drawing.layers
                if layer.process == process
                for one in (layer.lines if layer.style.stroke else layer.strokes)
            ]
            found += travel(ordered(drawing), drawing.page)
            lying += travel(plain, drawing.page)
        self.assertLess(found, 0.75 * lying)

    def test_a_closed_cut_goes_on_by_the_overcut(self) -> None:
        drawing = drawing_of(sign()).only("", ["plate-layer"])
        (plain,) = plotter(hpgl.write(drawing, HandOver()).decode())
        (over,) = plotter(hpgl.write(drawing, HandOver(overcut=3)).decode())
        length = [float(np.hypot(*np.diff(points, axis=0).T).sum()) for _, points in (plain, over)]
        self.assertAlmostEqual(3, length[1] - length[0], delta=0.1)


class Kerf(unittest.TestCase):
    def made(self, kerf: float, size: float = 40) -> Build:
        limits = {"least_width": 1.5, "least_gap": 0.2, "least_area": 9, "kerf": kerf}
        own = {"id": "own-ply", "name": "Ply", "thickness": 3, "colour": "#c9a06c", "limits": limits}
        art = [{"id": "ring", "kind": "shape", "shape": "ring", "width": size, "height": size}]
        layers = [{"id": "a", "material": "own-ply", "recipe": {"from": ["ring"]}}]
        data = {"format": "tin-halo/1", "art": art, "layers": layers, "materials": [own]}
        return build_of(parse_design(data))

    def test_parts_grow_by_half_of_it_and_holes_shrink(self) -> None:
        plain, wide = self.made(0), self.made(0.2)
        boxes = [np.array(area_and_box(postscript(eps.write(drawing_of(one)).decode()))[1]) for one in (plain, wide)]
        self.assertAlmostEqual(40.2, float(boxes[1][2] - boxes[1][0]), delta=0.005)
        region = plain.layers[0].region.area
        # Steiner's formula for the outer disc, and for the hole the other way round.
        found = area_and_box(postscript(eps.write(drawing_of(wide)).decode()))[0]
        expected = region.area + 0.1 * region.length
        self.assertAlmostEqual(expected, found, delta=0.1)
        told = manifest(wide)["layers"][0]
        self.assertEqual(0.2, told["kerf_mm"])
        self.assertAlmostEqual(told["cut_length_mm"] / 20, told["time_s"], delta=0.1)

    def test_lines_that_would_run_together_stay(self) -> None:
        # Its hole would be gone.
        self.assertEqual(0, kerf_of(self.made(19, 24).layers[0]))


class LiningUp(unittest.TestCase):
    def files(self, **lining_up: Any) -> tuple[Build, dict[str, bytes]]:
        made = sign(hand_over={"lining_up": lining_up, "formats": ["eps"]})
        return made, pack_files(made)

    def test_crosses_stand_at_the_same_places_in_every_file(self) -> None:
        _, plain = self.files()
        made, files = self.files(marks="crosses", beside=10)
        drawing = drawing_of(made)
        ends: list[set[str]] = []
        for name in ("face.eps", "line.eps", "board.eps", "board-ply-3.eps", "combined.eps"):
            self.assertNotIn(name, [n for n in plain if files[n] == plain[n]])
            lines = files[name].decode().splitlines()
            # A cross is two strokes of 6 mm: (x - 3, y) to (x + 3, y).
            found = {
                f"{a}|{b}"
                for a, b in pairwise(lines)
                if a.endswith("moveto") and b.endswith("lineto") and abs(length_of(a, b) - 6) < 1e-3
            }
            self.assertGreaterEqual(len(found), 6)
            ends.append(found)
        common = set.intersection(*ends)
        self.assertEqual(6, len(common))
        # Three corners, 10 mm outside of the job.
        middles = {tuple(np.round((point_of(a) + point_of(b)) / 2, 3)) for a, b in (one.split("|") for one in common)}
        self.assertEqual(3, len(middles))
        width, height = drawing.size
        spans = np.ptp(np.array(sorted(middles)), axis=0)
        np.testing.assert_allclose(spans, (width + 20, height + 20), atol=0.01)

    def test_pins_are_holes_of_3_mm_in_what_is_cut(self) -> None:
        _, files = self.files(marks="pins")
        rings = postscript(files["face.eps"].decode())
        round_ = [ring for ring in rings if np.allclose(np.ptp(ring, axis=0), 3, atol=0.01)]
        self.assertEqual(3, len(round_))
        for ring in round_:
            self.assertAlmostEqual(np.pi * 1.5**2, shapely.Polygon(ring).area, delta=0.01)

    def test_what_is_weeded_gets_a_frame_and_the_numbers_a_picture(self) -> None:
        art = [{"id": "n", "text": "Bo", "font": "pacifico", "size": 30}]
        layers = [{"id": "film", "material": "vinyl", "recipe": {"from": ["n"]}}]
        lining_up = {"frame": 6, "key": True}
        data = {
            "format": "tin-halo/1",
            "art": art,
            "layers": layers,
            "hand_over": {"lining_up": lining_up, "formats": ["eps"]},
        }
        made = build_of(parse_design(data))
        files = pack_files(made)
        rings = postscript(files["film.eps"].decode())
        assert made.bounds
        x0, y0, x1, y1 = made.bounds
        self.assertTrue(
            any(np.allclose(np.ptp(ring, axis=0), (x1 - x0 + 12, y1 - y0 + 12), atol=0.02) for ring in rings)
        )
        page = pypdf.PdfReader(io.BytesIO(files["key.pdf"])).pages[0]
        pieces = made.layers[0].measures.pieces
        text = page.extract_text()
        self.assertIn("Vinyl", text)
        for number in range(1, pieces + 1):
            self.assertIn(str(number), text)

    def test_frames_go_around_each_group_of_pieces(self) -> None:
        art = [{"id": n, "text": n, "font": "anton", "size": 20, "place": {"x": x}} for n, x in (("il", 0), ("o", 90))]
        layers = [{"id": "film", "material": "vinyl", "recipe": {"from": ["il", "o"]}}]
        hand_over = {"lining_up": {"frame": 3, "frame_around": "groups"}, "formats": ["eps"]}
        made = build(
            parse_design({"format": "tin-halo/1", "art": art, "layers": layers, "hand_over": hand_over}), LIBRARY
        )
        rings = [shapely.Polygon(ring) for ring in postscript(pack_files(made)["film.eps"].decode())]
        # "il" stands close, so one frame holds it (three pieces with the dot); "o" stands by itself.
        frames = [
            one
            for one in rings
            if one.equals_exact(one.envelope, 0.01) or one.symmetric_difference(one.envelope).area < 0.01
        ]
        holding = sorted(
            sum(frame.contains(one) for one in rings if one.area < frame.area)
            for frame in frames
            if any(frame.contains(one) for one in rings if one.area < frame.area)
        )
        self.assertEqual([2, 3], holding)

    def test_what_is_printed_and_what_is_cut_of_one_material_leave_apart_in_register(self) -> None:
        _, files = self.files(marks="crosses")
        printed, cut = files["print-ply-3.eps"].decode(), files["cut-ply-3.eps"].decode()
        boxes = [re.findall(r"HiResBoundingBox: (.+)", one)[0] for one in (printed, cut)]
        self.assertEqual(*boxes)
        self.assertIn("eofill", printed)
        self.assertNotIn("Separation (Cut)", printed)
        self.assertIn("Separation (Cut)", cut)


def point_of(line: str) -> np.ndarray:
    return np.array([float(v) for v in line.split()[:2]]) * POINT


def length_of(one: str, other: str) -> float:
    return float(np.hypot(*(point_of(one) - point_of(other))))
