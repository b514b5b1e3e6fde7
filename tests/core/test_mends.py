"""Mends: each ends its finding, and changes no more than its kind has to."""

from __future__ import annotations

import math
import unittest
from typing import Any

import shapely
from shapely import MultiPolygon, Point, Polygon, box

from tests.core.test_findings import PLATE, disc, face, found_in, with_mend
from tests.sampling import FUZZ, sampled
from tests.support import LIBRARY, bare, build_of, document, lettering
from tinhalo.core.design.design import Design
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.build import build
from tinhalo.core.engine.knockout import knockouts
from tinhalo.core.findings.finding import Finding
from tinhalo.core.findings.mends.changes import mended
from tinhalo.core.findings.mends.mend import FindPlace
from tinhalo.core.findings.mends.placing import find_place
from tinhalo.core.findings.survey import survey
from tinhalo.core.geometry.curves.precision import EXACT
from tinhalo.core.geometry.features.bridge import bridged
from tinhalo.core.geometry.features.stencil import held
from tinhalo.core.geometry.placement.fit_on import move_onto
from tinhalo.core.geometry.regions.offset import offset
from tinhalo.core.geometry.regions.overlay import fill_holes
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.stacking.bleed import bled
from tinhalo.core.geometry.strokes.narrow_places import narrow_strokes
from tinhalo.core.geometry.strokes.widen import open_gaps
from tinhalo.core.materials import find_material
from tinhalo.core.runtime.memo import Memo
from tinhalo.core.starters import STARTERS, with_words


class Mends(unittest.TestCase):
    def test_each_mend_ends_its_finding_and_brings_no_other_kind(self) -> None:
        for text, font, material in (
            ("Iris", "anton", "ply-3"),
            ("Fi", "pacifico", "acrylic-3"),
            ("Uma", "pacifico", "acrylic-3"),
        ):
            design = face(text, font, material)
            before = found_in(design)
            self.assertTrue(before)
            kinds = {f.kind for f in before}
            # Mends of the same kind read the same; each is tried once.
            offered = {mend.title: (finding, mend) for finding in before for mend in finding.mends}
            for finding, mend in offered.values():
                with self.subTest(text=text, kind=finding.kind, mend=mend.title):
                    after = found_in(with_mend(design, mend))
                    self.assertLess(len(after), len(before))
                    self.assertNotIn((finding.kind, finding.at), [(f.kind, f.at) for f in after])
                    self.assertLessEqual({f.kind for f in after}, kinds)

    def test_bridges_are_as_few_and_as_wide_as_asked(self) -> None:
        design = face("Iris", "anton", "ply-3")
        mend = next(m for f in found_in(design) for m in f.mends if m.title.startswith("Bridge all"))
        before, after = (build_of(d).layers[0] for d in (design, with_mend(design, mend)))
        added = [p for p in shapely.get_parts(after.region.area.difference(before.region.area)) if p.area > 1e-6]
        self.assertLess(after.measures.pieces, before.measures.pieces)
        self.assertEqual(len(added), before.measures.pieces - after.measures.pieces)
        for bar in added:
            # Nothing is left of a bar when half its width is taken off all round; and it is no narrower, see below.
            self.assertTrue(bar.buffer(-0.7501).is_empty)

    def test_a_dot_is_named(self) -> None:
        sentences = [f.sentence for f in found_in(face("Bi", "pacifico"))]
        self.assertTrue(any(s.startswith("The dot of the i is loose: ") for s in sentences), sentences)

    def test_slivers_are_only_dropped_where_something_is_left(self) -> None:
        for size, some in ((2, False), (8, True)):
            found = [f for f in found_in(face("Wi", "anton", "acrylic-3", size=size)) if f.kind == "sliver"]
            self.assertTrue(found)
            self.assertEqual({any(m.title.startswith("Drop") for m in f.mends) for f in found}, {some})

    def test_what_lies_on_the_layer_below_is_only_a_note(self) -> None:
        design = parse_design(document(text="Bi"))
        notes = [f for f in found_in(design, layer="face") if f.kind == "loose_piece"]
        self.assertEqual([(f.severity, f.open) for f in notes], [("note", False)])


