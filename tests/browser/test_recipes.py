"""Recipes on the bench: starters, steps, knockouts, tabs, picked pieces, the pulled-apart look."""

from __future__ import annotations

import math
import re
from typing import Any

from playwright.sync_api import Locator, expect

from tests.browser.base import BrowserTest
from tests.browser.test_shelf import violations


def crossed(document: dict[str, Any]) -> None:
    """The second name where it leaves slivers."""
    document["art"][1]["place"] = {"x": 32, "y": -14}


class Recipes(BrowserTest):
    shared = True

    def begin(self, starter: str, text: str) -> None:
        self.page.goto(self.server.url)
        self.page.get_by_role("button", name="New design").first.click()
        self.hands.retype(self.page.get_by_label("Words for the new design"), text)
        self.page.get_by_role("button", name=starter).first.click()
        self.settled(self.page)

    def card(self, layer: str) -> Locator:
        return self.page.get_by_test_id(f"layer-{layer}")

    def test_a_starter_is_drawn_with_the_words_and_begun(self) -> None:
        self.page.goto(self.server.url)
        self.page.get_by_role("button", name="New design").first.click()
        self.hands.retype(self.page.get_by_label("Words for the new design"), "Zoë")
        picture = self.page.get_by_role("button", name="Bordered sticker").locator("img")
        expect(picture).to_have_attribute("src", re.compile("text=Zo%C3%AB"))
        self.assertGreater(picture.evaluate("async img => { await img.decode(); return img.naturalWidth }"), 0)
        self.assertEqual(violations(self.page), [])
        self.page.get_by_role("button", name="Bordered sticker").click()
        expect(self.page.get_by_label("The words")).to_have_value("Zoë")
        expect(self.page.get_by_label("Name of the design")).to_have_value("Zoë")
        expect(self.card("ground")).to_contain_text("gaps closed to")
        self.assertEqual(violations(self.page), [])

    def test_a_design_is_saved_as_a_starter_and_removed_again(self) -> None:
        self.begin("Stitched patch", "Bram")
        self.hands.retype(self.page.get_by_label("Name of the design"), "Crew patch")
        self.page.get_by_role("button", name="Save as a starter").click()
        expect(self.page.get_by_text("“Crew patch” is among the starters now").first).to_be_visible()
        self.begin("Crew patch", "Idris")
        expect(self.page.get_by_label("The words")).to_have_value("Idris")
        expect(self.opened("stitches")).to_contain_text("marks")
        self.page.goto(self.server.url)
        self.page.get_by_role("button", name="New design").first.click()
        self.page.get_by_role("button", name="Remove the starter Crew patch").click()
        expect(self.page.get_by_role("button", name="Crew patch")).to_have_count(0)
        self.page.get_by_role("button", name="Put it back").click()
        expect(self.page.get_by_role("button", name=re.compile("^Crew patch"))).to_be_visible()

    def test_steps_are_added_lit_switched_off_and_removed(self) -> None:
        self.new_design("Bram", unprotected=True)
        backer = self.opened("backer")
        backer.get_by_role("button", name="Add a step").click()
        # Typing finds what is not among the first.
        expect(self.page.get_by_role("menuitem", name="Round corners")).to_have_count(0)
        self.hands.type("round c")
        self.page.get_by_role("menuitem", name="Round corners").click()
        self.hands.retype(backer.get_by_role("spinbutton", name="Radius of inner corners"), "3")
        self.settled(self.page)
        round_off = backer.locator('[data-step="round_off"]')
        round_off.hover()
        expect(self.page.get_by_test_id("before")).to_have_attribute("d", re.compile("^M"))
        lit = self.page.get_by_test_id("after").get_attribute("d")
        backer.locator('[data-step="fill_holes"]').hover()
        expect(self.page.get_by_test_id("after")).not_to_have_attribute("d", lit or "")
        path = self.page.locator('g[data-layer="backer"] path').last
        before = path.get_attribute("d") or ""
        round_off.get_by_role("button", name="corners rounded").click()
        self.page.get_by_role("menuitem", name="Switch off").click()
        expect(round_off).to_have_class(re.compile("line-through"))
        expect(path).not_to_have_attribute("d", before)
        self.assertTrue(self.document()["layers"][1]["recipe"]["steps"][3]["off"])
        round_off.get_by_role("button", name="corners rounded").click()
        self.page.get_by_role("menuitem", name="Remove this step").click()
        expect(round_off).to_have_count(0)

    def test_a_shadow_is_typed_as_a_length_and_an_angle(self) -> None:
        self.begin("Block-shadow title", "LAUNCH")
        shadow = self.card("shadow")
        self.hands.retype(shadow.get_by_role("spinbutton", name="Shadow direction"), "-90")
        self.hands.retype(shadow.get_by_role("spinbutton", name="Shadow length"), "6")
        step = self.document()["layers"][1]["recipe"]["steps"][1]
        self.assertEqual((step["dx"], step["dy"]), (0, -6))

    def test_the_tab_is_dragged_along_the_edge_and_turned_by_keys(self) -> None:
        self.begin("Name keyring", "Fenna")
        self.card("backer").click(position={"x": 120, "y": 12})
        handle = self.page.get_by_test_id("tab-handle")
        self.hands.drag_by(handle, 560, -20)
        at = self.document()["layers"][1]["recipe"]["steps"][3]["at"]
        self.assertTrue(20 < at < 90, at)
        # It snapped to the edge: the handle is on the tab's hole, not under the pointer.
        handle.press("ArrowLeft")
        handle.press("Shift+ArrowLeft")
        self.assertAlmostEqual(self.document()["layers"][1]["recipe"]["steps"][3]["at"], at + 11, places=5)
        self.hands.retype(self.page.get_by_label("The words"), "Fenna and Bram")
        self.settled(self.page)
        self.assertAlmostEqual(self.document()["layers"][1]["recipe"]["steps"][3]["at"], at + 11, places=5)

    def test_holes_are_dragged_and_moved_by_keys(self) -> None:
        self.begin("Raised sign", "Fenna")
        plate = self.document()["layers"][2]
        self.assertEqual([one["op"] for one in plate["recipe"]["steps"]], ["plate", "hole", "hole"])
        self.card("plate").click(position={"x": 120, "y": 12})
        handle = self.page.get_by_test_id("hole-handle").first
        x, y = self.hands.spot(handle)
        self.hands.drag((x, y), (x + 37, y + 20))
        self.settled(self.page)
        # The hole is where it was let go.
        self.assertAlmostEqual(self.hands.spot(handle)[0], x + 37, delta=1.5)
        self.assertAlmostEqual(self.hands.spot(handle)[1], y + 20, delta=1.5)
        at = self.document()["layers"][2]["recipe"]["steps"][1]["at"]
        self.assertTrue(0 < at["x"] < 1 and 0 < at["y"] < 0.5, at)
        handle.press("Shift+ArrowLeft")
        self.assertLess(self.document()["layers"][2]["recipe"]["steps"][1]["at"]["x"], at["x"])
        self.hands.drag(handle, (x + 2, y - 2))
        # Close to where it was, at the edge of its box and half its height, it snaps.
        self.assertEqual(self.document()["layers"][2], plate)

    def test_a_place_is_found_for_a_name_across_a_word(self) -> None:
        self.open_demo("kites-crew", crossed)
        word = self.card("word")
        expect(word).to_contain_text("leaves")
        before = self.document()["art"]
        word.get_by_role("button", name="Find a place").nth(1).click()
        # What was found stays with the step, and asked again it goes on to another place.
        said = word.get_by_text("moved by")
        expect(said).to_be_visible()
        first = self.document()["art"]
        self.assertEqual(before[0], first[0])
        self.assertNotEqual(before[1]["place"], first[1]["place"])
        word.get_by_role("button", name="Another place").click()
        expect(self.page.get_by_role("status").filter(has_text="Looking for")).to_have_count(0)
        second = self.document()["art"]
        away = [second[1]["place"][axis] - first[1]["place"][axis] for axis in "xy"]
        self.assertGreater(math.hypot(*away), 3.9)
        self.page.keyboard.press("Control+z")
        self.assertEqual(self.document()["art"], first)
        expect(said).to_be_visible()
        self.page.keyboard.press("Control+z")
        self.assertEqual(self.document()["art"], before)
        expect(said).to_have_count(0)

    def test_a_search_shows_where_it_looks_and_is_ended(self) -> None:
        """A name across letters with so much asked of a sliver that no place will do."""
        self.open_demo("kites-crew", crossed)
        word = self.opened("word")
        word.get_by_role("button", name="More of the search").nth(1).click()
        area = word.get_by_role("spinbutton", name="Area of a sliver")
        self.hands.retype(area, "4000")
        area.press("Enter")
        word.get_by_role("button", name="Find a place").nth(1).click()
        ghost = self.page.get_by_test_id("sought-place")
        expect(ghost).to_be_visible()
        there = ghost.get_attribute("transform")
        expect(ghost).not_to_have_attribute("transform", there or "")
        expect(word.get_by_text(re.compile(r"Looking for a place, \d+ %"))).to_be_visible()
        word.get_by_role("button", name="Stop").click()
        expect(ghost).to_have_count(0)
        # What was the best by then is kept.
        again = word.get_by_role("button", name=re.compile("Find a place|Another place"))
        expect(again).to_have_count(2)

    def test_layers_are_pulled_apart_and_one_is_dragged_aside(self) -> None:
        self.open_demo("stepped-idris")
        self.page.get_by_role("radio", name="Apart").click()
        for height in ("from 0 mm to 4 mm", "from 4 mm to 7 mm", "from 7 mm to 9 mm", "from 9 mm to 10 mm"):
            expect(self.page.get_by_text(height)).to_be_visible()
        layer = self.page.locator('g[data-layer="step-3"]')
        x, y = self.hands.spot(layer)
        self.hands.grab((x, y), (x + 90, y + 20))
        expect(layer).to_have_attribute("data-aside", "true")
        self.page.mouse.up()
        expect(layer).not_to_have_attribute("data-aside", "true")
        layer.evaluate("one => Promise.all(one.getAnimations().map(each => each.finished))")
        self.assertAlmostEqual(self.hands.spot(layer)[0], x, delta=1)

    def test_pieces_and_holes_are_picked_by_pointer_and_by_key(self) -> None:
        self.new_design("Bee", unprotected=True)
        self.opened("face")
        self.page.get_by_role("button", name="More for Face").click()
        self.page.get_by_role("menuitem", name="Pick pieces and holes").click()
        bar = self.page.get_by_role("region", name="Pieces of Face")
        holes = self.page.get_by_role("checkbox", name=re.compile("^Hole"))
        expect(holes).to_have_count(2)
        holes.nth(0).press("Enter")
        holes.nth(1).click()
        expect(bar).to_contain_text("2 holes")
        bar.get_by_role("button", name="Fill", exact=True).click()
        expect(self.card("face")).to_contain_text("2 holes filled")
        self.assertEqual(violations(self.page), [])
        expect(holes).to_have_count(0)
        # What was picked stays picked while the text is edited in front of it, and is told when its letter goes.
        bar.get_by_role("button", name="Done").click()
        box = self.page.get_by_label("The words")
        box.press("Home")
        self.hands.type("Ri ")
        expect(self.card("face")).to_contain_text("2 holes filled")
        picked = self.document()["layers"][0]["recipe"]["steps"][0]["only"]
        self.assertTrue(all(spot["part"] >= 3 for spot in picked), picked)
        self.hands.retype(box, "Ri")
        expect(self.card("face")).to_contain_text("2 picked holes gone")

    def test_layers_are_added_from_another_one(self) -> None:
        self.new_design("Bram", unprotected=True)
        self.opened("backer")
        self.page.get_by_role("button", name="More for Backer").click()
        self.page.get_by_role("menuitem", name="Steps under it").click()
        steps = self.page.get_by_role("dialog")
        self.hands.retype(steps.get_by_role("spinbutton", name="Number of steps"), "2")
        self.hands.retype(steps.get_by_role("spinbutton", name="Width of a step"), "1.5")
        steps.get_by_role("button", name="Add 2 layers").click()
        self.opened("face")
        self.page.get_by_role("button", name="More for Face").click()
        self.page.get_by_role("menuitem", name="Placing line").click()
        layers = self.document()["layers"]
        self.assertEqual(
            [(one["process"], [s.get("by") for s in one["recipe"]["steps"]]) for one in layers],
            [("cut", []), ("score", [-0.25]), ("cut", [4, None, None]), ("cut", [1.5, None]), ("cut", [3, None])],
        )
