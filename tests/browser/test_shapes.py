"""Shapes on the stage: added, measured, moved, stretched, turned, lined up; words set into them and along curves."""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import expect

from tests.browser.base import BrowserTest
from tests.browser.test_shelf import violations


class Shapes(BrowserTest):
    shared = True

    def art(self, id: str) -> dict[str, Any]:
        return next(one for one in self.document()["art"] if one["id"] == id)

    def add(self, shape: str) -> None:
        self.page.get_by_role("button", name="Shape", exact=True).click()
        self.page.get_by_role("menuitem", name=shape).click()
        self.settled(self.page)

    def test_one_is_added_measured_and_changed_for_another(self) -> None:
        self.new_design("Bram")
        self.add("heart")
        card = self.opened("layer")
        expect(card).to_contain_text("heart")
        expect(card).to_contain_text("1 piece")
        box = self.page.get_by_test_id("shape-heart")
        width = box.get_by_role("spinbutton", name="Width of the heart")
        self.hands.retype(width, "2 in")
        width.blur()
        expect(width).to_have_value("50.8 mm")
        self.assertEqual(self.art("heart")["width"], 50.8)
        before = self.outline("layer")
        box.get_by_role("combobox", name="Shape heart").click()
        self.page.get_by_role("option", name="star").click()
        points = box.get_by_role("spinbutton", name="Points of the star")
        self.hands.retype(points, "7")
        points.blur()
        self.settled(self.page)
        self.assertNotEqual(self.outline("layer"), before)
        star = self.art("heart")
        self.assertEqual((star["shape"], star["points"], star["width"]), ("star", 7, 50.8))
        self.hands.retype(points, "1")
        expect(self.page.get_by_text("must be at least 3").first).to_be_visible()
        self.hands.retype(points, "5")
        points.blur()
        self.assertEqual(self.art("heart")["points"], 5)
        self.assertEqual(violations(self.page), [])
        box.get_by_text("Place", exact=True).click()
        box.get_by_role("button", name="Remove").click()
        expect(box).to_have_count(0)
        self.page.keyboard.press("Control+z")
        expect(box).to_be_visible()

    def test_one_is_moved_stretched_and_turned_on_the_stage(self) -> None:
        self.new_design("Bram")
        self.add("heart")
        frame = self.page.get_by_test_id("frame")
        start = self.art("heart")["place"]
        # At its foot, where no words lie on it.
        self.hands.drag_by(self.page.locator('[data-art="heart"]'), 60, -30, at=(0.5, 0.9))
        moved = self.art("heart")["place"]
        self.assertGreater(moved["x"], start["x"] + 1)
        self.assertGreater(moved["y"], start["y"] + 0.5)
        # Its handles are where a hand finds them once the outlines and the findings are of this place.
        self.settled(self.page)
        expect(self.page.locator('[aria-label="Findings"][aria-busy="false"]')).to_be_visible()
        self.hands.drag_by(self.page.get_by_role("button", name="Resize from the upper right"), 60, -40)
        stretched = self.art("heart")["place"]
        self.assertGreater(stretched["scale_x"], 1.02)
        self.assertAlmostEqual(stretched["scale_x"], stretched["scale_y"], places=4)
        frame.press("[")
        self.assertEqual(self.art("heart")["place"]["rotate"], 1)
        frame.press("ArrowLeft")
        self.assertAlmostEqual(self.art("heart")["place"]["x"], stretched["x"] - 0.1, places=6)

    def test_one_is_lined_up_with_words_by_their_measured_boxes(self) -> None:
        self.new_design("Bram")
        self.add("heart")
        self.page.get_by_role("button", name="Line up").click()
        self.page.get_by_role("menuitem", name="Left edges").click()
        self.settled(self.page)
        design = self.document()
        reply = self.server.post("/api/build", {"document": design})
        words, heart = (one["bounds_mm"] for one in reply["art"])
        self.assertAlmostEqual(words[0], heart[0], delta=0.01)

    def test_words_are_set_into_one_and_stay_so_when_the_text_changes(self) -> None:
        self.new_design("Bram")
        self.add("ring")
        self.page.get_by_role("button", name="Open the words “Bram”").click()
        self.page.get_by_text("Spacing, lines and place").click()
        self.page.get_by_role("combobox", name="Shape they are set into").click()
        self.page.get_by_role("option", name="the ring").click()
        depth = self.page.get_by_role("spinbutton", name="Depth in the frame")
        expect(depth).to_have_value("1 mm")
        self.page.get_by_role("button", name="Add a layer of the ring's frame and the words").click()
        self.settled(self.page)
        made = self.document()["layers"][0]["id"]
        measures = self.page.get_by_test_id(f"measures-{made}")
        expect(measures).to_contain_text("1 piece")
        self.hands.retype(self.page.get_by_label("The words"), "Fenna")
        self.art("words")
        self.settled(self.page)
        expect(measures).to_contain_text("1 piece")
        self.assertEqual(self.art("words")["into"]["depth"], 1)
        self.assertEqual(violations(self.page), [])

    def test_words_run_along_a_circle_and_back_onto_a_straight_line(self) -> None:
        self.new_design("Bram")
        before = self.outline("face")
        self.page.get_by_text("Spacing, lines and place").click()
        self.page.get_by_role("combobox", name="Words run along").click()
        self.page.get_by_role("option", name="a circle, all round").click()
        radius = self.page.get_by_role("spinbutton", name="Radius of the line")
        self.hands.retype(radius, "30")
        radius.blur()
        self.settled(self.page)
        self.assertEqual(self.art("words")["line"]["radius"], 30)
        self.assertNotEqual(self.outline("face"), before)
        # Letters stay letters: each is picked by itself.
        self.page.get_by_role("button", name="Pick “Bram”").press("Enter")
        expect(self.page.get_by_role("button", name=re.compile("^Letter B"))).to_be_visible()
        self.page.get_by_role("combobox", name="Words run along").click()
        self.page.get_by_role("option", name="a straight line").click()
        expect(self.page.locator('[data-layer="face"] path').last).to_have_attribute("d", before)
