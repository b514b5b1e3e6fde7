"""Carving against trigonometry, closed formulas, plain distances, and its own files run by another interpreter."""

from __future__ import annotations

import json
import math
import re
import unittest
from functools import lru_cache
from typing import Any

import numpy as np
import shapely
from gcodeparser import parse_gcode_lines
from shapely import MultiPolygon, Point, Polygon, box

from tests.sampling import sampled
from tests.support import build_of
from tinhalo.core.design.design import Design
from tinhalo.core.design.problem import DesignError
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.carved import Carved, carved
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.carving import mill_paths
from tinhalo.core.geometry.carving.heights import Grid, Profile, cut, cut_at, wanted
from tinhalo.core.geometry.carving.v_paths import Cone, carve
from tinhalo.core.output import gcode
from tinhalo.core.output.milling import Work, work_of
from tinhalo.core.output.pack import pack_files
from tinhalo.core.output.relief import relief, section, simulated_at
from tinhalo.core.runtime.memo import Memo
from tinhalo.core.starters import STARTERS

SIGN = next(one.document for one in STARTERS if one.id == "carved-sign")
#: tan of half the angle: handbook tables of trigonometric functions, to five places.
TAN = {30: 0.26795, 60: 0.57735, 90: 1.0, 120: 1.73205}


def sign(**change: Any) -> Design:
    assert SIGN.carving
    data = SIGN.model_dump(mode="json", by_alias=True)
    data["carving"] |= change
    return parse_design(data)


@lru_cache
def _worked(document: str) -> tuple[Carved, Work]:
    design = parse_design(json.loads(document))
    one = carved(build_of(design))
    assert one
    return one, work_of(one, design.unit, Memo())


def worked(design: Design) -> tuple[Carved, Work]:
    return _worked(design.model_dump_json(by_alias=True))


def words(text: str, font: str, size: float) -> MultiPolygon:
    art = [{"id": "w", "text": text, "font": font, "size": size}]
    layers = [{"id": "l", "recipe": {"from": ["w"]}}]
    made = build_of(parse_design({"format": "tin-halo/1", "art": art, "layers": layers}))
    return made.layers[0].region.area


def depths(area: MultiPolygon, cone: Cone, points: Floats, depth: float = 50) -> Floats:
    """How deep the bit's paths leave places."""
    found = carve(area, cone, depth)
    heights = np.zeros(len(points))
    cut_at(heights, points, [*found.walls, *found.grooves], cone.profile)
    return -heights


def scattered(bounds: tuple[float, float, float, float], count: int) -> Floats:
    x0, y0, x1, y1 = bounds
    return np.random.default_rng(7).uniform((x0, y0), (x1, y1), (count, 2))


