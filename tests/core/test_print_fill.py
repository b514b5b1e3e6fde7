"""Patterns and pictures in print: the same in every format, by readers that are not ours (resvg, PDFium)."""

from __future__ import annotations

import io
import json
import math
import unittest
from typing import Any, get_args

import numpy as np
import pypdfium2
import resvg_py
from PIL import Image, ImageDraw

from tests.support import BRIEFLY
from tinhalo.core.artwork.drawings.error import DrawingError
from tinhalo.core.artwork.lettering.shipped import ShippedLibrary
from tinhalo.core.design.hand_over import HandOver
from tinhalo.core.design.laying import Laying
from tinhalo.core.design.print_fill import Motif
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.build import build
from tinhalo.core.engine.built import Build
from tinhalo.core.findings.finding import Finding
from tinhalo.core.findings.survey import survey
from tinhalo.core.output import eps, pdf, svg
from tinhalo.core.output.drawing import Drawing, drawing_of
from tinhalo.core.output.items import laid_boards
from tinhalo.core.output.sheets import lay_out, sheets_of
from tinhalo.core.runtime.memo import Memo

GROUND, INK = "#204080", "#f0d050"
DOTS_PER_MM = 10


def picture() -> bytes:
    """A quarter of it red at the upper left, the rest green; its right half see-through."""
    made = Image.new("RGBA", (80, 60), "#00a000")
    ImageDraw.Draw(made).rectangle((0, 0, 39, 29), fill="#d00000")
    made.paste((0, 0, 0, 0), (60, 0, 80, 60))
    held = io.BytesIO()
    made.save(held, "PNG")
    return held.getvalue()


class _Library(ShippedLibrary):
    """What ships, and one picture."""

    def picture(self, file: str) -> bytes:
        if file != "own":
            raise DrawingError("The picture is not here.")
        return picture()


def printed(fill: dict[str, Any] | None, width: float = 48, **more: Any) -> Build:
    plate = {"op": "plate", "shape": "rectangle", "width": width, "height": 36}
    layer = {"id": "p", "process": "print", "colour": GROUND, "fill": fill, "recipe": {"from": ["n"], "steps": [plate]}}
    art = [{"id": "n", "text": "o", "font": "anton", "size": 10}]
    return build(parse_design({"format": "tin-halo/1", "art": art, "layers": [layer], **more}), _Library())


def told(fill: dict[str, Any]) -> list[Finding]:
    # That nothing cuts the print out is another matter.
    return [one for one in survey(printed(fill), Memo()) if one.layer == "p" and one.kind != "nothing_cuts_it"]


def by_resvg(page: Drawing) -> np.ndarray:
    text = svg.write(page, HandOver()).decode()
    painted = resvg_py.svg_to_bytes(svg_string=text, dpi=25.4 * DOTS_PER_MM, background="#ffffff")
    return np.asarray(Image.open(io.BytesIO(bytes(painted))).convert("RGB"), float)


def by_pdfium(page: Drawing) -> np.ndarray:
    document = pypdfium2.PdfDocument(pdf.write(page, HandOver()))
    scale: Any = 25.4 * DOTS_PER_MM / 72
    return np.asarray(document[0].render(scale=scale).to_pil().convert("RGB"), float)


def share_of(seen: np.ndarray, colour: str) -> float:
    """The share of dots nearer to a colour than to a ground of another."""
    wanted = np.array([int(colour[k : k + 2], 16) for k in (1, 3, 5)], float)
    return float((np.abs(seen - wanted).max(axis=2) < 40).mean())


class Patterns(unittest.TestCase):
    def test_each_covers_as_much_as_its_shapes_do_in_both_formats(self) -> None:
        # Areas of the shapes by plane geometry, as shares of a tile; a pentagram's by its ten triangles.
        inner = (3 - math.sqrt(5)) / 2
        star = 2 * 10 * 0.5 * 0.24**2 * inner * math.sin(math.radians(36))
        wanted: dict[Motif, float] = {
            "stripes": 0.5,
            "dots": 2 * math.pi * 0.17**2,
            "checks": 0.5,
            "gingham": 0.25,
            "diamonds": 0.5,
            "stars": star,
            "waves": 0.5,
        }
        self.assertEqual(set(get_args(Motif)), set(wanted))
        for motif, share in wanted.items():
            # Eight tiles across; as diamonds are higher than wide, a part of one is left over at two edges.
            made = printed({"kind": "pattern", "motif": motif, "colour": INK, "size": 6})
            for seen in (by_resvg(drawing_of(made)), by_pdfium(drawing_of(made))):
                with self.subTest(motif):
                    self.assertAlmostEqual(share_of(seen, INK), share, delta=0.036)
            self.assertLess(np.abs(by_resvg(drawing_of(made)) - by_pdfium(drawing_of(made))[:360, :480]).mean(), 6)

    def test_it_is_mirrored_and_turned_with_the_page(self) -> None:
        made = printed({"kind": "pattern", "motif": "stripes", "colour": INK, "size": 6, "turn": 30})
        plain, mirrored = drawing_of(made), drawing_of(made).mirrored()
        self.assertLess(np.abs(by_resvg(plain)[:, ::-1] - by_resvg(mirrored)).mean(), 6)
        self.assertGreater(np.abs(by_resvg(plain) - by_resvg(mirrored)).mean(), 30)
        self.assertLess(np.abs(by_resvg(mirrored) - by_pdfium(mirrored)[:360, :480]).mean(), 6)

    def test_finer_than_files_can_hold_it_is_told_and_plain(self) -> None:
        fine = {"kind": "pattern", "motif": "dots", "size": 0.5}
        self.assertIsNotNone(drawing_of(printed(fine)).layers[0].paint)
        made = printed(fine, width=900)
        self.assertIsNone(drawing_of(made).layers[0].paint)
        (found,) = [one for one in survey(made, Memo()) if one.layer == "p" and one.kind == "not_made"]
        # 900 x 36 mm hold 129,600 squares of half a millimetre.
        self.assertIn("would come 129,600 times", found.sentence)

    def test_only_print_is_filled_so(self) -> None:
        made = printed(None)
        self.assertIsNone(drawing_of(made).layers[0].paint)
        cut = made.design.layers[0].model_copy(update={"process": "cut"})
        self.assertIsNone(cut.printed_with)


