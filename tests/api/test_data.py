"""The data through everything that can happen to it: older and newer schemas, damage, copies, two servers."""

from __future__ import annotations

import json
import os
import random
import shutil
import sqlite3
import subprocess
import sys
import tempfile
import threading
import unittest
from collections.abc import Generator
from contextlib import closing, contextmanager, suppress
from datetime import date, timedelta
from pathlib import Path
from typing import Any
from unittest import mock

from alembic import command
from alembic.config import Config
from alembic.script import ScriptDirectory

import tinhalo.store
from tests.support import block, document
from tinhalo.core.design.reading import parse_design
from tinhalo.store import rescue
from tinhalo.store.backup import DAYS, backup, copy_of_the_day, restore
from tinhalo.store.database import COPIES, FILE, DataError, open_database
from tinhalo.store.designs import Designs, NotFoundError, Save
from tinhalo.store.held import hold
from tinhalo.store.models import Base
from tinhalo.store.notice import Notice

DESIGN = parse_design(document(text="Fenna"))


def config() -> Config:
    made = Config()
    made.set_main_option("script_location", str(Path(tinhalo.store.__file__).parent / "migrations"))
    return made


class Data(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.path = self.folder / FILE

    def filled(self, count: int = 3) -> list[str]:
        """Some designs with a history, in a database that nobody has open any more."""
        engine = open_database(self.folder)
        designs = Designs(engine)
        ids = [designs.create(DESIGN).id for _ in range(count)]
        for id in ids:
            designs.save(id, Save(1, 0, [DESIGN.model_copy(update={"name": f"changed {id}"})], 1))
        engine.dispose()
        return ids

    def damaged(self) -> bytes:
        """A database in which the newest document is not what was stored."""
        self.filled(6)
        with closing(sqlite3.connect(self.path)) as open_:
            open_.execute("UPDATE timeline SET document = 'no' WHERE rowid = (SELECT max(rowid) FROM timeline)")
            open_.commit()
        return self.path.read_bytes()

    def names(self, folder: Path | None = None) -> set[str]:
        with self.shelf(folder) as designs:
            return {one.name for one in designs.list()}

    @contextmanager
    def shelf(self, folder: Path | None = None) -> Generator[Designs]:
        engine = open_database(folder or self.folder)
        yield Designs(engine)
        engine.dispose()

    def test_each_older_schema_is_migrated_with_its_data_after_a_copy(self) -> None:
        revisions = [one.revision for one in ScriptDirectory.from_config(config()).walk_revisions()]
        for revision in revisions[1:]:
            with self.subTest(revision), tempfile.TemporaryDirectory() as name:
                folder = Path(name)
                engine = open_database(folder)
                made = config()
                with engine.begin() as connection:
                    made.attributes["connection"] = connection
                    command.downgrade(made, revision)
                engine.dispose()
                with closing(sqlite3.connect(folder / FILE)) as old:
                    old.execute(
                        "INSERT INTO designs (id, name, revision, at, created, updated) "
                        "VALUES ('a', 'Old', 1, 0, '2026-01-01', '2026-01-01')"
                    )
                    text = DESIGN.model_dump_json(by_alias=True)
                    old.execute("INSERT INTO timeline (design_id, place, document) VALUES ('a', 0, ?)", (text,))
                    old.commit()
                self.assertEqual({"Old"}, self.names(folder))
                (copy,) = (folder / COPIES).iterdir()
                with closing(sqlite3.connect(copy)) as before:
                    self.assertEqual(("Old",), before.execute("SELECT name FROM designs").fetchone())

    def test_a_newer_schema_is_refused_and_left_untouched(self) -> None:
        self.filled()
        with closing(sqlite3.connect(self.path)) as newer:
            newer.execute("UPDATE alembic_version SET version_num = 'of-the-future'")
            newer.commit()
        before = self.path.read_bytes()
        with self.assertRaisesRegex(DataError, "newer version of Tin Halo. Nothing was touched"):
            open_database(self.folder)
        self.assertEqual(before, self.path.read_bytes())

    def test_damaged_databases_are_kept_aside_and_what_can_be_read_is_brought_over(self) -> None:
        """Ten ways: cut off, emptied, overwritten, and pages with flipped bits."""
        self.filled(24)
        with closing(sqlite3.connect(self.path)) as open_:
            open_.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        sound, names = self.path.read_bytes(), self.names()
        chance = random.Random(7)

        def flipped(start: int, end: int) -> bytes:
            held = bytearray(sound)
            for _ in range(60):
                held[chance.randrange(start, end)] ^= 1 << chance.randrange(8)
            return bytes(held)

        size = len(sound)
        ways = [
            sound[: size // 2],
            sound[: size - 5000],
            b"this is no database at all " * 400,
            b"\0" * size,
            sound[:100] + b"\0" * 4000 + sound[4100:],
            *[flipped(size // 4, size) for _ in range(5)],
        ]
        brought = []
        for number, held in enumerate(ways):
            with self.subTest(number), tempfile.TemporaryDirectory() as name:
                folder = Path(name)
                (folder / FILE).write_bytes(held)
                found = self.names(folder)
                # All that is served is as it was saved: now, or one step before.
                self.assertLessEqual(found, names | {DESIGN.name})
                aside = list(folder.glob("damaged-*.sqlite"))
                if aside:
                    self.assertEqual(held, aside[0].read_bytes())
                    brought.append(len(found))
                # One that lost its end lost only the steps that stood there.
                if number == 1:
                    self.assertGreater(len(names & found), 15)
                # It is a database like any other again.
                self.assertEqual(found, self.names(folder))
        self.assertGreaterEqual(len(brought), 5)
        self.assertGreater(max(brought), 10)

    def test_a_damaged_index_that_leads_back_is_not_followed_for_ever(self) -> None:
        """As SQLite reads a page whose cells are damaged: a row, one before it, and a fault."""
        asked: list[int] = []

        class Leading(sqlite3.Connection):
            def execute(self, sql: str, parameters: Any = ()) -> Any:
                found = mock.MagicMock(description=[("rowid",), ("name",)])
                if "WHERE rowid" in sql:
                    asked.append(parameters[0])
                    rows = [(5, "b"), (3, "a"), None] if parameters[0] < 5 and len(asked) < 5_000 else []
                    found.__iter__ = lambda _: (one if one else self.fault() for one in rows)
                return found

            @staticmethod
            def fault() -> Any:
                raise sqlite3.DatabaseError("database disk image is malformed")

        self.filled(1)
        connect = sqlite3.connect
        with closing(connect(self.path)) as target, mock.patch.object(rescue.sqlite3, "connect") as opened:
            opened.side_effect = lambda path, **more: connect(path, factory=Leading, **more)
            rescue.bring_over(self.path, target, Base.metadata.tables["tools"])
        self.assertEqual([0, 6], asked)

    def test_killed_while_a_damaged_database_is_replaced_it_goes_on_the_next_time(self) -> None:
        held = self.damaged()
        with tempfile.TemporaryDirectory() as name:
            (Path(name) / FILE).write_bytes(held)
            names = self.names(Path(name))
        self.assertEqual((6, True), (len(names), DESIGN.name in names))
        steps = {
            "brought over": "tinhalo.store.database.rescue",
            "kept": "tinhalo.store.replacing.os.link",
            "told": "tinhalo.store.notice.Notice.put",
            "complete": "pathlib.Path.rename",
            "in its place": "pathlib.Path.replace",
        }
        for step, called in steps.items():
            with self.subTest(step), tempfile.TemporaryDirectory() as name:
                folder = Path(name)
                (folder / FILE).write_bytes(held)
                with mock.patch(called, side_effect=KeyboardInterrupt), suppress(KeyboardInterrupt):
                    open_database(folder).dispose()
                self.assertEqual(names, self.names(folder))
                (aside,) = folder.glob("damaged-*.sqlite")
                self.assertEqual(held, aside.read_bytes())
                self.assertIn(str(aside), Notice(folder).read() or "")
                self.assertFalse(list(folder.glob("brought-over*")))

    def test_without_room_to_bring_it_over_a_damaged_database_stays_as_it_is(self) -> None:
        held = self.damaged()
        for called in ("tinhalo.store.rescue.bring_over", "tinhalo.store.replacing.os.link"):
            full = sqlite3.OperationalError("database or disk is full") if "rescue" in called else OSError(28, "full")
            with (
                self.subTest(called),
                mock.patch(called, side_effect=full),
                mock.patch("tinhalo.store.replacing.shutil.copyfile", side_effect=full),
                self.assertRaisesRegex(DataError, "full"),
            ):
                open_database(self.folder)
            self.assertEqual(held, self.path.read_bytes())
            self.assertFalse(list(self.folder.glob("damaged-*.sqlite")))

    def test_damage_to_the_schema_is_not_taken_for_a_newer_version(self) -> None:
        for way in ("its version", "a column", "an older one"):
            with self.subTest(way), tempfile.TemporaryDirectory() as name:
                self.folder, self.path = Path(name), Path(name) / FILE
                self.filled(3)
                if way == "an older one":
                    with open_database(self.folder).begin() as connection:
                        made = config()
                        made.attributes["connection"] = connection
                        command.downgrade(made, "-5")
                with closing(sqlite3.connect(self.path)) as open_:
                    if way == "its version":
                        open_.execute("UPDATE alembic_version SET version_num = 'x' || substr(version_num, 2)")
                    elif way == "a column":
                        open_.execute("ALTER TABLE designs RENAME COLUMN at TO au")
                    else:
                        open_.execute("ALTER TABLE timeline RENAME TO tjmeline")
                    open_.commit()
                found = self.names()
                self.assertEqual(0 if way == "an older one" else 3, len(found))
                self.assertEqual(1, len(list(self.folder.glob("damaged-*.sqlite"))))

    def test_what_was_in_range_once_is_opened_and_one_bad_step_back_does_not_lose_the_rest(self) -> None:
        (id,) = self.filled(1)
        old = document(text="Fen\ana", size=0.2, place={"scale_x": 0})
        old["layers"][0]["recipe"]["steps"] = [{"op": "outline", "gap": 1, "width": 0.001}]
        with closing(sqlite3.connect(self.path)) as before:
            # The document it stands at is from before the ranges; the one before that is no document at all.
            before.execute("UPDATE timeline SET document = ?, checksum = NULL WHERE place = 1", (json.dumps(old),))
            before.execute("UPDATE timeline SET document = '{}', checksum = NULL WHERE place = 0")
            before.commit()
        designs = Designs(open_database(self.folder))
        state = designs.get(id)
        self.assertEqual((1, 1), (state.first, len(state.timeline)))
        art, layer = state.document.art[0], state.document.layers[0]
        self.assertEqual(
            ("Fenna", 0.5, 0.001), (block(state.document).text, getattr(art, "size", None), art.place.scale_x)
        )
        self.assertEqual(0.01, getattr(layer.recipe.steps[0], "width", None))
        self.assertEqual(3, designs.save(id, Save(2, 1, [DESIGN], 2)))

    def test_a_folder_that_cannot_be_used_is_told_in_a_sentence(self) -> None:
        (self.folder / "file").write_text("x")
        with self.assertRaisesRegex(DataError, "cannot be used for designs"):
            open_database(self.folder / "file")
        self.path.mkdir()
        with self.assertRaisesRegex(DataError, "cannot be opened"):
            open_database(self.folder)

    def test_the_second_server_is_told_of_the_first_and_comes_in_after_it(self) -> None:
        script = (
            "import sys, pathlib; from tinhalo.store.held import hold;"
            f"held = hold(pathlib.Path({str(self.folder)!r}), 'the first'); print('held', flush=True); sys.stdin.read()"
        )
        first = subprocess.Popen([sys.executable, "-c", script], stdin=subprocess.PIPE, stdout=subprocess.PIPE)
        assert first.stdout
        self.assertEqual(b"held\n", first.stdout.readline())
        with self.assertRaisesRegex(DataError, "in use already by the first"):
            hold(self.folder, "the second")
        first.kill()
        first.communicate()
        hold(self.folder, "the second").close()

    def test_two_begin_on_a_fresh_folder_at_once(self) -> None:
        found: list[object] = []

        def begin() -> None:
            try:
                found.append(open_database(self.folder))
            except Exception as error:
                found.append(error)

        threads = [threading.Thread(target=begin) for _ in range(6)]
        for one in threads:
            one.start()
        for one in threads:
            one.join()
        self.assertEqual([], [one for one in found if isinstance(one, Exception)])

    def test_a_design_read_while_it_is_saved_stands_inside_its_own_history(self) -> None:
        engine = open_database(self.folder)
        designs = Designs(engine)
        id = designs.create(DESIGN).id
        stop = threading.Event()

        def save() -> None:
            revision, place = 1, 0
            while not stop.is_set():
                keep = place if revision % 3 else max(0, place - 2)
                place = keep + 1
                revision = designs.save(id, Save(revision, keep, [DESIGN], place))

        thread = threading.Thread(target=save)
        thread.start()
        try:
            for _ in range(200):
                state = designs.get(id)
                self.assertTrue(0 <= state.at - state.first < len(state.timeline))
        finally:
            stop.set()
            thread.join()

    def test_renaming_what_is_being_deleted_is_no_fault(self) -> None:
        designs = Designs(open_database(self.folder))
        for _ in range(20):
            id = designs.create(DESIGN).id
            thread = threading.Thread(target=lambda id=id: designs.delete(id))
            thread.start()
            with suppress(NotFoundError):
                self.assertEqual("Bram", designs.rename(id, "Bram").name)
            thread.join()

    def test_a_copy_each_day_and_old_ones_thinned(self) -> None:
        self.filled()
        today = date(2026, 11, 28)
        for back in range(60, -1, -1):
            copy_of_the_day(self.folder, today - timedelta(days=back))
        left = self.folder / COPIES / "2026-01-01.abc.part"
        left.write_bytes(b"a copy that was killed on its way")
        os.utime(left, (0, 0))
        self.assertIsNone(copy_of_the_day(self.folder, today))
        self.assertFalse(left.exists())
        days = sorted(path.stem for path in (self.folder / COPIES).iterdir())
        recent = [day for day in days if date.fromisoformat(day) > today - timedelta(days=DAYS)]
        self.assertEqual(DAYS, len(recent))
        self.assertEqual(["2026-09-29", "2026-10-01", "2026-11-01"], [day for day in days if day not in recent])

    def test_a_backup_is_put_back_with_or_without_its_database(self) -> None:
        first, *_ = self.filled()
        with self.shelf() as designs:
            designs.put_into([first], "Kite day")
        names = self.names()
        out, again = self.folder / "out", self.folder / "again"
        self.assertEqual(3, backup(self.folder, out))
        with self.assertRaisesRegex(DataError, "not empty"):
            backup(self.folder, out)
        with self.assertRaisesRegex(DataError, "has designs already"):
            restore(out, self.folder)
        self.assertEqual(3, restore(out, again))
        self.assertEqual(names, self.names(again))
        (out / FILE).unlink()
        shutil.rmtree(again)
        self.assertEqual(3, restore(out, again))
        self.assertEqual(names, self.names(again))
        with self.shelf(again) as designs:
            self.assertEqual({first: "Kite day"}, {one.id: one.folder for one in designs.list() if one.folder})


if __name__ == "__main__":
    unittest.main()