class Grooves(unittest.TestCase):
    def test_depths_of_known_shapes(self) -> None:
        # Clearances from plane geometry; a bit is as deep as clearance / tan(angle / 2).
        disc, hole = Point(0, 0).buffer(8, 256), Point(0, 0).buffer(5, 256)
        wedge = Polygon([(0, 0), (40, 40 * math.tan(math.radians(10))), (40, -40 * math.tan(math.radians(10)))])
        tips = [
            (math.cos(k * math.pi / 5) * (20, 8)[k % 2], math.sin(k * math.pi / 5) * (20, 8)[k % 2]) for k in range(10)
        ]
        # Half a tip's angle: between its edge and its axis.
        half_tip = 8 * math.sin(math.pi / 5) / math.dist(tips[0], tips[1])
        known: list[tuple[Any, list[tuple[tuple[float, float], float]]]] = [
            (box(0, 0, 12, 12), [((6, 6), 6), ((3, 3), 3), ((6, 2), 2), ((1.5, 9), 1.5)]),
            (disc, [((0, 0), 8), ((5, 0), 3), ((0, -7), 1)]),
            (disc.difference(hole), [((6.5, 0), 1.5), ((0, 6), 1), ((-7.2, 0), 0.8)]),
            (wedge, [((10, 0), 10 * math.sin(math.radians(10))), ((25, 0), 25 * math.sin(math.radians(10)))]),
            (Polygon(tips), [((0, 0), 8), ((14, 0), 6 * half_tip)]),
        ]
        for shape, places in known:
            for angle in (60, 90):
                points = np.array([at for at, _ in places], float)
                clear = np.array([one for _, one in places])
                found = depths(MultiPolygon([shape]), Cone.of(angle), points)
                with self.subTest(shape=shape.bounds, angle=angle):
                    np.testing.assert_allclose(found, clear / TAN[angle], atol=0.01)

    def test_slopes_of_letters_are_plain_distances(self) -> None:
        cases = (("Wi", "great-vibes", 60, 6), ("Ra", "bevan", 25, 1.2), ("Rg", "work-sans", 40, 9))
        for text, font, size, depth in sampled(cases, 1 / 3):
            area = words(text, font, size)
            points = scattered(area.bounds, 6_000)
            far = shapely.distance(shapely.points(points), area.boundary)
            inside = shapely.contains_xy(area, points)
            for angle in (60, 90):
                cone = Cone.of(angle)
                found = depths(area, cone, points, depth)
                want = np.where(inside, np.minimum(far / cone.tangent, depth), 0)
                # What is flat is the end mill's.
                sloped = inside & (want < depth - 1e-6)
                off = found - want
                with self.subTest(font, angle=angle):
                    self.assertLess(np.percentile(np.abs(off[sloped]), 99), 0.01)
                    self.assertLess(np.abs(off[sloped]).max(), 0.02)
                    self.assertLess(off.max(), 0.02)
                    self.assertEqual(found[~inside & (far > 0.01)].max(), 0)

    def test_a_flat_tip_keeps_off_and_goes_nowhere_that_it_does_not_fit(self) -> None:
        slot = MultiPolygon([box(0, 0, 30, 2), box(0, 5, 30, 5.3)])
        cone = Cone.of(60, 0.4)
        found = depths(slot, cone, np.array([(15.0, 1.0), (15.0, 0.9), (15.0, 5.15)]))
        # Half of 2 less half the tip, over tan 30°; under the tip as deep beside it; nothing in the narrow slot.
        np.testing.assert_allclose(found, [0.8 / TAN[60], 0.8 / TAN[60], 0], atol=0.01)

    def test_the_grid_and_single_places_tell_the_same(self) -> None:
        area = words("g", "pacifico", 30)
        cone = Cone.of(60)
        found = carve(area, cone, 2)
        grid = Grid.over(area.bounds, 0.21)
        heights = grid.flat()
        cut(heights, grid, [*found.walls, *found.grooves], cone.profile)
        x, y = np.meshgrid(grid.x + grid.cell * np.arange(grid.columns), grid.y + grid.cell * np.arange(grid.rows))
        single = np.zeros(x.size)
        places = np.asarray(np.column_stack([x.ravel(), y.ravel()]), np.float64)
        cut_at(single, places, [*found.walls, *found.grooves], cone.profile)
        np.testing.assert_allclose(heights.ravel(), single, atol=1e-9)
        far = shapely.distance(shapely.points(places), area.boundary)
        plain = np.where(shapely.contains_xy(area, places), np.minimum(far / cone.tangent, 2), 0)
        np.testing.assert_allclose(wanted(area, grid, 1 / cone.tangent, 2).ravel(), plain, atol=1e-6)

    def test_a_sloping_move_cuts_as_its_cone_does_step_by_step(self) -> None:
        # Against the definition: the least over many places along the way.
        points = scattered((-4, -4, 14, 4), 400)
        for profile in (Profile(0, 1.3), Profile(0.5, 2.0), Profile(1.5, math.inf)):
            for end in ((10.0, 1.0, -1.0), (10.0, 1.0, -3.0), (0.0, 0.0, -4.0), (1.0, 0.0, -9.0)):
                path = np.array([(0, 0, -2.0), end], np.float64)
                found = np.zeros(len(points))
                cut_at(found, points, [path], profile)
                steps = path[0] + np.linspace(0, 1, 4_001)[:, None] * (path[1] - path[0])
                off = np.hypot(*(points[:, None, :] - steps[None, :, :2]).transpose(2, 0, 1))
                over = np.maximum(off - profile.flat, 0)
                lift = (
                    np.where(over > 0, over * profile.rise, 0)
                    if math.isfinite(profile.rise)
                    else np.where(over > 0, np.inf, 0)
                )
                least = np.minimum((steps[None, :, 2] + lift).min(axis=1), 0)
                with self.subTest(profile=profile, end=end):
                    self.assertLess(np.percentile(np.abs(found - least), 99), 0.01)


