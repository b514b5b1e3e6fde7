"""A shop's network: nobody gets in without the password, and people on one design are told of each other."""

from __future__ import annotations

import io
import stat
import tempfile
import unittest
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path
from typing import Any
from unittest import mock

from fastapi.testclient import TestClient

from tests.support import document
from tinhalo.api.app import create_app
from tinhalo.api.door import TRIES
from tinhalo.api.presence import GONE, Windows
from tinhalo.api.settings import NetworkAccess
from tinhalo.cli import main
from tinhalo.store.database import DataError
from tinhalo.store.password import Password

SECRET = "kites over the dunes"


class Network(unittest.TestCase):
    def setUp(self) -> None:
        self.data = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.password = Password(self.data)
        self.password.set(SECRET)
        self.app = create_app(self.data, NetworkAccess(["shop.local"], self.password))

    def client(self, name: str = "") -> TestClient:
        client = self.enterContext(TestClient(self.app, base_url="http://shop.local", follow_redirects=False))
        if name:
            self.assertEqual(self.enter(client, name).status_code, 303)
        return client

    @staticmethod
    def enter(client: TestClient, name: str, password: str = SECRET, to: str = "/") -> Any:
        return client.post("/enter", data={"name": name, "password": password, "to": to})

    def test_nothing_is_told_outside(self) -> None:
        client = self.client()
        table = {
            ("GET", "/"): 303,
            ("GET", "/design/1"): 303,
            ("GET", "/assets/theme.js"): 303,
            ("GET", "/api/designs"): 401,
            ("POST", "/api/designs"): 401,
            ("POST", "/api/build"): 401,
            ("DELETE", "/api/fonts/own-1"): 401,
            ("GET", "/enter"): 200,
        }
        found = {asked: client.request(*asked).status_code for asked in table}
        self.assertEqual(found, table)
        forged = client.get("/api/designs", headers={"cookie": "tinhalo=eyJ3aG8iOiAiQmVhIn0=.aaaa.bbbb"})
        self.assertEqual(forged.status_code, 401)
        self.assertEqual(client.get("/enter", headers={"host": "elsewhere.example"}).status_code, 400)

    def test_the_password_opens(self) -> None:
        client = self.client()
        answer = self.enter(client, "Bea", to="/design/7")
        self.assertEqual((answer.status_code, answer.headers["location"]), (303, "/design/7"))
        cookie = answer.headers["set-cookie"].lower()
        self.assertIn("httponly", cookie)
        self.assertIn("samesite=strict", cookie)
        self.assertNotIn(SECRET, cookie)
        self.assertEqual(client.get("/api/designs").status_code, 200)

    def test_behind_tls_the_cookie_goes_nowhere_else(self) -> None:
        self.app = create_app(self.data / "other", NetworkAccess(["shop.local"], self.password, tls=True))
        self.assertIn("secure", self.enter(self.client(), "Bea").headers["set-cookie"].lower())

    def test_it_leads_nowhere_else(self) -> None:
        for number, to in enumerate(("https://elsewhere.example/", "//elsewhere.example", "/\\elsewhere.example")):
            answer = self.enter(self.client(), f"Bea {number}", to=to)
            self.assertEqual(answer.headers["location"], "/", to)

    def test_what_is_typed_is_shown_as_text(self) -> None:
        shown = self.enter(self.client(), "<b>Bea", "wrong", '"><script>')
        self.assertIn("&lt;b&gt;Bea", shown.text)
        self.assertNotIn("<script>", shown.text)

    def test_tries_are_limited(self) -> None:
        client = self.client()
        found = [self.enter(client, "Bea", f"wrong {n}").status_code for n in range(TRIES + 1)]
        self.assertEqual(found, [403] * TRIES + [429])
        # The right one does not help then, either.
        self.assertEqual(self.enter(client, "Bea").status_code, 429)

    def test_a_form_from_elsewhere_is_refused(self) -> None:
        data = {"name": "Bea", "password": SECRET}
        answer = self.client().post("/enter", data=data, headers={"origin": "https://elsewhere.example"})
        self.assertEqual(answer.status_code, 403)

    def test_a_new_password_ends_all_sessions(self) -> None:
        bea = self.client("Bea")
        cookies = dict(bea.cookies)
        self.password.set("another one for the crew")
        self.app = create_app(self.data, NetworkAccess(["shop.local"], self.password))
        again = self.client()
        again.cookies.update(cookies)
        self.assertEqual(again.get("/api/designs").status_code, 401)

    def test_designs_say_who_changed_them_last(self) -> None:
        bea, idris = self.client("Bea"), self.client("Idris")
        made = bea.post("/api/designs", json={"document": document()}).json()
        self.assertEqual(made["changed_by"], "Bea")
        save = {"base_revision": 1, "keep_through": 0, "add": [document() | {"name": "Kites"}], "at": 1}
        self.assertEqual(idris.put(f"/api/designs/{made['id']}", json=save).status_code, 200)
        (listed,) = bea.get("/api/designs").json()
        self.assertEqual(listed["changed_by"], "Idris")
        # Bea's own save comes second: refused, and nothing of either is lost.
        self.assertEqual(bea.put(f"/api/designs/{made['id']}", json=save).status_code, 409)
        self.assertEqual(bea.get(f"/api/designs/{made['id']}").json()["changed_by"], "Idris")

    def test_two_on_one_design_are_told_of_each_other(self) -> None:
        bea, idris = self.client("Bea"), self.client("Idris")
        id = bea.post("/api/designs", json={"document": document()}).json()["id"]

        def here(client: TestClient, window: str, *, leaving: bool = False) -> list[str]:
            said = {"window": window, "leaving": leaving}
            return client.post(f"/api/designs/{id}/here", json=said).json()["others"]

        self.assertEqual(here(bea, "window-1"), [])
        self.assertEqual(here(idris, "window-2"), ["Bea"])
        self.assertEqual(here(bea, "window-1"), ["Idris"])
        here(idris, "window-2", leaving=True)
        self.assertEqual(here(bea, "window-1"), [])


