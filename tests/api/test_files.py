"""Files brought in over the API, and designs that travel as one file with all that they are drawn with."""

from __future__ import annotations

import io
import math
import tempfile
import unittest
import zipfile
from base64 import b64encode
from pathlib import Path
from typing import Any

from fastapi.testclient import TestClient
from PIL import Image, ImageDraw

from tests.support import FONTS
from tinhalo.api.app import create_app
from tinhalo.core.artwork.lettering.shipped import shipped_fonts
from tinhalo.core.design.reading import parse_design
from tinhalo.store.backup import backup
from tinhalo.store.database import FILE, open_database
from tinhalo.store.designs import Designs
from tinhalo.store.files import Files as StoredFiles
from tinhalo.store.rescue import rescue

BYTES = {"content-type": "application/octet-stream"}
SVG = (
    b'<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="30mm" viewBox="0 0 40 30">'
    b'<rect width="40" height="30"/></svg>'
)


def picture() -> bytes:
    drawn = Image.new("L", (200, 100), 255)
    ImageDraw.Draw(drawn).ellipse((20, 20, 80, 80), fill=0)
    made = io.BytesIO()
    drawn.save(made, "PNG", dpi=(254, 254))
    return made.getvalue()


class Files(unittest.TestCase):
    def client(self) -> TestClient:
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        return self.enterContext(TestClient(create_app(folder), base_url="http://127.0.0.1"))

    def setUp(self) -> None:
        self.http = self.client()

    def bring(self, name: str, data: bytes) -> dict[str, Any]:
        reply = self.http.post("/api/files", params={"name": name}, content=data, headers=BYTES)
        self.assertEqual(200, reply.status_code, reply.text)
        return reply.json()

    def area(self, http: TestClient, document: dict[str, Any]) -> float:
        reply = http.post("/api/build", json={"document": document, "exact": True})
        self.assertEqual(200, reply.status_code, reply.text)
        return reply.json()["layers"][0]["area_mm2"]

    def design(self, *art: dict[str, Any]) -> dict[str, Any]:
        layers = [{"id": "a", "recipe": {"from": [one["id"] for one in art]}}]
        return {"format": "tin-halo/1", "name": "Crest", "art": list(art), "layers": layers}

    def test_a_drawing_is_kept_once_and_built(self) -> None:
        one, two = self.bring("crest.svg", SVG), self.bring("again.svg", SVG)
        self.assertEqual(one["id"], two["id"])
        self.assertEqual((40, 30), (round(one["width_mm"], 3), round(one["height_mm"], 3)))
        art = {"id": "d", "kind": "drawing", "file": one["id"], "name": "crest.svg"}
        self.assertAlmostEqual(1200, self.area(self.http, self.design(art)), places=3)
        self.assertEqual("crest.svg", self.http.get(f"/api/files/{one['id']}").json()["name"])
        shipped = self.http.get("/api/files/shipped").json()
        self.assertEqual({"kite", "gull", "cloud", "bunting"}, {file["id"] for file in shipped})

    def test_a_picture_has_its_size_and_is_traced(self) -> None:
        file = self.bring("gull.png", picture())
        self.assertEqual(("picture", 20, 200), (file["kind"], round(file["width_mm"], 3), file["width_px"]))
        art = {"id": "p", "kind": "picture", "file": file["id"], "name": "gull.png", "width": 20}
        traced = self.http.post("/api/files/trace", json=art).json()
        self.assertEqual((1, 0), (traced["pieces"], traced["holes"]))
        # What is told beside the picture is what the layer says of it.
        built = self.http.post("/api/build", json={"document": self.design(art), "exact": True, "widths": True}).json()
        narrowest = built["layers"][0]["narrowest"]
        self.assertAlmostEqual(narrowest["width_mm"] if narrowest else 0, traced["thinnest_mm"] or 0, delta=0.1)
        # An ellipse of 61 dots, a tenth of a millimetre each.
        self.assertAlmostEqual(math.pi * 3.05**2, self.area(self.http, self.design(art)), delta=0.3)
        shown = self.http.get(f"/api/files/{file['id']}/picture")
        self.assertEqual("image/png", shown.headers["content-type"])

    def test_a_picture_in_a_drawing_is_brought_in_to_be_traced(self) -> None:
        data = b64encode(picture()).decode()
        svg = (
            '<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="30mm" viewBox="0 0 40 30">'
            '<rect width="40" height="30"/>'
            f'<image x="10" y="5" width="20" height="10" href="data:image/png;base64,{data}"/>'
            '<image width="20" height="10" href="data:image/png;base64,AAAA"/></svg>'
        )
        drawing = self.bring("crest.svg", svg.encode())
        self.assertIn("2 pictures lie in it", drawing["told"][0])
        one, _ = drawing["pictures"]
        self.assertEqual((0, 5, 20), tuple(round(one[side], 3) for side in ("x_mm", "y_mm", "width_mm")))
        file = self.http.post(f"/api/files/{drawing['id']}/pictures/0").json()
        self.assertEqual(("picture", 200), (file["kind"], file["width_px"]))
        self.assertAlmostEqual(20, file["width_mm"])
        for number in (1, 2):
            reply = self.http.post(f"/api/files/{drawing['id']}/pictures/{number}")
            self.assertEqual(422, reply.status_code)

    def test_an_outline_is_turned_edited_and_travels_with_what_it_was_made_of(self) -> None:
        drawing = self.bring("crest.svg", SVG)
        document = self.design({"id": "d", "kind": "drawing", "file": drawing["id"], "name": "crest.svg"})
        turned = self.http.post("/api/outlines/turn", json={"document": document, "art": "d", "to": "outline"}).json()
        path = turned["art"][0]["path"]
        self.assertAlmostEqual(1200, self.area(self.http, turned), places=3)
        edit = {"op": "remove_nodes", "nodes": [0]}
        reply = self.http.post("/api/outlines/edit", json={"path": path, "edit": edit}).json()
        self.assertEqual((3, 4), (reply["nodes"], reply["nodes_before"]))
        # The corner of a triangle lies 40 * 30 / 50 mm from its longest side.
        self.assertAlmostEqual(24, reply["deviation_mm"], places=2)
        looked = self.http.post("/api/outlines/look", json={"path": path, "scale_x": 2}).json()
        self.assertEqual([("piece", 4, 2400.0)], [(r["kind"], r["nodes"], r["area_mm2"]) for r in looked["rings"]])
        refused = {"smooth": {"nodes": [99]}, "join_pieces": {"rings": [0]}, "straighten": {"nodes": [0]}}
        for op, more in refused.items():
            reply = self.http.post("/api/outlines/edit", json={"path": path, "edit": {"op": op, **more}})
            self.assertEqual(422, reply.status_code)
        made = self.http.post("/api/designs", json={"document": turned}).json()
        file = self.http.get(f"/api/designs/{made['id']}/file")
        self.assertIn(f"files/{drawing['id']}", zipfile.ZipFile(io.BytesIO(file.content)).namelist())
        back = self.http.post("/api/outlines/turn", json={"document": turned, "art": "d", "to": "original"}).json()
        self.assertEqual(made["timeline"][0] | {"art": back["art"]}, back)
        self.assertEqual("drawing", back["art"][0]["kind"])

    def test_what_cannot_be_used_is_told(self) -> None:
        for name, data in (("a.svg", b"<svg"), ("a.png", b"\x89PNG"), ("a.txt", b"hello")):
            reply = self.http.post("/api/files", params={"name": name}, content=data, headers=BYTES)
            self.assertEqual(422, reply.status_code)
            self.assertIn(f"{name} cannot be used", reply.json()["detail"])
        self.assertEqual(422, self.http.get("/api/files/file-none").status_code)
        plain = {"content-type": "text/plain"}
        page = self.http.post("/api/files", params={"name": "a.svg"}, content=SVG, headers=plain)
        self.assertEqual(415, page.status_code)

    def test_a_design_travels_with_all_that_it_is_drawn_with(self) -> None:
        drawing, scan = self.bring("crest.svg", SVG), self.bring("gull.png", picture())
        font = next(one for one in shipped_fonts() if one.id == FONTS[0])
        (own,) = self.http.post(
            "/api/fonts", params={"name": "own.ttf"}, content=font.path.read_bytes(), headers=BYTES
        ).json()
        document = self.design(
            {"id": "d", "kind": "drawing", "file": drawing["id"], "name": "crest.svg"},
            {"id": "p", "kind": "picture", "file": scan["id"], "name": "gull.png", "place": {"x": 60}},
            {"id": "w", "kind": "lettering", "text": "Bram", "font": own["id"], "place": {"x": 0, "y": 60}},
        )
        made = self.http.post("/api/designs", json={"document": document}).json()
        file = self.http.get(f"/api/designs/{made['id']}/file")
        self.assertIn("Crest.tinhalo.zip", file.headers["content-disposition"])
        names = zipfile.ZipFile(io.BytesIO(file.content)).namelist()
        self.assertEqual(
            ["design.json", f"files/{drawing['id']}", f"files/{scan['id']}", f"fonts/{own['id']}"], sorted(names)
        )
        elsewhere = self.client()
        opened = elsewhere.post("/api/designs/file", content=file.content, headers=BYTES)
        self.assertEqual(201, opened.status_code, opened.text)
        there = opened.json()["timeline"][0]
        self.assertEqual(made["timeline"][0], there)
        self.assertEqual(self.area(self.http, document), self.area(elsewhere, there))

    def test_a_picture_to_print_with_is_built_and_travels(self) -> None:
        scan = self.bring("gull.png", picture())
        document = self.design({"id": "w", "kind": "lettering", "text": "Bram", "font": FONTS[0]})
        worn = {"layer": "a", "material": "vinyl", "fill": {"kind": "picture", "file": scan["id"]}}
        document["colour_ways"] = [{"name": "Gulls", "layers": [worn]}]
        document["layers"][0] |= {
            "process": "print",
            "fill": {"kind": "picture", "file": scan["id"], "name": "gull.png"},
        }
        built = self.http.post("/api/build", json={"document": document}).json()
        self.assertEqual(scan["id"], built["layers"][0]["paint"]["file"])
        made = self.http.post("/api/designs", json={"document": document}).json()
        file = self.http.get(f"/api/designs/{made['id']}/file").content
        elsewhere = self.client()
        there = elsewhere.post("/api/designs/file", content=file, headers=BYTES).json()["timeline"][0]
        self.assertEqual(scan["id"], there["layers"][0]["fill"]["file"])
        self.assertEqual(200, elsewhere.get(f"/api/files/{scan['id']}/picture").status_code)
        pictures = self.http.post("/api/colour-ways/pictures", json={"document": document}).json()
        self.assertEqual(1, len(pictures["ways"]))
        self.assertNotEqual(pictures["now"], pictures["ways"][0])
        shown = self.http.get(f"/api/designs/{made['id']}/thumbnail.svg").text
        self.assertIn("data:image/png", shown)

    def test_files_are_in_a_backup_and_are_brought_over_from_a_damaged_database(self) -> None:
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        out = folder / "out"
        engine = open_database(folder)
        id = StoredFiles(engine).add("crest.svg", "drawing", SVG, b"read")
        Designs(engine).create(parse_design(self.design()))
        engine.dispose()
        backup(folder, out)
        self.assertEqual(SVG, (out / "files" / id).read_bytes())
        fresh = folder / "fresh"
        open_database(fresh).dispose()
        rescue(folder / FILE, fresh / FILE)
        self.assertEqual(("crest.svg", SVG), StoredFiles(open_database(fresh)).original(id))

    def test_files_that_are_none_or_lie_are_refused(self) -> None:
        def zipped(parts: dict[str, bytes]) -> bytes:
            held = io.BytesIO()
            with zipfile.ZipFile(held, "w", zipfile.ZIP_DEFLATED) as archive:
                for name, content in parts.items():
                    archive.writestr(name, content)
            return held.getvalue()

        plain = b'{"format": "tin-halo/1"}'
        cases = {
            "no design": zipped({"a.txt": b"x"}),
            "bomb": zipped({"design.json": plain, "files/file-x": b"\0" * 50_000_000}),
            "damaged": zipped({"design.json": plain})[:-30],
            "bad drawing": zipped({"design.json": plain, "files/file-x": b"<svg"}),
            "no json": b"hello",
        }
        for name, data in cases.items():
            reply = self.http.post("/api/designs/file", content=data, headers=BYTES)
            with self.subTest(name):
                self.assertEqual(422, reply.status_code)
                self.assertNotIn("Traceback", reply.text)
                self.assertEqual(name == "bomb", "too large" in reply.text)
        self.assertEqual([], self.http.get("/api/designs").json())
        # Paths that lead elsewhere are nothing that is read.
        reply = self.http.post(
            "/api/designs/file", content=zipped({"design.json": plain, "../../x": b"x"}), headers=BYTES
        )
        self.assertEqual(201, reply.status_code)
        self.assertEqual(201, self.http.post("/api/designs/file", content=plain, headers=BYTES).status_code)


if __name__ == "__main__":
    unittest.main()
