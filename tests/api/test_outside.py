"""Requests from outside the app's own pages, and what every answer says of how it may be used."""

from __future__ import annotations

import socket
import tempfile
import unittest
from pathlib import Path

import httpx
from fastapi.testclient import TestClient

from tests.server import Server
from tests.support import document
from tests.waiting import PATIENCE
from tinhalo.api.app import create_app

#: Of a browser, by where the page that asks is from (https://www.w3.org/TR/fetch-metadata/, RFC 6454).
FOREIGN: dict[str, dict[str, str]] = {
    "another site, by form": {"origin": "https://elsewhere.example", "sec-fetch-site": "cross-site"},
    "another site, old browser": {"origin": "https://elsewhere.example"},
    "another site, no referrer": {"origin": "null"},
    "another port of this machine": {"origin": "http://127.0.0.1:1", "sec-fetch-site": "same-site"},
    "a page that hides its origin": {"sec-fetch-site": "cross-site"},
}
OTHER_HOSTS = ("elsewhere.example", "testserver", "127.0.0.1.elsewhere.example", "10.0.0.1")


class Outside(unittest.TestCase):
    server: Server

    @classmethod
    def setUpClass(cls) -> None:
        cls.server = Server(Path(cls.enterClassContext(tempfile.TemporaryDirectory())), options=("--head-seconds", "3"))
        cls.addClassCleanup(cls.server.stop)

    def setUp(self) -> None:
        self.client = self.server.http
        self.design = self.client.post("/api/designs", json={"document": document()}).json()["id"]

    def test_writes_from_elsewhere_are_refused(self) -> None:
        own = {"origin": self.server.url, "sec-fetch-site": "same-origin"}
        self.assertEqual(201, self.client.post(f"/api/designs/{self.design}/duplicate", headers=own).status_code)
        count = len(self.client.get("/api/designs").json())
        for where, headers in FOREIGN.items():
            for method, path in (
                ("POST", f"/api/designs/{self.design}/duplicate"),
                ("POST", f"/api/designs/{self.design}/restore"),
                ("POST", "/api/fonts?name=a.ttf"),
                ("DELETE", f"/api/designs/{self.design}"),
            ):
                with self.subTest(where, path=path):
                    reply = self.client.request(method, path, headers=headers)
                    self.assertEqual(403, reply.status_code)
                    self.assertIn("Only Tin Halo's own pages", reply.json()["detail"])
        self.assertEqual(count, len(self.client.get("/api/designs").json()))

    def test_other_hosts_are_refused(self) -> None:
        for host in OTHER_HOSTS:
            with self.subTest(host):
                self.assertEqual(400, self.client.get("/api/designs", headers={"host": host}).status_code)

    def test_only_what_is_meant_is_read(self) -> None:
        for path, kind, status in (
            ("/api/designs", "text/plain", 415),
            ("/api/designs", "application/x-www-form-urlencoded", 415),
            ("/api/fonts?name=a.ttf", "text/plain", 415),
            ("/api/fonts?name=a.ttf", "application/json", 415),
            ("/api/fonts?name=a.ttf", "application/octet-stream", 422),
        ):
            with self.subTest(path, kind=kind):
                reply = self.client.post(path, content=b"{}", headers={"content-type": kind})
                self.assertEqual(status, reply.status_code, reply.text)
        deep = b'{"document": ' + b"[" * 100_000 + b"]" * 100_000 + b"}"
        reply = self.client.post("/api/designs", content=deep, headers={"content-type": "application/json"})
        self.assertIn(reply.status_code, (400, 422))
        self.assertIn("JSON", reply.json()["detail"])

    def test_too_much_is_not_read(self) -> None:
        """Told by its length, and found out while it arrives in parts."""

        def parts() -> object:
            for _ in range(400):
                yield b" " * 1_000_000

        for path, kind in (("/api/designs", "application/json"), ("/api/fonts?name=a", "application/octet-stream")):
            for content in (b" " * 40_000_000, parts()):
                with self.subTest(path):
                    try:
                        reply = self.client.post(path, content=content, headers={"content-type": kind})  # type: ignore[arg-type]
                    except httpx.TransportError:
                        # The connection was closed while more was being sent.
                        continue
                    self.assertEqual(413, reply.status_code)
        self.assertEqual(200, self.client.get("/api/designs").status_code)

    def test_every_answer_says_how_it_may_be_used(self) -> None:
        for path in ("/", "/guide", "/api/designs", "/api/nothing", f"/api/designs/{self.design}/thumbnail.svg"):
            headers = self.client.get(path).headers
            with self.subTest(path):
                self.assertEqual("nosniff", headers["x-content-type-options"])
                self.assertEqual("DENY", headers["x-frame-options"])
                self.assertEqual("no-referrer", headers["referrer-policy"])
                policy = headers["content-security-policy"]
                self.assertIn("script-src 'self';", policy)
                self.assertIn("frame-ancestors 'none'", policy)

    def test_a_fault_of_our_own_says_so_and_how_it_may_be_used(self) -> None:
        app = create_app(Path(self.enterContext(tempfile.TemporaryDirectory())))
        client = self.enterContext(TestClient(app, base_url="http://127.0.0.1"))
        # A store that is gone, as no request should ever meet it.
        del app.state.workshop
        with self.assertLogs("tinhalo.api.guard", "ERROR"):
            answer = client.get("/api/designs")
        self.assertEqual((500, "nosniff"), (answer.status_code, answer.headers["x-content-type-options"]))
        self.assertEqual("This is a fault in Tin Halo. What you typed is kept.", answer.json()["detail"])

    def test_half_said_requests_do_not_hold_a_place(self) -> None:
        silent = [socket.create_connection(("127.0.0.1", self.server.port)) for _ in range(50)]
        for one in silent[:25]:
            one.sendall(b"GET /api/designs HTTP/1.1\r\nHost: 127.0.0.1\r\nX-Slow: ")
        self.assertEqual(200, self.client.get("/api/designs").status_code)
        for one in silent:
            one.settimeout(PATIENCE)
            self.assertEqual(b"", one.recv(100))
            one.close()
        with socket.create_connection(("127.0.0.1", self.server.port)) as endless:
            endless.settimeout(PATIENCE)
            with self.assertRaises(OSError):
                for _ in range(1000):
                    endless.sendall(b"GET / HTTP/1.1\r\n" if not _ else b"X-More: " + b"a" * 10_000 + b"\r\n")
                self.assertNotEqual(b"", endless.recv(1))
                raise OSError("answered")
