"""The cut pack: the manifest's contract, and the files as an independent SVG reader (svgelements) understands them."""

from __future__ import annotations

import io
import json
import tempfile
import unittest
import xml.etree.ElementTree as ET
import zipfile
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path
from typing import Any, NamedTuple

import numpy as np
import svgelements

from tests.sampling import sampled
from tests.support import FONTS, build_of, design, document
from tinhalo.cli import main
from tinhalo.core.design.reading import parse_design
from tinhalo.core.output.pack import download, manifest, pack_files
from tinhalo.demo.seed import demo_designs

#: CSS 2.1 section 4.3.2: 96 px are one inch; one inch is 25.4 mm exactly (International Yard and Pound, 1959).
MM_PER_PX = 25.4 / 96
SVG = "{http://www.w3.org/2000/svg}"


def read_back(text: str) -> tuple[float, np.ndarray]:
    """Area (mm²) and bounds (mm, from the page's top left corner) of all paths of a file, by its physical size."""
    area, corners = 0.0, []
    for element in svgelements.SVG.parse(io.StringIO(text), reify=True).elements():
        if not isinstance(element, svgelements.Path):
            continue
        rings = []
        for sub in element.as_subpaths():
            points = []
            for segment in svgelements.Path(sub).segments():
                if isinstance(segment, svgelements.Move):
                    continue
                steps = 1 if isinstance(segment, svgelements.Line | svgelements.Close) else 80
                points.append(np.array(segment.npoint(np.linspace(0, 1, steps, endpoint=False))))
            rings.append(np.concatenate(points) * MM_PER_PX)
        sizes = []
        for ring in rings:
            x, y = ring.T
            sizes.append(abs((x * np.roll(y, -1) - y * np.roll(x, -1)).sum()) / 2)
            corners += [ring.min(axis=0), ring.max(axis=0)]
        # One path is one piece: its shell, less its holes.
        area += 2 * max(sizes) - sum(sizes)
    every = np.array(corners)
    return area, np.concatenate([every.min(axis=0), every.max(axis=0)])


