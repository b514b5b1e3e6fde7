"""Killed in the middle of a hundred autosaves: every save that was acknowledged is there."""

from __future__ import annotations

import tempfile
import threading
import unittest
from pathlib import Path

import httpx

from tests.server import Server
from tests.support import block, document
from tinhalo.store.database import open_database
from tinhalo.store.designs import Designs


class Killed(unittest.TestCase):
    def test_acknowledged_saves_survive(self) -> None:
        data = Path(self.enterContext(tempfile.TemporaryDirectory()))
        server = Server(data)
        self.addCleanup(server.kill)
        with httpx.Client(base_url=server.url) as client:
            id = client.post("/api/designs", json={"document": document(text="0")}).json()["id"]
            acknowledged = 0
            enough = threading.Event()
            killer = threading.Thread(target=lambda: (enough.wait(), server.kill()))
            killer.start()
            try:
                for number in range(1, 101):
                    add = [document(text=str(number))]
                    body = {"base_revision": number, "keep_through": number - 1, "add": add, "at": number}
                    if client.put(f"/api/designs/{id}", json=body).json() == {"revision": number + 1}:
                        acknowledged = number
                    # Dies while the next ones are on their way.
                    if number == 20:
                        enough.set()
            except httpx.TransportError:
                pass
            enough.set()
            killer.join()
        self.assertTrue(20 <= acknowledged < 100)
        state = Designs(open_database(data)).get(id)
        texts = [block(d).text for d in state.timeline]
        # One more may have been stored whose answer never arrived.
        self.assertIn(len(texts) - 1, (acknowledged, acknowledged + 1))
        self.assertEqual(texts, [str(n) for n in range(len(texts))])
        self.assertEqual(state.revision, len(texts))
