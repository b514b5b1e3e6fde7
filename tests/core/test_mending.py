"""Mends are made, and what they bring along is mended with them."""

from __future__ import annotations

import re
import unittest
from typing import Any

from shapely import LineString, box

from tests.core.test_findings import face, found_in, with_mend
from tests.sampling import FUZZ, sampled
from tests.support import LIBRARY, bare, block, build_of, document, ops, told
from tinhalo.core.design.design import Design
from tinhalo.core.design.problem import DesignError
from tinhalo.core.design.reading import parse_design
from tinhalo.core.document.anchor import Anchor
from tinhalo.core.findings.finding import Finding
from tinhalo.core.findings.mends.changes import mended
from tinhalo.core.findings.mends.following import alike, follow_up
from tinhalo.core.findings.mends.mend import FillThrough, Mend, SetArt, SetProcess, SetStep
from tinhalo.core.findings.mends.outlook import outlook
from tinhalo.core.findings.survey import findings_of
from tinhalo.core.geometry.curves.precision import EXACT
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.stacking.underlap import underlapped
from tinhalo.core.recipe.bridge_step import Bridge
from tinhalo.core.recipe.thicken_step import Thicken
from tinhalo.core.runtime.memo import Memo
from tinhalo.core.starters import STARTERS, with_words


def starter(name: str, text: str) -> Design:
    """A starter with other words, without what keeps findings away."""
    return bare(with_words(next(one for one in STARTERS if one.id == name).document, text))


def open_in(design: Design, memo: Memo) -> list[Finding]:
    return [one for one in findings_of(design, LIBRARY, memo) if one.open]


def offered(findings: list[Finding], kind: str, title: str) -> tuple[Finding, Mend]:
    return next((f, m) for f in findings for m in f.mends if f.kind == kind and m.title.startswith(title))


class Changes(unittest.TestCase):
    def setUp(self) -> None:
        self.design = parse_design(document())

    def made(self, *changes: Any) -> Design:
        return with_mend(self.design, Mend(title="", changes=changes))

    def test_steps_are_added_and_put_in_place_of_others(self) -> None:
        backer = self.design.layers[1]
        bridge, was = Bridge(width=2, up_to=3), ops(backer)
        for at, then in ((None, [*was, "bridge"]), (0, ["bridge", *was[1:]])):
            made = self.made(SetStep(layer=backer.id, step=bridge, at=at))
            self.assertEqual(ops(made.layers[1]), then)
            self.assertEqual(made.layers[0], self.design.layers[0])

    def test_picked_holes_are_filled_through_all_layers_that_have_them(self) -> None:
        data = document([{"op": "offset", "by": 0.4}])
        data["art"][0] |= {"text": "oe", "font": "work-sans", "size": 40}
        bottom = data["layers"][1] | {
            "id": "bottom",
            "recipe": {"from": ["name"], "steps": [{"op": "offset", "by": 9}]},
        }
        self.design = parse_design(data | {"layers": [*data["layers"], bottom]})
        eye = Anchor(art="name", part=0, x=0, y=0)
        made = self.made(FillThrough(layer="face", only=(eye,)))
        self.assertEqual([ops(one)[-1:] for one in made.layers], [["fill_holes"], ["fill_holes"], ["offset"]])
        holes = [one.region.holes for one in build_of(made, exact=False).layers]
        self.assertEqual(holes, [1, 1, 0])

    def test_words_and_processes_are_changed_several_at_once(self) -> None:
        lower = [SetArt(art="name", patch={"lowered": {letter: 0.3}}) for letter in ("2", "4")]
        close_up = SetArt(art="name", patch={"join": {"overlap": 0.3}})
        made = self.made(close_up, *lower, SetProcess(layer="face", process="guide"))
        words = block(made)
        assert words.join
        self.assertEqual((words.join.overlap, words.lowered), (0.3, {"2": 0.3, "4": 0.3}))
        self.assertEqual(made.layers[0].process, "guide")

    def test_what_is_gone_is_told(self) -> None:
        for change, said in (
            (SetProcess(layer="lid", process="guide"), "The layer “lid” is not there any more."),
            (SetArt(art="title", patch={}), "“title” is not there any more."),
        ):
            with self.assertRaisesRegex(DesignError, said):
                self.made(change)

    def test_a_recipe_that_is_full_stays_as_it_is(self) -> None:
        full = Mend(title="", changes=(SetStep(layer="face", step=Bridge(width=2, up_to=3)),) * 101)
        with self.assertRaises(DesignError):
            with_mend(self.design, full)


