"""Lists of names: tables of every kind, rows against single builds, words made to fit, runs that are ended."""

from __future__ import annotations

import csv
import io
import json
import os
import signal
import subprocess
import sys
import tempfile
import unittest
import zipfile
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path
from typing import Any

import openpyxl

from tests.support import LIBRARY, build_of
from tinhalo.cli import main
from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.design.design import Design
from tinhalo.core.design.names import MOST_ROWS, Column, Fit, Names
from tinhalo.core.design.problem import DesignError
from tinhalo.core.design.reading import parse_design
from tinhalo.core.listing.batch import JOURNAL, Job, batch, folders_of
from tinhalo.core.listing.columns import usual_columns
from tinhalo.core.listing.each import row_of
from tinhalo.core.listing.quantities import as_csv, as_xlsx, quantities_of, table_of
from tinhalo.core.listing.table_file import TableError, read_table, read_text
from tinhalo.core.output.pack import pack_files
from tinhalo.core.runtime.cancellation import CancelledError, given_up
from tinhalo.core.runtime.crew import Crew

CREW = Crew(2)
unittest.addModuleCleanup(CREW.close)


def keyring(text: str = "Fenna", **more: Any) -> Design:
    art = [{"id": "w", "text": text, "font": "pacifico", "size": 20, **more}]
    layers = [
        {"id": "face", "name": "Face", "material": "acrylic-3", "recipe": {"from": ["w"]}},
        {"id": "backer", "material": "ply-3", "recipe": {"from": ["w"], "steps": [{"op": "offset", "by": 3}]}},
    ]
    return parse_design({"format": "tin-halo/1", "name": "Rings", "art": art, "layers": layers})


def listed(*rows: str, **more: Any) -> Names:
    return Names(columns=(Column(use="words", art="w"),), rows=tuple((row,) for row in rows), **more)


def width(design: Design) -> float:
    box = build_of(design, exact=False).art[0].region.bounds
    assert box
    return box[2] - box[0]


def sheet(rows: list[list[Any]]) -> bytes:
    book = openpyxl.Workbook()
    assert book.active is not None
    for row in rows:
        book.active.append(row)
    held = io.BytesIO()
    book.save(held)
    return held.getvalue()


