"""Saves while the disk fills up, another program holds the database, or it cannot be written: nothing is lost."""

from __future__ import annotations

import os
import resource
import sqlite3
import subprocess
import sys
import tempfile
import unittest
from contextlib import closing
from pathlib import Path

import httpx
from fastapi.testclient import TestClient

from tests.server import Server
from tests.support import block, document
from tinhalo.api.app import create_app
from tinhalo.api.settings import Waits
from tinhalo.store.database import FILE, open_database
from tinhalo.store.designs import Designs


class Saves:
    """A client that saves one text after the other, and what of it was acknowledged."""

    def __init__(self, client: httpx.Client) -> None:
        self.client = client
        made = self.client.post("/api/designs", json={"document": document(text="0")})
        self.id: str = made.json()["id"]
        self.acknowledged = 0
        self.refused: list[tuple[int, str]] = []

    def save(self, count: int) -> None:
        """So many saves, each tried once."""
        for _ in range(count):
            number = self.acknowledged + 1
            body = {
                "base_revision": number,
                "keep_through": number - 1,
                "add": [document(text=str(number)) | {"name": "x" * 150}],
                "at": number,
            }
            reply = self.client.put(f"/api/designs/{self.id}", json=body)
            if reply.status_code == 200:
                self.acknowledged = number
            else:
                self.refused.append((reply.status_code, reply.json()["detail"]))

    def check(self, data: Path) -> None:
        """What was acknowledged is there, one step after the other, and nothing that was refused."""
        engine = open_database(data)
        state = Designs(engine).get(self.id)
        engine.dispose()
        texts = [block(one).text for one in state.timeline]
        assert texts == [str(n) for n in range(self.acknowledged + 1)], texts
        assert state.revision == self.acknowledged + 1, state.revision


class Trouble(unittest.TestCase):
    def setUp(self) -> None:
        self.data = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.data.chmod(0o755)
        self.server = Server(self.data)
        self.addCleanup(self.server.kill)
        self.saves = Saves(self.server.http)

    def held(self) -> dict[str, bytes]:
        files = (one for one in self.data.rglob("*") if one.is_file())
        # What ran beside a killed server may still say so.
        return {str(one): one.read_bytes() for one in files if one.name != "server.log"}

    def allow(self, files: int, folders: int) -> None:
        for one in (*self.data.rglob("*"), self.data):
            one.chmod(folders if one.is_dir() else files)

    def check(self, saves: Saves) -> None:
        """Killed: all that it acknowledged is there."""
        self.server.kill()
        saves.check(self.data)

    def test_the_disk_fills_up_and_is_cleared_and_it_is_killed_when_full_again(self) -> None:
        saves = self.saves
        saves.save(5)
        # The system refuses to let any file grow beyond this, as a full disk does.
        largest = max(one.stat().st_size for one in self.data.iterdir())
        old = resource.prlimit(self.server.process.pid, resource.RLIMIT_FSIZE, (largest + 40_000, -1))
        saves.save(30)
        self.assertTrue(5 < saves.acknowledged < 35)
        for status, told in saves.refused:
            self.assertIn(status, (503, 507))
            self.assertRegex(told, "disk")
        resource.prlimit(self.server.process.pid, resource.RLIMIT_FSIZE, old)
        before = saves.acknowledged
        saves.save(5)
        self.assertEqual(before + 5, saves.acknowledged)
        largest = max(one.stat().st_size for one in self.data.iterdir())
        resource.prlimit(self.server.process.pid, resource.RLIMIT_FSIZE, (largest + 40_000, -1))
        saves.save(30)
        self.assertTrue(before + 5 < saves.acknowledged < before + 35)
        self.check(saves)

    def test_a_folder_that_cannot_be_written(self) -> None:
        saves = self.saves
        saves.save(3)
        self.server.kill()
        before = self.held()
        self.allow(0o444, 0o555)
        command = [sys.executable, "-m", "tinhalo.cli", "serve", "--port", "0", "--data", str(self.data)]
        if os.geteuid() == 0:
            # Root writes everywhere, unless that is taken from it.
            command = ["setpriv", "--bounding-set", "-dac_override", *command]
        told = subprocess.run(command, capture_output=True, text=True, timeout=60, check=False)
        self.allow(0o644, 0o755)
        self.assertNotEqual(0, told.returncode)
        self.assertIn("cannot be", told.stderr + told.stdout)
        self.assertNotIn("Traceback", told.stderr + told.stdout)
        self.assertEqual(before, self.held())
        self.check(saves)


class Held(unittest.TestCase):
    def test_another_program_holds_the_database(self) -> None:
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        app = create_app(folder, waits=Waits(database=0.2))
        saves = Saves(self.enterContext(TestClient(app, base_url="http://127.0.0.1")))
        saves.save(3)
        with closing(sqlite3.connect(folder / FILE, isolation_level=None)) as other:
            other.execute("BEGIN IMMEDIATE")
            saves.save(1)
            other.execute("ROLLBACK")
        self.assertEqual([503], [status for status, _ in saves.refused])
        self.assertIn("Another program holds the database", saves.refused[0][1])
        saves.save(3)
        self.assertEqual(6, saves.acknowledged)
        saves.check(folder)


if __name__ == "__main__":
    unittest.main()
