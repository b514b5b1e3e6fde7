"""Rows of a list changed one by one, and all of them laid on sheets: what is one's own stays, nothing is missing."""

from __future__ import annotations

import io
import json
import tempfile
import unittest
from collections import Counter
from pathlib import Path
from typing import Any

import numpy as np
import pypdf
import shapely

from tests.core.test_listing import CREW, keyring, listed
from tests.support import BRIEFLY, LIBRARY, build_of
from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.design.design import Design
from tinhalo.core.design.laying import Laying
from tinhalo.core.design.names import Column, Names, OfList
from tinhalo.core.design.reading import parse_design
from tinhalo.core.listing import check_list
from tinhalo.core.listing.batch import Job, batch
from tinhalo.core.listing.each import row_of
from tinhalo.core.listing.leaving import laid_list, leave
from tinhalo.core.listing.own import differences, kept
from tinhalo.core.listing.rows import Asked, look, mend
from tinhalo.core.output.items import laid_boards
from tinhalo.core.output.sheets import as_laid, is_current, lay_out


def words(design: Design, index: int = 0) -> Lettering:
    block = design.art[index]
    assert isinstance(block, Lettering)
    return block


def changed(design: Design, **more: Any) -> Design:
    """Its words with other settings."""
    return design.model_copy(update={"art": (words(design).model_copy(update=more), *design.art[1:])})


class OwnChanges(unittest.TestCase):
    def test_a_moved_letter_stays_when_the_design_changes(self) -> None:
        names = listed("Fenna", "Bram")
        row = row_of(keyring(), names, 1, LIBRARY)
        found = differences(row.usual, changed(row.design, nudges={"0": 1.5}))
        self.assertEqual(((), ["/art/w/nudges/0"]), (found.told, [one.path for one in found.changes]))
        names = kept(names, row.words, found.changes)
        wider = keyring().model_copy(update={"layers": keyring().layers[:1]})
        again = row_of(changed(wider, size=30), names, 1, LIBRARY)
        self.assertEqual((30, {"0": 1.5}, "Bram"), (words(again.design).size, words(again.design).nudges, again.words))
        self.assertEqual({}, words(row_of(keyring(), names, 0, LIBRARY).design).nudges)
        # Nothing different any more: nothing is kept.
        self.assertEqual((), kept(names, row.words, differences(row.usual, row.usual).changes).own)

    def test_a_step_of_one_name_alone(self) -> None:
        row = row_of(keyring(), listed("Bram"), 0, LIBRARY)
        text = row.design.model_dump_json(by_alias=True).replace('"by":3.0', '"by":4.5')
        found = differences(row.usual, parse_design(json.loads(text)))
        names = kept(listed("Bram"), "Bram", found.changes)
        self.assertIn('"by":4.5', row_of(keyring(), names, 0, LIBRARY).design.layers[1].model_dump_json())

    def test_what_has_no_place_any_more_is_told(self) -> None:
        row = row_of(keyring(), listed("Bram"), 0, LIBRARY)
        text = row.design.model_dump_json(by_alias=True).replace('"by":3.0', '"by":4.5')
        names = kept(listed("Bram"), "Bram", differences(row.usual, parse_design(json.loads(text))).changes)
        bare = keyring().model_copy(update={"layers": keyring().layers[:1]})
        self.assertIn("has no place in the design any more", row_of(bare, names, 0, LIBRARY).told[0])
        fewer = row.design.model_copy(update={"layers": row.design.layers[:1]})
        self.assertIn("Layers that were added or taken away", differences(row.usual, fewer).told[0])

    def test_a_mend_is_made_for_one_name_and_ends_its_finding(self) -> None:
        design = keyring()
        design = design.model_copy(update={"names": listed("Wilhelmijn 7", "Bram")})
        before = look(Asked.of(design, 0))
        cause = next(one for one in before.causes if one.mends)
        made = mend(Asked.of(design, 0), cause.kind, cause.layer)
        self.assertTrue(made.changes)
        assert design.names
        after = look(Asked.of(design.model_copy(update={"names": kept(design.names, made.words, made.changes)}), 0))
        self.assertNotIn((cause.kind, cause.layer), [(one.kind, one.layer) for one in after.causes])

    def test_a_row_is_no_list_and_none_of_one(self) -> None:
        design = keyring().model_copy(update={"of_list": OfList(design="x", words="y")})
        row = row_of(design, listed("Bram"), 0, LIBRARY)
        self.assertEqual((None, None), (row.design.names, row.design.of_list))


class Cells(unittest.TestCase):
    def made(self, column: dict[str, Any], cell: str) -> Any:
        names = Names(columns=(Column(use="words", art="w"), Column.model_validate(column)), rows=(("Bram", cell),))
        return row_of(keyring(), names, 0, LIBRARY)

    def test_columns_for_one_block_stand_beside_each_other(self) -> None:
        row = self.made({"use": "words", "art": "w"}, "Oude")
        self.assertEqual(("Bram Oude", "Bram Oude"), (words(row.design).text, row.words))

    def test_sizes_in_their_units(self) -> None:
        for cell, size in (("30", 30), ("2,5 cm", 25), ("1 in", 25.4), (" 12.5mm", 12.5), ("", 20)):
            with self.subTest(cell):
                row = self.made({"use": "size", "art": "w"}, cell)
                self.assertAlmostEqual(size, words(row.design).size)
        self.assertIn("“large” is no size", self.made({"use": "size", "art": "w"}, "large").told[0])

    def test_materials_by_name(self) -> None:
        row = self.made({"use": "material", "layer": "backer"}, "acrylic 3 mm")
        self.assertEqual("acrylic-3", row.design.layers[1].material)
        self.assertIn("no material “cheese”", self.made({"use": "material", "layer": "backer"}, "cheese").told[0])


