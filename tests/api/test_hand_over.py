"""Formats, tables of processes and packs over the API and at the command line."""

from __future__ import annotations

import contextlib
import io
import json
import tempfile
import unittest
import zipfile
from pathlib import Path
from typing import Any

from fastapi.testclient import TestClient

from tests.support import document
from tinhalo.api.app import create_app
from tinhalo.cli import main
from tinhalo.core.design.hand_over import PRESETS, HandOver
from tinhalo.core.output.formats import FORMATS


class HandingOver(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.client = self.enterContext(TestClient(create_app(self.folder / "data"), base_url="http://127.0.0.1"))

    def test_formats_say_what_they_are_for(self) -> None:
        told = self.client.get("/api/formats").json()
        self.assertEqual([one["id"] for one in told], list(FORMATS))
        self.assertTrue(all(one["title"] and one["use"] for one in told))

    def tables(self, client: TestClient) -> list[dict[str, Any]]:
        """The maker's own: those that come with the app are listed before them."""
        every = client.get("/api/tables").json()
        self.assertEqual(list(PRESETS), [one["name"] for one in every if one["shipped"]])
        return [one for one in every if not one["shipped"]]

    def test_tables_are_kept_replaced_and_forgotten(self) -> None:
        table = HandOver().model_dump(mode="json")["table"]
        table["cut"]["line_width"] = 0.2
        self.assertEqual(self.client.put("/api/tables/Shed laser", json=table).status_code, 200)
        (kept,) = self.tables(self.client)
        self.assertEqual((kept["name"], kept["table"]), ("Shed laser", table))
        table["score"]["colour"] = "#123456"
        self.client.put("/api/tables/Shed laser", json=table)
        (kept,) = self.tables(self.client)
        self.assertEqual(kept["table"]["score"]["colour"], "#123456")
        # It is there when the app is started again.
        with TestClient(create_app(self.folder / "data"), base_url="http://127.0.0.1") as again:
            self.assertEqual(self.tables(again), [kept])
        self.assertEqual(self.client.delete("/api/tables/Shed laser").status_code, 204)
        self.assertEqual(self.tables(self.client), [])
        self.assertEqual(self.client.delete("/api/tables/Shed laser").status_code, 404)

    def test_a_table_that_cannot_be_used_is_refused(self) -> None:
        table = HandOver().model_dump(mode="json")["table"]
        for change in ({"colour": "red"}, {"line_width": 0}, {"draw": "dots"}):
            bad = self.client.put("/api/tables/Bad", json=table | {"cut": table["cut"] | change})
            self.assertEqual(bad.status_code, 422, change)
        self.assertEqual(self.tables(self.client), [])

    def test_a_pack_has_the_formats_that_its_design_names(self) -> None:
        data = document() | {"hand_over": {"formats": ["dxf", "png"]}}
        made = self.client.post("/api/designs", json={"document": data}).json()
        answer = self.client.get(f"/api/designs/{made['id']}/files")
        with zipfile.ZipFile(io.BytesIO(answer.content)) as pack:
            endings = {Path(name).suffix for name in pack.namelist()}
        self.assertEqual(endings, {".dxf", ".png", ".json", ".pdf"})

    def pack(self, *more: str) -> tuple[int, set[str], str]:
        file, out = self.folder / "design.json", self.folder / "out"
        file.write_text(json.dumps(document()))
        said = io.StringIO()
        with contextlib.redirect_stderr(said):
            code = main(["pack", str(file), "--out", str(out), *more])
        return code, {one.name for one in out.glob("*")}, said.getvalue()

    def test_the_command_writes_the_formats_it_is_asked_for(self) -> None:
        code, names, _ = self.pack("--formats", "svg, DXF_R12")
        self.assertEqual(code, 0)
        stems = ("face", "backer", "board-acrylic-3", "board-ply-3", "combined")
        self.assertEqual(
            names, {"manifest.json"} | {f"{stem}.{end}" for stem in stems for end in ("svg", "r12-mm.dxf")}
        )

    def test_a_format_that_is_none_is_told(self) -> None:
        code, names, said = self.pack("--formats", "svg,gif")
        self.assertEqual((code, names), (2, set()))
        self.assertIn(
            "There is no format “gif”. Files can be written as svg, dxf, dxf_r12, pdf, eps, hpgl, tiles, png.", said
        )


if __name__ == "__main__":
    unittest.main()
