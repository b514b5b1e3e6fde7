"""What makers save beside designs: it comes back from plain files, and one bad row hides no other."""

from __future__ import annotations

import io
import random
import shutil
import sqlite3
import tempfile
import unittest
from collections import Counter
from contextlib import closing, redirect_stdout
from datetime import date
from pathlib import Path
from typing import Any

from sqlalchemy import Engine

from tests.sampling import FUZZ, sampled
from tests.support import document
from tinhalo.core.artwork.lettering.shipped import shipped_fonts
from tinhalo.core.design.hand_over import Table
from tinhalo.core.design.reading import parse_design
from tinhalo.core.materials import MATERIALS
from tinhalo.core.tools import TOOLS
from tinhalo.shop.hall import Hall
from tinhalo.store.backup import backup, copy_of_the_day, restore
from tinhalo.store.database import FILE, open_database
from tinhalo.store.designs import Designs, Save
from tinhalo.store.files import Files
from tinhalo.store.fonts import Fonts
from tinhalo.store.jobs import Jobs
from tinhalo.store.materials import OwnMaterials
from tinhalo.store.notice import Notice
from tinhalo.store.portable import keep_file, keep_font
from tinhalo.store.rescue import rescue
from tinhalo.store.starters import Starters
from tinhalo.store.tables import OwnTable, OwnTables
from tinhalo.store.tools import OwnTools

DESIGN = parse_design(document(text="Fenna"))
SVG = b'<svg xmlns="http://www.w3.org/2000/svg" width="10mm" height="10mm"><rect width="9" height="9"/></svg>'
HPGL = "IN;SP1;PU0,0;PD400,0;PU;"
#: Bytes of the tables at the beginning of the file.
SMALL = 25 * 4096
#: Where the text of each kind stands.
COLUMNS = {"materials": "material", "tables": "table", "tools": "tool", "starters": "document", "fonts": "facts"}


def everything(engine: Engine) -> dict[str, list[Any]]:
    """All of it, without what is made anew: ids of starters."""
    fonts = Fonts(engine)
    return {
        "materials": OwnMaterials(engine).list(),
        "tables": OwnTables(engine).list(),
        "tools": OwnTools(engine).list(),
        "starters": [(one.title, one.document) for one in Starters(engine).list()],
        "fonts": [(one, fonts.data(one.id)) for one in fonts.list()],
    }


