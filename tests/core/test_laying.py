"""What leaves laid on sheets: nothing overlaps, nothing is lost, what was laid is what leaves."""

from __future__ import annotations

import json
import unittest
import xml.etree.ElementTree as ET
from typing import Any

import numpy as np
import shapely
import svgelements

from tests.support import BRIEFLY, build_of
from tinhalo.core.artwork.error import ArtError
from tinhalo.core.design.design import Design
from tinhalo.core.design.laying import Laying, Margins
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.built import Build
from tinhalo.core.output.blank import Blank, Blanks
from tinhalo.core.output.items import laid_boards
from tinhalo.core.output.names import Names
from tinhalo.core.output.nesting import nest
from tinhalo.core.output.pack import pack_files
from tinhalo.core.output.parts import download_parts
from tinhalo.core.output.raster_nesting import Nested, placed
from tinhalo.core.output.sheets import lay_out, sheets_of

SVG = "{http://www.w3.org/2000/svg}"


def keyrings(**laying: Any) -> Build:
    """Two names on backers of plywood with a placing line, and a decal of film."""
    names = [("fenna", "Fenna"), ("bram", "Bram")]
    art: list[dict[str, Any]] = [
        {"id": id, "text": text, "font": "pacifico", "size": 24, "join": {"overlap": 0.3}, "place": {"y": -50 * k}}
        for k, (id, text) in enumerate(names)
    ]
    steps = [{"op": "offset", "by": 4}, {"op": "fill_holes"}]
    both = [id for id, _ in names]
    layers = [
        {"id": "film", "material": "vinyl", "recipe": {"from": both}},
        {"id": "line", "process": "score", "material": "ply-3", "recipe": {"from": both}},
        {"id": "back", "material": "ply-3", "recipe": {"from": both, "steps": steps}},
    ]
    data: dict[str, Any] = {"format": "tin-halo/1", "name": "Keyrings", "art": art, "layers": layers}
    if laying:
        data["hand_over"] = {"laying": laying}
    return build_of(parse_design(data))


def laid(made: Build, laying: Laying) -> Build:
    found = lay_out(laid_boards(made, laying), laying, BRIEFLY)
    hand_over = made.design.hand_over.model_copy(update={"laying": found})
    return build_of(made.design.model_copy(update={"hand_over": hand_over}))


def sheet_of(size: tuple[float, float], margin: float) -> Blanks:
    return Blanks(Blank(size, Margins.all(margin)))


class Items(unittest.TestCase):
    def test_pieces_come_apart_with_what_lies_on_them_and_film_keeps_its_places(self) -> None:
        made = keyrings()
        film, ply = laid_boards(made)
        self.assertEqual((1, 2), (len(film.items), len(ply.items)))
        for item in ply.items:
            self.assertEqual(["line", "back"], [layer.id for layer in item.layers])
        area = sum(item.area for item in ply.items)
        back = next(one for one in made.layers if one.layer.id == "back")
        self.assertAlmostEqual(back.measures.area, area, delta=0.001 * area)
        pieces = sum(len(layer.pieces) for item in (*film.items, *ply.items) for layer in item.layers)
        self.assertEqual(sum(one.measures.pieces for one in made.leaving()), pieces)
        for item in (*film.items, *ply.items):
            ring = np.concatenate([c.segments[:, 0] for layer in item.layers for piece in layer.pieces for c in piece])
            self.assertTrue(item.hull.covers(shapely.MultiPoint(ring)))
            x0, y0, x1, y1 = item.hull.bounds
            np.testing.assert_allclose((x0 + x1, y0 + y1), 0, atol=1e-9)

    def test_stitches_go_with_their_piece_and_nothing_is_left_behind(self) -> None:
        art = [{"id": "p", "kind": "shape", "shape": "rectangle", "width": 60, "height": 30}]
        stitch = {"op": "stitch", "inset": 3}
        layers = [
            {"id": "holes", "material": "felt", "recipe": {"from": ["p"], "steps": [stitch]}},
            {"id": "patch", "material": "felt", "recipe": {"from": ["p"]}},
        ]
        for kept in (layers, layers[:1]):
            made = build_of(parse_design({"format": "tin-halo/1", "art": art, "layers": kept}))
            (board,) = laid_boards(made)
            marks = sum(len(layer.strokes) for item in board.items for layer in item.layers)
            self.assertEqual(made.layers[0].measures.marks, marks)
            self.assertEqual(len(kept) == 2, len(board.items) == 1)