class FromSteps(unittest.TestCase):
    """Findings that come from what a layer's steps did, and the mends that change those steps."""

    def made(self, *steps: dict[str, Any], text: str = "Bee", font: str = "anton") -> tuple[Design, list[Finding]]:
        design = face(text, font, "ply-3", 40)
        data = design.model_dump(mode="json", by_alias=True)
        data["layers"][0]["recipe"]["steps"] = list(steps)
        design = parse_design(data)
        return design, found_in(design)

    def test_holes_that_growing_closes_are_told_and_kept_open(self) -> None:
        design, found = self.made({"op": "offset", "by": 1.65}, text="Bo")
        closed = [f for f in found if f.kind == "closed_hole"]
        # Both of the B; that of the o is wider at its middle and splits in two.
        self.assertEqual(len(closed), 2)
        kept = with_mend(design, closed[0].mends[0])
        self.assertEqual(len(kept.layers[0].recipe.steps), 1)
        self.assertNotIn("closed_hole", [f.kind for f in found_in(kept)])
        self.assertGreaterEqual(build_of(kept).layers[0].measures.holes, 3)

    def test_holes_that_were_to_be_filled_are_not_told(self) -> None:
        _, found = self.made({"op": "offset", "by": 1.65}, {"op": "fill_holes"}, text="Bo")
        self.assertNotIn("closed_hole", [f.kind for f in found])

    def test_a_thin_rim_is_measured_and_made_wider(self) -> None:
        plate: dict[str, Any] = {"op": "plate", "shape": "rectangle", "margin": 8}
        tried: list[tuple[dict[str, Any], float]] = [
            ({"op": "tab", "hole": 4, "rim": 0.9, "reach": 5}, 0.9),
            ({"op": "hole", "diameter": 4, "at": {"x": 0.5, "y": 1, "inset": 3}}, 1.0),
        ]
        for step, rim in tried:
            with self.subTest(step=step["op"]):
                design, found = self.made(plate, step)
                self.assertEqual([f.kind for f in found], ["hole_near_edge"])
                self.assertAlmostEqual(found[0].measure or 0, rim, delta=0.03)
                self.assertEqual(found_in(with_mend(design, found[0].mends[0])), [])
                self.assertEqual(
                    self.made(plate, step | {"rim": 2} if "rim" in step else step | {"at": {"inset": 5}})[1], []
                )


class EveryStarter(unittest.TestCase):
    def test_each_kind_of_mend_ends_its_finding(self) -> None:
        tried: set[tuple[str, str]] = set()
        for starter in sampled(STARTERS, 1 / 4):
            memo, design = Memo(), bare(with_words(starter.document, "Zoë & Wim"))
            before = survey(build(design, LIBRARY, exact=False, memo=memo), memo)
            for finding, mend in [(f, m) for f in before for m in f.mends]:
                # The same mend on another letter is the same step.
                if (finding.kind, mend.title) in tried:
                    continue
                tried.add((finding.kind, mend.title))
                with self.subTest(starter=starter.id, kind=finding.kind, mend=mend.title):
                    done = mended(design, mend, LIBRARY, memo)
                    if done == design:
                        # A search may find that there is no better place, and says so.
                        self.assertIsInstance(mend.changes[-1], FindPlace)
                        continue
                    after = survey(build(done, LIBRARY, exact=False, memo=memo), memo)
                    same = [f for f in after if (f.kind, f.layer) == (finding.kind, finding.layer)]
                    assert finding.at
                    self.assertFalse([f for f in same if f.at and math.dist(f.at, finding.at) < 0.3])
                    # Growing may bring edges closer to each other, which is told: but it never makes more than it ends.
                    self.assertLessEqual(len(after), len(before) + 1)
        self.assertGreater(len(tried), 15 if FUZZ else 0)


