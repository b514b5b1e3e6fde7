"""Lists over the API: tables read, rows looked at, all packs in one file."""

from __future__ import annotations

import io
import tempfile
import unittest
import zipfile
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

from fastapi.testclient import TestClient

from tests.support import BRIEFLY
from tests.waiting import until
from tinhalo.api.app import create_app
from tinhalo.api.settings import Waits
from tinhalo.core.artwork.lettering.shipped import shipped_fonts

#: Layouts are searched for a moment only.
BRIEF = Waits(nesting=BRIEFLY)
BYTES = {"Content-Type": "application/octet-stream"}


def document(*rows: str) -> dict[str, Any]:
    art = [{"id": "w", "text": "Fenna", "font": "pacifico", "size": 20}]
    layers = [{"id": "face", "material": "acrylic-3", "recipe": {"from": ["w"]}}]
    names = {"columns": [{"use": "words", "art": "w"}], "rows": [[row] for row in rows]}
    return {"format": "tin-halo/1", "name": "Rings", "art": art, "layers": layers, "names": names}


class Lists(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        folder = Path(cls.enterClassContext(tempfile.TemporaryDirectory()))
        cls.http = cls.enterClassContext(TestClient(create_app(folder, waits=BRIEF), base_url="http://127.0.0.1"))

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
        self.assertIn("Pacifico lacks the characters", lacking["open"][0]["sentence"])
        self.assertTrue(lacking["unmade"])
        gone = self.http.post("/api/names/row", json={"document": document("Bo"), "index": 3})
        self.assertEqual(422, gone.status_code)

    def test_all_packs_come_in_one_file_with_a_check_list(self) -> None:
        reply = self.http.post("/api/names/packs", json={"document": document("Zoë", "=Bo")})
        with zipfile.ZipFile(io.BytesIO(reply.content)) as packed:
            found = set(packed.namelist())
            self.assertIn("'=Bo", packed.read("check list.csv").decode("utf-8-sig"))
        wanted = {"1 Zoë/face.svg", "2 -Bo/manifest.json", "quantities.xlsx", "check list.csv", "check list.pdf"}
        self.assertLessEqual(wanted, found)
        self.assertEqual([], [name for name in found if name.startswith(".") or name.endswith(".jsonl")])

    def test_a_row_is_mended_and_what_is_its_own_stays(self) -> None:
        whole = document("Wilhelmijn", "Bo")
        before = self.http.post("/api/names/row", json={"document": whole, "index": 0}).json()
        cause = next(one for one in before["open"] if one["mend"])
        asked = {"document": whole, "index": 0, "kind": cause["kind"], "layer": cause["layer"]}
        mended = self.http.post("/api/names/mend", json=asked).json()
        whole["names"]["own"] = [{"words": mended["words"], "changes": mended["changes"]}]
        after = self.http.post("/api/names/row", json={"document": whole, "index": 0}).json()
        self.assertTrue(after["own"])
        self.assertNotIn(cause["kind"], [one["kind"] for one in after["open"]])
        # The same by hand: told from the row's design as it was changed.
        own = {"document": document("Wilhelmijn", "Bo"), "words": "Wilhelmijn", "changed": after["document"]}
        self.assertEqual(mended["changes"], self.http.post("/api/names/own", json=own).json()["changes"])
        gone = self.http.post("/api/names/own", json=own | {"words": "Ida"})
        self.assertEqual((404, True), (gone.status_code, "no row “Ida”" in gone.json()["detail"]))

    def test_all_names_are_laid_on_sheets_which_leave_with_the_packs(self) -> None:
        whole = document("Zoë", "Bo")
        laid = self.http.post("/api/sheets/lay", json={"document": whole, "of": "list"}).json()
        whole["names"]["laying"] = laid
        seen = self.http.post("/api/sheets/look", json={"document": whole, "of": "list"}).json()
        self.assertTrue(seen["current"])
        names = {seen["boards"][one["board"]]["items"][one["item"]]["name"] for one in laid["placed"]}
        self.assertEqual({"Zoë", "Bo"}, names)
        packs = self.http.post("/api/names/packs", json={"document": whole}).content
        with zipfile.ZipFile(io.BytesIO(packs)) as packed:
            self.assertLessEqual({"sheets/Acrylic-3-mm-1.svg", "sheets/key.pdf"}, set(packed.namelist()))
        bare = self.http.post("/api/sheets/lay", json={"document": document(), "of": "list"})
        self.assertEqual(422, bare.status_code)

    def test_own_fonts_are_there_for_rows(self) -> None:
        shipped = next(one for one in shipped_fonts() if one.id == "pacifico")
        added = self.http.post("/api/fonts?name=mine.ttf", content=shipped.path.read_bytes(), headers=BYTES).json()
        whole = document("Zoë", "Bo")
        whole["art"][0]["font"] = added[0]["id"]
        made = self.http.post("/api/names/row", json={"document": whole, "index": 0}).json()
        self.assertFalse(made["unmade"], made["open"])
        # Only one name is drawn with it.
        whole["art"][0]["font"] = "bevan"
        change = {"op": "replace", "path": "/art/w/font", "value": added[0]["id"]}
        whole["names"]["own"] = [{"words": "Bo", "changes": [change]}]
        made = self.http.post("/api/names/row", json={"document": whole, "index": 1}).json()
        self.assertEqual((added[0]["id"], False), (made["document"]["art"][0]["font"], made["unmade"]))

    def test_own_materials_are_found_by_name(self) -> None:
        own = self.http.get("/api/materials/acrylic-3").json() | {"id": "own-1", "name": "Smoked glass"}
        del own["own"]
        self.http.put("/api/materials/own-1", json=own).raise_for_status()
        whole = document("Zoë")
        whole["names"] |= {
            "columns": [{"use": "words", "art": "w"}, {"use": "material", "layer": "face"}],
            "rows": [["Zoë", "smoked glass"]],
        }
        made = self.http.post("/api/names/row", json={"document": whole, "index": 0}).json()
        self.assertEqual(([], "own-1"), (made["told"], made["document"]["layers"][0]["material"]))

    def test_it_can_be_asked_how_far_it_is(self) -> None:
        told: list[float] = []
        whole = document(*[f"Name {k}" for k in range(12)])
        with ThreadPoolExecutor(1) as aside:
            packs = aside.submit(
                self.http.post, "/api/names/packs", json={"document": whole}, headers={"X-Progress": "some-name"}
            )

            def done() -> bool:
                share = self.http.get("/api/progress/some-name").json()["share"]
                told.extend([share] if share is not None else [])
                return packs.done()

            until(done)
        self.assertEqual(200, packs.result().status_code)
        self.assertEqual(sorted(told), told)
        self.assertGreater(len({share for share in told if 0 < share < 1}), 3)
        self.assertIsNone(self.http.get("/api/progress/some-name").json()["share"])

    def test_a_list_is_saved_with_its_design(self) -> None:
        made = self.http.post("/api/designs", json={"document": document("Zoë", "Bo")}).json()
        state = self.http.get(f"/api/designs/{made['id']}").json()
        self.assertEqual([["Zoë"], ["Bo"]], state["timeline"][-1]["names"]["rows"])


if __name__ == "__main__":
    unittest.main()
