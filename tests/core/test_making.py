"""Files of boards and sheets, made on a simulated machine: what falls out are the layers' pieces."""

from __future__ import annotations

import random
import tempfile
import unittest
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
import shapely
from shapely import Polygon

from tests.core.makers import READERS, WITHIN, Line, Sheet, read
from tests.core.test_listing import CREW, keyring
from tests.core.test_machine_files import DEMOS, demo
from tests.core.test_shared_cuts import design, plate
from tests.sampling import SEED, sampled
from tests.support import BRIEFLY, FONTS, LIBRARY, build_of
from tinhalo.core.design.hand_over import CUTS, HandOver
from tinhalo.core.design.laying import Laying
from tinhalo.core.design.names import Column
from tinhalo.core.design.names import Names as NameList
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.built import Build
from tinhalo.core.listing.batch import Job
from tinhalo.core.listing.each import row_of
from tinhalo.core.listing.leaving import laid_list
from tinhalo.core.output.drawing import Drawing
from tinhalo.core.output.formats import FORMATS
from tinhalo.core.output.items import laid_boards
from tinhalo.core.output.names import Names
from tinhalo.core.output.parts import Part, parts_of
from tinhalo.core.output.sheets import as_laid, lay_out, sheets_of
from tinhalo.core.starters import STARTERS, with_words


def titled(drawing: Drawing) -> Drawing:
    """The drawing with layers called by their process, which is all that R12 could tell it by."""
    layers = tuple(replace(one, title=f"L{k} {one.process}") for k, one in enumerate(drawing.layers))
    return replace(drawing, layers=layers)


def wanted_pieces(made: Build, part: Part, copies: int = 1) -> list[Polygon]:
    """The pieces that are to fall out, as the layers' areas say."""
    layers = [one for one in made.leaving() if one.layer.id in part.layers and one.layer.process in CUTS]
    return [piece for one in layers for piece in one.region.area.geoms for _ in range(copies)]