class Larger(unittest.TestCase):
    def test_letters_made_larger_have_no_thin_stroke(self) -> None:
        """The size that the button names is the one that it sets, and no larger than it takes."""
        design = parse_design(document([], text="Fenna", size=20))
        thin = [f for f in survey(build(design, LIBRARY, exact=False), Memo()) if f.kind == "thin_spot"]
        (larger,) = [mend for mend in thin[0].mends if mend.title.startswith("Larger letters")]
        after = mended(design, larger, LIBRARY, Memo())
        size = after.art[0].model_dump()["size"]
        assert thin[0].measure
        self.assertEqual(f"Larger letters: {round(size, 1):g} mm", larger.title)
        self.assertAlmostEqual(size, 20 * 1.5 / thin[0].measure, delta=0.1)
        left = survey(build(after, LIBRARY, exact=False), Memo())
        self.assertNotIn(thin[0].at, [f.at for f in left if f.kind == "thin_spot" and (f.measure or 0) < 1.48])


class Shared(unittest.TestCase):
    def test_what_threads_share_is_not_prepared(self) -> None:
        """GEOS aborts the process when one thread prepares an area that another one looks at."""
        for starter in sampled(STARTERS, 1 / 4):
            memo = Memo()
            made = build(starter.document, LIBRARY, exact=False, memo=memo)
            survey(made, memo)
            for layer in made.layers:
                for step in knockouts(starter.document, layer.layer):
                    change = FindPlace(layer=layer.layer.id, step=step, least_area=15, least_width=1.5)
                    list(find_place(starter.document, change, LIBRARY, memo))
            shared = [stage.region.area for layer in made.layers for stage in layer.stages]
            shared += [piece for art in made.art for part in art.drawn.parts.values() for piece in part.pieces]
            self.assertFalse(shapely.is_prepared(shared).any(), starter.id)


class Widening(unittest.TestCase):
    def test_a_slot_gets_as_wide_as_asked_and_nothing_else_changes(self) -> None:
        for width in (0.02, 0.08, 0.2):
            slot = box(20 - width / 2, 8, 20 + width / 2, 30)
            before = Region.of(PLATE.difference(slot))
            taken = before.area.difference(open_gaps(before, 0.3, EXACT).area)
            # Two sides along the slot, 12 mm long in a plate 20 mm high; its end is as round as it is wide.
            self.assertAlmostEqual(taken.area, 12 * (0.31 - width), delta=0.1)
            self.assertTrue(taken.within(slot.buffer(0.17)))

    def test_what_is_wide_enough_stays_as_it_is(self) -> None:
        region = Region.of(PLATE.difference(disc(10, 10, 4)).difference(box(25, 5, 25.4, 30)))
        self.assertIs(open_gaps(region, 0.3, EXACT), region)


class StencilBridges(unittest.TestCase):
    def test_bars_are_as_many_and_as_wide_as_asked(self) -> None:
        inner, outer, width = 4.0, 8.0, 1.5

        def beside(radius: float) -> float:
            """Integral of the circle's height over half of the bar's width."""
            half = width / 2
            return (half * math.sqrt(radius**2 - half**2) + radius**2 * math.asin(half / radius)) / 2

        region = Region.of(PLATE.difference(disc(20, 10, outer)).union(disc(20, 10, inner)))
        for count in (1, 2, 3, 5):
            made = held(region, count, width, 90)
            self.assertEqual((made.pieces, made.holes), (1, max(1, count)))
            added = made.area.area - region.area.area
            self.assertAlmostEqual(added, count * 2 * (beside(outer) - beside(inner)), delta=0.01 * count)
        self.assertTrue(held(region, 1, width, 90).area.contains(Point(20, 16)))
        self.assertTrue(held(region, 1, width, 0).area.contains(Point(26, 10)))

    def test_a_bent_island_is_held_whichever_way_the_bars_go(self) -> None:
        bent = disc(20, 10, 6).difference(disc(20, 10, 5)).difference(box(20, 0, 40, 20))
        region = Region.of(PLATE.difference(disc(20, 10, 8)).union(bent))
        for angle in range(0, 360, 15):
            self.assertEqual(held(region, 1, 1, angle).pieces, 1, angle)

    def test_what_falls_out_of_a_stencil_is_held(self) -> None:
        plate = {"op": "plate", "shape": "rectangle", "margin": 8}
        away = {"op": "subtract", "operand": {"from": ["name"], "steps": []}}
        data = face("Bea", "anton", "ply-3", 40).model_dump(mode="json", by_alias=True)
        data["layers"][0]["recipe"]["steps"] = [plate, away]
        design = parse_design(data)
        lost = [f for f in found_in(design) if f.kind == "drop_out"]
        # Both counters of the B, and those of the e and the a.
        self.assertEqual(len(lost), 4)
        mend = next(m for m in lost[0].mends if m.title.startswith("Hold it"))
        # Those of the B stand above each other: a bar between them holds both.
        self.assertEqual(len([f for f in found_in(with_mend(design, mend)) if f.kind == "drop_out"]), 2)
        mend = next(m for m in lost[0].mends if m.title.startswith("Hold all"))
        after = with_mend(design, mend)
        self.assertEqual(build_of(after).layers[0].measures.pieces, 1)
        self.assertNotIn("drop_out", [f.kind for f in found_in(after)])