class Offsets(unittest.TestCase):
    def test_the_second_pass_keeps_off_by_depth_times_the_tangent(self) -> None:
        # Common practice: 0.1 in with 60° is 0.0577 in, 0.125 in is 0.0722 in; the others are plain trigonometry.
        for inches, angle, told in ((0.1, 60, 0.0577), (0.125, 60, 0.0722), (0.1, 90, 0.1), (0.125, 30, 0.0335)):
            levels = [{"layers": ["upper", "frame"], "depth": inches * 25.4}, {"layers": ["lower"], "depth": 2}]
            one = carved(build_of(sign(levels=levels, bit={"name": "x", "kind": "v_bit", "angle": angle})))
            assert one
            with self.subTest(inches, angle=angle):
                self.assertAlmostEqual(one.passes[1].grown[0] / 25.4, told, places=4)
                self.assertEqual(one.passes[1].start, one.passes[0].depth)

    def test_the_second_pass_leaves_the_grown_words_and_the_unchanged_ones(self) -> None:
        made = build_of(sign())
        one = carved(made)
        assert one
        upper, frame, lower, board = (layer.region.area for layer in made.layers)
        by = 2.5 * TAN[60]
        standing = shapely.union_all([shapely.union(upper, frame).buffer(by, quad_segs=64), lower])
        plain = shapely.difference(board, standing)
        self.assertLess(shapely.symmetric_difference(plain, one.passes[1].area).area / plain.area, 1e-4)
        first = shapely.difference(board, shapely.union(upper, frame))
        self.assertLess(shapely.symmetric_difference(first, one.passes[0].area).area / first.area, 1e-6)

    def test_without_a_frame_the_ground_runs_out_level(self) -> None:
        # With so wide a bit the slope is wider than what is clamped beside the board.
        wide = {"kind": "v_bit", "name": "Wide", "angle": 120, "diameter": 20}
        one, work = worked(sign(levels=[{"layers": ["upper", "lower"], "depth": 3}], bit=wide))
        x0, y0, x1, y1 = one.board.bounds
        edge = np.array([(x0 + 0.05, (y0 + y1) / 2), ((x0 + x1) / 2, y1 - 0.05)])
        heights = simulated_at([op for op in work.operations if op.level is not None], edge)
        self.assertLess(np.abs(heights + 3).max(), 0.11)

    def test_what_will_not_come_out_is_told(self) -> None:
        deep = [{"layers": ["upper", "frame"], "depth": 9}, {"layers": ["lower"], "depth": 9.5}]
        near = sign().model_dump(mode="json", by_alias=True)
        near["art"][1]["place"]["y"] = -12
        cases: list[tuple[Design, str]] = [
            (sign(levels=deep), "18.5 mm deep, and “Board” is 18 mm thick"),
            (sign(levels=[{"layers": ["frame"], "depth": 2}]), "“Upper words” is to be carved and stands at no level"),
            (sign(bit={"kind": "v_bit", "name": "Fine", "diameter": 2}), "Fine is 2 mm wide: it carves 1.73 mm deep"),
            (sign(mill=None), "Without an end mill nothing is cut out"),
            (parse_design(near), "“Lower words” stands in the slope of “Upper words”"),
            (
                sign(bit={"kind": "v_bit", "name": "Blunt", "tip": 1.5}),
                "the tip of Blunt, 1.5 mm wide, doesn't get into",
            ),
            (
                sign(mill={"kind": "end_mill", "name": "Log", "diameter": 99}),
                "Log fits nowhere on the floor of level 1",
            ),
        ]
        for design, sentence in sampled(cases, 1 / 3):
            one = carved(build_of(design))
            assert one
            # What the areas tell needs no paths.
            told = one.told or work_of(one, "mm", Memo()).told
            with self.subTest(sentence):
                self.assertTrue([each for each in told if sentence in each], told)
        one, work = worked(sign())
        self.assertEqual((*one.told, *work.told), ())

    def test_words_are_sunk_into_the_top(self) -> None:
        one, work = worked(sign(levels=[{"layers": []}], sunk=["upper", "lower"], sunk_depth=1.5))
        self.assertEqual(("Sunk words", 0.0, 1.5), (one.passes[0].title, one.passes[0].start, one.passes[0].depth))
        # “Frame” is carved nowhere: that is told, and nothing else.
        self.assertEqual(
            ["“Frame” is to be carved and stands at no level: nothing comes of it."], [*one.told, *work.told]
        )
        found = relief(one, work, 900)
        self.assertIsNone(found.gouged.at)
        self.assertIsNone(found.left.at)
        raised, _ = worked(sign(sunk=["lower"], levels=[{"layers": ["upper", "frame"], "depth": 2}]))
        self.assertIn("“Lower words” is sunk where ground is carved away", " ".join(raised.told))

    def test_a_layer_has_one_place_and_is_there(self) -> None:
        for levels in ([{"layers": ["gone"]}], [{"layers": ["upper"]}, {"layers": ["upper"]}], [{"layers": ["board"]}]):
            with self.subTest(levels), self.assertRaises(DesignError):
                sign(levels=levels)