class Tables(unittest.TestCase):
    def test_encodings_separators_and_titles_are_recognised(self) -> None:
        for text, name in (
            ("name,copies\nZoë,2\nمحمد,1\n", "comma"),
            ("name;copies\nZoë;2\nمحمد;1\n", "semicolon"),
            ("name\tcopies\r\nZoë\t2\r\nمحمد\t1", "tab"),
        ):
            for encoding in ("utf-8", "utf-8-sig", "utf-16"):
                found = read_table(text.encode(encoding), f"{name}.csv")
                with self.subTest(name, encoding=encoding):
                    self.assertEqual((("name", "copies"), ("Zoë", "2"), ("محمد", "1")), found.rows)
                    self.assertTrue(found.titled)
                    self.assertEqual((), found.told)
        old = read_table("Zoë\nJosé\nÅsa\nFrançois\nMüller\n".encode("cp1252"), "old.csv")
        self.assertEqual("Zoë", old.rows[0][0])
        self.assertIn("look at the accents", old.told[0])

    def test_quotes_and_commas_in_names(self) -> None:
        found = read_table(b'"Smith, Jo",1\n"O""Hara",2\n', "q.csv")
        self.assertEqual((("Smith, Jo", "1"), ('O"Hara', "2")), found.rows)
        # One name a line, a comma now and then.
        self.assertEqual((("Fenna",), ("Bram",), ("Idris",)), read_text("Fenna\n\nBram\n  Idris ").rows)

    def test_workbooks(self) -> None:
        found = read_table(sheet([["Name", "Count"], ["Zoë", 2], ["=1+1", 3.0], [None, None], ["Bram", 1]]), "b.xlsx")
        # A formula is what it came to; nobody worked this one out.
        self.assertEqual((("Name", "Count"), ("Zoë", "2"), ("", "3"), ("Bram", "1")), found.rows)
        self.assertTrue(found.titled)

    def test_what_cannot_be_used_is_told(self) -> None:
        bomb = io.BytesIO()
        with zipfile.ZipFile(bomb, "w", zipfile.ZIP_DEFLATED) as packed:
            packed.writestr("xl/workbook.xml", b" " * 450_000_000)
        wide = ",".join("x" * 1 for _ in range(25))
        for data, name, told in (
            (b"", "e.csv", "nothing in it"),
            (bomb.getvalue(), "bomb.xlsx", "unpack to 450 MB"),
            (b"PK\x03\x04broken", "d.xlsx", "damaged"),
            (f"a,b\n{wide}\n".encode(), "w.csv", "row 2 has more than 20 columns"),
            (b"x" * 20_000_001, "l.csv", "20 MB is the most"),
        ):
            with self.subTest(name), self.assertRaisesRegex(TableError, told):
                read_table(data, name)

    def test_nothing_is_lost_silently(self) -> None:
        found = read_text("a,1\nb,2\nc,3,more\n" + "x" * 400 + ",4\n")
        self.assertEqual(3, len(found.rows[0]))
        self.assertIn("Row 3 has more columns than the others", found.told[0])
        self.assertIn("Row 4 has more than 300 letters", found.told[1])
        many = read_text("\n".join(f"Name {k}" for k in range(100_000)))
        self.assertEqual(MOST_ROWS, len(many.rows))
        self.assertIn(f"those from row {MOST_ROWS + 1} on are left out", many.told[0])
        self.assertEqual((("ab",),), read_text("a\x00b\u0007").rows)

    def test_a_list_names_words_that_are_there(self) -> None:
        data = keyring().model_dump(mode="json", by_alias=True)
        for names in ({"columns": [{"use": "words", "art": "gone"}]}, {"fits": [{"art": "gone"}]}):
            with self.subTest(names), self.assertRaisesRegex(DesignError, "The list has words for “gone”"):
                parse_design(data | {"names": names})

    def test_columns_are_for_what_they_are_most_likely_for(self) -> None:
        found = usual_columns(keyring(), (), [["Fenna", "2"], ["Bram", "1"]])
        self.assertEqual([("words", "w"), ("copies", None)], [(one.use, one.art) for one in found.columns])
        titled = usual_columns(keyring(), ("Colour way", "First"), [["Red", "Bram"]])
        self.assertEqual(["colour_way", "words"], [one.use for one in titled.columns])