class Lying(unittest.TestCase):
    """Layers that lie on another one."""

    def made(self, margin: float, grown: float, process: str = "cut") -> Design:
        acrylic = find_material("acrylic-3")
        assert acrylic
        mine = acrylic.model_copy(update={"id": "own", "limits": acrylic.limits.model_copy(update={"margin": margin})})
        names = {"from": ["name"], "steps": []}
        backer = {"from": ["name"], "steps": [{"op": "offset", "by": grown}, {"op": "outside"}]}
        layers: list[dict[str, Any]] = [
            {"id": "top", "material": "own", "process": process, "recipe": names},
            {"id": "under", "material": "own", "recipe": backer},
        ]
        art = [{"id": "name", "text": "Bo", "font": "anton", "size": 40}]
        materials = [mine.model_dump(mode="json")]
        return parse_design({"format": "tin-halo/1", "art": art, "layers": layers, "materials": materials})

    def overhangs(self, design: Design) -> list[Finding]:
        return [f for f in found_in(design, layer="top") if f.kind == "overhang"]

    def test_a_margin_is_asked_for_and_kept(self) -> None:
        self.assertEqual(self.overhangs(self.made(0, 1)), [])
        self.assertEqual(self.overhangs(self.made(0.9, 1)), [])
        design = self.made(2, 1)
        found = self.overhangs(design)
        self.assertEqual([round(f.measure or 0, 2) for f in found], [1.0] * len(found))
        self.assertTrue(found and all(f.limit == 2 for f in found))
        self.assertEqual(self.overhangs(with_mend(design, found[0].mends[0])), [])

    def test_what_is_scored_past_the_edge_is_told_and_kept_inside(self) -> None:
        self.assertEqual(self.overhangs(self.made(2, 0.5, "score")), [])
        design = self.made(0, -0.5, "score")
        found = self.overhangs(design)
        self.assertAlmostEqual(max(f.measure or 0 for f in found), 0.5, delta=0.25)
        self.assertTrue(all("onto the machine's bed" in f.sentence for f in found))
        self.assertEqual(self.overhangs(with_mend(design, found[0].mends[0])), [])


