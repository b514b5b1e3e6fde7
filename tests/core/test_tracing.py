"""Pictures traced, against the outlines that they were drawn from: letters rendered by resvg at 300 dots to an inch."""

from __future__ import annotations

import io
import math
import unittest
from collections.abc import Callable

import cv2
import numpy as np
import resvg_py
import shapely
from PIL import Image, ImageDraw

from tests.sampling import sampled
from tests.support import build_of, edge_distances, lettering
from tinhalo.core.artwork.drawings.error import DrawingError
from tinhalo.core.artwork.lettering.own import OwnFiles, file_id
from tinhalo.core.artwork.pictures.inked import Pixels
from tinhalo.core.artwork.pictures.picture_file import judge, pixels, vet
from tinhalo.core.artwork.pictures.tracing import Traced, Tracing, traced
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.build import build
from tinhalo.core.geometry.curves.painted import area_of
from tinhalo.core.geometry.exact.recover import trace
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.output.svg_path import curves

#: Dots to a mm.
DENSITY = 300 / 25.4
FONTS = ("pacifico", "dancing-script", "anton", "playball", "baloo-2", "bebas-neue")
CARTOON = "a cartoon"
#: Segments that a well-known tracer makes of the same pictures: vtracer 0.6.15, binary, splines, specks under 4 pixels;
#: counted once by hand.
READY_MADE = {
    "clean": (321, 348, 347, 343, 268, 290, 185),
    "noisy": (358, 378, 401, 347, 298, 406, 258),
    "two values": (321, 348, 347, 343, 268, 290, 185),
}


def cartoon() -> Region:
    """A drawing with known outlines: the kite that ships with the app."""
    kite = {"id": "k", "kind": "drawing", "file": "kite", "name": "kite.svg"}
    layers = [{"id": "a", "recipe": {"from": ["k"]}}]
    return build_of(parse_design({"format": "tin-halo/1", "art": [kite], "layers": layers})).layers[0].region


def drawn(subject: str) -> tuple[Pixels, shapely.MultiPolygon]:
    """A picture of words in a font, or of the cartoon, and its true area in pixels about its middle."""
    region = cartoon() if subject == CARTOON else lettering("Ostrel Bay", subject, 24)
    outline = trace(region).outline
    x0, y0, x1, y1 = region.area.bounds
    width, height = round((x1 - x0 + 4) * DENSITY), round((y1 - y0 + 4) * DENSITY)
    to_pixels = np.array([[DENSITY, 0, (2 - x0) * DENSITY], [0, DENSITY, (2 - y0) * DENSITY]])
    svg = (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}" height="{height}">'
        f'<rect width="100%" height="100%" fill="#fff"/>'
        f'<path transform="translate(0 {height})" d="{curves(outline.transformed(to_pixels).contours())}"/></svg>'
    )
    png = bytes(resvg_py.svg_to_bytes(svg_string=svg, dpi=96))
    middle = np.array([width, height]) / 2
    true = shapely.transform(region.area, lambda p: p @ to_pixels[:, :2].T + to_pixels[:, 2] - middle)
    return np.asarray(Image.open(io.BytesIO(png)).convert("RGBA")).copy(), true


def noisy(picture: Pixels) -> Pixels:
    """The same as a JPEG of a noisy scan with specks, none of which touches a letter."""
    chance = np.random.default_rng(1)
    height, width = picture.shape[:2]
    made = picture[..., :3].astype(float) + chance.normal(0, 12, (height, width))[..., None]
    for _ in range(60):
        y, x = chance.integers(6, height - 9), chance.integers(6, width - 9)
        if np.ptp(picture[y - 5 : y + 7, x - 5 : x + 7, 0]) == 0:
            made[y : y + 2, x : x + 2] = chance.choice([0, 255])
    file = io.BytesIO()
    Image.fromarray(np.clip(made, 0, 255).astype(np.uint8)).save(file, "JPEG", quality=75)
    return np.asarray(Image.open(file).convert("RGBA"))


def two_valued(picture: Pixels) -> Pixels:
    grey = np.where(picture[..., :1] > 127, 255, 0).astype(np.uint8)
    return np.concatenate([grey, grey, grey, np.full_like(grey, 255)], axis=2)


