"""Advice is true, told once, and mends what it says: the smallest designs that once went wrong, and their like."""

from __future__ import annotations

import unittest
from itertools import pairwise
from typing import Any

import numpy as np
import shapely
from shapely import Point, box

from tests.core.test_findings import found_in, with_mend
from tests.support import LIBRARY
from tinhalo.core.design.design import Design
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.build import build
from tinhalo.core.findings.causes import causes_of, summary
from tinhalo.core.findings.finding import Finding
from tinhalo.core.findings.survey import findings_of
from tinhalo.core.geometry.curves.precision import EXACT
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.regions.selection import without_specks
from tinhalo.core.geometry.stacking.reach import Ground
from tinhalo.core.runtime.memo import Memo

Step = dict[str, Any]


def plate(width: float, height: float) -> Step:
    return {"op": "plate", "shape": "rectangle", "width": width, "height": height}


def designed(text: str, font: str, size: float, layers: list[tuple[str, str, list[Step]]], **more: Any) -> Design:
    """A design of one block of words; layers are (id, material, steps) from the top."""
    made = [
        {"id": id, "material": material, "recipe": {"from": ["t"], "steps": steps}} for id, material, steps in layers
    ]
    for layer in made:
        layer |= more.get(layer["id"], {})
    return parse_design(
        {"format": "tin-halo/1", "art": [{"id": "t", "text": text, "font": font, "size": size}], "layers": made}
    )


def regions(design: Design) -> dict[str, Region]:
    made = build(design, LIBRARY, exact=False, precision=EXACT)
    return {one.layer.id: one.region for one in made.layers}


def of_kind(design: Design, kind: str, layer: str | None = None) -> list[Finding]:
    return [one for one in found_in(design) if one.kind == kind and layer in (None, one.layer)]


def gap_across(width: float) -> Step:
    return {"op": "subtract", "operand": {"from": ["t"], "steps": [plate(width, 60)]}}


class Overhang(unittest.TestCase):
    def test_a_face_and_a_score_line_across_a_gap_are_told_with_the_way_to_what_holds_them(self) -> None:
        """Half of the gap, 7.5 mm, by plain geometry; corners all lie on the edge of the ground."""
        back = ("back", "ply-4", [plate(60, 20), gap_across(15)])
        for height in (10, 20.2):
            face = ("face", "acrylic-3", [plate(40, height)])
            mark = ("mark", "acrylic-3", [plate(30, 4)])
            design = designed("I", "anton", 20, [face, mark, back], mark={"process": "score"})
            for layer in ("face", "mark"):
                (found,) = of_kind(design, "overhang", layer)
                self.assertAlmostEqual(found.measure or 0, 7.5, delta=0.01)
                left = found_in(with_mend(design, found.mends[0]))
                self.assertFalse([one for one in left if one.kind == "overhang" and one.layer == layer == "face"])

    def test_what_covers_a_hole_hangs_over_nothing_but_must_not_be_engraved_there(self) -> None:
        hole = {"op": "hole", "diameter": 12, "at": {"x": 0.5, "y": 0.5, "inset": 0}}
        back = ("back", "ply-4", [plate(60, 20), hole])
        face = designed("I", "anton", 20, [("face", "acrylic-3", [plate(40, 16)]), back])
        self.assertEqual(of_kind(face, "overhang"), [])
        engraved = designed(
            "I", "anton", 20, [("face", "acrylic-3", [plate(40, 16)]), back], face={"process": "engrave"}
        )
        (found,) = of_kind(engraved, "overhang")
        self.assertAlmostEqual(found.measure or 0, 6, delta=0.02)

    def test_distances_are_those_of_a_brute_search(self) -> None:
        chance = np.random.default_rng(5)
        for _ in range(12):
            ground = shapely.union_all(
                [Point(*at).buffer(r) for *at, r in chance.uniform((0, 0, 1), (40, 20, 6), (6, 3))]
            )
            part = box(*chance.uniform((0, 0), (10, 5)), *chance.uniform((25, 10), (40, 20))).difference(ground)
            for piece in shapely.get_parts(part):
                floor = Ground(Region.of(ground).area)
                most, at = floor.furthest(piece)
                edge = shapely.points(shapely.get_coordinates(piece.segmentize(0.01)))
                self.assertAlmostEqual(most, shapely.distance(edge, ground).max(), delta=0.01)
                self.assertAlmostEqual(Point(at).distance(ground), most, delta=1e-6)
                inside, at = floor.furthest_inside(piece, most, at)
                x0, y0, x1, y1 = piece.bounds
                grid = shapely.points(np.stack(np.meshgrid(np.arange(x0, x1, 0.1), np.arange(y0, y1, 0.1)), -1))
                brute = shapely.distance(np.asarray(grid, object)[shapely.contains(piece, grid)], ground).max(initial=0)
                self.assertGreater(inside, max(brute, most) - 0.01)
                self.assertAlmostEqual(Point(at).distance(ground), inside, delta=1e-6)

    def test_it_is_named_by_the_letter_where_it_hangs_over(self) -> None:
        layers = [("face", "acrylic-3", []), ("back", "ply-4", [{"op": "offset", "by": -0.37}])]
        design = designed("Gwendolyn", "grand-hotel", 26.7, layers)
        made = build(design, LIBRARY, exact=False, precision=EXACT)
        found = of_kind(design, "overhang")
        self.assertGreater(len(found), 2)
        for one in found:
            assert one.at
            parts = made.art[0].drawn.parts.values()
            named = [part for part in parts if one.sentence.endswith(f"at the {part.text}.")]
            self.assertLess(min(Point(one.at).distance(piece) for part in named for piece in part.pieces), 0.05)