class Moving(unittest.TestCase):
    def test_what_hangs_over_is_moved_back_by_no_more_than_it_was_moved(self) -> None:
        names = offset(lettering("Wilhelmijn", size=30), 0.4, EXACT)
        plate = Region.of(box(*offset(names, 2, EXACT).area.bounds))
        backer = fill_holes(offset(names, 2, EXACT))
        for ground in (plate, backer):
            for turn in range(0, 360, 45):
                away = (3 * math.cos(math.radians(turn)), 3 * math.sin(math.radians(turn)))
                moved = names.moved(*away)
                move = move_onto(moved, ground)
                assert move is not None
                self.assertLess(moved.moved(*move).area.difference(ground.area).area, 1e-3)
                self.assertLess(math.hypot(*move), 3)

    def test_what_is_larger_than_its_ground_is_not_moved(self) -> None:
        ground = Region.of(box(0, 0, 10, 10))
        self.assertIsNone(move_onto(Region.of(box(-1, 4, 10, 6)), ground))
        self.assertIsNone(move_onto(Region.of(box(1, 1, 2, 2)), ground))

    def test_it_is_offered_and_ends_the_finding(self) -> None:
        data = document([{"op": "plate", "shape": "rectangle", "margin": 4}])
        data["layers"][0]["recipe"]["steps"] = [{"op": "place", "dx": 9.5, "dy": -5}]
        design = parse_design(data)
        over = [f for f in found_in(design) if f.kind == "overhang"]
        mend = next(m for m in over[0].mends if m.title.startswith("Move"))
        self.assertEqual(mend.title, "Move “Face” 5.52 mm to the left and 1.02 mm up")
        self.assertNotIn("overhang", [f.kind for f in found_in(with_mend(design, mend))])


class Sharing(unittest.TestCase):
    def test_a_shared_edge_is_cut_apart_or_gone(self) -> None:
        plate: dict[str, Any] = {"op": "plate", "shape": "rectangle", "width": 30, "height": 20}
        layers: list[dict[str, Any]] = [
            {"id": "one", "material": "ply-4", "recipe": {"from": ["name"], "steps": [plate]}},
            {
                "id": "other",
                "material": "ply-4",
                "recipe": {"from": ["name"], "steps": [plate, {"op": "place", "dx": 30}]},
            },
        ]
        art = [{"id": "name", "text": "o", "font": "anton", "size": 10}]
        design = parse_design({"format": "tin-halo/1", "art": art, "layers": layers})
        (found,) = found_in(design)
        titles = ["Cut the shared edge once", "Leave 0.5 mm between them", "Make one piece of them"]
        self.assertEqual((found.kind, [mend.title for mend in found.mends]), ("doubled_line", titles))
        for mend, leaves, area in zip(found.mends, (2, 2, 1), (1200, 600 + 590, 1200), strict=True):
            after = with_mend(design, mend)
            self.assertEqual(found_in(after), [])
            made = build_of(after).leaving()
            self.assertEqual(len(made), leaves)
            self.assertAlmostEqual(sum(one.measures.area for one in made), area, places=3)


class FindingAPlace(unittest.TestCase):
    def test_a_sliver_of_a_knockout_goes_with_another_place(self) -> None:
        starter = next(one for one in STARTERS if one.id == "knocked-out-word")
        design = bare(with_words(starter.document, "Wilhelmijnad"))
        sliver = next(f for f in found_in(design) if f.kind == "sliver")
        mend = next(m for m in sliver.mends if m.title.startswith("Find"))
        self.assertNotIn("sliver", [f.kind for f in found_in(with_mend(design, mend))])