class Words(unittest.TestCase):
    """Mends of what cannot be drawn, or not at all as it stands."""

    def mended_all(self, **changes: Any) -> list[tuple[str, str, list[str]]]:
        """Each finding's kind, each of its mends, and the kinds that are left after it."""
        design = parse_design(document() | changes)
        found = told(build_of(design, exact=False))
        return [
            (f.kind, m.title, [g.kind for g in told(build_of(with_mend(design, m), exact=False))])
            for f in found
            for m in f.mends
        ]

    def words(self, **changes: Any) -> list[dict[str, Any]]:
        return [document()["art"][0] | changes]

    def test_words_are_set_in_a_font_that_has_their_characters(self) -> None:
        ((kind, title, left),) = self.mended_all(art=self.words(text="Wojtuś", font="graduate"))
        self.assertEqual((kind, left), ("missing_character", []))
        self.assertRegex(title, "^Set it in ")
        ((kind, _, left),) = self.mended_all(art=self.words(font="none-such"))
        self.assertEqual((kind, left), ("unknown_font", []))
        # What no font has is told only.
        self.assertEqual(self.mended_all(art=self.words(text="\ue000")), [])

    def test_layers_of_which_nothing_is_left_get_something_again(self) -> None:
        def layer(*steps: dict[str, Any], sources: tuple[str, ...] = ("name",)) -> list[dict[str, Any]]:
            return [{"id": "face", "recipe": {"from": list(sources), "steps": list(steps)}}]

        shrunk = self.mended_all(layers=layer({"op": "offset", "by": -30}))
        self.assertEqual([(kind, left) for kind, _, left in shrunk], [("nothing_left", []), ("nothing_left", [])])
        self.assertEqual(shrunk[1][1], "Leave out step 1")
        away = {"op": "subtract", "operand": {"from": ["name"]}}
        self.assertEqual(self.mended_all(layers=layer(away)), [("nothing_left", "Leave out step 1", [])])
        self.assertEqual(self.mended_all(layers=layer(sources=())), [("no_source", "Make it from “Fenna”", [])])

    def test_what_is_too_big_is_made_as_large_as_the_sheet_takes(self) -> None:
        for text, size in (("Wilhelmijnad", 200), ("I", 900)):
            design = face(text, material="acrylic-3", size=size)
            _, mend = offered(found_in(design), "too_big", "Make all smaller")
            made = with_mend(design, mend)
            self.assertFalse([f for f in found_in(made) if f.kind == "too_big"])
            x0, y0, x1, y1 = build_of(made).bounds or (0, 0, 0, 0)
            sheet, sides = made.material_of(made.layers[0]).limits, sorted((x1 - x0, y1 - y0))
            share = [a / b for a, b in zip(sides, sorted((sheet.sheet_width, sheet.sheet_height)), strict=True)]
            self.assertAlmostEqual(max(share), 1, delta=0.01)