class Files(unittest.TestCase):
    def check(self, files: dict[str, bytes]) -> float:
        told = json.loads(files["manifest.json"])
        x0, _, _, y1 = told["bounds_mm"]
        worst = 0.0
        for layer in told["layers"]:
            area, bounds = read_back(files[layer["file"]].decode())
            worst = max(worst, abs(area / layer["area_mm2"] - 1))
            self.assertLess(worst, 5e-4)
            lx0, ly0, lx1, ly1 = layer["bounds_mm"]
            self.assertTrue(np.allclose(bounds, [lx0 - x0, y1 - ly1, lx1 - x0, y1 - ly0], atol=0.02), layer["id"])
        return worst

    def test_every_file_reads_back_at_true_size(self) -> None:
        worst = 0.0
        for font in sampled(FONTS, 1 / 10):
            with self.subTest(font=font):
                made = build_of(design([{"op": "offset", "by": 3}], text="Ostrel 8", font=font))
                worst = max(worst, self.check(pack_files(made)))
        for name, demo in sampled(list(demo_designs().items()), 1 / 4):
            with self.subTest(demo=name):
                worst = max(worst, self.check(pack_files(build_of(demo))))

    def test_files_hold_nothing_but_closed_paths(self) -> None:
        text = pack_files(build_of(demo_designs()["kite-fair-sticker"]))["combined.svg"].decode()
        root = ET.fromstring(text)
        tags = {element.tag.removeprefix(SVG) for element in root.iter()}
        self.assertEqual(tags, {"svg", "title", "desc", "g", "path"})
        for path in root.iter(f"{SVG}path"):
            data = path.get("d", "")
            self.assertEqual(data.count("M"), data.count("Z"))
            self.assertTrue(data.endswith("Z"))
        self.assertTrue("Q" in text and "C" in text)
        for element in root.iter():
            self.assertFalse({"transform", "clip-path", "display", "visibility", "style"} & set(element.attrib))
        width, height = (float((root.get(k) or "").removesuffix("mm")) for k in ("width", "height"))
        self.assertEqual([width, height], [float(v) for v in (root.get("viewBox") or "").split()[2:]])
        groups = root.findall(f"{SVG}g")
        self.assertEqual([g.get("id") for g in groups], ["words", "border", "ground"])
        self.assertEqual([g.findtext(f"{SVG}title") for g in groups], ["Words", "White border", "Ground"])

    def test_measures_agree_with_the_region(self) -> None:
        made = build_of(design())
        face, backer = manifest(made)["layers"]
        self.assertEqual((face["pieces"], face["holes"], backer["pieces"], backer["holes"]), (2, 2, 1, 0))
        for built in made.layers:
            self.assertLess(abs(built.measures.area / built.region.area.area - 1), 5e-4)
            self.assertLess(abs(built.measures.cut_length / built.region.area.length - 1), 5e-4)

    def test_what_is_ironed_on_leaves_mirrored_once_with_its_page(self) -> None:
        """Swapped left for right on its own page: areas stay, and what was near the left edge is near the right one."""
        data = document()
        data["art"][0]["text"] = "FL"
        data["layers"][0] |= {"material": "iron-on"}
        plain = pack_files(build_of(parse_design(data | {"hand_over": {"mirror": "none"}})))
        files = pack_files(build_of(parse_design(data)))
        told = json.loads(files["manifest.json"])
        by_id = {one["id"]: one for one in told["layers"]}
        self.assertEqual(
            (by_id["face"]["mirrored"], by_id["backer"]["mirrored"], told["mirrored"]), (True, False, False)
        )
        self.assertEqual(by_id["face"]["file"], "face-mirrored.svg")
        self.assertEqual([board["mirrored"] for board in told["boards"]], [True, False])
        self.assertEqual(files["backer.svg"], plain["backer.svg"])
        (area, box), (mirrored, swapped) = (
            read_back(one.decode()) for one in (plain["face.svg"], files["face-mirrored.svg"])
        )
        wide = told["bounds_mm"][2] - told["bounds_mm"][0]
        self.assertAlmostEqual(area, mirrored, delta=1e-3 * area)
        self.assertLess(np.abs(swapped - [wide - box[2], box[1], wide - box[0], box[3]]).max(), 0.01)
        self.assertEqual(read_back(plain["combined.svg"].decode())[0], read_back(files["combined.svg"].decode())[0])
        every = pack_files(build_of(parse_design(data | {"hand_over": {"mirror": "all"}})))
        self.assertIn("combined-mirrored.svg", every)

    def test_causes_are_summed_up_in_the_manifest(self) -> None:
        data = document(font="allura", text="Ottoline Bram")
        told = manifest(build_of(parse_design(data)))
        self.assertEqual(
            sorted(k for one in told["summary"] for k in one["findings"]), list(range(len(told["findings"])))
        )
        self.assertLess(len(told["summary"]), len(told["findings"]) / 2)

    def test_hidden_layers_and_guides_stay_and_are_named(self) -> None:
        data = document()
        data["layers"][0]["hidden"] = True
        data["layers"][1]["process"] = "guide"
        files = pack_files(build_of(parse_design(data)))
        self.assertEqual(set(files), {"combined.svg", "manifest.json"})
        left = json.loads(files["manifest.json"])["left_out"]
        self.assertEqual([(e["id"], e["why"]) for e in left], [("face", "hidden"), ("backer", "guide")])

    def test_awkward_names_survive(self) -> None:
        data = document()
        data["name"] = 'A/B <"&">'
        data["layers"][0] |= {"id": "Combined", "name": 'Top & <"tail">'}
        data["layers"][1] |= {"id": "9-lives"}
        made = build_of(parse_design(data))
        files = pack_files(made)
        self.assertIn("Combined-2.svg", files)
        root = ET.fromstring(files["combined.svg"])
        self.assertEqual([g.get("id") for g in root.findall(f"{SVG}g")], ["Combined", "_9-lives"])
        self.assertIn('Top & <"tail">', [t.text for t in root.iter(f"{SVG}title")])
        name, zipped = download(made)
        self.assertEqual("A B and.zip", name)
        with zipfile.ZipFile(io.BytesIO(zipped)) as archive:
            boards = {"A B and - Acrylic 3 mm.svg", "A B and - Plywood 3 mm.svg"}
            more = {"A B and - job sheet.pdf", "A B and - manifest.json"}
            self.assertEqual(boards | more, set(archive.namelist()))
        self.assertEqual((name, zipped), download(made))

    def test_one_board_in_one_format_is_one_file_and_none_leaves_twice(self) -> None:
        data = document()
        data["layers"] = data["layers"][1:]
        data["hand_over"] = {"files": ["boards", "layers", "together"]}
        name, content = download(build_of(parse_design(data)))
        self.assertEqual(
            "Untitled - Plywood 3 mm.svg" if not data.get("name") else f"{data['name']} - Plywood 3 mm.svg", name
        )
        self.assertTrue(content.startswith(b"<?xml"))