class Nesting(unittest.TestCase):
    def test_nothing_overlaps_and_all_of_it_is_there(self) -> None:
        (board,) = [one for one in laid_boards(keyrings()) if one.board.material == "ply-3"]
        hulls = [item.hull for item in board.items]
        size, margin, apart = (300.0, 200.0), 6.0, 3.0
        found = nest(hulls, [12] * len(hulls), sheet_of(size, margin), apart, "quarter", BRIEFLY)
        self.assertEqual([12, 12], [sum(one.item == k for one in found) for k in range(2)])
        inner = shapely.box(margin - 0.01, margin - 0.01, size[0] - margin + 0.01, size[1] - margin + 0.01)
        for sheet in {one.sheet for one in found}:
            on = [placed(hulls[one.item], one) for one in found if one.sheet == sheet]
            self.assertTrue(all(inner.covers(one) for one in on))
            for k, one in enumerate(on):
                self.assertGreater(min((one.distance(other) for other in on[:k]), default=apart), apart - 0.01)
            # From the sheet's upper left corner on.
            boxes = np.array([one.bounds for one in on])
            self.assertAlmostEqual(margin, float(boxes[:, 0].min()), places=6)
            self.assertAlmostEqual(size[1] - margin, float(boxes[:, 3].max()), places=6)
        self.assertLessEqual({one.turn % 90 for one in found}, {0.0})

    def test_a_small_piece_on_a_large_sheet(self) -> None:
        (one,) = nest([shapely.box(-2, -2, 2, 2)], [1], sheet_of((600.0, 400.0), 5), 2, "quarter", BRIEFLY)
        self.assertAlmostEqual(7, one.x, places=6)
        self.assertAlmostEqual(393, one.y, places=6)

    def test_the_grain_keeps_its_direction(self) -> None:
        found = nest([shapely.box(-40, -5, 40, 5)], [12], sheet_of((200.0, 60.0), 5), 2, "grain", BRIEFLY)
        self.assertLessEqual({round(one.turn) % 180 for one in found}, {0})
        self.assertGreater(max(one.sheet for one in found), 0)

    def test_it_is_tighter_than_boxes_in_rows(self) -> None:
        """Against rows of equal boxes, either way round: what is done by hand."""
        (board,) = [one for one in laid_boards(keyrings()) if one.board.material == "ply-3"]
        hull, copies, width, height, apart = board.items[0].hull, 30, 600.0, 300.0, 2.0
        found = nest([hull], [copies], sheet_of((width, height), 0), apart, "quarter", 1)
        length = max(placed(hull, one).bounds[2] for one in found)
        x0, y0, x1, y1 = hull.bounds

        def rows(across: float, up: float) -> float:
            each = int((height + apart) // (up + apart))
            return -(-copies // each) * (across + apart) - apart

        self.assertLess(length, rows(x1 - x0, y1 - y0))

    def test_what_does_not_fit_is_told(self) -> None:
        big = shapely.box(-150, -10, 150, 10)
        with self.assertRaisesRegex(ArtError, "300 × 20 mm does not fit on a sheet of 200 × 200"):
            nest([big], [1], sheet_of((200.0, 200.0), 5), 2, "quarter")
        with self.assertRaisesRegex(ArtError, "A piece of Plate of 300 × 20 mm"):
            nest([big], [1], sheet_of((200.0, 200.0), 5), 2, "quarter", names=["Plate"])
        with self.assertRaisesRegex(ArtError, "margins leave nothing"):
            nest([big], [1], sheet_of((20.0, 20.0), 10), 2, "quarter")
        with self.assertRaisesRegex(ArtError, "2,000 is the most"):
            nest([big] * 5, [500] * 5, sheet_of((900.0, 900.0), 5), 2, "quarter")


class Leaving(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.made = laid(keyrings(), Laying(copies=3))

    def test_a_file_for_each_sheet_has_every_copy_at_true_size(self) -> None:
        files = pack_files(self.made)
        told = json.loads(files["manifest.json"])
        self.assertEqual(["sheet-vinyl-1.svg", "sheet-ply-3-1.svg"], [one["file"] for one in told["sheets"]])
        self.assertEqual([3, 6], [one["pieces"] for one in told["sheets"]])
        for sheet in told["sheets"]:
            self.assertEqual([], sheet["wrong"])
            root = ET.fromstring(files[sheet["file"]])
            self.assertEqual([f"{side:g}mm" for side in sheet["size_mm"]], [root.get("width"), root.get("height")])
        group = next(g for g in ET.fromstring(files["sheet-ply-3-1.svg"]).iter(f"{SVG}g") if g.get("id") == "back")
        area = 0.0
        for path in group.iter(f"{SVG}path"):
            shape = svgelements.Path(path.get("d"))
            points: list[Any] = [shape.point(k / 2000) for k in range(2000)]
            area += shapely.Polygon([(p.x, p.y) for p in points]).area
        back = next(one for one in self.made.layers if one.layer.id == "back")
        self.assertLess(abs(area / (3 * back.measures.area) - 1), 2e-3)

    def test_what_has_changed_since_does_not_leave_as_it_was_laid(self) -> None:
        data = self.made.design.model_dump(mode="json", by_alias=True)
        data["art"][0]["text"] = "Idris"
        other = build_of(parse_design(data))
        self.assertEqual([], sheets_of(other))
        self.assertEqual([], json.loads(pack_files(other)["manifest.json"])["sheets"])

    def test_what_is_moved_onto_another_is_told(self) -> None:
        laying = self.made.design.hand_over.laying
        assert laying
        ply = [k for k, one in enumerate(laying.placed) if one.board == 1]
        first = laying.placed[ply[0]]
        moved = list(laying.placed)
        moved[ply[1]] = moved[ply[1]].model_copy(update={"x": first.x, "y": first.y})
        moved[ply[2]] = moved[ply[2]].model_copy(update={"x": -5.0})
        hand_over = {"laying": laying.model_copy(update={"placed": tuple(moved)})}
        design: Design = self.made.design.model_copy(
            update={"hand_over": self.made.design.hand_over.model_copy(update=hand_over)}
        )
        wrong = " ".join(next(one.wrong for one in sheets_of(build_of(design)) if one.board.board.material == "ply-3"))
        self.assertIn("1 piece lies over the margin", wrong)
        self.assertIn("nearer than 2 mm", wrong)

    def test_what_is_larger_than_a_sheet_is_split_with_overlap_and_marks(self) -> None:
        art = [{"id": "n", "kind": "shape", "shape": "rectangle", "width": 500, "height": 100}]
        layers = [{"id": "film", "material": "vinyl", "recipe": {"from": ["n"]}}]
        sizes = [{"material": "vinyl", "width": 300, "height": 210}]
        laying = {"sizes": sizes, "margin": 5, "overlap": 8}
        data = {"format": "tin-halo/1", "art": art, "layers": layers, "hand_over": {"laying": laying}}
        made = build_of(parse_design(data))
        (board,) = laid_boards(made)
        self.assertEqual((2, 2), (len(board.items), board.split))
        # Together they are as long as the whole and the overlap.
        self.assertAlmostEqual(508 * 100, sum(one.area for one in board.items), delta=1)
        for item in board.items:
            marks, film = item.layers
            # A mark of two strokes above the seam, and one under it, which are never cut.
            self.assertEqual(("mark", 4), (marks.process, len(marks.strokes)))
            self.assertEqual(0, len(film.strokes))
        # The middle of both marks is the same place of the job: 4 mm from either part's end.
        ends: list[float] = []
        for item in board.items:
            ring = np.concatenate([c.segments[:, 0] for piece in item.layers[1].pieces for c in piece])
            mark = np.mean([one.segments[:, (0, 3)].mean(axis=(0, 1)) for one in item.layers[0].strokes], axis=0)
            ends.append(float(np.abs(ring[:, 0] - mark[0]).min()))
        np.testing.assert_allclose(ends, (4, 4), atol=1e-3)
        known = made.design.hand_over.laying
        assert known
        sheets = sheets_of(laid(made, known))
        self.assertEqual(2, sum(len(one.placed) for one in sheets))
        self.assertEqual([], [wrong for one in sheets for wrong in one.wrong])

    def test_a_placement_of_what_is_not_there_is_left_out(self) -> None:
        laying = self.made.design.hand_over.laying
        assert laying
        strange = laying.placed[0].model_copy(update={"board": 9})
        hand_over = self.made.design.hand_over.model_copy(
            update={"laying": laying.model_copy(update={"placed": (*laying.placed, strange)})}
        )
        design = self.made.design.model_copy(update={"hand_over": hand_over})
        self.assertEqual(len(laying.placed), sum(len(one.placed) for one in sheets_of(build_of(design))))

    def test_an_item_lies_where_it_is_said(self) -> None:
        hull = shapely.box(-10, -2, 10, 2)
        there = placed(hull, Nested(0, 0, 30, 40, 90))
        np.testing.assert_allclose(there.bounds, (28, 30, 32, 50), atol=1e-9)


def boxes_of(svg: str) -> dict[str, list[tuple[float, ...]]]:
    """The box of every subpath of a file, by layer, as svgelements reads it."""
    found: dict[str, list[tuple[float, ...]]] = {}
    for group in ET.fromstring(svg).iter(f"{SVG}g"):
        paths = [svgelements.Path(path.get("d")) for path in group.iter(f"{SVG}path")]
        boxes: list[Any] = [svgelements.Path(sub).bbox() for path in paths for sub in path.as_subpaths()]
        found[group.get("id") or ""] = sorted(tuple(round(float(v), 3) + 0.0 for v in box) for box in boxes)
    return found


class PrintAndCut(unittest.TestCase):
    """A sheet of copies is printed, and then cut by the marks that both files have at the same places."""

    WIDE, HIGH = 210.0, 148.0

    def sheet(self, marks: str, copies: int = 6) -> Build:
        plate = {"op": "plate", "shape": "ellipse", "width": 40, "height": 24}
        art = [{"id": "name", "text": "Bram", "font": "anton", "size": 8}]
        layers = [
            {"id": "ink", "process": "print", "material": "vinyl", "recipe": {"from": ["name"]}},
            {"id": "sticker", "material": "vinyl", "recipe": {"from": ["name"], "steps": [plate]}},
        ]
        hand_over = {"formats": ["svg"], "lining_up": {"marks": marks}}
        design = {"format": "tin-halo/1", "art": art, "layers": layers, "hand_over": hand_over}
        sizes = [{"material": "vinyl", "width": self.WIDE, "height": self.HIGH}]
        laying = Laying.model_validate({"copies": copies, "margins": Margins.all(2), "sizes": sizes})
        return laid(build_of(parse_design(design)), laying)

    def test_sheets_stand_for_the_board_and_its_halves_in_a_download(self) -> None:
        made = self.sheet("none")
        stems = [part.stem for part in download_parts(made, Names.for_people(made))]
        self.assertEqual([f"Untitled - Vinyl sheet 1{way}" for way in ("", "-print", "-cut")], stems)

    def test_both_files_have_the_sheet_and_its_marks_and_else_only_their_own(self) -> None:
        # Crosses of 6 mm and holes of 3 mm whose middles are 4 mm from the edges, in three corners.
        w, h = self.WIDE, self.HIGH
        middles = [(4.0, 4.0), (w - 4, 4.0), (4.0, h - 4)]
        arms = [box for x, y in middles for box in ((x - 3, -y, x + 3, -y), (x, -y - 3, x, -y + 3))]
        holes = [(x - 1.5, -y - 1.5, x + 1.5, -y + 1.5) for x, y in middles]
        for marks, wanted in (("crosses", arms), ("pins", holes)):
            made = self.sheet(marks)
            files = pack_files(made)
            cut, printed = (files[f"sheet-vinyl-1-{way}.svg"].decode() for way in ("cut", "print"))
            self.assertEqual(ET.fromstring(cut).get("viewBox"), ET.fromstring(printed).get("viewBox"))
            lines, inks = boxes_of(cut), boxes_of(printed)
            with self.subTest(marks):
                # Marks stand once in a file, in a layer of their own.
                self.assertEqual({"registration-marks", "sticker"}, set(lines))
                self.assertEqual({"registration-marks", "ink"}, set(inks))
                for boxes in (lines, inks):
                    self.assertEqual(sorted(wanted), boxes["registration-marks"])
                stickers, letters = lines["sticker"], inks["ink"]
                self.assertEqual(6, len(stickers))
                # What is laid keeps clear of them, whatever margin was asked for.
                self.assertGreaterEqual(np.array(stickers)[:, 0].min(), 8 - 0.01)
                self.assertGreaterEqual(-np.array(stickers)[:, 3].max(), 8 - 0.01)
                self.assertIn('stroke="#000000"', printed)
                for box in letters:
                    inside = [
                        s for s in stickers if s[0] < box[0] and box[2] < s[2] and s[1] < box[1] and box[3] < s[3]
                    ]
                    self.assertEqual(1, len(inside))

    def test_without_marks_there_are_none_and_pieces_over_their_place_are_told(self) -> None:
        made = self.sheet("none")
        cut = pack_files(made)["sheet-vinyl-1-cut.svg"].decode()
        self.assertEqual(6, len(boxes_of(cut)["sticker"]))
        self.assertEqual([()], [one.wrong for one in sheets_of(made)])
        lining_up = made.design.hand_over.lining_up.model_copy(update={"marks": "pins"})
        hand_over = made.design.hand_over.model_copy(update={"lining_up": lining_up})
        (sheet,) = sheets_of(build_of(made.design.model_copy(update={"hand_over": hand_over})))
        self.assertIn("over the margin", " ".join(sheet.wrong))
