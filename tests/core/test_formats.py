"""Files read back by other readers: DXF by ezdxf, SVG by svgelements, PNG by Pillow; what they say of each layer."""

from __future__ import annotations

import io
import json
import unittest
import xml.etree.ElementTree as ET
from typing import Any

import ezdxf
import ezdxf.bbox
import numpy as np
import shapely
import svgelements
from PIL import Image

from tests.sampling import sampled
from tests.support import build_of
from tinhalo.core.design.hand_over import PRESETS, USUAL, Table
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.built import Build
from tinhalo.core.output import dxf, png
from tinhalo.core.output.drawing import drawing_of
from tinhalo.core.output.formats import FORMATS
from tinhalo.core.output.pack import manifest, pack_files
from tinhalo.core.starters import STARTERS

SVG = "{http://www.w3.org/2000/svg}"
MM_PER_PX = 25.4 / 96


def sign(**more: Any) -> Build:
    """Four layers, each with a process of its own; two boards."""
    layers = [
        {"id": "face", "name": "Face", "material": "acrylic-3", "recipe": {"from": ["name"]}},
        {"id": "print", "name": "Print", "process": "print", "material": "ply-3", "recipe": {"from": ["star"]}},
        {"id": "line", "name": "Placing: line?", "process": "score", "material": "ply-3", "recipe": {"from": ["name"]}},
        {"id": "sunk", "name": "Sünk", "process": "engrave", "material": "ply-3", "recipe": {"from": ["star"]}},
        {
            "id": "board",
            "material": "ply-3",
            "recipe": {"from": ["plate"], "steps": [{"op": "stitch", "inset": -1, "outer_only": True}]},
        },
        {"id": "plate-layer", "name": "Plate", "material": "ply-3", "recipe": {"from": ["plate"]}},
    ]
    art = [
        {"id": "name", "text": "Fenna", "font": "pacifico", "size": 30},
        {"id": "star", "kind": "shape", "shape": "star", "width": 20, "height": 19, "place": {"x": 60}},
        {"id": "plate", "kind": "shape", "shape": "rectangle", "width": 160, "height": 70, "corner_radius": 12},
    ]
    data = {"format": "tin-halo/1", "name": "Sign", "art": art, "layers": layers} | more
    return build_of(parse_design(data))


def lines_of(element: ET.Element) -> list[list[float]]:
    """The boxes of all lines under an element, as svgelements reads them: wherever each is begun."""
    paths = [svgelements.Path(path.get("d")) for path in element.iter(f"{SVG}path")]
    boxes: list[Any] = [svgelements.Path(sub).bbox() for path in paths for sub in path.as_subpaths()]
    return sorted([round(float(v), 3) for v in box] for box in boxes)


def lab(colour: str) -> np.ndarray:
    """CIE L*a*b* of #rrggbb under D65 (IEC 61966-2-1 for sRGB, ISO/CIE 11664-4)."""
    levels = np.array([int(colour[i : i + 2], 16) / 255 for i in (1, 3, 5)])
    linear = np.where(levels <= 0.04045, levels / 12.92, ((levels + 0.055) / 1.055) ** 2.4)
    to_xyz = np.array([[0.4124, 0.3576, 0.1805], [0.2126, 0.7152, 0.0722], [0.0193, 0.1192, 0.9505]])
    x, y, z = np.cbrt(to_xyz @ linear / (0.95047, 1.0, 1.08883))
    return np.array([116 * y - 16, 500 * (x - y), 200 * (y - z)])


def dxf_areas(data: bytes) -> dict[str, tuple[float, np.ndarray, int]]:
    """Of each layer of a DXF file: its area (shells less holes), its box, and the number of open lines."""
    file = ezdxf.read(io.StringIO(data.decode("utf-8")))
    rings: dict[str, list[np.ndarray]] = {}
    opened: dict[str, int] = {}
    for entity in file.modelspace():
        path = ezdxf.path.make_path(entity)
        points = np.array([(p.x, p.y) for p in path.flattening(0.0005)])
        name = entity.dxf.layer
        closed = np.hypot(*(points[0] - points[-1])) < 1e-6
        opened[name] = opened.get(name, 0) + (not closed)
        if closed or len(points) > 2:
            rings.setdefault(name, []).append(points)
    found: dict[str, tuple[float, np.ndarray, int]] = {}
    for name in opened:
        area = shapely.Polygon()
        every = [one for one in rings.get(name, []) if len(one) > 3]
        for ring in every:
            area = area.symmetric_difference(shapely.Polygon(ring).buffer(0))
        box = np.array(shapely.GeometryCollection([shapely.LineString(one) for one in every] or [area]).bounds)
        found[name] = (area.area, box, opened[name])
    return found