class SavedBeside(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        engine = open_database(self.folder)
        Designs(engine).create(DESIGN)
        keep_font(shipped_fonts()[0].path.read_bytes(), "mine.ttf", Fonts(engine))
        keep_file(SVG, "crest.svg", Files(engine))
        OwnMaterials(engine).put(MATERIALS[0].model_copy(update={"id": "own-red", "name": "Red"}))
        OwnTables(engine).put(OwnTable("At the shop", Table()))
        OwnTools(engine).put(TOOLS[0].model_copy(update={"name": "My bit"}))
        Starters(engine).add("Crew names", DESIGN)
        self.expected = everything(engine)
        self.assertEqual([1] * 5, [len(found) for found in self.expected.values()])
        engine.dispose()

    def restored(self, out: Path) -> tuple[Engine, list[str]]:
        """What came back from a backup, and what was told of it."""
        again = self.folder / "again"
        shutil.rmtree(again, ignore_errors=True)
        with redirect_stdout(io.StringIO()) as told:
            self.assertEqual(1, restore(out, again))
        return open_database(again), told.getvalue().splitlines()

    def test_it_comes_back_from_plain_files_and_what_is_damaged_is_told(self) -> None:
        out = self.folder / "out"
        backup(self.folder, out)
        (out / FILE).unlink()
        engine, told = self.restored(out)
        self.assertEqual((self.expected, []), (everything(engine), told))
        (drawing,) = (out / "files").iterdir()
        self.assertEqual(("crest.svg", SVG), Files(engine).original(drawing.name))
        engine.dispose()
        (out / "tools.json").write_text('{"Bit": {"kind": "v_bit"}, "Mill": 3}', "utf-8")
        (out / "tables.json").write_text("[3]", "utf-8")
        next((out / "fonts").iterdir()).write_bytes(b"no font")
        engine, told = self.restored(out)
        self.assertEqual(self.expected | {"fonts": [], "tables": [], "tools": []}, everything(engine))
        engine.dispose()
        expected = ("is not a font", "all of it is left out", "Bit is left out", "Mill is left out")
        for line, said in zip(told, expected, strict=True):
            self.assertIn(said, line)

    def test_it_is_brought_over_from_a_damaged_database(self) -> None:
        fresh = self.folder / "fresh"
        open_database(fresh).dispose()
        rescue(self.folder / FILE, fresh / FILE)
        engine = open_database(fresh)
        self.addCleanup(engine.dispose)
        self.assertEqual(self.expected, everything(engine))

    def test_what_a_damaged_database_lost_comes_from_the_last_copy(self) -> None:
        copy_of_the_day(self.folder, date(2026, 11, 28))
        engine = open_database(self.folder)
        designs = Designs(engine)
        since = designs.create(DESIGN.model_copy(update={"name": "Since then"})).id
        (old,) = (one.id for one in designs.list() if one.id != since)
        designs.save(since, Save(1, 0, [DESIGN.model_copy(update={"name": "Changed"})], 1))
        engine.dispose()
        with closing(sqlite3.connect(self.folder / FILE)) as changed:
            # One design lost its documents, another all but these; the tools are gone.
            changed.execute("UPDATE timeline SET document = 'x' WHERE design_id = ?", (old,))
            changed.execute("DELETE FROM designs WHERE id = ?", (since,))
            changed.execute("DELETE FROM tools")
            changed.commit()
        with redirect_stdout(io.StringIO()) as told:
            engine = open_database(self.folder)
        self.addCleanup(engine.dispose)
        self.assertIn("1 design could be brought over", told.getvalue())
        self.assertIn("1 more came from the copy of 2026-11-28.", told.getvalue())
        # The same on the screen, until it was read.
        notice = Notice(self.folder)
        self.assertEqual(told.getvalue().strip(), notice.read())
        notice.forget()
        self.assertIsNone(notice.read())
        self.assertEqual({old: "Test", since: "Changed"}, {one.id: one.name for one in Designs(engine).list()})
        self.assertEqual(2, len(Designs(engine).get(since).timeline))
        self.assertEqual(self.expected, everything(engine))

    def test_a_row_that_cannot_be_read_hides_no_other(self) -> None:
        with closing(sqlite3.connect(self.folder / FILE)) as changed:
            for table, column in COLUMNS.items():
                id, *others = [f'"{row[1]}"' for row in changed.execute(f"PRAGMA table_info({table})")]
                # Of each kind a second one, whose text is cut off.
                rest = ", ".join(others)
                changed.execute(f"INSERT INTO {table} ({id}, {rest}) SELECT 'second', {rest} FROM {table}")
                changed.execute(f'UPDATE {table} SET "{column}" = substr("{column}", 5) WHERE {id} = \'second\'')
            changed.commit()
        engine = open_database(self.folder)
        self.addCleanup(engine.dispose)
        with self.assertLogs("tinhalo.store.readable") as logged:
            self.assertEqual(self.expected, everything(engine))
        self.assertEqual(5, len(logged.output))
        with self.assertLogs("tinhalo.store.readable"):
            self.assertIsNone(Fonts(engine).data("second"))

    def test_whatever_bits_are_flipped_it_opens_and_lists_what_there_is(self) -> None:
        engine = open_database(self.folder)
        jobs = Jobs(engine)
        Hall(jobs).close()
        jobs.take(jobs.add("gannet", "Square", "Vinyl", "knife", HPGL, (20, 1, 50)), "gannet", 2)
        engine.dispose()
        with closing(sqlite3.connect(self.folder / FILE)) as last:
            last.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        sound = (self.folder / FILE).read_bytes()
        counts: Counter[int] = Counter()
        for number in sampled(range(60), 1 / 6):
            held, chance = bytearray(sound), random.Random(number)
            for _ in range(chance.choice([1, 3, 20, 100])):
                # Mostly in what is not a font or a drawing.
                held[chance.randrange(SMALL if chance.random() < 0.8 else len(held))] ^= 1 << chance.randrange(8)
            with self.subTest(number), tempfile.TemporaryDirectory() as name, redirect_stdout(io.StringIO()):
                (Path(name) / FILE).write_bytes(held)
                engine = open_database(Path(name))
                counts[sum(len(found) for found in everything(engine).values())] += 1
                for one in Designs(engine).list():
                    self.assertEqual(DESIGN, Designs(engine).get(one.id).timeline[-1])
                # Machines take half a second to stop.
                if number % 6 == 0:
                    Hall(Jobs(engine)).close()
                engine.dispose()
        # Of most nearly everything is there.
        self.assertGreater(counts[5] + counts[4], 30 if FUZZ else 0)

    def test_a_machine_starts_whatever_its_last_cut_has_become(self) -> None:
        engine = open_database(self.folder)
        self.addCleanup(engine.dispose)
        jobs = Jobs(engine)
        Hall(jobs).close()
        job = jobs.add("gannet", "Square", "Vinyl", "knife", "IN;", (20, 1, 50))
        self.assertTrue(jobs.take(job, "gannet", 4))
        with closing(sqlite3.connect(self.folder / FILE)) as changed:
            changed.execute("UPDATE cuts SET traced = '[[1'")
            changed.commit()
        hall = Hall(jobs)
        self.addCleanup(hall.close)
        self.assertEqual([job], [one.id for one in jobs.jobs("gannet")])
        with closing(sqlite3.connect(self.folder / FILE)) as changed:
            changed.execute("UPDATE cuts SET state = 'tbken'")
            changed.execute("UPDATE jobs SET state = 'tbken'")
            changed.commit()
        self.assertEqual(["refused"], [one.state for one in jobs.jobs("gannet")])
        self.assertEqual({job: "given_up"}, jobs.states("gannet"))


if __name__ == "__main__":
    unittest.main()