class Rows(unittest.TestCase):
    def test_a_row_is_the_design_with_its_words(self) -> None:
        names = listed("Zoë", "محمد", "Jo-Ann", "Wilhelmijnad", "fjord", "O’Hara & Co")
        for index, (text,) in enumerate(names.rows):
            row = row_of(keyring(), names, index, LIBRARY)
            alone, single = build_of(row.design), build_of(keyring(text))
            with self.subTest(text):
                self.assertEqual(text, row.words)
                self.assertEqual([one.key for one in alone.layers], [one.key for one in single.layers])
                self.assertEqual((), row.told)

    def test_colour_ways_and_copies(self) -> None:
        data = keyring().model_dump(mode="json", by_alias=True)
        dress = {"layer": "face", "material": "vinyl", "colour": "#123456"}
        data["colour_ways"] = [{"name": "Night", "layers": [dress]}]
        columns = (Column(use="words", art="w"), Column(use="colour_way"), Column(use="copies"))
        names = Names(columns=columns, rows=(("Bram", "night", "3"), ("Ida", "Noon", "²")))
        first, second = (row_of(parse_design(data), names, k, LIBRARY) for k in (0, 1))
        self.assertEqual(("vinyl", 3, ()), (first.design.layers[0].material, first.copies, first.told))
        self.assertEqual(1, second.copies)
        self.assertIn("There is no colour way “Noon”", second.told[0])
        self.assertIn("“²” is no number of pieces", second.told[1])

    def test_words_are_made_to_fit_as_asked(self) -> None:
        long = "Anna Sophia Maria"
        wide = width(keyring(long, letter_spacing=0.5))
        for rule, limit, told in (
            ("keep", 60, "more than it may be"),
            ("shrink", 60, "was made smaller, from 20 mm"),
            ("break", 130, "stands on 2 lines"),
            ("stretch", 150, f"was made {150 / wide * 100:.0f} % as wide"),
            ("stretch", 40, "further it may not be stretched"),
        ):
            fit = Fit.model_validate({"art": "w", "rule": rule, "width": limit})
            row = row_of(keyring(letter_spacing=0.5), listed(long, fits=(fit,)), 0, LIBRARY)
            with self.subTest(rule, width=limit):
                self.assertIn(told, row.told[0])
                made = width(row.design)
                if rule in ("shrink", "break"):
                    self.assertLessEqual(made, limit + 0.02)
                if rule == "shrink":
                    self.assertGreater(made, limit - 0.2)
                if (rule, limit) == ("stretch", 150):
                    self.assertAlmostEqual(made, 150, delta=0.02)
        short = row_of(keyring(), listed("Jo", fits=(Fit(art="w", rule="shrink", width=60),)), 0, LIBRARY)
        self.assertEqual((), short.told)
        block = short.design.art[0]
        assert isinstance(block, Lettering)
        self.assertEqual(20, block.size)


class Runs(unittest.TestCase):
    def setUp(self) -> None:
        # Who is given up in the middle of a file may end it a moment later.
        self.out = Path(self.enterContext(tempfile.TemporaryDirectory(ignore_cleanup_errors=True)))

    def job(self, *rows: str, design: Design | None = None, **more: Any) -> Job:
        design = design or keyring()
        return Job(design.model_copy(update={"names": listed(*rows, **more)}), self.out)

    def test_packs_equal_those_of_single_builds(self) -> None:
        job = self.job("Zoë", "Bram")
        done = {one.row: one for one in batch(job, CREW)}
        for index, one in enumerate((done[1], done[2])):
            single = pack_files(build_of(row_of(job.design, job.names, index, LIBRARY).design))
            folder = self.out / one.folder
            self.assertEqual(set(single), {path.name for path in folder.iterdir()})
            for name, content in single.items():
                with self.subTest(one.name, file=name):
                    self.assertEqual(content, (folder / name).read_bytes())
        self.assertEqual(2, len((self.out / JOURNAL).read_text().splitlines()))

    def test_what_was_done_and_has_not_changed_is_not_made_again(self) -> None:
        self.assertEqual(3, len(list(batch(self.job("Zoë", "Bram", "Ida"), CREW))))
        before = {path: path.stat().st_mtime_ns for path in self.out.glob("*/manifest.json")}
        again = {one.row: one.name for one in batch(self.job("Zoë", "Brem", "Ida"), CREW)}
        self.assertEqual({1: "Zoë", 2: "Brem", 3: "Ida"}, again)
        kept = [path for path, when in before.items() if path.exists() and path.stat().st_mtime_ns == when]
        self.assertEqual({"1 Zoë", "3 Ida"}, {path.parent.name for path in kept} - {"2 Bram"})

    def test_it_is_given_up_when_nobody_waits(self) -> None:
        """It is over in the middle of the rows, and what was done by then is noted."""
        job = self.job(*[f"Bram {k}" for k in range(50)])

        def noted() -> int:
            journal = self.out / JOURNAL
            return len(journal.read_text().splitlines()) if journal.exists() else 0

        token = given_up.set(lambda: noted() >= 2)
        self.addCleanup(given_up.reset, token)
        with self.assertRaises(CancelledError):
            list(batch(job, CREW))
        self.assertLess(noted(), 25)

    def test_a_killed_run_goes_on_where_it_was(self) -> None:
        design, table, out = self.out / "d.json", self.out / "n.csv", self.out / "packs"
        design.write_text(keyring().model_dump_json(by_alias=True))
        table.write_text("\n".join(f"Name {k}" for k in range(8)))
        asked = ["batch", str(design), str(table), "--out", str(out), "--processes", "1"]
        command = [sys.executable, "-m", "tinhalo.cli", *asked]
        first = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, start_new_session=True)
        assert first.stdout
        # It tells each row as it is done.
        for _ in range(2):
            first.stdout.readline()
        os.killpg(first.pid, signal.SIGKILL)
        first.communicate()
        journal = out / JOURNAL
        self.assertTrue(2 <= len(journal.read_text().splitlines()) < 8)
        with redirect_stdout(io.StringIO()) as told:
            self.assertEqual(0, main(asked))
        self.assertEqual(8, len(told.getvalue().splitlines()))
        self.assertEqual(8, len(journal.read_text().splitlines()))
        self.assertEqual(8, len(list(out.glob("*/manifest.json"))))
        self.assertEqual([], [path.name for path in out.iterdir() if path.name.startswith(".")])

    def test_the_command_line_tells_findings_and_quantities(self) -> None:
        design, table, out = self.out / "d.json", self.out / "n.csv", self.out / "packs"
        design.write_text(keyring().model_dump_json(by_alias=True))
        table.write_text("name,copies\n=1+1,2\nمحمد,1\n")
        asked = ["batch", str(design), str(table), "--out", str(out), "--processes", "1", "--fail-on", "findings"]
        with redirect_stdout(io.StringIO()) as ran:
            self.assertEqual(1, main(asked))
        self.assertIn("Pacifico lacks the characters", ran.getvalue())
        told = list(csv.reader(io.StringIO((out / "quantities.csv").read_text("utf-8-sig"))))
        self.assertEqual("'=1+1", told[1][1])
        worked = openpyxl.load_workbook(out / "quantities.xlsx").active
        assert worked is not None
        self.assertEqual(("'=1+1", "s"), (worked["B2"].value, worked["B2"].data_type))
        with redirect_stderr(io.StringIO()):
            self.assertEqual(2, main(["batch", "x.json", *asked[2:]]))