class Presence(unittest.TestCase):
    def test_a_window_that_says_nothing_is_gone(self) -> None:
        now = 0.0
        windows = Windows(lambda: now)
        windows.here("kites", "window-1", "Bea")
        now = GONE - 1
        self.assertEqual(windows.here("kites", "window-2", "Idris"), ["Bea"])
        now = GONE + 1
        self.assertEqual(windows.here("kites", "window-2", "Idris"), [])


class Kept(unittest.TestCase):
    def setUp(self) -> None:
        self.data = Path(self.enterContext(tempfile.TemporaryDirectory()))

    def test_it_is_kept_as_a_hash_that_others_cannot_read(self) -> None:
        Password(self.data).set(SECRET)
        (file,) = self.data.iterdir()
        self.assertEqual(stat.S_IMODE(file.stat().st_mode), 0o600)
        self.assertNotIn(SECRET, file.read_text())
        self.assertIn("$argon2id$", file.read_text())
        again = Password(self.data)
        self.assertTrue(again.matches(SECRET))
        self.assertFalse(again.matches(SECRET.upper()))

    def test_short_ones_and_damaged_files_are_told(self) -> None:
        with self.assertRaisesRegex(DataError, "at least 8 characters"):
            Password(self.data).set("kites")
        (self.data / "password.json").write_text("{}")
        with self.assertRaisesRegex(DataError, "Delete it and set a new password"):
            Password(self.data)

    def test_it_does_not_start_open(self) -> None:
        told = {
            ("--host", "0.0.0.0"): "Say what this machine is called on the network",
            ("--host", "0.0.0.0", "--name", "shop.local"): "Set one first: tinhalo password.",
        }
        for options, sentence in told.items():
            with redirect_stderr(io.StringIO()) as said, mock.patch("sys.stdin", io.StringIO()):
                self.assertEqual(main(["serve", "--data", str(self.data), "--port", "1", *options]), 1)
            self.assertIn(sentence, said.getvalue())

    def test_the_command_sets_it(self) -> None:
        with mock.patch.dict("os.environ", {"TINHALO_PASSWORD": SECRET}), redirect_stdout(io.StringIO()):
            self.assertEqual(main(["password", "--data", str(self.data)]), 0)
        self.assertTrue(Password(self.data).matches(SECRET))


if __name__ == "__main__":
    unittest.main()