class Seams(unittest.TestCase):
    def shadowed(self, underlap: float) -> Design:
        shadow = {"op": "drop_shadow", "dx": 2, "dy": -2, "underlap": underlap, "visible_only": True}
        return designed("O", "bevan", 40, [("face", "vinyl", []), ("shade", "vinyl-white", [shadow])])

    def test_a_seam_without_underlap_is_told_once_with_its_length(self) -> None:
        for underlap in (0, 0.015):
            design = self.shadowed(underlap)
            (found,) = of_kind(design, "hairline")
            face, shade = (regions(design)[id].area for id in ("face", "shade"))
            along = shade.boundary.intersection(face.boundary.buffer(underlap + 0.01)).length
            told = float(found.sentence.split(" along ")[1].split(" mm")[0])
            self.assertAlmostEqual(told, along, delta=0.04 * along)
            mended = with_mend(design, found.mends[0])
            self.assertEqual(of_kind(mended, "hairline"), [])
            # All of the face's edge that the shadow touches lies over it by the underlap then, less at its ends.
            under = regions(mended)["shade"].area.intersection(face)
            self.assertGreater(under.area, 0.3 * (along - 8))
        self.assertEqual(of_kind(self.shadowed(0.1), "hairline"), [])

    def test_a_gap_that_the_recipe_asks_for_is_made_wider_and_not_closed(self) -> None:
        line = {"op": "outline", "gap": 0.15, "width": 2}
        cut = {"op": "subtract", "operand": {"from": ["t"], "steps": [{"op": "offset", "by": 0.15}]}}
        for steps in ([line], [plate(60, 60), cut]):
            design = designed("O", "bevan", 40, [("face", "vinyl", []), ("line", "vinyl-white", steps)])
            (found,) = of_kind(design, "hairline")
            self.assertEqual([mend.title for mend in found.mends], ["Make the gap 0.5 mm wide"])
            self.assertEqual(of_kind(with_mend(design, found.mends[0]), "hairline"), [])