class Leaving(unittest.TestCase):
    def test_folders_are_safe_and_differ(self) -> None:
        names = listed("Bram", "bram", "a/b\\c:d", "..", "CON", "x" * 200, file="{words}")
        found = folders_of(names)
        self.assertEqual(len(found), len({one.casefold() for one in found}))
        # Windows keeps that name for a device, whatever ending it has.
        self.assertNotIn("CON", found)
        for one in found:
            self.assertRegex(one, r"^[\w][\w .-]*$")
            self.assertLess(len(one.encode()), 100)

    def test_sums_are_those_of_all_copies(self) -> None:
        names = Names(columns=(Column(use="words", art="w"), Column(use="copies")), rows=(("Bo", "3"), ("-Al", "1")))
        quantities = []
        for index in (0, 1):
            row = row_of(keyring(), names, index, LIBRARY)
            built = build_of(row.design)
            found = quantities_of(row, built)
            self.assertAlmostEqual(found[0].area, built.layers[0].region.area.area, delta=0.05)
            quantities += found
        lines = table_of(quantities)
        total = next(line for line in lines if line[1] == "all copies" and line[5] == "Acrylic 3 mm")
        own = [one for one in quantities if one.material == "Acrylic 3 mm"]
        self.assertAlmostEqual(float(total[6]), 3 * own[0].area + own[1].area, places=1)
        self.assertIn("'-Al", as_csv(lines).decode("utf-8-sig"))
        book = openpyxl.load_workbook(io.BytesIO(as_xlsx(lines))).active
        assert book is not None
        self.assertEqual(len(lines), book.max_row)
        self.assertEqual(json.dumps(lines[0]), json.dumps([cell.value for cell in book[1]]))


if __name__ == "__main__":
    unittest.main()