class OnSheets(unittest.TestCase):
    def setUp(self) -> None:
        self.out = Path(self.enterContext(tempfile.TemporaryDirectory()))

    def job(self, laying: Laying | None) -> Job:
        columns = (Column(use="words", art="w"), Column(use="copies"))
        names = Names(columns=columns, rows=(("Zoë", "2"), ("Bram", "1"), ("محمد", "1")), laying=laying)
        return Job(keyring().model_copy(update={"names": names}), self.out)

    def test_every_piece_of_every_row_lies_there_as_often_as_it_is_made(self) -> None:
        laying = Laying(turning="quarter")
        job = self.job(laying)
        boards = laid_list(job, laying, CREW)
        self.assertEqual(["acrylic-3", "ply-3"], sorted(one.board.material for one in boards))
        laid = lay_out(boards, laying, BRIEFLY)
        self.assertTrue(is_current(boards, laid))
        on = Counter((one.board, boards[one.board].items[one.item].row) for one in laid.placed)
        for board, laid_board in enumerate(boards):
            single = {
                row: next(
                    one
                    for one in laid_boards(build_of(row_of(job.design, job.names, row - 1, LIBRARY).design))
                    if one.board.material == laid_board.board.material
                )
                for row in (1, 2)
            }
            for row, copies in ((1, 2), (2, 1)):
                with self.subTest(board=laid_board.board.title, row=row):
                    self.assertEqual(copies * len(single[row].items), on[board, row])
                    area = sum(one.area for one in laid_board.items if one.row == row)
                    self.assertAlmostEqual(sum(one.area for one in single[row].items), area, places=6)
        for sheet in as_laid(boards, laid):
            self.assertEqual((), sheet.wrong)
            areas = [
                shapely.Polygon(ring.segments[:, 0]) for layer in sheet.drawing.layers for (ring, *_) in layer.pieces
            ]
            pairs = shapely.STRtree(areas).query(areas, predicate="intersects")
            self.assertTrue((pairs[0] == pairs[1]).all())
            self.assertLess(np.array([one.bounds for one in areas]).max(), max(sheet.size))

    def test_all_of_it_leaves(self) -> None:
        job = self.job(Laying())
        done = list(batch(job, CREW))
        self.assertEqual((), leave(job, done, CREW, anew=True, seconds=BRIEFLY))
        told = json.loads((self.out / "list.json").read_text())
        self.assertEqual([1, 2, 3], [one["row"] for one in told["rows"]])
        for sheet in told["sheets"]:
            self.assertTrue((self.out / "sheets" / f"{sheet['file']}.svg").exists())
        # What the font lacks cannot be made: nothing of that row is on a sheet.
        self.assertEqual({1, 2}, {row for sheet in told["sheets"] for row in sheet["rows"]})
        key = pypdf.PdfReader(self.out / "sheets" / "key.pdf")
        text = "\n".join(page.extract_text() for page in key.pages)
        self.assertIn("1  Zoë × 2", text)
        self.assertIn("2  Bram", text)
        ticked = pypdf.PdfReader(self.out / "check list.pdf").pages[0].extract_text()
        self.assertIn("3 rows, 4 pieces", ticked)
        self.assertIn("Zoë × 2", ticked)
        self.assertIn("Pacifico lacks the characters", " ".join(ticked.split()))

    def test_sheets_of_another_list_do_not_leave(self) -> None:
        laying = Laying()
        boards = laid_list(self.job(laying), laying, CREW)
        laid = lay_out(boards, laying, BRIEFLY)
        job = self.job(laid)
        rows = (("Zoë", "3"), *job.names.rows[1:])
        other = job.design.model_copy(update={"names": job.names.model_copy(update={"rows": rows})})
        told = leave(Job(other, self.out), list(batch(Job(other, self.out), CREW)), CREW)
        self.assertIn("has changed since it was laid", told[0])
        self.assertFalse((self.out / "sheets").exists())

    def test_a_check_list_has_every_row_however_much_there_is_to_know(self) -> None:
        lines = [
            check_list.Line(k, f"Name {k}", 1, b"", ("Much to know. " * (k * 12),) if k else ()) for k in range(60)
        ]
        pages = pypdf.PdfReader(io.BytesIO(check_list.write("Class", lines))).pages
        text = " ".join(" ".join(page.extract_text().split()) for page in pages)
        for k in range(60):
            self.assertIn(f"Name {k} ", f"{text} ")
        for word in ("Much", "know."):
            self.assertEqual(sum(k * 12 for k in range(60)), text.count(word))
        self.assertIn(f"Page {len(pages)} of {len(pages)}", text)