class Milling(unittest.TestCase):
    def test_floors_are_flat_within_the_ridge_and_nothing_is_gouged(self) -> None:
        for ridge in sampled((0.1, 0.04), 1 / 2):
            one, work = worked(sign(ridge=ridge))
            found = relief(one, work, 1_100)
            with self.subTest(ridge):
                self.assertGreater(found.off.min(), -0.02)
                self.assertLess(found.off.max(), ridge + 0.005)
                self.assertIsNone(found.gouged.at)
                self.assertIsNone(found.left.at)
                self.assertEqual(round(float(found.heights[found.heights > -17].min())), -5)

    def test_a_section_is_the_reliefs_and_plain_distances(self) -> None:
        one, work = worked(sign())
        cut_through = section(one, work, (-110, 10), (110, 12), 700)
        self.assertLess(np.abs(cut_through.carved - cut_through.wanted).max(), 0.105)
        self.assertAlmostEqual(float(cut_through.along[-1]), math.hypot(220, 2), places=6)
        self.assertAlmostEqual(float(cut_through.wanted.min()), -5, places=6)

    def test_climb_has_the_wall_on_the_right(self) -> None:
        area = MultiPolygon([Polygon(box(0, 0, 60, 40).exterior, [box(20, 15, 40, 25).exterior])])
        ways: list[tuple[mill_paths.Way, bool]] = [("climb", True), ("conventional", False)]
        for way, right in ways:
            cleared = mill_paths.clear(area, 4, 0.4, way)
            rings = [ring for ring in cleared.rings if len(ring) > 3]
            for ring in rings:
                middle, step = (ring[0] + ring[1]) / 2, ring[1] - ring[0]
                side = np.array([step[1], -step[0]]) / np.hypot(*step)
                nearer = [area.boundary.distance(Point(middle + side * k)) for k in (0.4, -0.4)]
                self.assertEqual(nearer[0] < nearer[1], right)
            (outer, free), *_ = [one for one in mill_paths.around(area, 4, way) if one[1]]
            self.assertTrue(free)
            self.assertEqual(shapely.LinearRing(outer).is_ccw, way == "conventional")

    def test_a_floor_is_cleared_but_for_what_the_mill_cannot_reach(self) -> None:
        # Of a square's corners a mill leaves (4 - pi) r² (plane geometry).
        cleared = mill_paths.clear(MultiPolygon([box(0, 0, 50, 50)]), 6, 0.45, "climb")
        self.assertAlmostEqual(cleared.rest.area, (4 - math.pi) * 9, delta=200 * 0.011)
        self.assertEqual(mill_paths.clear(MultiPolygon([box(0, 0, 5, 5)]), 6, 0.4, "climb").rings, ())

    def test_tabs_stand_as_high_and_as_wide_as_asked(self) -> None:
        ring = np.asarray(box(0, 0, 100, 60).exterior.coords)
        path = mill_paths.with_tabs(ring, -18, -16, 4, 11)
        lifted = path[:-1, 2].clip(-18, -16) == -16
        both = lifted & (path[1:, 2] == -16)
        self.assertAlmostEqual(np.hypot(*np.diff(path[:, :2], axis=0)[both].T).sum(), 4 * 11, places=6)
        self.assertEqual({-18.0, -16.0}, set(path[:, 2].tolist()))
        np.testing.assert_array_equal(mill_paths.with_tabs(ring, -15, -16, 4, 11)[:, 2], -15)

    def test_passes_are_even_and_end_at_the_depth(self) -> None:
        self.assertEqual(mill_paths.passes(2.5, 5, 2), [2.5 + 5 * k / 3 for k in (1, 2, 3)])

    def test_holes_pockets_and_lines(self) -> None:
        data = sign().model_dump(mode="json", by_alias=True)
        data["art"].append(
            {
                "id": "hole",
                "kind": "shape",
                "shape": "ellipse",
                "width": 3.175,
                "height": 3.175,
                "place": {"x": -100, "y": 50},
            }
        )
        data["art"].append(
            {"id": "dip", "kind": "shape", "shape": "rectangle", "width": 20, "height": 10, "place": {"x": 0, "y": 60}}
        )
        data["art"][3]["place"]["y"] = 60
        board = next(one for one in data["layers"] if one["id"] == "board")
        board["recipe"]["steps"] = [{"op": "subtract", "operand": {"from": ["hole"]}}]
        data["layers"].insert(
            0, {"id": "dip", "name": "Dip", "process": "engrave", "material": "board-18", "recipe": {"from": ["dip"]}}
        )
        data["layers"][0]["id"] = data["layers"][0]["name"] = "pocket"
        data["layers"].insert(
            0, {"id": "line", "process": "score", "material": "board-18", "recipe": {"from": ["dip"]}}
        )
        _, work = worked(parse_design(data))
        by_title = {op.title: op for op in work.operations}
        drill = by_title["Drill holes"].paths
        self.assertEqual(len(drill), 1)
        np.testing.assert_allclose(drill[0][:, :2], [(-100, 60)] * len(drill[0]), atol=0.01)
        self.assertEqual(float(drill[0][:, 2].min()), -18)
        self.assertEqual({float(path[0, 2]) for path in by_title["Pocket: pocket"].paths}, {-1.0})
        self.assertAlmostEqual(by_title["Engrave the lines"].cut_mm, 60, places=3)
        self.assertIn("corners that are too tight", " ".join(work.told))
        # What is marked on another material is nothing of the board's, and beside the board there is nothing to mark.
        data["layers"][0]["material"] = "acrylic-3"
        data["art"][4]["place"]["y"] = 64
        one, less = worked(parse_design(data))
        self.assertNotIn("Engrave the lines", [op.title for op in less.operations])
        pocket = next(op for op in less.operations if op.title == "Pocket: pocket")
        self.assertLess(max(float(path[:, 1].max()) for path in pocket.paths), one.board.bounds[3])
        self.assertTrue([told for told in one.told if told.startswith("Something stands over the edge")])