class Dxf(unittest.TestCase):
    def test_every_layer_reads_back_at_true_size(self) -> None:
        """ezdxf's own path tools (its documentation: ``ezdxf.path``); areas within 0.05 %, bounds within 0.02 mm."""
        worst, off = 0.0, 0.0
        designs = [sign().design, *(one.document for one in sampled(STARTERS, 1 / 10))]
        for one in designs:
            made = build_of(one)
            drawing = drawing_of(made)
            assert drawing.page
            corner = np.array(drawing.page[:2] * 2)
            for layer in made.leaving():
                for write in (dxf.write, dxf.write_r12):
                    with self.subTest(design=one.name, layer=layer.layer.id, write=write.__name__):
                        read = dxf_areas(write(drawing.only("", [layer.layer.id])))
                        ((area, box, lines),) = read.values()
                        self.assertEqual(lines, layer.measures.marks)
                        if layer.measures.area:
                            worst = max(worst, abs(area / layer.measures.area - 1))
                            off = max(off, np.abs(box + corner - layer.measures.bounds).max())
        self.assertLess(worst, 5e-4)
        self.assertLess(off, 0.02)

    def test_layers_have_names_and_colours_and_the_file_its_unit(self) -> None:
        files = pack_files(sign(), formats=["dxf", "dxf_r12"])
        file = ezdxf.read(io.StringIO(files["combined.dxf"].decode("utf-8")))
        # The DXF reference: $INSUNITS 4 is millimetres.
        self.assertEqual((file.units, file.dxfversion), (4, "AC1021"))
        own = {layer.dxf.name: layer.rgb for layer in file.layers if layer.dxf.name not in ("0", "Defpoints")}
        self.assertEqual(set(own), {"Face", "Print", "Placing line", "Sünk", "board", "Plate"})
        hexes = {name: "#{:02x}{:02x}{:02x}".format(*rgb) for name, rgb in own.items()}
        self.assertEqual(hexes["Face"], USUAL["cut"].colour)
        self.assertEqual(hexes["Placing line"], USUAL["score"].colour)
        self.assertEqual(hexes["Print"], "#c9a06c")
        kinds = {entity.dxftype() for entity in file.modelspace()}
        self.assertEqual(kinds, {"SPLINE", "LWPOLYLINE"})
        old = ezdxf.read(io.StringIO(files["combined.r12-mm.dxf"].decode("ascii")))
        self.assertEqual(old.dxfversion, "AC1009")
        self.assertEqual({entity.dxftype() for entity in old.modelspace()}, {"POLYLINE"})
        # Processes are told apart by the colour index alone, too, and nothing lies left of the origin or under it.
        for one in (file, old):
            index = {layer.dxf.name.upper().replace(" ", "_"): layer.color for layer in one.layers}
            self.assertNotEqual(index["FACE"], index["PLACING_LINE"])
            box = ezdxf.bbox.extents(one.modelspace(), fast=False)
            self.assertGreater(min(box.extmin.x, box.extmin.y), -1e-6)

    def test_inch_designs_leave_in_inches(self) -> None:
        """$INSUNITS 1 is inches (DXF reference); R12 has no units, so its file's name says it."""
        files = pack_files(sign(unit="in"), formats=["dxf", "dxf_r12"])
        metric = pack_files(sign(unit="in", hand_over={"dxf_unit": "mm"}), formats=["dxf"])
        boxes = []
        for data in (files["face.dxf"], files["face.r12-in.dxf"], metric["face.dxf"]):
            file = ezdxf.read(io.StringIO(data.decode("utf-8")))
            boxes.append((file.header.get("$INSUNITS"), ezdxf.bbox.extents(file.modelspace()).size.x))
        self.assertEqual((1, 4), (boxes[0][0], boxes[2][0]))
        for _, width in boxes[:2]:
            self.assertAlmostEqual(boxes[2][1] / 25.4, width, places=3)

    def test_what_is_round_leaves_as_arcs(self) -> None:
        """A rounded rectangle is four lines and four quarter circles: a bulge is the tangent of a quarter turn's."""
        files = pack_files(sign(), formats=["dxf"])
        file = ezdxf.read(io.StringIO(files["plate-layer.dxf"].decode("utf-8")))
        (line,) = file.modelspace()
        bulges = [point[4] for point in line.get_points()]
        quarter = sum(np.degrees(4 * np.arctan(bulge)) for bulge in bulges)
        self.assertAlmostEqual(quarter, 360, delta=0.01)
        self.assertTrue(line.closed)


