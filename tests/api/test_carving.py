"""Carving over the API: reasons, relief, sections, own tools; a practice mill ends with the relief's surface."""

from __future__ import annotations

import json
import struct
import tempfile
import unittest
from pathlib import Path
from typing import Any

import numpy as np
from fastapi.testclient import TestClient

from tests.waiting import until
from tinhalo.api.app import create_app
from tinhalo.core.starters import STARTERS
from tinhalo.shop.mill import MOST_MOVES, profile, understood
from tinhalo.shop.program import ProgramError

SIGN = next(one.document for one in STARTERS if one.id == "carved-sign").model_dump(mode="json", by_alias=True)


def small() -> dict[str, Any]:
    """One letter raised on a little board, quickly carved."""
    art = [
        {"id": "w", "text": "I", "font": "bevan", "size": 20},
        {"id": "b", "kind": "shape", "shape": "rectangle", "width": 40, "height": 30, "place": {"y": 6}},
    ]
    layers = [
        {"id": "up", "process": "carve", "material": "board-18", "recipe": {"from": ["w"]}},
        {"id": "board", "material": "board-18", "recipe": {"from": ["b"]}},
    ]
    carving = {"board": "board", "levels": [{"layers": ["up"], "depth": 2}], "ridge": 0.3}
    return {"format": "tin-halo/1", "name": "Post", "art": art, "layers": layers, "carving": carving}


def unpacked(content: bytes) -> tuple[dict[str, Any], np.ndarray]:
    """Head and heights of a relief."""
    (length,) = struct.unpack("<I", content[:4])
    head = json.loads(content[4 : 4 + length])
    size = head["columns"] * head["rows"]
    heights = np.frombuffer(content, "<f4", size, 4 + length)
    return head, heights.reshape(head["rows"], head["columns"])


class Mills(unittest.TestCase):
    def test_moves_arcs_units_and_places_relative(self) -> None:
        text = "%\n(job 7)\nG20 G90\nG1 X1 F10\nG21 G91 G0 Z5\nG90\nG2 X50.8 Y0 I12.7 J0 F600\nM2\nG1 X9\n%"
        program = understood(text)
        self.assertEqual(program.comment, "job 7")
        first, up, *arc = program.moves
        self.assertAlmostEqual(first.x, 25.4 * 40)
        self.assertAlmostEqual(first.speed or 0, 254 / 60)
        self.assertEqual((up.z, up.down, up.speed), (5, False, None))
        at = np.array([(m.x, m.y) for m in arc]) / 40
        np.testing.assert_allclose(np.hypot(*(at - (38.1, 0)).T), 12.7, atol=1e-6)
        self.assertTrue((at[:-1, 1] > 0).all())
        np.testing.assert_allclose(at[-1], (50.8, 0), atol=1e-9)

    def test_what_is_not_understood_is_told_with_its_line(self) -> None:
        for text, told in (
            ("%\nG1 X1", "no feed"),
            ("%\nG33 X1", "G33"),
            ("%\nhello", "Line 2"),
            ("%\nG1 F9 X9999999", "too far"),
            ("%\nG2 X5 Y5 I1 J0 F9", "not as far"),
        ):
            with self.subTest(text), self.assertRaisesRegex(ProgramError, told):
                understood(text)
        self.assertGreater(MOST_MOVES, 1_000_000)
        self.assertIsNone(profile("%\nG1 X1 F3"))