def rings(area: shapely.MultiPolygon) -> int:
    return sum(1 + len(one.interiors) for one in area.geoms)


def vertices(area: shapely.MultiPolygon) -> list[np.ndarray]:
    return [np.asarray(ring.coords)[:-1] for one in area.geoms for ring in (one.exterior, *one.interiors)]


def shapes(inner: str, width: int = 400, height: int = 300) -> Pixels:
    svg = (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}" height="{height}">'
        f'<rect width="100%" height="100%" fill="#fff"/>{inner}</svg>'
    )
    png = bytes(resvg_py.svg_to_bytes(svg_string=svg, dpi=96))
    return np.asarray(Image.open(io.BytesIO(png)).convert("RGBA"))


def found(picture: Pixels, **how: object) -> tuple[Traced, shapely.MultiPolygon]:
    made = traced(picture, Tracing.model_validate(how))
    return made, area_of(made.outline, 0.02)


class Letters(unittest.TestCase):
    def check(self, kind: str, change: Callable[[Pixels], Pixels], within: float, share: float) -> None:
        subjects = list(zip((*FONTS, CARTOON), READY_MADE[kind], strict=True))
        for subject, most in sampled(subjects, 1 / 10):
            picture, true = drawn(subject)
            with self.subTest(subject):
                made, area = found(change(picture))
                self.assertTrue(area.is_valid)
                far = edge_distances(vertices(area), vertices(true))
                self.assertLess(np.quantile(far, 0.99), within)
                self.assertLess(abs(area.area / true.area - 1), share)
                # What is narrower than a pixel may be closed in the picture, too.
                closed = Region.of(true.buffer(0.6).buffer(-0.6)).area
                self.assertIn(rings(area), (rings(true), rings(closed)))
                # Few enough to be worked on.
                self.assertLessEqual(len(made.outline.segments), most)

    def test_clean(self) -> None:
        self.check("clean", lambda one: one, 0.4, 0.002)

    def test_noisy_with_specks(self) -> None:
        self.check("noisy", noisy, 0.4, 0.002)

    def test_a_noisy_photo_has_no_ragged_edge(self) -> None:
        """By the length of the outline, which a ragged edge makes longer, and by how many curves it takes."""
        for subject in sampled((*FONTS[::4], CARTOON), 1 / 3):
            clean, true = drawn(subject)
            smooth = len(found(clean)[0].outline.segments)
            for grain, within in ((10, 0.6), (20, 0.8), (35, 1.1)):
                with self.subTest(subject, grain=grain):
                    chance = np.random.default_rng(3)
                    grey = cv2.GaussianBlur(clean[..., :3].astype(float), (0, 0), 1) * 0.7 + 40
                    grey += chance.normal(0, grain, clean.shape[:2])[..., None]
                    photo = np.dstack([np.clip(grey, 0, 255).astype(np.uint8), clean[..., 3]])
                    made, area = found(photo)
                    self.assertLess(area.length / true.length, 1.01)
                    self.assertLess(len(made.outline.segments), 2.5 * smooth)
                    self.assertLess(np.quantile(edge_distances(vertices(area), vertices(true)), 0.99), within)

    def test_black_and_white_only(self) -> None:
        self.check("two values", two_valued, 0.7, 0.005)


