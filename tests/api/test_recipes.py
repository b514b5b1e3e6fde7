"""Starters, picking and finding a place, over the API."""

from __future__ import annotations

import json
import tempfile
import unittest
from pathlib import Path
from typing import Any

from fastapi.testclient import TestClient

from tests.core.test_knockout import document as knockout
from tests.support import document
from tinhalo.api.app import create_app
from tinhalo.core.starters import STARTERS


class Recipes(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        folder = Path(cls.enterClassContext(tempfile.TemporaryDirectory()))
        cls.client = cls.enterClassContext(TestClient(create_app(folder), base_url="http://127.0.0.1"))

    def test_starters_are_listed_and_drawn_with_other_words(self) -> None:
        listed = self.client.get("/api/starters").json()
        self.assertEqual([one["id"] for one in listed], [one.id for one in STARTERS])
        pictures = [
            self.client.get("/api/starters/name-keyring/drawing.svg", params=words).text
            for words in ({}, {"text": "Zoë"}, {"text": "  "})
        ]
        self.assertEqual(pictures[0], pictures[2])
        self.assertNotEqual(pictures[0], pictures[1])
        self.assertEqual(self.client.get("/api/starters/nothing/drawing.svg").status_code, 404)

    def test_own_starters_come_first_and_go(self) -> None:
        body = {"title": "Crew tag", "document": document()}
        made = self.client.post("/api/starters", json=body)
        self.assertEqual(made.status_code, 201)
        first = self.client.get("/api/starters").json()[0]
        self.assertEqual((first["title"], first["own"]), ("Crew tag", True))
        self.assertEqual(self.client.get(f"/api/starters/{first['id']}/drawing.svg").status_code, 200)
        self.assertEqual(self.client.delete(f"/api/starters/{first['id']}").status_code, 204)
        gone = self.client.delete(f"/api/starters/{first['id']}")
        self.assertEqual((gone.status_code, gone.json()["detail"][:26]), (404, "This starter is not here: "))
        bad = self.client.post("/api/starters", json=body | {"document": document() | {"layers": [{"id": "name"}]}})
        self.assertEqual(bad.status_code, 422)
        self.assertIn("used twice", bad.json()["detail"])

    def test_pieces_and_holes_are_listed_and_become_steps(self) -> None:
        data = document([{"op": "outside"}], text="Bee")
        listed = self.client.post("/api/pieces", json={"document": data, "layer": "face"}).json()
        holes = [one["spot"] for one in listed if one["kind"] == "hole"]
        self.assertEqual((len(listed), len(holes)), (4, 2))
        data["layers"][0]["recipe"]["steps"] = [{"op": "fill_holes", "only": holes}]
        face = self.client.post("/api/build", json={"document": data}).json()["layers"][0]
        self.assertEqual((face["holes"], face["notes"][0]["filled"]), (0, 2))
        self.assertEqual(self.client.post("/api/pieces", json={"document": data, "layer": "no"}).json(), [])

    def test_a_place_is_found_line_by_line_and_what_cannot_be_placed_is_told(self) -> None:
        search = {"change": "find_place", "layer": "word", "step": 0, "least_area": 6, "least_width": 1}

        def asked(find: dict[str, Any], go_on: Any = None) -> Any:
            return self.client.post("/api/places", json={"document": knockout(), "find": find, "go_on": go_on})

        def came_to(answer: Any) -> Any:
            *looks, last = [json.loads(line) for line in answer.text.splitlines()]
            self.assertTrue(last["ended"] and last["best"])
            self.assertFalse([look for look in looks if look["ended"] or len(look["shown"]) != 6])
            return last["best"]

        found = came_to(asked(search))
        moved = {art["id"]: art["place"] for art in found["document"]["art"]}
        self.assertEqual([id for id, place in moved.items() if place["x"] or place["y"]], ["name"])
        self.assertIn("Fenna", found["sentence"])
        other = came_to(asked(search, found["go_on"]))
        self.assertNotEqual(other["document"], found["document"])
        # A mend that ends in a search is made at once, too.
        mend = {"document": knockout(), "mend": {"title": "Find a place", "changes": [search]}}
        self.assertEqual(self.client.post("/api/mend", json=mend).json()["document"], found["document"])
        refused = asked(search | {"step": 4})
        self.assertEqual(refused.status_code, 422)
        self.assertIn("no step number 5", refused.json()["detail"])

    def test_a_starter_is_begun_with_words_at_a_clean_place(self) -> None:
        def begun(id: str, text: str) -> Any:
            answer = self.client.post(f"/api/starters/{id}/begin", json={"text": text})
            self.assertEqual(answer.status_code, 200, answer.text)
            return answer.json()

        document = begun("knocked-out-word", "Wim")
        self.assertEqual((document["art"][0]["text"], document["name"]), ("Wim", "Wim"))
        findings = self.client.post("/api/build", json={"document": document, "checks": True}).json()["findings"]
        self.assertEqual([one["sentence"] for one in findings if one["severity"] == "warning"], [])
        self.assertEqual(begun("plain", " ")["art"][0]["text"], "Words")
        self.assertEqual(self.client.post("/api/starters/nothing/begin", json={}).status_code, 404)

    def test_outlines_before_and_after_a_step(self) -> None:
        data = document([{"op": "offset", "by": 4}, {"op": "fill_holes"}])
        stages = [
            self.client.post("/api/stage", json={"document": data, "layer": "backer", "step": step}).json()
            for step in (0, 1, 2)
        ]
        self.assertEqual(stages[0]["after"], stages[1]["before"])
        self.assertLess(stages[1]["after"].count("Z"), stages[0]["before"].count("Z"))
        self.assertEqual(stages[2], {"before": "", "after": ""})

    def test_a_tab_tells_where_its_hole_is(self) -> None:
        data = document([{"op": "offset", "by": 4}, {"op": "tab", "at": 90, "reach": 3}])
        backer = self.client.post("/api/build", json={"document": data}).json()["layers"][1]
        tab = next(note["tab"] for note in backer["notes"] if note["tab"])
        self.assertGreater(tab["at_mm"][1], 10)
        self.assertEqual(len(tab["box_mm"]), 4)