class FollowedUp(unittest.TestCase):
    def test_a_neck_that_closing_a_gap_leaves_is_thickened(self) -> None:
        memo, design = Memo(), starter("stepped-stack", "Ida")
        finding, mend = offered(open_in(design, memo), "tight_gap", "Close gaps")
        plain = mended(design, mend, LIBRARY, memo)
        brought = [f for f in open_in(plain, memo) if f.kind == "thin_spot"]
        self.assertTrue(brought)
        made = follow_up(design, plain, LIBRARY, memo)
        self.assertEqual((made.also, made.brought), (("Thicken to 1.5 mm there",), ()))
        self.assertFalse([f for f in open_in(made.design, memo) if f.kind == "thin_spot" or alike(f, finding)])
        told = follow_up(design, plain, LIBRARY, memo, enough=lambda: True)
        self.assertEqual((told.design, told.also), (plain, ()))
        self.assertEqual([f.at for f in told.brought], [f.at for f in brought])

    def test_what_was_there_before_is_left_alone(self) -> None:
        memo, design = Memo(), face("Iris", "anton", "ply-3")
        made = follow_up(design, design, LIBRARY, memo)
        self.assertTrue(open_in(design, memo))
        self.assertEqual((made.design, made.also, made.brought), (design, (), ()))

    def test_what_moves_along_with_its_words_is_not_new(self) -> None:
        before = face("Bram", "pacifico", "acrylic-3")
        (art,) = before.art
        self.assertTrue(any(f.open and f.at for f in found_in(before)))
        moved = art.model_copy(update={"place": art.place.model_copy(update={"x": 40.0, "y": -7.0})})
        after = before.model_copy(update={"art": (moved,)})
        followed = follow_up(before, after, LIBRARY, Memo())
        self.assertEqual((followed.design, followed.also, followed.brought), (after, (), ()))

    def test_words_stay_as_they_are(self) -> None:
        """Closing letters up brings thin places; only steps are added for them."""
        memo, design = Memo(), starter("block-shadow-title", "Zoë Bram")
        mend = Mend(title="", changes=(SetArt(art="words", patch={"join": {"overlap": 0.3}}),))
        plain = mended(design, mend, LIBRARY, memo)
        made = follow_up(design, plain, LIBRARY, memo)
        self.assertTrue(made.also)
        self.assertEqual((made.design.art, made.brought), (plain.art, ()))

    def test_mends_of_the_starters_bring_nothing_new(self) -> None:
        tried = 0
        # The same advice for the same kind of fault is followed once.
        known: set[str] = set()
        for one in sampled(STARTERS, 1 / 4):
            memo, design = Memo(), with_words(one.document, "Zoë Bram")
            before = open_in(design, memo)
            mends = {re.sub(r"[\d.]+", "", f"{f.kind} {m.title}"): (f, m) for f in before for m in f.mends}
            new = {key: offer for key, offer in mends.items() if FUZZ or key not in known}
            known |= new.keys()
            for finding, mend in new.values():
                with self.subTest(starter=one.id, kind=finding.kind, mend=mend.title):
                    tried += 1
                    made = follow_up(design, mended(design, mend, LIBRARY, memo), LIBRARY, memo)
                    self.assertEqual([f.sentence for f in made.brought], [])
                    left = [f for f in open_in(made.design, memo) if f.kind == finding.kind]
                    self.assertNotIn(finding.at, [f.at for f in left])
        self.assertGreaterEqual(tried, 20 if FUZZ else 0)


class Underlaps(unittest.TestCase):
    def made(self, left: float, right: float) -> Region:
        """A square of 10 mm whose right edge is at ``left``, reaching under one whose left edge is at ``right``."""
        ground, top = (Region.of(box(x, 0, x + 10, 10)) for x in (left - 10, right))
        return underlapped(ground, top, by=0.3, within=0.2, precision=EXACT)

    def test_slits_are_bridged_and_nothing_else_changes(self) -> None:
        for right, expected in ((10.0, 0.5), (10.1, 0.5), (10.19, 0.5), (10.21, 0), (9.5, 0)):
            with self.subTest(right=right):
                made = self.made(10, right)
                # Its corners are round: along the edge it reaches as far from its own edge as slit and underlap go.
                self.assertAlmostEqual(made.area.area, 100 + expected * 10, delta=0.3 if expected else 1e-9)
                middle = LineString([(0, 5), (20, 5)]).intersection(made.area)
                self.assertAlmostEqual(middle.length, 10 + expected, places=2)
                self.assertEqual((made.pieces, made.holes), (1, 0))

    def test_it_ends_hairlines_of_the_starters_by_what_lies_hidden(self) -> None:
        memo, design = Memo(), starter("drop-shadow-title", "Wilhelmijnad")
        _, mend = offered(open_in(design, memo), "hairline", "Let it reach 0.3 mm under")
        after = with_mend(design, mend)
        self.assertEqual(open_in(after, memo), [])
        (title, before), (_, made) = ([b.region for b in build_of(d).layers] for d in (design, after))
        added = made.area.difference(before.area)
        self.assertLess(added.difference(title.area.buffer(0.2)).area, 1e-3)
        self.assertLess(before.area.difference(made.area).area, 1e-3)

    def test_a_shadow_that_passes_another_letter_is_led_under_that(self) -> None:
        steps = [{"op": "drop_shadow", "dx": 2.8, "dy": -2.8, "underlap": 0.16, "visible_only": True}]
        steps.append({"op": "tidy", "area": 0.5, "width": 0.8, "holes_too": True})
        layers = [{"id": "title", "material": "vinyl-white", "recipe": {"from": ["words"]}}]
        layers.append({"id": "shadow", "material": "vinyl", "recipe": {"from": ["words"], "steps": steps}})
        art = [{"id": "words", "text": "Ella-Lou", "font": "kaushan-script", "size": 14, "align": "center"}]
        design, memo = parse_design({"format": "tin-halo/1", "art": art, "layers": layers}), Memo()
        slit, mend = offered(open_in(design, memo), "hairline", "")
        self.assertIn("a slit of 0.08 mm", slit.sentence)
        after = open_in(with_mend(design, mend), memo)
        self.assertEqual([one.sentence for one in after if one.kind == "hairline"], [])

    def test_what_is_told_is_bridged_to_the_last_hundredth(self) -> None:
        """A stretch that is hardly long enough to be told, along edges that are hardly close enough."""

        def walled(id: str, material: str, by: float, up_to: float, width: float) -> dict[str, Any]:
            steps = [{"op": "offset", "by": by}, {"op": "close_gaps", "up_to": up_to}, {"op": "outside"}]
            steps.append({"op": "wall", "width": width, "side": "outside"})
            return {"id": id, "material": material, "recipe": {"from": ["words"], "steps": steps}}

        layers = [walled("edge", "print-12", 2, 3.84, 0.73), walled("rim", "print-3", 2.63, 3, 5)]
        art = [{"id": "words", "text": "Brigitta", "font": "graduate", "size": 30, "align": "center"}]
        design, memo = parse_design({"format": "tin-halo/1", "art": art, "layers": layers}), Memo()
        _, mend = offered(open_in(design, memo), "hairline", "Let it reach")
        after = open_in(with_mend(design, mend), memo)
        self.assertEqual([one.sentence for one in after if one.kind == "hairline"], [])


