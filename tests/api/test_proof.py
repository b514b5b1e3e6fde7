"""Proofs for customers, read by pypdf, PDFium and Pillow; and opened again as the design was."""

from __future__ import annotations

import base64
import io
import tempfile
import unittest
from pathlib import Path
from typing import Any

import numpy as np
import pypdf
from fastapi.testclient import TestClient
from PIL import Image

from tests.api.test_files import BYTES, picture
from tinhalo.api.app import create_app

POINT = 25.4 / 72


class Proofs(unittest.TestCase):
    def client(self) -> TestClient:
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        return self.enterContext(TestClient(create_app(folder), base_url="http://127.0.0.1"))

    def setUp(self) -> None:
        self.http = self.client()
        plate = {"op": "plate", "shape": "rectangle", "width": 80, "height": 32}
        self.document: dict[str, Any] = {
            "format": "tin-halo/1",
            "name": "Zoë’s board",
            "art": [{"id": "w", "text": "Zoë & Łucja\n山", "font": "work-sans", "size": 12}],
            "layers": [
                {"id": "face", "name": "Face", "material": "acrylic-3", "recipe": {"from": ["w"]}},
                {"id": "back", "name": "Back", "material": "ply-3", "recipe": {"from": ["w"], "steps": [plate]}},
            ],
            "colour_ways": [{"name": "Sea", "layers": [{"layer": "back", "material": "ply-3", "colour": "#103a70"}]}],
        }

    def proof(self, **more: Any) -> bytes:
        reply = self.http.post("/api/proof", json={"document": self.document, "revision": 7, **more})
        self.assertEqual(200, reply.status_code, reply.text[:300])
        self.assertIn("proof." + more.get("format", "pdf"), reply.headers["content-disposition"])
        return reply.content

    def test_the_page_says_what_is_to_be_checked(self) -> None:
        for paper, size in (("a4", (210, 297)), ("letter", (215.9, 279.4))):
            page = pypdf.PdfReader(io.BytesIO(self.proof(paper=paper))).pages[0]
            # ISO 216, and ANSI Y14.1.
            np.testing.assert_allclose([float(v) * POINT for v in page.mediabox[2:]], size, atol=0.001)
            text = page.extract_text()
            for part in ("Zoë’s board", "Revision 7", "80 mm", "32 mm", "“Zoë & Łucja”", "[U+5C71]", "Sea"):
                self.assertIn(part, text)
            self.assertIn("Face: Acrylic 3 mm, #1f4e63, cut", text)
            self.assertIn("Back: Plywood 3 mm, #c9a06c, cut", text)

    def test_the_picture_is_the_page_at_its_density_and_true_proportions(self) -> None:
        for dots in (100, 200):
            image = Image.open(io.BytesIO(self.proof(format="png", dots_per_inch=dots)))
            self.assertAlmostEqual(image.info["dpi"][0], dots, delta=0.02)
            np.testing.assert_allclose(np.array(image.size) / dots * 25.4, (210, 297), atol=25.4 / dots)
            seen = np.asarray(image.convert("RGB"), int)
            board = np.argwhere(np.abs(seen - (0xC9, 0xA0, 0x6C)).max(axis=2) < 6)
            # The board itself, not its small swatch.
            board = board[board[:, 1] > seen.shape[1] * 0.15]
            high, wide = np.ptp(board, axis=0)
            self.assertAlmostEqual(wide / high, 80 / 32, delta=0.03)

    def test_a_view_in_the_round_is_on_it(self) -> None:
        plain = self.proof(format="png", dots_per_inch=72)
        view = base64.b64encode(picture()).decode()
        self.assertNotEqual(plain, self.proof(format="png", dots_per_inch=72, picture=view))
        for damaged in ("%%%", base64.b64encode(b"no picture").decode()):
            reply = self.http.post("/api/proof", json={"document": self.document, "picture": damaged})
            self.assertEqual(422, reply.status_code, reply.text[:200])

    def test_opened_again_it_is_the_design_as_it_was(self) -> None:
        scan = self.http.post("/api/files", params={"name": "gull.png"}, content=picture(), headers=BYTES).json()
        self.document["layers"][1] |= {"process": "print", "fill": {"kind": "picture", "file": scan["id"]}}
        made = self.http.post("/api/designs", json={"document": self.document}).json()["timeline"][0]
        for format in ("pdf", "png"):
            elsewhere = self.client()
            opened = elsewhere.post("/api/designs/file", content=self.proof(format=format), headers=BYTES)
            self.assertEqual(201, opened.status_code, opened.text)
            self.assertEqual(made, opened.json()["timeline"][0])
            self.assertEqual(200, elsewhere.get(f"/api/files/{scan['id']}/picture").status_code)

    def test_other_pictures_and_pages_are_refused_in_a_sentence(self) -> None:
        empty = io.BytesIO()
        writer = pypdf.PdfWriter()
        writer.add_blank_page(100, 100)
        writer.write(empty)
        whole = self.proof()
        for data in (picture(), empty.getvalue(), whole[:3000], b"%PDF-1.7\n" + bytes(5000), whole[: len(whole) // 2]):
            reply = self.http.post("/api/designs/file", content=data, headers=BYTES)
            self.assertEqual(422, reply.status_code, reply.text[:200])
            self.assertIn("it carries no design", reply.text)


if __name__ == "__main__":
    unittest.main()
