"""Solids, read back by trimesh and against formulas of plane and solid geometry."""

from __future__ import annotations

import io
import math
import unittest
import zipfile
from dataclasses import replace
from typing import Any
from xml.etree import ElementTree

import numpy as np
import shapely
import trimesh

from tests.core.test_machine_files import BY_NAME, DEMOS, demo
from tests.sampling import sampled
from tests.support import build_of
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.built import Build
from tinhalo.core.geometry.solids.raised import flat, raised
from tinhalo.core.output.pack import manifest, pack_files
from tinhalo.core.output.solids import Solid, solids_of


def plate(width: float, height: float, **place: float) -> dict[str, Any]:
    steps: list[dict[str, Any]] = [{"op": "plate", "shape": "rectangle", "width": width, "height": height}]
    return {"from": ["n"], "steps": [*steps, *([{"op": "place", **place}] if place else [])]}


def stacked(*layers: tuple[str, dict[str, Any]], **solids: Any) -> Build:
    """Plates of 3 mm upon each other, from the top; ids that begin with "mark" are engraved."""
    art = [{"id": "n", "text": "o", "font": "anton", "size": 10}]
    made = [
        {"id": id, "material": "acrylic-3", "process": "engrave" if id.startswith("mark") else "cut", "recipe": recipe}
        for id, recipe in layers
    ]
    hand_over = {"solids": {"formats": ["3mf", "stl"], **solids}}
    data = {"format": "tin-halo/1", "name": "Plates", "art": art, "layers": made, "hand_over": hand_over}
    return build_of(parse_design(data))


def by_id(made: Build) -> dict[str, Solid]:
    return {one.id: one for one in solids_of(made)}


class Raised(unittest.TestCase):
    def test_volume_is_area_times_height_and_every_edge_has_two_triangles(self) -> None:
        for path in sampled(DEMOS, 1 / 10):
            for layer in demo(path).layers:
                for edge in ("sharp", "chamfer", "round"):
                    mesh = raised(layer.region.area, 1, 4, edge, 0.3)
                    with self.subTest(path.stem, layer=layer.layer.id, edge=edge):
                        self.assertTrue(mesh.is_closed)
                        low, high = mesh.bounds
                        x0, y0, x1, y1 = layer.region.area.bounds
                        np.testing.assert_allclose([*low, *high], [x0, y0, 1, x1, y1, 4], atol=1e-9)
                        if edge == "sharp":
                            self.assertAlmostEqual(mesh.volume / (layer.region.area.area * 3), 1, delta=1e-6)

    def test_a_chamfer_is_a_prismatoid_and_a_round_edge_a_fillet(self) -> None:
        # A prismatoid's volume is h/6 (bottom + 4 middle + top), exactly (handbooks of solid geometry).
        a, b, size = 30.0, 12.0, 1.5
        box = shapely.MultiPolygon([shapely.box(0, 0, a, b)])
        mitred = raised(box, 0, 5, "chamfer", size).volume
        middle, top = (a - size) * (b - size), (a - 2 * size) * (b - 2 * size)
        self.assertAlmostEqual(mitred, a * b * (5 - size) + size / 6 * (a * b + 4 * middle + top), places=6)
        # A rounded edge takes (1 - pi/4) r² along it, but for the four corners; facets of 15° take a little more.
        rounded = raised(box, 0, 5, "round", size).volume
        lost = 2 * (a + b) * (1 - math.pi / 4) * size**2
        self.assertAlmostEqual((a * b * 5 - rounded) / lost, 1, delta=0.05)
        # A regular polygon of 90 corners: all of its insets are alike.
        ring = [(10 * math.cos(math.radians(4 * k)), 10 * math.sin(math.radians(4 * k))) for k in range(90)]
        disc = shapely.MultiPolygon([shapely.Polygon(ring)])
        shrink = 1 - size / (10 * math.cos(math.radians(2)))
        area = disc.area
        wanted = area * (5 - size) + size / 3 * area * (1 + shrink + shrink**2)
        self.assertAlmostEqual(raised(disc, 0, 5, "chamfer", size).volume / wanted, 1, delta=1e-6)

    def test_a_chamfer_wider_than_a_stroke_only_lowers_it(self) -> None:
        thin = shapely.MultiPolygon([shapely.box(0, 0, 20, 1), shapely.box(0, 5, 20, 15)])
        mesh = raised(thin, 0, 4, "chamfer", 1)
        self.assertTrue(mesh.is_closed)
        self.assertGreater(mesh.volume, 3 * thin.area)

    def test_a_face_is_its_area(self) -> None:
        area = demo(BY_NAME["bram-kite-tag"]).layers[0].region.area
        face = flat(area, 2)
        a, b, c = (face.points[face.triangles[:, k]] for k in range(3))
        normals = np.cross(b - a, c - a)
        self.assertAlmostEqual(normals[:, 2].sum() / 2, area.area, places=6)
        self.assertTrue((normals[:, 2] >= -1e-9).all())