class Lines(unittest.TestCase):
    def test_a_line_that_is_thin_is_made_wider_and_keeps_its_distance(self) -> None:
        outline = {"op": "outline", "gap": 1, "width": 1.2}
        layer = {"id": "line", "material": "acrylic-3", "recipe": {"from": ["name"], "steps": [outline]}}
        art = [{"id": "name", "text": "o", "font": "anton", "size": 24}]
        design = parse_design({"format": "tin-halo/1", "art": art, "layers": [layer]})
        for words in {"text": "I", "font": "pacifico"}, {"text": "o", "font": "anton"}:
            one = design.model_copy(update={"art": (design.art[0].model_copy(update=words),)})
            _, mend = offered(found_in(one), "thin_spot", "Make the line 1.5 mm wide")
            made = with_mend(one, mend)
            (step,) = made.layers[0].recipe.steps
            self.assertEqual(step.model_dump(include={"gap", "width"}), {"gap": 1, "width": 1.5})
            self.assertFalse([f for f in found_in(made) if f.kind in ("thin_spot", "sliver")])

    def test_gaps_between_points_are_not_offered_to_be_closed(self) -> None:
        """A disc gets between two points from both sides, so that a closing by it leaves them apart."""
        points = "M0,0 L-9,2 L-9,-2 Z M0.15,0 L9.1,-2 L9.1,2 Z"
        slot = "M20,0 L30,0 L30,10 L20,10 Z M30.1,0 L40,0 L40,10 L30.1,10 Z"
        for path, ways in ((points, ("Widen",)), (slot, ("Widen", "Close"))):
            art = [{"id": "a", "kind": "outline", "path": path}]
            layers = [{"id": "l", "material": "acrylic-3", "recipe": {"from": ["a"]}}]
            design = parse_design({"format": "tin-halo/1", "art": art, "layers": layers})
            (gap,) = [f for f in open_in(design, Memo()) if f.kind == "tight_gap"]
            self.assertEqual(ways, tuple(mend.title.split()[0] for mend in gap.mends if not mend.here))


class Outlooks(unittest.TestCase):
    def test_what_stays_is_told_with_what_keeps_it(self) -> None:
        """Script of thin strokes cannot grow to 1.5 mm and leave 3 mm between them."""
        design, memo = starter("name-in-a-heart", "Wilhelmijn"), Memo()
        thin = next(one for one in open_in(design, memo) if one.kind == "thin_spot")
        assert thin.layer and thin.cause
        cause = thin.cause
        for keep_open, why in ((3.0, "Gaps beside them are kept open."), (0.0, None)):
            step = Thicken(to=1.5, keep_open=keep_open)
            seen = outlook(design, Mend.by_step("", thin.layer, step), cause, LIBRARY, memo, lambda: True)
            assert seen
            self.assertEqual((seen.left > 0, seen.why), (bool(why), why))
