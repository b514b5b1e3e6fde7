"""The API: the real app on a real SQLite file."""

from __future__ import annotations

import io
import json
import tempfile
import unittest
import zipfile
from pathlib import Path
from typing import Any

from fastapi.testclient import TestClient

from tests.support import FONTS, document
from tinhalo.api.app import create_app
from tinhalo.store.designs import HISTORY


class Api(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.client = self.enterContext(
            TestClient(create_app(self.folder), base_url="http://127.0.0.1", raise_server_exceptions=False)
        )

    def create(self, **art: Any) -> dict[str, Any]:
        reply = self.client.post("/api/designs", json={"document": document(**art)})
        self.assertEqual(reply.status_code, 201, reply.text)
        return reply.json()

    def save(self, id: str, base: int, keep: int, add: list[dict[str, Any]], at: int) -> Any:
        body = {"base_revision": base, "keep_through": keep, "add": add, "at": at}
        return self.client.put(f"/api/designs/{id}", json=body)

    def problem(self, reply: Any, status: int) -> dict[str, Any]:
        """RFC 9457: the media type, and type, title, status and detail."""
        self.assertEqual(reply.status_code, status, reply.text)
        self.assertEqual(reply.headers["content-type"], "application/problem+json")
        body = reply.json()
        self.assertEqual(body["status"], status)
        self.assertTrue(body["type"] and body["title"] and body["detail"])
        return body


class Designs(Api):
    def test_a_design_goes_round_unchanged_and_complete(self) -> None:
        state = self.create(text="Zoë\nŁukasz", nudges={"1": 0.5})
        again = self.client.get(f"/api/designs/{state['id']}").json()
        self.assertEqual(again, state)
        stored = again["timeline"][0]
        self.assertEqual(stored["art"][0]["text"], "Zoë\nŁukasz")
        self.assertEqual(stored["layers"][1]["recipe"]["from"], ["name"])
        self.assertEqual(stored["layers"][1]["recipe"]["steps"][0]["miter_limit"], 4)

    def test_edits_undo_and_redo_survive(self) -> None:
        id = self.create()["id"]
        texts = ["Fenna", "Ottoline", "Bram"]
        for place, text in enumerate(texts[1:], 1):
            self.assertEqual(self.save(id, place, place - 1, [document(text=text)], place).status_code, 200)
        self.assertEqual(self.save(id, 3, 2, [], 0).json(), {"revision": 4})
        state = self.client.get(f"/api/designs/{id}").json()
        self.assertEqual((state["at"], [d["art"][0]["text"] for d in state["timeline"]]), (0, texts))
        # An edit after undoing drops what could have been redone.
        self.save(id, 4, 0, [document(text="Idris")], 1)
        state = self.client.get(f"/api/designs/{id}").json()
        self.assertEqual([d["art"][0]["text"] for d in state["timeline"]], ["Fenna", "Idris"])

    def test_a_stale_save_is_refused_and_changes_nothing(self) -> None:
        id = self.create()["id"]
        self.save(id, 1, 0, [document(text="Theirs")], 1)
        body = self.problem(self.save(id, 1, 0, [document(text="Mine")], 1), 409)
        self.assertEqual(body["revision"], 2)
        state = self.client.get(f"/api/designs/{id}").json()
        self.assertEqual([d["art"][0]["text"] for d in state["timeline"]], ["Fenna", "Theirs"])

    def test_saves_that_do_not_fit_the_history_are_refused(self) -> None:
        id = self.create()["id"]
        for keep, add, at in ((5, [], 0), (-2, [document()], 0), (-1, [], 0), (0, [], 7), (0, [document()], -1)):
            self.problem(self.save(id, 1, keep, add, at), 422)
        self.assertEqual(self.client.get(f"/api/designs/{id}").json()["revision"], 1)

    def test_history_is_bounded(self) -> None:
        id = self.create()["id"]
        for round_number in range(3):
            start = round_number * 100
            add = [document(text=str(start + i + 1)) for i in range(100)]
            self.assertEqual(self.save(id, round_number + 1, start, add, start + 100).status_code, 200)
        state = self.client.get(f"/api/designs/{id}").json()
        self.assertEqual((len(state["timeline"]), state["first"], state["at"]), (HISTORY, 101, 300))

    def test_shelf(self) -> None:
        first, second = self.create()["id"], self.create()["id"]
        copy = self.client.post(f"/api/designs/{first}/duplicate").json()
        self.assertEqual(copy["timeline"][0]["name"], "Test copy")
        renamed = self.client.patch(f"/api/designs/{second}", json={"name": "Bram's"}).json()
        self.assertEqual((renamed["name"], renamed["revision"]), ("Bram's", 2))
        self.assertEqual(self.client.delete(f"/api/designs/{first}").status_code, 204)
        self.problem(self.client.get(f"/api/designs/{first}"), 404)
        self.problem(self.save(first, 1, 0, [document()], 1), 404)
        names = [d["name"] for d in self.client.get("/api/designs").json()]
        self.assertEqual(names, ["Bram's", "Test copy"])
        self.assertEqual(self.client.post(f"/api/designs/{first}/restore").json()["id"], first)
        self.assertEqual(len(self.client.get("/api/designs").json()), 3)

    def test_designs_go_into_a_folder_all_or_none(self) -> None:
        ids = [self.client.post("/api/designs", json={"document": document()}).json()["id"] for _ in range(2)]

        def put(*wanted: str, folder: str) -> int:
            return self.client.post("/api/designs/folder", json={"ids": wanted, "folder": folder}).status_code

        def folders() -> list[str]:
            return [one["folder"] for one in self.client.get("/api/designs").json() if one["id"] in ids]

        self.assertEqual(404, put(ids[0], "nobody", folder="Kites"))
        self.assertEqual(["", ""], folders())
        self.assertEqual(204, put(*ids, folder=" Kites "))
        self.assertEqual(["Kites", "Kites"], folders())
        copy = self.client.post(f"/api/designs/{ids[0]}/duplicate").json()["id"]
        ids.append(copy)
        self.assertEqual(["Kites"] * 3, folders())
        self.assertEqual(204, put(*ids, folder=""))
        self.assertEqual(["", "", ""], folders())

    def test_designs_outlive_the_app(self) -> None:
        id = self.create(text="Ottoline")["id"]
        with TestClient(create_app(self.folder), base_url="http://127.0.0.1") as other:
            self.assertEqual(other.get(f"/api/designs/{id}").json()["timeline"][0]["art"][0]["text"], "Ottoline")

    def test_pack_and_thumbnail(self) -> None:
        id = self.create()["id"]
        reply = self.client.get(f"/api/designs/{id}/files")
        self.assertIn("Test.zip", reply.headers["content-disposition"])
        with zipfile.ZipFile(io.BytesIO(reply.content)) as archive:
            told = json.loads(archive.read("Test - manifest.json"))
            files = [board["file"] for board in told["boards"]]
            self.assertEqual(files, ["Test - Acrylic 3 mm.svg", "Test - Plywood 3 mm.svg"])
            self.assertLessEqual({*files}, {*archive.namelist()})
            self.assertEqual([layer["file"] for layer in told["layers"]], ["", ""])
        sheet = self.client.get(f"/api/designs/{id}/job-sheet.pdf")
        self.assertEqual(("application/pdf", b"%PDF"), (sheet.headers["content-type"], sheet.content[:4]))
        picture = self.client.get(f"/api/designs/{id}/thumbnail.svg")
        self.assertEqual(picture.headers["content-type"], "image/svg+xml")
        self.assertEqual(picture.text.count("<path"), 2)
        empty = self.create(text="")["id"]
        self.assertEqual(self.client.get(f"/api/designs/{empty}/thumbnail.svg").status_code, 200)
        self.assertEqual(self.client.get(f"/api/designs/{empty}/files").status_code, 200)


class Building(Api):
    def build(self, design: dict[str, Any], **more: Any) -> Any:
        return self.client.post("/api/build", json={"document": design, **more})

    def test_quick_and_exact(self) -> None:
        quick, exact = (self.build(document(), exact=e).json() for e in (False, True))
        self.assertNotIn("C", quick["layers"][1]["path"])
        self.assertIn("C", exact["layers"][1]["path"])
        for a, b in zip(quick["layers"], exact["layers"], strict=True):
            self.assertAlmostEqual(a["area_mm2"], b["area_mm2"], delta=b["area_mm2"] * 3e-3)
            self.assertEqual((a["pieces"], a["holes"]), (b["pieces"], b["holes"]))

    def test_outlines_the_browser_holds_are_not_sent_again(self) -> None:
        first = self.build(document()).json()
        again = self.build(document([{"op": "offset", "by": 3}]), have=[layer["key"] for layer in first["layers"]])
        face, backer = again.json()["layers"]
        self.assertEqual((face["key"], face["path"]), (first["layers"][0]["key"], None))
        self.assertTrue(backer["path"].startswith("M"))

    def test_bad_input_is_answered_with_a_sentence(self) -> None:
        circle = document()
        circle["layers"][0]["recipe"]["from"] = ["backer"]
        circle["layers"][1]["recipe"]["from"] = ["face"]
        unknown = document()
        unknown["layers"][1]["recipe"]["from"] = ["nmae"]
        cases = [
            (document(size=0), "art.0.size", "The size of the words “name” must be at least 0.5 mm; it is 0."),
            (document(size="x"), "art.0.size", 'must be a number; it is "x".'),
            (document() | {"format": "other/7"}, "format", 'Its format is "other/7"'),
            (circle, "layers", "“Face” is made from “Backer”, “Backer” is made from “Face”"),
            (unknown, "layers.1.recipe", "no art and no layer has that id"),
        ]
        for design, where, sentence in cases:
            for reply in (self.build(design), self.client.post("/api/designs", json={"document": design})):
                with self.subTest(sentence=sentence):
                    (entry,) = self.problem(reply, 422)["problems"]
                    self.assertEqual(entry["where"], where)
                    self.assertIn(sentence, entry["sentence"])
        nan = json.dumps({"document": document(size=1)}).replace('"size": 1', '"size": NaN')
        body = self.problem(
            self.client.post("/api/build", content=nan, headers={"content-type": "application/json"}), 422
        )
        self.assertIn("must be a number", body["detail"])
        broken = self.client.post("/api/build", content="{", headers={"content-type": "application/json"})
        self.assertIn("not valid JSON", self.problem(broken, 422)["detail"])

    def test_bad_input_in_a_save_says_where(self) -> None:
        id = self.create()["id"]
        body = self.problem(self.save(id, 1, 0, [document(size=-4)], 1), 422)
        self.assertIn("The size of the words “name” must be at least 0.5 mm; it is -4.", body["detail"])

    def test_what_cannot_be_drawn_is_a_finding_and_is_kept(self) -> None:
        cases: list[tuple[dict[str, Any], str]] = [
            ({"text": ""}, "empty_words"),
            ({"text": "字"}, "missing_character"),
            ({"text": "a" * 5_000}, "text_too_long"),
        ]
        for art, kind in cases:
            (finding,) = self.build(document(**art)).json()["findings"]
            self.assertEqual(finding["kind"], kind)
            state = self.create(**art)
            self.assertEqual(state["timeline"][0]["art"][0]["text"], art["text"])

    def test_catalogue(self) -> None:
        self.assertEqual([f["id"] for f in self.client.get("/api/fonts").json()], FONTS)
        self.assertEqual(self.client.get("/api/fonts/pacifico/file").content[:4], b"\x00\x01\x00\x00")
        self.problem(self.client.get("/api/fonts/../file"), 404)
        self.problem(self.client.get("/api/fonts/nope/file"), 404)
        self.assertTrue(all(m["thickness"] > 0 for m in self.client.get("/api/materials").json()))

    def test_only_this_machine_is_answered(self) -> None:
        self.assertEqual(self.client.get("/api/designs", headers={"host": "evil.example"}).status_code, 400)
