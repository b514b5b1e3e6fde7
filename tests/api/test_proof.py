"""Proofs for customers, read by pypdf, PDFium and Pillow; neither the design nor an outline leaves with them."""

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
from pypdf.generic import ContentStream

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
            self.assertIn("Face: Acrylic 3 mm", text)
            self.assertIn("Back: Plywood 3 mm", text)
            self.assertNotIn("#", text)

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

    def test_neither_the_design_nor_an_outline_leaves_with_it(self) -> None:
        page = self.proof(shop="Ostrel Bay Signs", price="24.00", note="Ready in a week.")
        read = pypdf.PdfReader(io.BytesIO(page))
        self.assertEqual({}, dict(read.attachments))
        text = read.pages[0].extract_text()
        for part in ("Ostrel Bay Signs", "Price: 24.00", "Ready in a week."):
            self.assertIn(part, text)
        # Curves and even-odd fills would be outlines (ISO 32000-1, 8.5): only lines and swatches are drawn.
        operators = [operator for _, operator in ContentStream(read.pages[0].get_contents(), read).operations]
        self.assertFalse({b"c", b"v", b"y", b"f*", b"W*"} & set(operators))
        self.assertGreaterEqual(len(read.pages[0].images), 1)
        opened = self.http.post("/api/designs/file", content=page, headers=BYTES)
        self.assertEqual(422, opened.status_code)

    def boards(self, path: str, **body: Any) -> list[tuple[int, int, int]]:
        """Of a page at 100 dots to an inch: of each colour of a board how wide and high it is drawn, and where."""
        reply = self.http.post(path, json={"format": "png", "dots_per_inch": 100, **body})
        self.assertEqual(200, reply.status_code, reply.text[:300])
        seen = np.asarray(Image.open(io.BytesIO(reply.content)).convert("RGB"), int)
        # ISO 216: 210 by 297 mm.
        np.testing.assert_allclose(np.array(seen.shape[:2]) / 100 * 25.4, (297, 210), atol=0.254)
        found: list[tuple[int, int, int]] = []
        for colour in ((0xC9, 0xA0, 0x6C), (0x10, 0x3A, 0x70)):
            drawn = np.argwhere(np.abs(seen - colour).max(axis=2) < 6)
            if len(drawn):
                high, wide = np.ptp(drawn, axis=0)
                found.append((int(wide), int(high), int(drawn[:, 0].min() * 10_000 + drawn[:, 1].min())))
        return found

    def test_designs_stand_side_by_side_to_one_scale_or_as_large_as_there_is_room(self) -> None:
        ids: list[str] = []
        for name, wide, colour in (("Zoë’s board", 80, None), ("Łucja’s board", 40, "#103a70")):
            plate = {"op": "plate", "shape": "rectangle", "width": wide, "height": wide * 0.4}
            back = self.document["layers"][1] | {"recipe": {"from": ["w"], "steps": [plate]}, "colour": colour}
            document = self.document | {"name": name, "layers": [self.document["layers"][0], back]}
            document["art"][0] |= {"size": 4, "text": "Zo"}
            ids.append(self.http.post("/api/designs", json={"document": document}).json()["id"])
        path = "/api/proof/side-by-side"
        (large, _, _), (small, _, _) = self.boards(path, ids=ids, one_scale=True)
        self.assertAlmostEqual(large / small, 2, delta=0.03)
        (large, high, first), (small, _, second) = self.boards(path, ids=ids)
        self.assertAlmostEqual(large, small, delta=2)
        self.assertAlmostEqual(large / high, 2.5, delta=0.03)
        self.assertNotEqual(first, second)
        page = pypdf.PdfReader(io.BytesIO(self.http.post(path, json={"ids": ids}).content)).pages[0].extract_text()
        for told in ("2 designs", "Zoë’s board", "Łucja’s board", "80 mm × 32 mm", "40 mm × 16 mm"):
            self.assertIn(told, page)

    def test_sixty_fit_and_more_are_told(self) -> None:
        id = self.http.post("/api/designs", json={"document": self.document}).json()["id"]
        page = self.http.post("/api/proof/side-by-side", json={"ids": [id] * 60}).content
        self.assertEqual(60, pypdf.PdfReader(io.BytesIO(page)).pages[0].extract_text().count("80 mm × 32 mm"))
        for ids, told in (
            ([id] * 61, "At most 60 designs fit on one page: 61 are picked."),
            ([], "needs at least 1"),
            (["nowhere"], "It may have been deleted."),
        ):
            reply = self.http.post("/api/proof/side-by-side", json={"ids": ids})
            self.assertIn(reply.status_code, (404, 422))
            self.assertIn(told, reply.text)

    def test_a_design_with_nothing_in_it_has_its_place_and_says_so(self) -> None:
        empty = {"format": "tin-halo/1", "name": "Later", "art": [], "layers": []}
        ids = [self.http.post("/api/designs", json={"document": one}).json()["id"] for one in (empty, self.document)]
        for these in (ids, ids[:1]):
            for one_scale in (True, False):
                reply = self.http.post("/api/proof/side-by-side", json={"ids": these, "one_scale": one_scale})
                self.assertEqual(200, reply.status_code, reply.text[:300])
                text = pypdf.PdfReader(io.BytesIO(reply.content)).pages[0].extract_text()
                self.assertIn("Later", text)
                self.assertIn("nothing in it", text)

    def test_all_colour_ways_stand_side_by_side_and_the_design_as_it_is(self) -> None:
        found = self.boards("/api/proof/colour-ways", document=self.document)
        self.assertEqual(2, len(found))
        self.assertAlmostEqual(found[0][0], found[1][0], delta=2)
        worn = self.document | {
            "layers": [self.document["layers"][0], self.document["layers"][1] | {"colour": "#103a70"}]
        }
        self.assertEqual(1, len(self.boards("/api/proof/colour-ways", document=worn)))


if __name__ == "__main__":
    unittest.main()
