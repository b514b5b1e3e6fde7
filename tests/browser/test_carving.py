"""The carved sign on the screen: levels with their reasons, the board in the round, depths, sections, files."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from tests.browser.base import DRAWS, RESTS, BrowserTest
from tests.browser.test_shelf import violations


class Carving(BrowserTest):
    shared = True
    flags = DRAWS

    def test_depths_and_bits_have_their_reasons_at_once(self) -> None:
        self.new_design("Ottoline", "carved-sign")
        panel = self.page.get_by_role("region", name="Carving")
        expect(panel).to_contain_text("2.5 mm × tan(60° / 2) = 1.44 mm")
        depth = panel.get_by_role("spinbutton", name="Depth of the first ground")
        self.hands.retype(depth, "3.2 mm")
        depth.press("Enter")
        expect(panel).to_contain_text("3.2 mm × tan(60° / 2) = 1.85 mm")
        panel.get_by_label("V-bit", exact=True).click()
        self.page.get_by_role("option", name="90° V-bit").click()
        expect(panel).to_contain_text("3.2 mm × tan(90° / 2) = 3.2 mm")
        # Too near for so wide a slope: told, and with the other level no trouble any more.
        place = panel.get_by_label("Where Lower words stands")
        place.click()
        self.page.get_by_role("option", name="at the top").click()
        expect(panel).to_contain_text("On the first ground: nothing yet")
        panel.get_by_role("button", name="One level less").click()
        expect(panel.get_by_role("spinbutton")).to_have_count(1)
        self.page.keyboard.press("Control+z")
        expect(panel.get_by_role("spinbutton")).to_have_count(2)
        panel.get_by_role("button", name="Tools, speeds and tabs").click()
        dialog = self.page.get_by_role("dialog")
        self.hands.retype(dialog.get_by_label("Name of the V-bit"), "Shed bit")
        self.hands.retype(dialog.get_by_role("spinbutton", name="V-bit: angle in degrees"), "75")
        dialog.get_by_role("button", name="Save as my own").first.click()
        expect(self.page.get_by_text("“Shed bit” is among your tools.").first).to_be_visible()
        self.assertEqual([], violations(self.page))
        dialog.get_by_role("button", name="Close").click()
        expect(panel).to_contain_text("tan(75° / 2)")

    def test_the_board_is_seen_measured_and_cut_through(self) -> None:
        self.new_design("Launch", "carved-sign")
        page = self.page
        page.get_by_role("radio", name="3D").click()
        expect(page.locator('[data-relief="all"] canvas')).to_be_visible(timeout=60_000)
        expect(page.get_by_test_id("gouged")).to_contain_text("Nowhere too deep")
        page.get_by_role("button", name="From above").click()
        page.wait_for_function(RESTS)
        box = page.get_by_test_id("relief").bounding_box()
        assert box
        # The frame is as high as the board; the ground under the middle of its foot is the lowest.
        for share, told in ((0.235, "on top"), (0.70, "5 mm deep")):
            page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] * share)
            page.mouse.move(box["x"] + box["width"] / 2 + 1, box["y"] + box["height"] * share)
            expect(page.get_by_test_id("depth")).to_contain_text(told)
        page.get_by_role("button", name="Cut through").click()
        expect(page.get_by_test_id("section")).to_have_attribute("aria-label", re.compile("5 mm deep"))
        self.hands.retype(page.get_by_role("spinbutton", name="Section: y of its start"), "40")
        expect(page.get_by_role("region", name="Cross-section")).to_contain_text("243.31 mm long")
        page.get_by_label("Which levels are shown").click()
        page.get_by_role("option", name="only pass 1").click()
        expect(page.get_by_test_id("section")).to_have_attribute(
            "aria-label", re.compile("2.5 mm deep"), timeout=30_000
        )
        self.assertEqual([], violations(page))
        page.get_by_test_id("relief").focus()
        page.keyboard.press("ArrowLeft")
        page.keyboard.press("0")

    def test_a_layer_set_to_carve_makes_a_carving_and_files(self) -> None:
        self.open_demo("launch-field-sign")
        page = self.page
        page.get_by_label("Process of Letters").click()
        page.get_by_role("option", name="Carve").click()
        panel = page.get_by_role("region", name="Carving")
        expect(panel).to_contain_text("Plate is carved by 60° V-bit")
        expect(panel.get_by_role("spinbutton", name="Depth of the first ground")).to_have_value("2.5 mm")
        self.hand_over().get_by_text("Mill", exact=True).click()
        mill = page.get_by_role("region", name="For the mill")
        expect(mill).to_contain_text("mill-1-1-8-in-end-mill.nc", timeout=30_000)
        mill.get_by_label("Files for the mill").click()
        page.get_by_role("option", name="one file that stops").click()
        expect(mill).to_contain_text("mill.nc")
        page.get_by_role("link", name="Back to the bench").click()
        page.get_by_label("Process of Letters").click()
        page.get_by_role("option", name="Cut", exact=True).click()
        expect(panel).to_contain_text("At the top: nothing yet")