class Stacks(unittest.TestCase):
    def test_layers_stand_upon_each_other_in_register(self) -> None:
        made = by_id(stacked(("top", plate(20, 10)), ("base", plate(40, 30))))
        self.assertEqual((0, 3), tuple(made["base"].mesh.bounds[k][2] for k in (0, 1)))
        self.assertEqual((3, 6), tuple(made["top"].mesh.bounds[k][2] for k in (0, 1)))
        own = by_id(stacked(("top", plate(20, 10)), ("base", plate(40, 30)), heights=[{"layer": "base", "height": 5}]))
        self.assertEqual((5, 8), tuple(own["top"].mesh.bounds[k][2] for k in (0, 1)))

    def test_let_in_it_lies_in_a_pocket_with_its_clearance(self) -> None:
        made = by_id(stacked(("top", plate(20, 10)), ("base", plate(40, 30)), let_in=1, clearance=0.2))
        self.assertEqual((2, 5), tuple(round(float(made["top"].mesh.bounds[k][2]), 9) for k in (0, 1)))
        # A rectangle grown by c: ab + 2c (a + b) + pi c², its corners drawn with 64 chords.
        pocket = 200 + 0.4 * 30 + math.pi * 0.04
        self.assertAlmostEqual(made["base"].mesh.volume, 1200 * 3 - pocket, delta=0.001)
        self.assertTrue(made["base"].mesh.is_closed)
        deep = by_id(stacked(("top", plate(20, 10)), ("base", plate(40, 30)), let_in=3))
        self.assertIn("“top” is let in right through “base”.", deep["top"].told)

    def test_what_is_engraved_is_cut_so_deep(self) -> None:
        made = by_id(stacked(("mark", plate(8, 5)), ("top", plate(20, 10)), ("base", plate(40, 30)), engraved=0.5))
        self.assertAlmostEqual(made["top"].mesh.volume, 200 * 3 - 40 * 0.5, places=6)
        self.assertAlmostEqual(made["base"].mesh.volume, 1200 * 3, places=6)
        through = by_id(stacked(("mark", plate(8, 5)), ("base", plate(40, 30)), engraved=3))
        self.assertIn("“mark” is cut right through “base”.", through["base"].told)

    def test_what_hangs_over_is_filled_down_to_the_table(self) -> None:
        layers = (("top", plate(20, 10, dx=20)), ("base", plate(40, 30)))
        self.assertAlmostEqual(by_id(stacked(*layers))["top"].mesh.volume, 200 * 3, places=6)
        # Half of it hangs over the base's edge, at x = 20.
        filled = by_id(stacked(*layers, flat=True))["top"].mesh
        self.assertAlmostEqual(filled.volume, 200 * 3 + 100 * 3, delta=0.01)
        self.assertEqual(filled.bounds[0][2], 0)

    def test_as_one_it_is_the_sum(self) -> None:
        (one,) = solids_of(stacked(("top", plate(20, 10)), ("base", plate(40, 30)), as_one=True))
        self.assertAlmostEqual(one.mesh.volume, 3 * (1200 + 200), places=6)
        self.assertTrue(one.mesh.is_closed)

    def test_thin_parts_and_points_that_touch_are_told(self) -> None:
        made = by_id(stacked(("top", plate(20, 0.5)), ("base", plate(40, 30))))
        self.assertIn("“top” is only 0.5 mm wide in places: 0.8 mm is wanted.", made["top"].told)
        self.assertEqual((), made["base"].told)
        corner = {"op": "union", "operand": plate(10, 10, dx=15, dy=10)}
        touching = {"from": ["n"], "steps": [*plate(20, 10)["steps"], corner]}
        (solid,) = solids_of(stacked(("base", touching)))
        self.assertIn("touch in a point only", " ".join(solid.told))
        self.assertTrue(solid.mesh.single().is_closed)


