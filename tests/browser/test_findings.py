"""Findings on the bench: counted, stepped through, marked, mended, let be."""

from __future__ import annotations

import math
import re
from typing import Any

from playwright.sync_api import expect

from tests.browser.base import BrowserTest
from tests.browser.test_shelf import violations


def as_drawn(document: dict[str, Any]) -> None:
    """The face as the font has it, with a backer around that."""
    (words,), (face, backer) = document["art"], document["layers"]
    words.pop("join")
    face["recipe"] = {"from": ["name"]}
    backer["recipe"] = {"from": ["name"], "steps": [{"op": "offset", "by": 4}, {"op": "fill_holes"}]}


class Findings(BrowserTest):
    shared = True

    def test_they_are_stepped_through_marked_and_mended(self) -> None:
        self.open_demo("fenna-keyring", as_drawn)
        strip = self.page.get_by_role("region", name="Findings")
        thin = strip.get_by_text("“Face” is only 1.11 mm wide at the a")
        expect(thin).to_be_visible()
        expect(strip.get_by_title("1 to look at in Face")).to_be_visible()
        marks = self.page.get_by_test_id("findings")
        expect(marks.locator('[data-finding="thin_spot"]')).to_have_count(1)
        expect(marks.locator('[data-finding="loose_piece"]')).to_have_count(1)
        strip.get_by_role("button", name="Next place").click()
        spot = self.page.get_by_test_id("spot")
        expect(spot).to_be_visible()
        # The mark of what is looked at stands right above its place.
        mark = self.hands.spot(marks.locator('[data-finding="thin_spot"]'))
        self.assertLess(math.dist(mark, self.hands.spot(spot)), 40)
        strip.get_by_role("button", name="Thicken to 1.5 mm there").click()
        card = self.page.get_by_test_id("layer-face")
        expect(card).to_contain_text("thickened")
        expect(thin).to_have_count(0)
        expect(marks.locator('[data-finding="thin_spot"]')).to_have_count(0)
        expect(strip).to_contain_text("Nothing open")
        self.page.get_by_role("button", name="Undo (").click()
        expect(card).not_to_contain_text("thickened")
        expect(thin).to_be_visible()

    def test_what_a_mend_brings_along_is_mended_with_it(self) -> None:
        self.new_design("Ida", "stepped-stack", unprotected=True)
        strip = self.page.get_by_role("region", name="Findings")
        expect(strip).to_contain_text("The gap in “Step 1” is only 0.14 mm wide")
        strip.get_by_role("button", name="Other ways to mend it").click()
        self.page.get_by_role("menuitem", name="Close gaps up to 0.2 mm").click()
        told = self.page.get_by_text("Close gaps up to 0.2 mm: done. With it: Thicken to 1.5 mm there.")
        expect(told.first).to_be_visible()
        shape = self.page.get_by_test_id("layer-step-1")
        expect(shape).to_contain_text("thickened")
        expect(strip).not_to_contain_text("“Step 1” is only")
        # One undo takes both back, and one redo makes both again; a reload shows what was saved.
        self.page.get_by_role("button", name="Undo (").click()
        expect(shape).not_to_contain_text("gaps closed")
        self.page.get_by_role("button", name="Redo").click()
        expect(shape).to_contain_text("thickened")
        expect(self.page.get_by_text("Saved", exact=True)).to_be_visible()
        self.page.reload()
        expect(shape).to_contain_text("thickened")

    def test_a_cause_is_one_line_with_its_places_and_told_what_its_mend_will_do(self) -> None:
        self.new_design("Wilhelmijn", "name-in-a-heart", unprotected=True)
        strip = self.page.get_by_role("region", name="Findings")
        expect(strip).to_contain_text("is thinner than 1.5 mm in 11 places")
        expect(strip).to_contain_text(re.compile(r"1 of \d+"))
        strip.get_by_role("button", name="Next place").click()
        strip.get_by_role("button", name="Next place").click()
        expect(strip).to_contain_text(re.compile(r"2 of \d+"))
        self.assertEqual(violations(self.page), [])
        # One place alone, then all that are left; before it is made it says what comes with it.
        strip.get_by_role("button", name="Other ways to mend it").click()
        self.page.get_by_role("menuitem", name="Thicken only here").click()
        expect(strip).to_contain_text("in 10 places")
        strip.get_by_role("button", name="Let it be…").click()
        self.page.get_by_role("button", name="Let it be", exact=True).click()
        expect(strip).to_contain_text("Nothing open")
        accepted = self.document()["accepted"]
        self.assertEqual([(one["kind"], one["everywhere"]) for one in accepted], [("thin_spot", True)])
        while "let be" not in strip.inner_text():
            strip.get_by_role("button", name="Next place").click()
        strip.get_by_role("button", name="Ask again").click()
        expect(strip).to_contain_text("in 10 places")
        with self.page.expect_response("**/api/mend/outlook") as asked:
            strip.get_by_role("button", name="Thicken to 1.5 mm there").hover()
        self.assertEqual(asked.value.json(), {"known": True, "left": 0, "why": None, "also": [], "brings": []})
        expect(strip).not_to_contain_text(re.compile("brings|mends more|leaves"))
        self.hand_over()
        # What is open is told there as on the bench, with its mends.
        expect(strip).to_contain_text("in 10 places")
        expect(strip.get_by_role("button", name="Thicken to 1.5 mm there")).to_be_enabled()

    def test_dots_are_moved_to_their_letters_and_put_back(self) -> None:
        self.new_design("Lily", unprotected=True)
        strip = self.page.get_by_role("region", name="Findings")
        strip.get_by_role("button", name="Next place").wait_for()
        while "The dot of the i" not in strip.inner_text():
            strip.get_by_role("button", name="Next place").click()
        strip.get_by_role("button", name="Move it until it touches").click()
        expect(self.page.get_by_text("Dots of i moved until they overlap by")).to_be_visible()
        expect(strip).not_to_contain_text("The dot of the i")
        self.page.get_by_role("button", name="Put the dots back").click()
        self.page.get_by_role("button", name="Move dots until they touch").click()
        self.hands.retype(self.page.get_by_label("Overlap of dots"), "0.5")
        expect(self.page.get_by_text("Lily: one piece")).to_be_visible()
        # The message about the first change does not undo the later ones.
        self.page.get_by_role("button", name="Undo", exact=True).last.click()
        expect(self.page.get_by_text("That is no longer the last change.").first).to_be_visible()
        expect(self.page.get_by_text("Lily: one piece")).to_be_visible()

    def test_in_inches_all_is_told_in_inches(self) -> None:
        self.new_design("High Wind", "drop-shadow-title", unprotected=True)
        self.page.get_by_role("button", name="Change to inches").click()
        strip = self.page.get_by_role("region", name="Findings")
        expect(strip.get_by_role("status")).to_contain_text(
            re.compile(r"a slit of 0\.00\d+ in along 0\.\d+ in of edge at the \w:")
        )
        strip.get_by_role("button", name="Let it reach 0.012 in under", exact=True).click()
        expect(strip).not_to_contain_text(re.compile(r"\d mm\b"))
        self.new_design("High Wind", "block-shadow-title")
        self.page.get_by_role("button", name="Change to inches").click()
        card = self.page.get_by_test_id("layer-shadow")
        area = card.get_by_role("spinbutton", name="Least area")
        expect(area).to_have_value("0.0062")
        self.hands.retype(area, "0.01")
        area.press("Enter")
        self.page.get_by_role("button", name="Change to millimetres").click()
        expect(area).to_have_value("6.45")
        expect(strip).not_to_contain_text(re.compile(r"\d in\b"))

    def test_a_job_is_laid_on_a_sheet_and_back_onto_it(self) -> None:
        self.new_design("Launch", "raised-sign", unprotected=True)
        strip = self.page.get_by_role("region", name="Findings")
        self.page.get_by_title("Width and height of what is made").click()
        self.page.get_by_role("button", name="Lay it on a sheet").click()
        sheet = self.page.get_by_test_id("sheet")
        self.assertEqual([sheet.get_attribute(side) for side in ("width", "height")], ["300", "200"])
        self.assertEqual(violations(self.page), [])
        self.hands.retype(self.page.get_by_label("Width of the sheet"), "210")
        self.hands.retype(self.page.get_by_label("From the sheet’s left edge"), "-12 mm")
        self.page.keyboard.press("Tab")
        self.page.keyboard.press("Escape")
        expect(strip).to_contain_text("over the edge of the sheet to the left")
        strip.get_by_role("button", name="Lay the sheet under it").click()
        expect(strip).to_contain_text("Nothing open")
        self.page.get_by_title("Width and height of what is made").click()
        expect(self.page.get_by_label("From the sheet’s left edge")).to_have_value("0 mm")
        self.page.get_by_role("button", name="No sheet").click()
        expect(sheet).to_have_count(0)

    def test_another_place_is_found_from_a_finding(self) -> None:
        self.new_design("Anouk", "knocked-out-word", unprotected=True)
        strip = self.page.get_by_role("region", name="Findings")
        strip.get_by_role("button", name="Next place").wait_for()
        while "is a sliver" not in strip.inner_text():
            strip.get_by_role("button", name="Next place").click()
        strip.get_by_role("button", name="Other ways to mend it").click()
        self.page.get_by_role("menuitem", name="Find a place").click()
        expect(self.page.get_by_test_id("layer-word")).to_contain_text("no slivers, no necks")
        expect(strip).not_to_contain_text("is a sliver")
        self.page.get_by_role("button", name="Undo (").click()

    def test_one_is_let_be_with_a_note_and_asked_about_again(self) -> None:
        self.open_demo("fenna-keyring", as_drawn)
        strip = self.page.get_by_role("region", name="Findings")
        strip.get_by_role("button", name="Let it be").click()
        self.hands.retype(self.page.get_by_label("Why it may stay, if you like"), "glued on")
        self.assertEqual(violations(self.page), [])
        self.page.get_by_role("button", name="Let it be", exact=True).click()
        expect(strip).to_contain_text("Nothing open")
        self.hand_over()
        expect(strip).to_contain_text("Nothing open")
        self.page.get_by_role("link", name="Back to the bench").click()
        self.settled(self.page)
        strip.get_by_role("button", name="Next place").click()
        strip.get_by_role("button", name="Next place").click()
        expect(strip).to_contain_text("let be: glued on")
        strip.get_by_role("button", name="Ask again").click()
        expect(strip.get_by_title("1 to look at in Face")).to_be_visible()
        self.saved()

    def test_widths_are_shown_all_along(self) -> None:
        self.open_demo("fenna-keyring", as_drawn)
        self.page.get_by_role("radio", name="Widths").click()
        legend = self.page.get_by_role("region", name="Widths")
        expect(legend).to_contain_text("under 1.5 mm: too thin")
        expect(legend).to_contain_text("Strokes of Face")
        bands = self.page.get_by_test_id("heat").locator("path")
        expect(bands).to_have_count(4)
        # The narrowest band comes last, on top of the others; this face has thin places.
        expect(bands.last).to_have_attribute("d", re.compile("^M"))
        self.page.get_by_test_id("layer-backer").click(position={"x": 60, "y": 10})
        expect(legend).to_contain_text("Strokes of Backer")

    def test_limits_are_changed_in_a_material_of_ones_own(self) -> None:
        self.new_design("Fenna", unprotected=True)
        strip = self.page.get_by_role("region", name="Findings")
        self.opened("face")
        # Found where materials are chosen, with the keyboard: the last of the list.
        self.page.get_by_label("Material of Face").focus()
        self.hands.press("Enter", "End", "Enter")
        self.hands.retype(self.page.get_by_label("Name of the material"), "Tough acrylic")
        self.hands.retype(self.page.get_by_label("Price of a sheet"), "12.5")
        self.hands.retype(self.page.get_by_label("Thinnest stroke"), "0.8")
        self.assertEqual(violations(self.page), [])
        self.page.get_by_role("button", name="Save as my own").click()
        expect(self.page.get_by_label("Material of Face")).to_contain_text("Tough acrylic")
        expect(strip).to_contain_text("Nothing open")
        self.assertEqual([12.5], [one["price"] for one in self.document()["materials"]])
        self.opened("face")
        self.page.get_by_role("button", name="More for Face").click()
        self.page.get_by_role("menuitem", name="Material and its limits").click()
        self.page.get_by_role("button", name="Take out of my list").click()
        expect(self.page.get_by_text("Designs made of it keep it.").first).to_be_visible()
        expect(self.page.get_by_label("Material of Face")).to_contain_text("Tough acrylic")

    def test_a_material_that_is_in_no_list_gets_limits_of_its_own(self) -> None:
        self.new_design("Fenna", material="gold-leaf", unprotected=True)
        strip = self.page.get_by_role("region", name="Findings")
        expect(strip).to_contain_text("“gold-leaf”, which is not in the material list")
        self.opened("face")
        self.page.get_by_role("button", name="More for Face").click()
        self.page.get_by_role("menuitem", name="Material and its limits").click()
        expect(self.page.get_by_label("Name of the material")).to_have_value("gold-leaf")
        expect(self.page.get_by_label("Thickness", exact=True)).to_have_value("1 mm")
        self.hands.retype(self.page.get_by_label("Thickness", exact=True), "0.2")
        self.page.get_by_role("button", name="Save", exact=True).click()
        expect(strip).not_to_contain_text("not in the material list")
        expect(self.page.get_by_label("Material of Face")).to_contain_text("gold-leaf")