class Pictures(unittest.TestCase):
    def test_once_it_covers_all_and_what_is_see_through_shows_the_colour(self) -> None:
        seen = by_pdfium(drawing_of(printed({"kind": "picture", "file": "own", "fit": "cover"})))
        self.assertLess(
            np.abs(seen[:360, :480] - by_resvg(drawing_of(printed({"kind": "picture", "file": "own"})))).mean(), 3
        )
        # 80 x 60 dots on 48 x 36 mm: the red quarter is the upper left one, the last quarter shows the ground.
        self.assertAlmostEqual(share_of(seen, "#d00000"), 0.25, delta=0.02)
        self.assertAlmostEqual(share_of(seen[:, 370:], GROUND), 1, delta=0.03)
        self.assertAlmostEqual(share_of(seen[:170, :230], "#d00000"), 1, delta=0.02)

    def test_turned_it_still_covers_all(self) -> None:
        made = printed({"kind": "picture", "file": "own", "fit": "cover", "turn": 37}, width=90)
        self.assertLess(share_of(by_resvg(drawing_of(made)), "#ffffff"), 0.001)

    def test_again_and_again_it_is_as_wide_as_set(self) -> None:
        seen = by_resvg(drawing_of(printed({"kind": "picture", "file": "own", "fit": "tile", "width": 12})))
        # 12 mm are 120 dots: moved by so many the picture is the same.
        self.assertLess(np.abs(seen[:, 120:] - seen[:, :-120]).mean(), 1)
        self.assertAlmostEqual(share_of(seen, "#d00000"), 0.25, delta=0.02)

    def test_what_is_missing_or_coarse_is_told(self) -> None:
        (missing,) = told({"kind": "picture", "file": "gone", "name": "Gull.png"})
        self.assertEqual((missing.kind, missing.severity), ("unknown_file", "error"))
        self.assertIn("“Gull.png”", missing.sentence)
        # 80 dots on 48 mm are 42 to an inch; as wide as 13.6 mm, they are 150.
        (coarse,) = told({"kind": "picture", "file": "own"})
        self.assertIn("42 dots to an inch", coarse.sentence)
        self.assertEqual([], told({"kind": "picture", "file": "own", "fit": "tile", "width": 13}))

    def test_postscript_holds_each_picture_once_and_says_its_level(self) -> None:
        made = printed({"kind": "picture", "file": "own", "fit": "tile", "width": 4})
        text = eps.write(drawing_of(made)).decode()
        self.assertEqual(1, text.count("ReusableStreamDecode"))
        self.assertIn("%%LanguageLevel: 3", text)
        self.assertLessEqual(max(map(len, text.splitlines())), 255)
        plain = eps.write(drawing_of(printed({"kind": "pattern", "motif": "dots"}))).decode()
        self.assertIn("%%LanguageLevel: 2", plain)


class Travelling(unittest.TestCase):
    def test_copies_on_a_sheet_have_it_where_they_lie(self) -> None:
        fill = {"kind": "pattern", "motif": "dots", "colour": INK, "size": 6}
        made = printed(fill)
        laying = Laying(copies=3, turning="none")
        laying = lay_out(laid_boards(made, laying), laying, BRIEFLY)
        hand_over = made.design.hand_over.model_copy(update={"laying": laying})
        made = printed(fill, hand_over=json.loads(hand_over.model_dump_json()))
        (sheet,) = sheets_of(made)
        paints = [one.paint for one in sheet.drawing.layers]
        self.assertEqual(3, len({tuple(one.matrix.ravel().round(3)) for one in paints if one}))
        ids = [part.split('"')[0] for part in svg.write(sheet.drawing).decode().split('<g id="p')[1:]]
        self.assertEqual(len(ids), len(set(ids)))


if __name__ == "__main__":
    unittest.main()