class Files(unittest.TestCase):
    def test_both_formats_are_read_back_as_the_same_solids(self) -> None:
        for path in (BY_NAME["fenna-keyring"], BY_NAME["launch-field-sign"]):
            made = demo(path)
            hand_over = made.design.hand_over.model_copy(
                update={"solids": made.design.hand_over.solids.model_copy(update={"formats": ("3mf", "stl")})}
            )
            made = replace(made, design=made.design.model_copy(update={"hand_over": hand_over}))
            files, solids = pack_files(made), solids_of(made)
            scene: Any = trimesh.load(io.BytesIO(files["solids.3mf"]), file_type="3mf")
            found = dict(scene.geometry.items())
            self.assertEqual({one.title for one in solids}, set(found))
            for one in solids:
                low, high = one.mesh.bounds
                single: Any = trimesh.load(io.BytesIO(files[f"solid-{one.id}.stl"]), file_type="stl")
                for read in (found[one.title], single):
                    self.assertTrue(read.is_watertight and read.is_winding_consistent)
                    self.assertAlmostEqual(read.volume / one.mesh.volume, 1, delta=1e-5)
                    np.testing.assert_allclose(read.bounds, [low, high], atol=1e-4)
            told = {one["file"]: one for one in manifest(made)["solids"]}
            self.assertEqual({"solids.3mf", "solids.stl", *(f"solid-{one.id}.stl" for one in solids)}, set(told))
            self.assertAlmostEqual(told["solids.3mf"]["volume_mm3"], sum(one.mesh.volume for one in solids), places=3)

    def test_names_units_and_colours_are_as_the_core_specification_has_them(self) -> None:
        # 3MF core specification 1.3: unit (3.4), base materials with sRGB colours (5.1), items of the build (3.4.3).
        made = stacked(("top", plate(20, 10)), ("base", plate(40, 30)))
        package = zipfile.ZipFile(io.BytesIO(pack_files(made)["solids.3mf"]))
        self.assertEqual({"[Content_Types].xml", "_rels/.rels", "3D/3dmodel.model"}, set(package.namelist()))
        root = ElementTree.fromstring(package.read("3D/3dmodel.model"))
        space = {"m": "http://schemas.microsoft.com/3dmanufacturing/core/2015/02"}
        self.assertEqual("millimeter", root.get("unit"))
        self.assertEqual(["base", "top"], [one.get("name") for one in root.findall(".//m:object", space)])
        colour = made.layers[0].material.colour.upper() + "FF"
        self.assertEqual({colour}, {one.get("displaycolor") for one in root.findall(".//m:base", space)})
        self.assertEqual(["2", "3"], [one.get("objectid") for one in root.findall(".//m:item", space)])

    def test_nothing_leaves_where_no_format_is_wanted(self) -> None:
        made = stacked(("base", plate(40, 30)), formats=[])
        self.assertEqual([], [name for name in pack_files(made) if "solid" in name])


if __name__ == "__main__":
    unittest.main()