def run(text: str) -> list[tuple[bool, Floats]]:
    """Straight moves, rapid or not, of a file: an interpreter of its own (RS-274/NGC, sections 3.5 and 3.6)."""
    here, feed, moves = np.zeros(3), 0.0, list[tuple[bool, Floats]]()
    for line in parse_gcode_lines(text):
        letter, number = line.command
        if letter == "G" and number in (0, 1, 2, 3):
            feed = float(line.get_param("F") or feed)
            there = np.array([here[k] if (v := line.get_param(a)) is None else v for k, a in enumerate("XYZ")], float)
            assert number == 0 or feed > 0
            if number in (2, 3):
                middle = here[:2] + np.array([line.get_param("I"), line.get_param("J")])
                radius = math.dist(here[:2], middle)
                assert abs(math.dist(there[:2], middle) - radius) < 0.002
                first, last = (math.atan2(*(p[:2] - middle)[::-1]) for p in (here, there))
                turn = (last - first) % math.tau - (math.tau if number == 2 else 0)
                for k in range(1, 33):
                    angle = first + turn * k / 33
                    piece = np.array([*(middle + radius * np.array([math.cos(angle), math.sin(angle)])), here[2]])
                    moves.append((False, np.array([here, piece])))
                    here = piece
            moves.append((number == 0, np.array([here, there])))
            here = there
    return moves


