"""The API around words: letters, seams, widths, own fonts, finished size."""

from __future__ import annotations

from typing import Any

import numpy as np
import svgelements

from tests.api.test_api import Api
from tests.core.test_font_files import VARIABLE
from tests.support import FONTS, document


class Words(Api):
    def build(self, data: dict[str, Any], **more: Any) -> Any:
        reply = self.client.post("/api/build", json={"document": data, **more})
        self.assertEqual(reply.status_code, 200, reply.text)
        return reply.json()

    def test_letters_pieces_and_seams_are_sent_on_demand(self) -> None:
        data = document(text="Fenna Zoë", font="pacifico", join={})
        plain = self.build(data)["art"][0]
        self.assertIsNone(plain["parts"])
        self.assertEqual([(w["text"], w["pieces"]) for w in plain["words"]], [("Fenna", 1), ("Zoë", 3)])
        full = self.build(data, parts_of="name", seams=True)["art"][0]
        self.assertEqual("".join(one["text"] for one in full["parts"]), "FennaZoë")
        for one in full["parts"]:
            x0, y0, x1, y1 = svgelements.Path(one["path"]).bbox() or (0, 0, 0, 0)
            self.assertTrue(np.allclose([x0, -y1, x1, -y0], one["bounds_mm"], atol=2e-3))
        self.assertIn("M", full["seams"])
        self.assertEqual(self.build(document(text=" "), seams=True)["art"][0]["seams"], "")

    def test_widths_come_when_asked_for(self) -> None:
        data = document([{"op": "thicken", "to": 0.9}], font="allura", text="Bram")
        quick = self.build(data)["layers"]
        self.assertEqual([one["narrowest"] for one in quick], [None, None])
        face, thick = self.build(data, exact=True, widths=True)["layers"]
        self.assertLess(face["narrowest"]["width_mm"], 0.6)
        self.assertGreaterEqual(thick["narrowest"]["width_mm"], 0.89)
        grown = self.build(document([{"op": "thicken", "to": 2.5, "where": "everywhere"}], font="work-sans", text="i"))
        (note,) = grown["layers"][1]["notes"]
        self.assertEqual([note[k] for k in ("step", "wider_mm", "closed_mm", "new_holes")], [0, 0, [], 0])

    def send(self, name: str, content: bytes) -> Any:
        """A font file as the front end sends it."""
        headers = {"content-type": "application/octet-stream"}
        return self.client.post("/api/fonts", params={"name": name}, content=content, headers=headers)

    def test_own_fonts_are_added_used_shown_and_removed(self) -> None:
        added = self.send(VARIABLE.name, VARIABLE.read_bytes())
        self.assertEqual(added.status_code, 200, added.text)
        (font,) = added.json()
        id = font["id"]
        self.assertEqual(len(self.client.get("/api/fonts").json()), len(FONTS) + 1)
        areas = [self.build(document(font=id, axes={"wght": weight}))["layers"][0]["area_mm2"] for weight in (400, 700)]
        self.assertGreater(areas[1], areas[0] * 1.2)
        sample = self.client.get(f"/api/fonts/{id}/sample", params={"text": "Fenna", "size": 24}).json()
        self.assertEqual((sample["whole"], sample["whole_closed_up"], sample["missing"]), (False, True, []))
        # The same file again is the same font.
        self.send("again.woff2", VARIABLE.read_bytes())
        self.assertEqual(len(self.client.get("/api/fonts").json()), len(FONTS) + 1)
        self.assertEqual(self.client.delete(f"/api/fonts/{id}").status_code, 204)
        self.problem(self.client.delete(f"/api/fonts/{id}"), 404)
        gone = self.build(document(font=id))["findings"]
        self.assertIn("is not here", gone[0]["sentence"])
        self.send(VARIABLE.name, VARIABLE.read_bytes())
        self.assertEqual(self.build(document(font=id))["findings"], [])

    def test_damaged_fonts_are_refused_with_a_sentence(self) -> None:
        for content in (b"no font", b"\x00\x01\x00\x00" + b"\xff" * 400):
            reply = self.send("Mine.ttf", content)
            self.assertIn("Mine.ttf", self.problem(reply, 422)["detail"])
        self.assertEqual(len(self.client.get("/api/fonts").json()), len(FONTS))

    def test_features_that_change_the_words_come_with_a_picture(self) -> None:
        """Playball has swashes for capitals (its GSUB table, read with fontTools) and none that change plain n's."""
        found = self.client.get("/api/fonts/playball/features", params={"text": "Bram"}).json()
        self.assertIn("swsh", [one["tag"] for one in found])
        self.assertTrue(all(one["path"].startswith("M") for one in found))
        plain, swash = (self.build(document(text="Bram", font="playball", features=f)) for f in ({}, {"swsh": 1}))
        self.assertNotEqual(plain["layers"][0]["key"], swash["layers"][0]["key"])
        self.problem(self.client.get("/api/fonts/nothing/features", params={"text": "n"}), 422)

    def test_the_finished_size_is_set_or_refused(self) -> None:
        body = {"document": document(), "side": "width", "to_mm": 100, "distances": "kept"}
        made = self.client.post("/api/resize", json=body).json()
        x0, _, x1, _ = self.build(made, exact=True)["bounds_mm"]
        self.assertAlmostEqual(x1 - x0, 100, delta=0.01)
        self.problem(self.client.post("/api/resize", json=body | {"to_mm": 5}), 422)
        self.problem(self.client.post("/api/resize", json=body | {"to_mm": -5}), 422)

    def test_blocks_set_against_one_another_in_a_circle_are_refused(self) -> None:
        data = document(against={"art": "b"})
        data["art"].append({"id": "b", "text": "B", "font": "anton", "against": {"art": "name"}})
        reply = self.client.post("/api/build", json={"document": data})
        self.assertIn("by one another in a circle", self.problem(reply, 422)["detail"])
        data["art"][1]["against"] = None
        data["art"][0]["against"] = {"art": "nobody"}
        reply = self.client.post("/api/build", json={"document": data})
        self.assertIn("no art has that id", self.problem(reply, 422)["detail"])