class Svg(unittest.TestCase):
    def group(self, made: Build, file: str, id: str) -> ET.Element:
        root = ET.fromstring(pack_files(made, formats=["svg"])[file])
        return next(group for group in root.iter(f"{SVG}g") if group.get("id") == id)

    def test_files_say_what_to_do(self) -> None:
        made = sign()
        wanted = {
            "face": ("none", USUAL["cut"].colour),
            "line": ("none", USUAL["score"].colour),
            "sunk": (USUAL["engrave"].colour, "none"),
            "print": ("#c9a06c", "none"),
        }
        told = json.loads(pack_files(made)["manifest.json"])["layers"]
        for layer in told:
            if layer["id"] in wanted:
                with self.subTest(layer=layer["id"]):
                    group = self.group(made, layer["file"], layer["id"])
                    fill, stroke = wanted[layer["id"]]
                    self.assertEqual((group.get("fill"), group.get("stroke")), (fill, stroke))
                    self.assertEqual((layer["fill"] or "none", layer["stroke"] or "none"), (fill, stroke))
                    if stroke != "none":
                        self.assertEqual(float(group.get("stroke-width") or 0), layer["line_width_mm"])
        (strokes,) = self.group(made, "board.svg", "board").findall(f"{SVG}path")
        self.assertEqual((strokes.get("fill"), strokes.get("stroke")), ("none", USUAL["cut"].colour))

    def test_the_table_and_single_layers_can_be_set(self) -> None:
        table = {"cut": {"draw": "area", "colour": "#102030"}, "score": {"line_width": 0.5, "colour": None}}
        made = sign(hand_over={"table": table})
        self.assertEqual(self.group(made, "face.svg", "face").get("fill"), "#102030")
        line = self.group(made, "line.svg", "line")
        self.assertEqual((line.get("stroke"), line.get("stroke-width")), ("#c9a06c", "0.5"))
        data = made.design.model_dump(mode="json", by_alias=True)
        data["layers"][0]["leaving"] = {"draw": "line", "colour": "#ff8800", "line_width": 1}
        other = build_of(parse_design(data))
        face = self.group(other, "face.svg", "face")
        self.assertEqual((face.get("fill"), face.get("stroke"), face.get("stroke-width")), ("none", "#ff8800", "1"))

    def test_usual_colours_differ_in_lightness(self) -> None:
        """CIE L* of 1976 from sRGB's luminance (IEC 61966-2-1): apart for who sees no colours, too."""

        def lightness(colour: str) -> float:
            levels = [int(colour[i : i + 2], 16) / 255 for i in (1, 3, 5)]
            linear = [v / 12.92 if v <= 0.04045 else ((v + 0.055) / 1.055) ** 2.4 for v in levels]
            return 116 * float(np.dot(linear, (0.2126, 0.7152, 0.0722))) ** (1 / 3) - 16

        found = sorted(lightness(one.colour) for one in USUAL.values() if one.colour)
        self.assertGreater(min(np.diff(found)), 8)

    def test_colours_of_processes_are_told_apart(self) -> None:
        """CIE 1976 colour differences over 20 (ISO/CIE 11664-4), in the usual table and in each preset."""
        for name, table in {"usual": Table(), **PRESETS}.items():
            lines = [
                one for process in ("cut", "through", "score", "draw") if (one := table.of(process)).draw == "line"
            ]
            colours = [lab(one.colour) for one in lines if one.colour]
            for k, one in enumerate(colours):
                for other in colours[:k]:
                    with self.subTest(name):
                        self.assertGreater(float(np.linalg.norm(one - other)), 20)

    def test_presets_say_what_their_machines_need(self) -> None:
        laser = sign(hand_over={"table": PRESETS["Laser"].model_dump()})
        self.assertEqual(self.group(laser, "plate-layer.svg", "plate-layer").get("stroke-width"), "0.01")
        film = sign(hand_over={"table": PRESETS["Film cutter"].model_dump()})
        colours = {self.group(film, f"{id}.svg", id).get("stroke") for id in ("face", "plate-layer")}
        self.assertEqual({"#1f4e63", "#c9a06c"}, colours)
        sale = sign(hand_over={"table": PRESETS["For sale"].model_dump(), "files": ["together"]})
        root = ET.fromstring(pack_files(sale)["combined.svg"])
        groups = list(root.iter(f"{SVG}g"))
        self.assertEqual({"none"}, {group.get("stroke") for group in groups})
        self.assertTrue(all((group.get("fill") or "none") != "none" for group in groups))
        self.assertIn("Face", [group.findtext(f"{SVG}title") for group in groups])

    def test_spot_colours_are_called_as_the_maker_says(self) -> None:
        made = sign(hand_over={"formats": ["eps"], "table": {"cut": {"colour": "#7a1648", "spot": "Shop cut"}}})
        self.assertIn(b"/Separation (Shop cut)", pack_files(made)["plate-layer.eps"])

    def test_a_board_has_each_of_its_layers_once_in_register(self) -> None:
        made = sign()
        files = pack_files(made)
        told = json.loads(files["manifest.json"])
        self.assertEqual(
            [(one["material"], one["file"], one["layers"]) for one in told["boards"]],
            [
                ("acrylic-3", "board-acrylic-3.svg", ["face"]),
                ("ply-3", "board-ply-3.svg", ["print", "line", "sunk", "board", "plate-layer"]),
            ],
        )
        alone = {layer["id"]: layer["file"] for layer in told["layers"]}
        for board in told["boards"]:
            root = ET.fromstring(files[board["file"]])
            groups = [group.get("id") or "" for group in root.iter(f"{SVG}g")]
            self.assertEqual(sorted(groups), sorted(board["layers"]))
            for id in board["layers"]:
                own = ET.fromstring(files[alone[id]])
                self.assertEqual(own.get("viewBox"), root.get("viewBox"))
                paths = lines_of(own)
                group = next(group for group in root.iter(f"{SVG}g") if group.get("id") == id)
                self.assertEqual(lines_of(group), paths)

    def test_layers_are_put_on_boards_of_their_own(self) -> None:
        data = sign().design.model_dump(mode="json", by_alias=True)
        data["layers"][1]["board"] = data["layers"][3]["board"] = "Offcut / 2"
        files = pack_files(build_of(parse_design(data)))
        boards = json.loads(files["manifest.json"])["boards"]
        self.assertEqual(
            [one["layers"] for one in boards], [["face"], ["print", "sunk"], ["line", "board", "plate-layer"]]
        )
        self.assertEqual(boards[1]["file"], "board-Offcut-2.svg")
        self.assertTrue(all(one["file"] in files for one in boards))
        # What the maker puts together is together, on the material of what is cut lowest.
        data["layers"][0]["board"] = "Offcut / 2"
        files = pack_files(build_of(parse_design(data)))
        together = json.loads(files["manifest.json"])["boards"][0]
        self.assertEqual((together["material"], together["layers"]), ("acrylic-3", ["face", "print", "sunk"]))

    def test_what_has_another_colour_comes_from_another_board(self) -> None:
        data = sign().design.model_dump(mode="json", by_alias=True)
        last = data["layers"][-1]
        last["colour"] = "#1f2a44"
        data["hand_over"]["table"]["cut"] = {"draw": "area", "colour": None}
        files = pack_files(build_of(parse_design(data)))
        told = json.loads(files["manifest.json"])
        self.assertEqual(
            [(one["colour"], one["file"], one["layers"]) for one in told["boards"]],
            [
                (None, "board-acrylic-3.svg", ["face"]),
                # What is marked stays with what is cut under it.
                (None, "board-ply-3.svg", ["print", "line", "sunk", "board"]),
                ("#1f2a44", "board-ply-3-1f2a44.svg", [last["id"]]),
            ],
        )
        self.assertIn(b"#1f2a44", files[f"{last['id']}.svg"])
        self.assertEqual([one["colour"] for one in told["layers"] if one["id"] == last["id"]], ["#1f2a44"])

    def test_svg_reads_back_in_every_reader_s_units(self) -> None:
        made = sign()
        files = pack_files(made)
        layer = next(one for one in made.layers if one.layer.id == "plate-layer")
        path = next(
            iter(
                svgelements.SVG.parse(io.BytesIO(files["plate-layer.svg"])).elements(
                    lambda e: isinstance(e, svgelements.Path)
                )
            )
        )
        x0, y0, x1, y1 = (v * MM_PER_PX for v in path.bbox())
        assert layer.measures.bounds
        bx0, by0, bx1, by1 = layer.measures.bounds
        self.assertTrue(np.allclose((x1 - x0, y1 - y0), (bx1 - bx0, by1 - by0), atol=0.02))