def seconds_of(text: str) -> float:
    """How long a program takes without accelerations, read line by line."""
    here, feed, motion, total = [0.0, 0.0, 0.0], 0.0, "0", 0.0
    for line in re.sub(r"\([^)]*\)", "", text).splitlines():
        words = dict(re.findall(r"([GXYZIJF])(-?[\d.]+)", line))
        feed = float(words.get("F", feed))
        motion = words["G"] if words.get("G") in ("0", "1", "2", "3") else motion
        if not {"X", "Y", "Z"} & set(words):
            continue
        there = [float(words.get(axis, old)) for axis, old in zip("XYZ", here, strict=True)]
        way = math.dist(here, there)
        if motion in ("2", "3"):
            radius = math.hypot(float(words["I"]), float(words["J"]))
            middle = here[0] + float(words["I"]), here[1] + float(words["J"])
            angles = [math.atan2(y - middle[1], x - middle[0]) for x, y, _ in (here, there)]
            turn = (angles[1] - angles[0] if motion == "3" else angles[0] - angles[1]) % math.tau
            way = radius * (turn or math.tau)
        total += way / (200.0 if motion == "0" else feed / 60)
        here = there
    return total


class Files(unittest.TestCase):
    def test_they_end_with_the_same_surface_and_are_safe(self) -> None:
        one, work = worked(sign())
        x0, y0, x1, y1 = one.stock
        points = scattered(one.board.bounds, 3_000)
        heights = np.zeros(len(points))
        for name, content in gcode.files("Sign", one, work).items():
            text = content.decode("ascii")
            moves = run(text)
            wide = re.search(r"Tool: .*, ([\d.]+) mm, ", text)
            profile = Profile(float(wide[1]) / 2, math.inf) if wide else one.cone.profile
            cut_at(heights, points, [move + np.array([x0, y0, 0]) for rapid, move in moves if not rapid], profile)
            every = np.concatenate([move for _, move in moves])
            with self.subTest(name):
                # The very first is up from wherever the tool stood.
                self.assertTrue(all((move[:, 2] == one.set.safe).all() for rapid, move in moves[1:] if rapid))
                self.assertTrue(moves[0][0])
                self.assertGreaterEqual(every[:, 2].min(), -one.thickness)
                self.assertGreaterEqual(every[:, :2].min(), 0)
                self.assertTrue((every[:, :2] <= (x1 - x0, y1 - y0)).all())
                self.assertIn("G21 G17 G90 G94", text)
                self.assertIn(f"(Stock {x1 - x0:g} x {y1 - y0:g} x 18 mm)", text)
        np.testing.assert_allclose(heights, simulated_at(work.operations, points), atol=0.02)
        off = np.abs(heights - simulated_at(work.operations, points))
        self.assertLess(np.percentile(off, 99), 0.005)

    def test_its_time_is_that_of_the_files(self) -> None:
        """Every line of the files at its feed (RS-274/NGC: F in mm a minute), rapids at 200 mm a second."""
        one, work = worked(sign())
        told = sum(operation.seconds(one.set.safe) for operation in work.operations)
        found = sum(seconds_of(content.decode("ascii")) for content in gcode.files("Sign", one, work).values())
        self.assertAlmostEqual(1, told / found, delta=0.05)
        # Without plunges and ways between it would be told far too short.
        self.assertGreater(told, 1.1 * sum(op.cut_mm / op.tool.feed * 60 for op in work.operations))

    def test_one_file_stops_for_each_tool(self) -> None:
        one, work = worked(sign(change="in_one"))
        ((name, content),) = gcode.files("Änne (1)", one, work).items()
        text = content.decode("ascii")
        self.assertEqual(name, "mill.nc")
        self.assertEqual(re.findall(r"^T(\d) M6$", text, re.M), ["1", "2", "3"])
        self.assertTrue(text.startswith("%\n(?nne [1])\n"))
        self.assertEqual(text.count("M3"), 3)

    def test_they_leave_with_the_pack_where_wanted(self) -> None:
        files = pack_files(build_of(sign()))
        self.assertEqual(
            [name for name in files if name.endswith(".nc")],
            ["mill-1-1-8-in-end-mill.nc", "mill-2-60-deg-v-bit.nc", "mill-3-1-8-in-end-mill.nc"],
        )
        self.assertIn(b'"grown_mm": [\n', files["manifest.json"])
        self.assertFalse([name for name in pack_files(build_of(sign(gcode=False))) if name.endswith(".nc")])


if __name__ == "__main__":
    unittest.main()