class Carvings(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        folder = Path(cls.enterClassContext(tempfile.TemporaryDirectory()))
        cls.http = cls.enterClassContext(TestClient(create_app(folder), base_url="http://127.0.0.1"))

    def ask(self, path: str, **body: Any) -> Any:
        reply = self.http.post(f"/api/carving{path}", json=body)
        self.assertEqual(200, reply.status_code, reply.text)
        return reply

    def test_every_number_has_its_reason(self) -> None:
        told = self.ask("", document=SIGN).json()
        self.assertEqual(["2.5 mm × tan(60° / 2) = 1.44 mm"], told["passes"][1]["reasons"])
        self.assertEqual((2.5, 5.0, []), (told["passes"][1]["start_mm"], told["depth_mm"], told["told"]))
        self.assertEqual(3, len(told["files"]))
        self.assertEqual("Cut the board out", told["operations"][-1]["title"])
        levels = [one | {"depth": 2.54} for one in SIGN["carving"]["levels"]]
        inch = SIGN | {"unit": "in", "carving": SIGN["carving"] | {"levels": levels}}
        # Common practice: 0.1 in deep with a 60° bit is 0.0577 in.
        told = self.ask("", document=inch).json()
        self.assertEqual(["0.1 in × tan(60° / 2) = 0.0577 in"], told["passes"][1]["reasons"])

    def test_a_section_is_the_reliefs(self) -> None:
        content = self.ask("/relief", document=SIGN, cells=300).content
        head, heights = unpacked(content)
        row = head["rows"] // 2
        y = head["y"] + row * head["cell"]
        ends = [(head["x"], y), (head["x"] + (head["columns"] - 1) * head["cell"], y)]
        cut = self.ask("/section", document=SIGN, start=ends[0], end=ends[1], places=head["columns"]).json()
        np.testing.assert_allclose(cut["carved_mm"], heights[row], atol=2e-4)
        self.assertIsNone(head["gouged"]["at"])
        _, first = unpacked(self.ask("/relief", document=SIGN, cells=300, levels=[0]).content)
        self.assertAlmostEqual(float(first.min()), -2.5, places=5)

    def test_what_is_not_carved_has_no_relief(self) -> None:
        plain = small() | {"carving": None}
        for path in ("", "/relief"):
            reply = self.http.post(f"/api/carving{path}", json={"document": plain})
            self.assertEqual(422, reply.status_code)
            self.assertIn("Nothing of this design is carved", reply.json()["detail"])

    def test_tools_of_ones_own_are_kept_and_forgotten(self) -> None:
        own = {"kind": "v_bit", "name": "Old 45° bit / shed", "angle": 45}
        self.assertEqual(200, self.http.put("/api/tools", json=own).status_code)
        found = self.http.get("/api/tools").json()
        self.assertEqual(("Old 45° bit / shed", True), (found[0]["tool"]["name"], found[0]["own"]))
        self.assertEqual(409, self.http.put("/api/tools", json=own | {"name": "60° V-bit"}).status_code)
        self.assertEqual(422, self.http.put("/api/tools", json=own | {"angle": 0}).status_code)
        self.assertEqual(204, self.http.delete("/api/tools/Old 45° bit / shed").status_code)
        self.assertEqual(404, self.http.delete("/api/tools/Old 45° bit / shed").status_code)

    def test_a_practice_mill_carves_what_the_relief_shows(self) -> None:
        document = small()
        sent = self.http.post("/api/machines/petrel/jobs", json={"document": document, "carving": True})
        self.assertEqual(201, sent.status_code, sent.text)
        jobs = self.mill()["jobs"]
        self.assertEqual(["1/8 in end mill", "60° V-bit", "1/8 in end mill"], [job["tool"] for job in jobs])
        self.press("pace", pace=1_000)
        for job in jobs:
            self.press("tool", tool=job["tool"])
            self.until(job["id"])
        _, carved = unpacked(self.http.get(f"/api/jobs/{jobs[1]['id']}/relief").content)
        whole = document | {"carving": document["carving"] | {"cut_out": False}}
        _, want = unpacked(self.ask("/relief", document=whole, cells=500).content)
        self.assertEqual(carved.shape, want.shape)
        self.assertLess(np.percentile(np.abs(carved - want), 99), 0.02)
        self.assertAlmostEqual(float(carved.min()), -2, delta=0.01)
        _, cut_out = unpacked(self.http.get(f"/api/jobs/{jobs[2]['id']}/relief").content)
        self.assertAlmostEqual(float(cut_out.min()), -18, places=3)
        self.assertEqual(404, self.http.get("/api/jobs/999/relief").status_code)

    def mill(self) -> dict[str, Any]:
        return next(one for one in self.http.get("/api/machines").json() if one["id"] == "petrel")

    def press(self, press: str, **more: Any) -> None:
        self.assertEqual(200, self.http.post("/api/machines/petrel/panel", json={"press": press, **more}).status_code)

    def until(self, job: int) -> None:
        until(lambda: next(one for one in self.mill()["jobs"] if one["id"] == job)["cut"] == "done")


if __name__ == "__main__":
    unittest.main()
