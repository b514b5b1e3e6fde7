"""Lists over the API: tables read, rows looked at, all packs in one file."""

from __future__ import annotations

import io
import tempfile
import unittest
import zipfile
from pathlib import Path
from typing import Any

from fastapi.testclient import TestClient

from tinhalo.api.app import create_app

BYTES = {"Content-Type": "application/octet-stream"}


def document(*rows: str) -> dict[str, Any]:
    art = [{"id": "w", "text": "Fenna", "font": "pacifico", "size": 20}]
    layers = [{"id": "face", "material": "acrylic-3", "recipe": {"from": ["w"]}}]
    names = {"columns": [{"use": "words", "art": "w"}], "rows": [[row] for row in rows]}
    return {"format": "tin-halo/1", "name": "Rings", "art": art, "layers": layers, "names": names}


class Lists(unittest.TestCase):
    def setUp(self) -> None:
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.http = self.enterContext(TestClient(create_app(folder), base_url="http://127.0.0.1"))

    def test_tables_are_read_from_files_and_text(self) -> None:
        reply = self.http.post("/api/names/file?name=class.csv", content="name,copies\nZoë,2\n".encode(), headers=BYTES)
        self.assertEqual({"rows": [["name", "copies"], ["Zoë", "2"]], "titled": True, "told": []}, reply.json())
        self.assertEqual([["a"], ["b"]], self.http.post("/api/names/text", json={"text": "a\nb"}).json()["rows"])
        damaged = self.http.post("/api/names/file?name=x.xlsx", content=b"PK\x03\x04no", headers=BYTES)
        self.assertEqual((422, True), (damaged.status_code, "x.xlsx cannot be used" in damaged.json()["detail"]))
        empty = self.http.post("/api/names/text", json={"text": " \n"})
        self.assertEqual("There is nothing in it.", empty.json()["detail"])

    def test_columns_are_suggested(self) -> None:
        asked = {"document": document(), "titles": [], "rows": [["Bo", "2"], ["Al", "1"]]}
        self.assertEqual(
            ["words", "copies"], [one["use"] for one in self.http.post("/api/names/columns", json=asked).json()]
        )
        ragged = self.http.post("/api/names/columns", json=asked | {"rows": [["Bo"], ["Al", "1"]]})
        self.assertEqual(422, ragged.status_code)

    def test_a_row_is_built_and_checked(self) -> None:
        made = self.http.post("/api/names/row", json={"document": document("Zoë", "Bo"), "index": 1}).json()
        self.assertEqual(("Bo", 1, None), (made["words"], made["copies"], made["document"]["names"]))
        self.assertEqual("Bo", made["document"]["art"][0]["text"])
        self.assertIn("<svg", made["picture"])
        lacking = self.http.post("/api/names/row", json={"document": document("محمد"), "index": 0}).json()
        self.assertIn("Pacifico lacks the characters", lacking["open"][0])
        gone = self.http.post("/api/names/row", json={"document": document("Bo"), "index": 3})
        self.assertEqual(422, gone.status_code)

    def test_all_packs_come_in_one_file_with_a_check_list(self) -> None:
        reply = self.http.post("/api/names/packs", json={"document": document("Zoë", "=Bo")})
        with zipfile.ZipFile(io.BytesIO(reply.content)) as packed:
            found = set(packed.namelist())
            self.assertIn("'=Bo", packed.read("check list.csv").decode("utf-8-sig"))
        self.assertLessEqual({"1 Zoë/face.svg", "2 -Bo/manifest.json", "quantities.xlsx", "check list.csv"}, found)

    def test_a_list_is_saved_with_its_design(self) -> None:
        made = self.http.post("/api/designs", json={"document": document("Zoë", "Bo")}).json()
        state = self.http.get(f"/api/designs/{made['id']}").json()
        self.assertEqual([["Zoë"], ["Bo"]], state["timeline"][-1]["names"]["rows"])


if __name__ == "__main__":
    unittest.main()