class Making(unittest.TestCase):
    def make(self, made: Build, part: Part, copies: int = 1) -> None:
        """Make a file in each format, and compare what falls out with the layers."""
        self.make_drawing(part.drawing, wanted_pieces(made, part, copies), made.design.hand_over, part.stem)

    def make_drawing(
        self, drawing: Drawing, wanted: list[Polygon], options: HandOver, name: str, use: str | None = None
    ) -> None:
        """Make a drawing in each format, or only its lines of a use, and compare what falls out."""
        drawing = titled(drawing)
        if not any(one.process in CUTS and one.style.stroke for one in drawing.layers):
            return
        wanted = sorted(wanted, key=lambda one: one.area)
        holes = [Polygon(hole).area for one in wanted for hole in one.interiors]
        # Of what is hardly there nobody sees whether it fell.
        sure = len(wanted) + sum(area > 0.06 for area in holes)
        width, height = drawing.size
        for format in READERS:
            with self.subTest(name, use=use, format=format):
                lines = read(format, FORMATS[format].write(drawing, options))
                every = np.concatenate([line.points for line in lines])
                self.assertGreaterEqual(every.min(), -WITHIN, "begins at 0,0 or above")
                self.assertLessEqual((every - (width, height)).max(), WITHIN, "nothing lies outside of the page")
                sheet = Sheet(shapely.box(-1, -1, width + 1, height + 1))
                sheet.follow(line for line in lines if use is None or line.use == use)
                self.assertEqual([], sheet.faults)
                self.assertIn(len(sheet.fallen), range(sure, len(wanted) + len(holes) + 1))
                self.compare(wanted, list(sheet.fallen))

    def compare(self, wanted: list[Polygon], fallen: list[Polygon]) -> None:
        """Each wanted piece is among the fallen ones, by its area and box."""
        for piece in wanted:
            within = WITHIN * piece.length + 1e-3 * piece.area
            alike = [one for one in fallen if abs(one.area - piece.area) < within and self.same_box(one, piece)]
            self.assertTrue(alike, f"no piece of {piece.area:.2f} mm² has fallen out")
            fallen.remove(min(alike, key=lambda one: abs(one.area - piece.area)))

    @staticmethod
    def same_box(one: Polygon, other: Polygon) -> bool:
        a, b = (np.subtract(shape.bounds[2:], shape.bounds[:2]) for shape in (one, other))
        return bool(np.abs(a - b).max() < 0.1 or np.abs(a - b[::-1]).max() < 0.1)

    def boards(self, made: Build) -> list[Part]:
        return [one for one in parts_of(made, Names.of(made)) if one.kind == "boards"]

    def test_boards_of_starters_and_demos(self) -> None:
        for one in sampled(STARTERS, 1 / 4):
            made = build_of(with_words(one.document, "Bram"))
            for part in self.boards(made):
                self.make(made, part)
        for path in sampled(DEMOS, 1 / 3):
            for part in self.boards(demo(path)):
                self.make(demo(path), part)

    def random_design(self, number: int) -> dict[str, Any]:
        """Up to three layers of one stock, one of them perhaps scored, and marks perhaps."""
        chance = random.Random(f"{SEED} {number}")
        text = chance.choice(["Bo", "Åsa", "B8", "Idris"])
        words = {"id": "w", "text": text, "font": chance.choice(FONTS), "size": 24}
        ring = {"id": "s", "kind": "shape", "shape": "ring", "width": 60, "height": 60}
        art = [words, ring | {"place": {"x": chance.uniform(-30, 60)}}]
        layers: list[dict[str, Any]] = []
        for k in range(chance.randint(1, 3)):
            steps: list[dict[str, Any]] = [{"op": "offset", "by": round(chance.uniform(0.5, 7), 2)}]
            if chance.random() < 0.4:
                steps.append({"op": "fill_holes"})
            process = chance.choice(["cut", "cut", "cut", "through", "score"]) if k else "cut"
            recipe = {"from": [chance.choice(["w", "s"])], "steps": steps if chance.random() < 0.7 else []}
            layers.append({"id": f"l{k}", "process": process, "material": "ply-3", "recipe": recipe})
        lining_up = {"marks": chance.choice(["none", "crosses"])}
        return {"format": "tin-halo/1", "art": art, "layers": layers, "hand_over": {"lining_up": lining_up}}

    def test_boards_of_random_designs(self) -> None:
        for number in sampled(range(100), 1 / 20):
            made = build_of(parse_design(self.random_design(number)))
            for part in self.boards(made):
                self.make(made, part)

    def test_sheets(self) -> None:
        made = build_of(parse_design(self.random_design(1)))
        laying = lay_out(laid_boards(made, Laying(copies=2)), Laying(copies=2), BRIEFLY)
        hand_over = made.design.hand_over.model_copy(update={"laying": laying})
        made = build_of(made.design.model_copy(update={"hand_over": hand_over}))
        sheets = sheets_of(made)
        self.assertEqual(1, len(sheets))
        parts = [one for one in parts_of(made, Names.of(made), sheets) if one.sheet]
        for part in parts:
            self.make(made, part, 2)

    def test_a_cut_that_serves_two_pieces(self) -> None:
        for first, second in ((plate(0), plate(40)), (plate(0), plate(35, 30)), (plate(0), plate(40, 40, 20))):
            made = build_of(design(first, second))
            self.assertIsNotNone(made.layers[1].cut_lines)
            for part in self.boards(made):
                self.make(made, part)

    def test_kiss_cuts_are_made_before_the_film_is_cut_through(self) -> None:
        """Each depth is made by itself: what is cut down to the carrier does not fall out of what is cut through."""
        border = {"op": "offset", "by": 3}
        layers = [
            {"id": "words", "material": "vinyl", "recipe": {"from": ["w"]}},
            {
                "id": "sticker",
                "process": "through",
                "material": "vinyl",
                "recipe": {"from": ["w"], "steps": [border, {"op": "fill_holes"}]},
            },
        ]
        art = [{"id": "w", "text": "Ottoline", "font": FONTS[0], "size": 30}]
        made = build_of(parse_design({"format": "tin-halo/1", "name": "Kiss", "art": art, "layers": layers}))
        (part,) = self.boards(made)
        for format in READERS:
            with self.subTest(format=format):
                uses = [line.use for line in read(format, FORMATS[format].write(titled(part.drawing), HandOver()))]
                self.assertEqual({"cut", "through"}, set(uses))
                self.assertEqual(sorted(uses), uses)
        for layer in made.leaving():
            pieces = list(layer.region.area.geoms)
            self.make_drawing(part.drawing, pieces, made.design.hand_over, "kiss", layer.layer.process)

    def test_sheets_of_a_list(self) -> None:
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        rows = (("Zoë", "2"), ("Bram", "1"))
        laying = Laying()
        names = NameList(columns=(Column(use="words", art="w"), Column(use="copies")), rows=rows)
        job = Job(keyring().model_copy(update={"names": names}), folder)
        boards = laid_list(job, laying, CREW)
        singles = [build_of(row_of(job.design, names, k, LIBRARY).design) for k in range(len(rows))]
        for sheet in as_laid(boards, lay_out(boards, laying, BRIEFLY)):
            material = sheet.board.board.material
            wanted = [
                piece
                for single, (_, copies) in zip(singles, rows, strict=True)
                for one in single.leaving()
                if one.layer.material == material and one.layer.process in CUTS
                for piece in one.region.area.geoms
                for _ in range(int(copies))
            ]
            self.make_drawing(sheet.drawing, wanted, job.design.hand_over, sheet.drawing.title)

    def test_the_machine_notices_a_border_cut_before_what_lies_in_it(self) -> None:
        ring = np.array([(1, 1), (9, 1), (9, 9), (1, 9), (1, 1)], float)
        hole = (ring - 5) / 2 + 5
        for lines, faults in (([hole, ring], 0), ([ring, hole], 2), ([ring, ring], 1)):
            sheet = Sheet(shapely.box(0, 0, 10, 10))
            sheet.follow(Line("cut", one) for one in lines)
            self.assertEqual(faults, len(sheet.faults))


if __name__ == "__main__":
    unittest.main()