_FILES = ("face.svg", "backer.svg", "board-acrylic-3.svg", "board-ply-3.svg", "combined.svg", "manifest.json")


class Ran(NamedTuple):
    """What a command gave back, and wrote."""

    code: int
    stdout: str
    stderr: str


class CommandLine(unittest.TestCase):
    def run_it(self, *args: str) -> Ran:
        """What the command does, without a process of its own: each would read all libraries in for seconds."""
        with redirect_stdout(io.StringIO()) as out, redirect_stderr(io.StringIO()) as err:
            code = main(args)
        return Ran(code, out.getvalue(), err.getvalue())

    def pack(self, content: str | bytes) -> tuple[Ran, Path]:
        file, out = self.written(content)
        return self.run_it("pack", str(file), "--out", str(out)), out

    def written(self, content: str | bytes) -> tuple[Path, Path]:
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        file = folder / "design.json"
        file.write_bytes(content if isinstance(content, bytes) else content.encode())
        return file, folder / "out"

    def test_pack_writes_the_contract(self) -> None:
        file, out = self.written(json.dumps(document(size=40)))
        done = self.run_it("pack", str(file), "--out", str(out))
        self.assertEqual((done.code, done.stderr), (0, ""))
        self.assertEqual({p.name for p in out.iterdir()}, set(_FILES))
        told = json.loads((out / "manifest.json").read_text("utf-8"))
        wanted = {"id", "name", "process", "material", "file", "area_mm2", "cut_length_mm", "pieces", "holes"}
        wanted |= {"bounds_mm", "findings"}
        for layer in told["layers"]:
            self.assertLessEqual(wanted, set(layer))

    def test_bad_files_end_with_code_2_and_a_sentence(self) -> None:
        wrong: list[tuple[str | bytes, str]] = [
            ("{", "not valid JSON"),
            (b"\xff\xfe\x00", "not text|not valid JSON"),
            ("[1, 2]", "JSON object"),
            (json.dumps(document() | {"format": "tin-halo/99"}), "tin-halo/99"),
            (json.dumps(document(size=-3)), "size .*at least 0.5 mm; it is -3"),
            ("[" * 100_000, "not valid JSON"),
        ]
        for content, sentence in wrong:
            done, out = self.pack(content)
            with self.subTest(sentence=sentence):
                self.assertEqual(done.code, 2)
                self.assertRegex(done.stderr, sentence)
                self.assertNotIn("Traceback", done.stderr)
                self.assertFalse(out.exists())
        missing = self.run_it("pack", "nowhere.json", "--out", "x")
        self.assertEqual(missing.code, 2)
        self.assertIn("nowhere.json", missing.stderr)

    def test_findings_are_told_and_do_not_block(self) -> None:
        done, out = self.pack(json.dumps(document([{"op": "offset", "by": -30}])))
        self.assertEqual(done.code, 0)
        self.assertIn("Nothing is left of “Backer”", done.stderr)
        layer: dict[str, Any] = json.loads((out / "manifest.json").read_text("utf-8"))["layers"][1]
        self.assertEqual((layer["area_mm2"], layer["pieces"], layer["bounds_mm"]), (0, 0, None))
        self.assertEqual(layer["findings"][0]["kind"], "nothing_left")

    def test_fonts_as_json(self) -> None:
        fonts = json.loads(self.run_it("fonts", "--json").stdout)
        self.assertEqual([f["id"] for f in fonts], FONTS)
        self.assertTrue(all(Path(f["path"]).is_file() and f["family"] and f["style"] for f in fonts))