class Printing(unittest.TestCase):
    """A print on a sticker 40 mm by 20 mm, cut round its edge."""

    def made(self, *prints: list[dict[str, Any]]) -> Design:
        def plate(width: float, height: float) -> dict[str, Any]:
            return {"op": "plate", "shape": "rectangle", "width": width, "height": height}

        layers: list[dict[str, Any]] = [
            {"id": f"print-{n}", "process": "print", "recipe": {"from": ["name"], "steps": steps}}
            for n, steps in enumerate(prints)
        ]
        layers.append({"id": "cut", "material": "vinyl", "recipe": {"from": ["name"], "steps": [plate(40, 20)]}})
        art = [{"id": "name", "text": "o", "font": "anton", "size": 10}]
        return parse_design({"format": "tin-halo/1", "art": art, "layers": layers})

    def rectangle(self, width: float, height: float, **place: float) -> list[dict[str, Any]]:
        return [
            {"op": "plate", "shape": "rectangle", "width": width, "height": height},
            {"op": "place", **place},
        ]

    def test_what_ends_at_the_cut_is_told_and_bleeds(self) -> None:
        for width, height, over in ((40, 20, 0), (39.4, 19.4, -0.3), (41, 21, 0.5)):
            with self.subTest(width=width):
                design = self.made(self.rectangle(width, height))
                (found,) = [f for f in found_in(design) if f.kind == "hairline"]
                self.assertAlmostEqual(found.measure or 0, over, delta=0.02)
                self.assertEqual(found.limit, 1)
                # Less at the corners, where a print that ends short is further from the edge.
                self.assertRegex(found.sentence, r"along 1(17|20) mm")
                after = with_mend(design, found.mends[0])
                self.assertEqual(found_in(after, layer="print-0"), [])
                self.assertEqual(build_of(after).finished, build_of(design).layers[1].measures.bounds)
                # The rectangle grown by 1 mm: four sides and a disc's four quarters more.
                printed = build_of(after).layers[0].region.area
                whole = 40 * 20 + 2 * (40 + 20) + math.pi
                self.assertAlmostEqual(printed.area, whole, delta=0.9 if over > 0 else 0.02)

    def test_what_bleeds_or_ends_well_inside_is_not_told(self) -> None:
        stripe = self.rectangle(60, 5)
        for steps in (self.rectangle(42, 22), self.rectangle(38, 18), stripe, self.rectangle(4, 4, dx=10)):
            self.assertEqual(found_in(self.made(steps)), [])

    def test_how_far_it_bleeds_is_the_materials(self) -> None:
        plain = self.made(self.rectangle(41, 21))
        usual = plain.material_of(plain.layers[0])
        for bleed, told in ((0, []), (0.4, []), (2.5, [2.5])):
            own = usual.model_copy(update={"limits": usual.limits.model_copy(update={"bleed": bleed})})
            design = plain.model_copy(update={"materials": (own,)})
            found = found_in(design)
            self.assertEqual([f.limit for f in found], told)
            for finding in found:
                self.assertEqual(found_in(with_mend(design, finding.mends[0]), layer="print-0"), [])

    def test_only_what_reaches_the_edge_bleeds(self) -> None:
        design = self.made(self.rectangle(10, 5, dx=15))
        (found,) = found_in(design)
        before, after = (build_of(d).layers[0].region.area for d in (design, with_mend(design, found.mends[0])))
        added = after.difference(before)
        cut = build_of(design).layers[1].region.area
        self.assertTrue(added.within(before.buffer(1.51)))
        self.assertLess(added.intersection(cut).area, 2 * 0.5 * 0.5 + 0.01)

    def test_what_lies_beside_the_edge_or_has_none_stays(self) -> None:
        away, disc_away = Region.of(box(30, 0, 40, 10)), Region.of(disc(0, 0, 5))
        for region, edge in ((away, disc_away), (away, Region.empty()), (Region.empty(), away)):
            self.assertEqual(bled(region, edge, 1, EXACT).area.symmetric_difference(region.area).area, 0)

    def test_printed_colours_that_only_meet_are_told(self) -> None:
        half = self.rectangle(10, 10, dx=-5), self.rectangle(10, 10, dx=5)
        self.assertEqual([f.kind for f in found_in(self.made(*half))], ["hairline"])
        self.assertEqual(found_in(self.made(half[0], self.rectangle(11, 10, dx=4.5))), [])


class Bars(unittest.TestCase):
    def test_a_bar_holds_with_its_whole_width(self) -> None:
        corner = box(0, 0, 20, 20), box(21, 16, 40, 40)
        wedge = box(0, 0, 20, 20), Polygon([(20.5, 0), (40, 0), (40, 20), (24, 20)])
        pointed = box(0, 0, 20, 20), Polygon([(21, 10), (40, 16), (40, 4)])
        for name, pieces in {"corner": corner, "wedge": wedge, "pointed": pointed}.items():
            with self.subTest(name):
                region = bridged(Region.of(MultiPolygon(pieces)), 1.5, 2, EXACT)
                self.assertEqual(region.pieces, 1)
                self.assertIsNone(narrow_strokes(region.area, 1.48))