class Settings(unittest.TestCase):
    RING = '<path fill-rule="evenodd" d="M200 50A100 100 0 1 1 199.9 50ZM200 110A40 40 0 1 0 200.1 110Z"/>'

    def test_specks_and_holes_go_by_their_area(self) -> None:
        picture = shapes(
            self.RING + '<rect x="20" y="20" width="10" height="10"/><rect x="50" y="20" width="5" height="5"/>'
        )
        for specks, pieces, gone in ((0, 3, 0), (50, 2, 1), (150, 1, 2)):
            made, area = found(picture, specks=specks, holes=0)
            self.assertEqual((pieces, gone), (len(area.geoms), made.specks))
        hole = math.pi * 40**2
        self.assertEqual(1, rings(found(picture, specks=150, holes=hole * 1.05)[1]))
        self.assertEqual(2, rings(found(picture, specks=150, holes=hole * 0.95)[1]))

    def test_areas_of_a_ring_and_of_its_outer_line(self) -> None:
        """Circles by their formula."""
        _, area = found(shapes(self.RING))
        self.assertAlmostEqual(area.area, math.pi * (100**2 - 40**2), delta=30)
        _, outer = found(shapes(self.RING + '<circle cx="200" cy="150" r="10"/>'), outer_only=True)
        self.assertAlmostEqual(outer.area, math.pi * 100**2, delta=30)
        self.assertEqual(1, rings(outer))

    def test_invert_background_tones_and_smoothness(self) -> None:
        picture = shapes(
            '<rect width="400" height="300" fill="#2080c0"/><circle cx="100" cy="150" r="60" fill="#000"/>'
            '<circle cx="280" cy="150" r="60" fill="#fff"/>'
        )
        _, both = found(picture, background=["#2080c0"])
        self.assertAlmostEqual(both.area, 2 * math.pi * 60**2, delta=200)
        _, light = found(picture, invert=True, threshold=0.7)
        self.assertAlmostEqual(light.area, math.pi * 60**2, delta=100)
        greys = shapes(
            '<rect x="20" y="20" width="100" height="100" fill="#ccc"/>'
            '<rect x="140" y="20" width="100" height="100" fill="#666"/>'
            '<rect x="260" y="20" width="100" height="100" fill="#000"/>'
        )
        for tone in (1, 2, 3):
            _, area = found(greys, tones=3, tone=tone)
            self.assertAlmostEqual(area.area, (4 - tone) * 10_000, delta=350)
        rough = [len(found(noisy(picture), smooth=smooth)[0].outline.segments) for smooth in (0, 1, 4)]
        self.assertGreater(rough[0], rough[1])
        self.assertGreater(rough[1], rough[2])

    def test_nothing_to_see_gives_nothing(self) -> None:
        self.assertEqual(0, len(found(shapes(""))[0].outline.segments))

    def test_as_art_it_has_its_width(self) -> None:
        file = io.BytesIO()
        Image.fromarray(shapes(self.RING)).save(file, "PNG")
        art = {"id": "p", "kind": "picture", "file": file_id(file.getvalue()), "name": "a.png", "width": 80}
        data = {"format": "tin-halo/1", "art": [art], "layers": [{"id": "a", "recipe": {"from": ["p"]}}]}
        made = build(parse_design(data), OwnFiles({}, {"a.png": file.getvalue()})).layers[0]
        self.assertAlmostEqual(made.measures.area, math.pi * (20**2 - 8**2), delta=1.5)


class Files(unittest.TestCase):
    def test_formats_turned_upright(self) -> None:
        """EXIF orientation 6: the camera was turned a quarter (CIPA DC-008)."""
        drawn = Image.new("RGB", (40, 20), "white")
        ImageDraw.Draw(drawn).rectangle((0, 0, 9, 9), fill="black")
        for kind in ("PNG", "JPEG", "WEBP", "TIFF", "GIF"):
            file = io.BytesIO()
            exif = Image.Exif()
            exif[0x0112] = 6
            drawn.save(file, kind, **({"exif": exif} if kind in ("JPEG", "WEBP", "PNG") else {}))
            made = judge(file.getvalue())
            with self.subTest(kind):
                assert not isinstance(made, str)
                turned = kind in ("JPEG", "WEBP", "PNG")
                self.assertEqual((40, 20) if turned else (20, 40), pixels(made[0]).shape[:2])
                # What was at the upper left is at the upper right then.
                corner = pixels(made[0])[3, -4 if turned else 3]
                self.assertLess(corner[0], 60)

    def test_strange_files_are_told(self) -> None:
        small = io.BytesIO()
        Image.new("RGB", (60, 60), "white").save(small, "PNG")
        sound = bytearray(small.getvalue())
        # A header that says it is 60,000 dots wide and high.
        lying = bytes(sound[:16]) + (60_000).to_bytes(4, "big") * 2 + bytes(sound[24:])
        for name, data in (
            ("cut off", bytes(sound[: len(sound) // 2])),
            ("lying", lying),
            ("empty", b"\x89PNG"),
            ("tiny", b"GIF89a\x01\x00\x01\x00\x00\x00\x00;"),
        ):
            with self.subTest(name), self.assertRaisesRegex(DrawingError, r"^a\.png .*\.$"):
                vet(data, "a.png")


if __name__ == "__main__":
    unittest.main()