class Slivers(unittest.TestCase):
    def test_crumbs_of_an_opening_do_not_hide_them(self) -> None:
        design = designed("e", "allura", 26.73, [("face", "ply-4", [])])
        (found,) = of_kind(design, "sliver")
        self.assertLess(found.measure or 9, 2)
        tidied = designed("He", "allura", 26.73, [("face", "ply-4", [{"op": "tidy", "area": None, "width": 2}])])
        self.assertTrue(regions(tidied)["face"].is_empty)

    def test_a_line_is_no_sliver_and_what_was_shrunk_is_shrunk_less(self) -> None:
        ring = designed("o", "anton", 24, [("line", "acrylic-3", [{"op": "outline", "gap": 1, "width": 1.2}])])
        self.assertEqual({one.kind for one in found_in(ring)}, {"thin_spot"})
        shrunk = designed("I", "anton", 20, [("face", "ply-4", [{"op": "offset", "by": -1.2}])])
        (found,) = [one for one in found_in(shrunk) if one.kind in ("sliver", "thin_spot")]
        mend = found.mends[0]
        self.assertTrue(mend.title.startswith("Shrink it by "), mend.title)
        self.assertEqual(found_in(with_mend(shrunk, mend)), [])

    def test_specks_of_arithmetic_are_no_pieces(self) -> None:
        pieces = [box(0, 0, 10, 10), box(20, 0, 20.09, 0.1), box(30, 0, 60, 0.015), box(70, 0, 70.2, 0.2)]
        left = without_specks(Region.of(shapely.MultiPolygon(pieces)))
        self.assertEqual([round(one.area, 3) for one in left.area.geoms], [100.0, 0.04])


class Holes(unittest.TestCase):
    def made(self, material: str, y: float, inset: float, apart: float, count: int = 2) -> Design:
        hole = {"op": "hole", "diameter": 4, "at": {"x": 0.5, "y": y, "inset": inset}}
        row = {"row": {"count": count, "dx": apart, "dy": 0}}
        return designed("I", "anton", 20, [("tag", material, [plate(60, 40), hole | row])])

    def test_a_web_is_told_as_that_once_and_its_mends_widen_it(self) -> None:
        for count in (2, 5):
            design = self.made("ply-3", 0.5, 0, 5, count)
            (found,) = found_in(design)
            self.assertIn("between two holes", found.sentence)
            self.assertAlmostEqual(found.measure or 0, 1, delta=0.01)
            self.assertEqual(len(found.mends), 2)
            for mend in found.mends:
                self.assertEqual(found_in(with_mend(design, mend)), [], mend.title)

    def test_edge_and_web_are_two_causes_and_both_end(self) -> None:
        design = self.made("felt", 1, 3, 5.4)
        edge, web = of_kind(design, "hole_near_edge")
        self.assertIn("2 holes", edge.sentence)
        both = with_mend(with_mend(design, edge.mends[0]), of_kind(design, "hole_near_edge")[1].mends[0])
        again = of_kind(both, "hole_near_edge")
        self.assertLessEqual(len(again), 1)
        self.assertEqual(web.sentence[:8], "Only 1.4")

    def test_a_tabs_rim_is_one_finding(self) -> None:
        tab = {"op": "tab", "hole": 4, "rim": 0.9, "reach": 4}
        for at in (90, 135, 200):
            design = designed("I", "anton", 20, [("tag", "acrylic-3", [plate(60, 40), tab | {"at": at}])])
            self.assertEqual([one.kind for one in found_in(design)], ["hole_near_edge"])


class EdgeToEdge(unittest.TestCase):
    def test_rings_that_nothing_parts_are_a_doubled_line(self) -> None:
        """Two halves of a plate, cut apart by less than a file's digits."""
        for apart in (2e-3, 4e-3):
            middle = {"op": "union", "operand": {"from": ["t"], "steps": [plate(15 - 2 * apart, 40)]}}
            design = designed("I", "anton", 20, [("tag", "ply-3", [plate(60, 40), gap_across(15), middle])])
            found = [one for one in found_in(design) if one.open]
            self.assertEqual({one.kind for one in found}, {"doubled_line"})
            self.assertAlmostEqual(sum(one.measure or 0 for one in found), 80, delta=0.1)
            self.assertEqual(found_in(with_mend(design, found[0].mends[0])), [])