class Png(unittest.TestCase):
    def picture(self, made: Build, file: str) -> Image.Image:
        return Image.open(io.BytesIO(pack_files(made, formats=["png"])[file]))

    def test_density_size_and_area(self) -> None:
        """A PNG's pHYs chunk holds whole dots per metre (PNG specification 11.3.5.3)."""
        for dpi in (72, 600):
            made = sign(hand_over={"picture": {"dots_per_inch": dpi}})
            drawing = drawing_of(made).only("", ["sunk"])
            picture = Image.open(io.BytesIO(png.write(drawing, made.design.hand_over)))
            self.assertAlmostEqual(picture.info["dpi"][0], dpi, delta=0.02)
            x0, y0, x1, y1 = made.bounds or (0, 0, 0, 0)
            wanted = ((x1 - x0) / 25.4 * dpi, (y1 - y0) / 25.4 * dpi)
            self.assertTrue(np.allclose(picture.size, wanted, atol=1))
            covered = np.asarray(picture.convert("RGBA"))[..., 3].sum() / 255 * (25.4 / dpi) ** 2
            area = next(one.measures.area for one in made.layers if one.layer.id == "sunk")
            self.assertAlmostEqual(covered / area, 1, delta=1e-3 if dpi == 600 else 2e-2)

    def test_see_through_or_on_a_colour(self) -> None:
        clear = sign(hand_over={"picture": {"dots_per_inch": 60}})
        self.assertEqual(self.picture(clear, "sunk.png").convert("RGBA").getpixel((0, 0)), (0, 0, 0, 0))
        made = sign(hand_over={"picture": {"background": "#fffaf0", "dots_per_inch": 60}})
        picture = self.picture(made, "sunk.png").convert("RGBA")
        self.assertEqual(picture.getpixel((0, 0)), (255, 250, 240, 255))
        colours = set(map(tuple, np.asarray(picture)[..., :3].reshape(-1, 3).tolist()))
        self.assertIn((214, 154, 45), colours)

    def test_a_picture_nobody_could_open_gets_fewer_dots(self) -> None:
        data = sign().design.model_dump(mode="json", by_alias=True)
        data["art"][2] |= {"width": 9000, "height": 9000}
        made = build_of(parse_design(data))
        drawing = drawing_of(made)
        dpi = png.density(drawing, 300)
        self.assertLess(np.prod([side / 25.4 * dpi for side in drawing.size]), png.MOST_DOTS)
        self.assertLess(dpi, 300)
        self.assertEqual(manifest(made)["dots_per_inch"], dpi)


class Choice(unittest.TestCase):
    def test_nothing_to_hand_over_gives_files_all_the_same(self) -> None:
        made = sign(layers=[])
        files = pack_files(made, formats=list(FORMATS))
        self.assertEqual(len(files), len(FORMATS) + 1)
        self.assertEqual(Image.open(io.BytesIO(files["combined.png"])).size, (1, 1))

    def test_formats_are_those_of_the_design_unless_others_are_asked_for(self) -> None:
        made = sign(hand_over={"formats": ["dxf", "png"], "picture": {"dots_per_inch": 60}})
        own = pack_files(made)
        self.assertEqual({name.rsplit(".", 1)[1] for name in own}, {"dxf", "png", "json"})
        self.assertEqual({name.rsplit(".", 1)[1] for name in pack_files(made, formats=["svg"])}, {"svg", "json"})
        told = json.loads(own["manifest.json"])
        self.assertEqual(
            (told["formats"], told["layers"][0]["file"], told["combined"]), (["dxf", "png"], "face.dxf", "combined.dxf")
        )
        self.assertEqual(set(FORMATS), {"svg", "dxf", "dxf_r12", "pdf", "eps", "hpgl", "tiles", "png"})
