"""Findings, widths and materials of one's own, over the API."""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path
from statistics import median
from typing import Any

from fastapi.testclient import TestClient

from tests.support import document
from tinhalo.api.app import create_app


class Findings(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        folder = Path(cls.enterClassContext(tempfile.TemporaryDirectory()))
        cls.client = cls.enterClassContext(TestClient(create_app(folder), base_url="http://127.0.0.1"))

    def build(self, data: dict[str, Any], **more: Any) -> dict[str, Any]:
        reply = self.client.post("/api/build", json={"document": data, "exact": True, **more})
        self.assertEqual(reply.status_code, 200, reply.text)
        return reply.json()

    def test_shapes_are_checked_when_asked(self) -> None:
        quick, checked = self.build(document()), self.build(document(), checks=True)
        self.assertEqual((quick["checked"], quick["findings"]), (False, []))
        thin = next(f for f in checked["findings"] if f["kind"] == "thin_spot")
        self.assertEqual((thin["layer"], thin["limit"], thin["unit"]), ("face", 1.5, "mm"))
        self.assertEqual(thin["mends"][0]["changes"][0]["step"]["op"], "thicken")
        self.assertTrue(thin["outline"] and thin["spot"])

    def test_a_mend_is_made_and_followed_up(self) -> None:
        before = document()
        thin = next(f for f in self.build(before, checks=True)["findings"] if f["kind"] == "thin_spot")
        asked = {"document": before, "mend": thin["mends"][0]}
        made = self.client.post("/api/mend", json=asked).json()
        self.assertEqual(made["document"]["layers"][0]["recipe"]["steps"][-1]["op"], "thicken")
        followed = self.client.post("/api/mend/follow", json={"before": before, "after": made["document"]}).json()
        self.assertEqual(followed, {"document": None, "also": [], "brought": []})
        # Taking the mend back brings the thin place back: it is thickened once more.
        again = self.client.post("/api/mend/follow", json={"before": made["document"], "after": before}).json()
        self.assertEqual((again["also"], again["brought"]), ([thin["mends"][0]["title"]], []))
        self.assertEqual(again["document"]["layers"], made["document"]["layers"])
        gone = asked | {"document": before | {"layers": before["layers"][1:]}}
        self.assertEqual(self.client.post("/api/mend", json=gone).status_code, 422)

    def test_what_a_mend_will_do_is_told_before_it_is_made(self) -> None:
        data = document()
        built = self.build(data, checks=True)
        cause = next(one for one in built["causes"] if one["kind"] == "thin_spot")
        self.assertEqual([built["findings"][k]["kind"] for k in cause["findings"]], ["thin_spot"] * cause["count"])
        asked = {"document": data, "mend": cause["mends"][0], "cause": cause["id"]}
        seen = self.client.post("/api/mend/outlook", json=asked).json()
        self.assertEqual((seen["known"], seen["left"], seen["brings"]), (True, 0, []))
        # Growing the face by 6 mm is no mend: it hangs over the backer, of which it tells.
        step = {"op": "offset", "by": 6}
        grown = {"title": "", "changes": [{"change": "step", "layer": "face", "step": step, "at": None}]}
        seen = self.client.post("/api/mend/outlook", json=asked | {"mend": grown}).json()
        self.assertTrue(seen["also"] or seen["brings"])

    def test_places_where_layers_meet_are_told_with_their_slits(self) -> None:
        data = document([{"op": "offset", "by": 4}])
        under = data["layers"][1]["recipe"]
        under["steps"].append({"op": "subtract", "operand": {"from": ["face"], "steps": [{"op": "offset", "by": 0.1}]}})
        found = self.client.post("/api/meetings", json={"document": data}).json()
        self.assertEqual({(one["upper"], one["lower"]) for one in found}, {("face", "backer")})
        # In crotches narrower than two slits there is nothing left of the layer below: the slit is wider there.
        self.assertAlmostEqual(median(one["gap_mm"] for one in found), 0.1, delta=0.02)
        self.assertEqual(self.client.post("/api/meetings", json={"document": document()}).json(), [])

    def test_widths_come_in_bands_that_hold_every_stroke(self) -> None:
        bands = self.client.post("/api/heat", json={"document": document(), "layer": "face"}).json()["bands"]
        self.assertEqual([b["from_mm"] for b in bands], [0, 1.5, 2.25, 3.75])
        self.assertEqual([b["up_to_mm"] for b in bands], [1.5, 2.25, 3.75, None])
        self.assertTrue(bands[0]["path"] and bands[1]["path"])
        self.assertEqual(
            self.client.post("/api/heat", json={"document": document(), "layer": "no"}).json()["bands"], []
        )

    def test_own_materials_are_kept_changed_and_removed(self) -> None:
        shipped = self.client.get("/api/materials").json()
        plain = {key: value for key, value in shipped[0].items() if key != "own"}
        mine = plain | {"id": "own-1", "name": "Thick vinyl", "limits": plain["limits"] | {"least_width": 2.5}}
        self.assertEqual(self.client.put("/api/materials/own-1", json=mine).status_code, 200)
        self.client.put("/api/materials/own-1", json=mine | {"name": "Thicker vinyl"})
        listed = self.client.get("/api/materials").json()
        self.assertEqual([m["name"] for m in listed if m["own"]], ["Thicker vinyl"])
        self.assertEqual(self.client.get("/api/materials/own-1").json()["name"], "Thicker vinyl")
        unknown = self.client.get("/api/materials/gold-leaf").json()
        self.assertEqual((unknown["name"], unknown["thickness"], unknown["own"]), ("gold-leaf", 1, False))
        self.assertEqual(self.client.put(f"/api/materials/{plain['id']}", json=plain).status_code, 409)
        refused = self.client.put("/api/materials/own-2", json=mine | {"thickness": -1})
        self.assertEqual(refused.status_code, 422)
        self.assertEqual(self.client.delete("/api/materials/own-1").status_code, 204)
        self.assertEqual(self.client.delete("/api/materials/own-1").status_code, 404)

    def test_a_design_brings_its_own_materials_along(self) -> None:
        """Also where the list does not have them: limits and names come from the design."""
        data = document()
        plain = {key: value for key, value in self.client.get("/api/materials").json()[0].items() if key != "own"}
        mine = plain | {"id": "own-9", "name": "Thin steel", "limits": plain["limits"] | {"least_width": 0.3}}
        data["materials"] = [mine]
        data["layers"][0]["material"] = "own-9"
        found = self.build(data, checks=True)["findings"]
        self.assertFalse([f for f in found if f["kind"] in ("thin_spot", "unknown_material")])
        data["materials"] = [mine | {"limits": mine["limits"] | {"least_width": 2.0}}]
        thin = [f["sentence"] for f in self.build(data, checks=True)["findings"] if f["kind"] == "thin_spot"]
        self.assertTrue(thin and all("Thin steel needs 2 mm" in sentence for sentence in thin))