class Mends(unittest.TestCase):
    def test_parts_of_one_letter_are_not_to_be_closed_up(self) -> None:
        found = of_kind(designed("To", "black-ops-one", 40, [("face", "ply-3", [])]), "loose_piece")
        self.assertGreaterEqual(len(found), 3)
        self.assertFalse([mend for one in found for mend in one.mends if mend.title.startswith("Close the letters")])

    def test_sharp_crotches_are_filled_up_to_the_tool(self) -> None:
        design = designed("V", "work-sans", 164.78, [("face", "board-12", [])])
        (found,) = of_kind(design, "sharp_corner")
        self.assertEqual(of_kind(with_mend(design, found.mends[0]), "sharp_corner"), [])

    def test_letters_closed_up_hold_by_joints_as_wide_as_the_material_asks(self) -> None:
        """Measured by erosion: with half of the least width off all edges, no more letters come apart than did."""
        for text, font, material in (
            ("non", "work-sans", "acrylic-3"),
            ("oboe", "baloo-2", "ply-4"),
            ("HUH", "anton", "ply-3"),
        ):
            design = designed(text, font, 60, [("face", material, [])])
            (mend, *_) = [
                m for f in of_kind(design, "loose_piece") for m in f.mends if m.title == "Close the letters up"
            ]
            least = design.material_of(design.layers[0]).limits.least_width
            area = regions(with_mend(design, mend))["face"].area
            self.assertEqual(len(shapely.get_parts(area)), 1)
            self.assertEqual(len(shapely.get_parts(area.buffer(-0.95 * least / 2))), 1, (text, font))


class Causes(unittest.TestCase):
    def setUp(self) -> None:
        self.design = designed(
            "Ottoline Bram", "allura", 30, [("face", "acrylic-3", []), ("back", "ply-4", [{"op": "offset", "by": 2}])]
        )
        self.memo = Memo()

    def found(self, design: Design) -> tuple[Finding, ...]:
        return findings_of(design, LIBRARY, self.memo)

    def test_each_cause_is_one_line_with_its_count_and_the_worst_place(self) -> None:
        found = self.found(self.design)
        causes = causes_of(found, self.design)
        self.assertEqual(sorted(k for one in causes for k in one.findings), list(range(len(found))))
        self.assertEqual(len({one.id for one in causes}), len(causes))
        (thin,) = [one for one in causes if one.kind == "thin_spot" and one.layer == "face"]
        places = [found[k] for k in thin.findings]
        self.assertGreater(thin.count, 8)
        self.assertTrue(all((a.measure or 0) <= (b.measure or 0) for a, b in pairwise(places)))
        self.assertIn(f"in {thin.count} places, {places[0].measure:.2f} mm at {places[0].where}.", thin.sentence)
        self.assertLess(len(summary(found, self.design)), 6)
        # Pieces that get lost come before what is only thin.
        kinds = [one.kind for one in causes if one.severity != "note"]
        self.assertGreater(kinds.index("tight_gap"), kinds.index("loose_piece"))

    def test_where_no_mend_is_offered_it_says_what_to_change(self) -> None:
        found = [one.model_copy(update={"mends": ()}) for one in self.found(self.design)]
        several = [one for one in causes_of(found, self.design) if one.count > 1]
        self.assertIn("thin_spot", [one.kind for one in several])
        for one in several:
            self.assertRegex(one.sentence, r"\. (Make|Move|Bridge|Change) [^.]+\.$")

    def test_one_place_is_thickened_alone(self) -> None:
        found = self.found(self.design)
        thin = [one for one in found if one.kind == "thin_spot" and one.layer == "face"]
        mend = next(one for one in thin[0].mends if one.here)
        after = [
            one for one in self.found(with_mend(self.design, mend)) if one.kind == "thin_spot" and one.layer == "face"
        ]
        self.assertEqual(len(after), len(thin) - 1)
        self.assertNotIn(thin[0].at, [one.at for one in after])

    def test_a_cause_is_let_be_everywhere(self) -> None:
        data = self.design.model_dump(mode="json", by_alias=True)
        data["accepted"] = [{"kind": "thin_spot", "layer": "face", "everywhere": True, "note": "it is only for show"}]
        design = parse_design(data)
        found = self.found(design)
        self.assertFalse([one for one in found if one.open and (one.kind, one.layer) == ("thin_spot", "face")])
        (let_be,) = [one for one in causes_of(found, design) if one.accepted]
        self.assertGreater(let_be.count, 8)


class Borders(unittest.TestCase):
    def test_holes_that_close_behind_a_face_are_no_warnings_and_the_rest_is_filled_first(self) -> None:
        layers = [
            ("face", "acrylic-3", []),
            ("mid", "ply-3", [{"op": "offset", "by": 1.2}]),
            ("back", "ply-4", [{"op": "offset", "by": 1.5}]),
        ]
        design = designed("Boe", "work-sans", 20, layers)
        found = of_kind(design, "closed_hole")
        self.assertTrue(found)
        self.assertEqual({one.severity for one in found}, {"note"})
        first = next(one for one in found if one.layer == "mid").mends
        self.assertEqual(regions(with_mend(design, first[0]))["mid"].holes, 0)
        everything = regions(with_mend(design, first[1]))
        self.assertEqual((everything["mid"].holes, everything["back"].holes), (0, 0))
        alone = designed("Boe", "work-sans", 20, [layers[1]])
        self.assertEqual({one.severity for one in of_kind(alone, "closed_hole")}, {"warning"})


class Lines(unittest.TestCase):
    def test_lines_that_run_together_here_and_there_are_told_with_the_spacing_that_keeps_them_apart(self) -> None:
        line: Step = {"op": "outline", "gap": 0.6, "width": 0.8}
        design = designed("HOAVTI", "work-sans", 30, [("line", "vinyl", [line])])
        (found,) = of_kind(design, "running_together")
        mended = with_mend(design, found.mends[0])
        self.assertEqual(of_kind(mended, "running_together"), [])
        shells = [shapely.Polygon(piece.exterior) for piece in regions(mended)["line"].area.geoms]
        self.assertEqual(len(shapely.get_parts(shapely.union_all(shells))), 6)
        # One line around all of a word is meant.
        around = designed("HOAVTI", "work-sans", 30, [("line", "vinyl", [line | {"gap": 4}])])
        self.assertEqual(of_kind(around, found.kind), [])


class Register(unittest.TestCase):
    def made(self, about: str | None) -> Design:
        place: Step = {"op": "place", "mirror": True} | ({"about": about} if about else {})
        layers = [("face", "vinyl", [place]), ("back", "vinyl-white", [{"op": "drop_shadow", "dx": 6, "dy": 0}, place])]
        return designed("Fenna", "anton", 30, layers)

    def test_mirrored_layers_stay_in_register(self) -> None:
        """The shadow, 6 mm to the right before, lies 6 mm to the left of the words afterwards."""
        for about, off in ((None, -6), ("middle", -6), ("itself", 6)):
            face, back = regions(self.made(about)).values()
            assert face.bounds and back.bounds
            self.assertAlmostEqual(back.bounds[0] - face.bounds[0], off, delta=0.01)

    def test_lost_register_is_told_and_mended(self) -> None:
        self.assertEqual(of_kind(self.made(None), "out_of_register"), [])
        design = self.made("itself")
        (found,) = of_kind(design, "out_of_register")
        self.assertAlmostEqual(found.measure or 0, 12, delta=0.02)
        self.assertEqual(of_kind(with_mend(design, found.mends[0]), "out_of_register"), [])
