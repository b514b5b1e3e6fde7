"""Sheets and paths in the hand-over: laid by the search, moved by hand, watched as the machine goes."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from tests.browser.base import BrowserTest
from tests.browser.test_shelf import violations


class Sheets(BrowserTest):
    shared = True

    def test_pieces_are_laid_moved_by_hand_and_told_where_they_touch(self) -> None:
        self.new_design("Bo", "name-keyring")
        page = self.page
        page.get_by_role("button", name="Hand over").click()
        page.get_by_role("button", name="Lay on sheets").click()
        copies = page.get_by_label("Copies of the whole job")
        self.hands.retype(copies, "4")
        copies.press("Enter")
        self.hands.retype(page.get_by_label(re.compile("^Width of the sheets of")).first, "300 mm")
        page.get_by_label(re.compile("^Width of the sheets of")).first.press("Enter")
        page.get_by_role("button", name="Lay out", exact=True).click()
        # A search can be given up.
        page.get_by_role("button", name="Cancel").click()
        expect(page.get_by_role("button", name="Lay out", exact=True)).to_be_visible()
        self.assertEqual(0, page.get_by_test_id("placed").count())
        page.get_by_role("button", name="Lay out", exact=True).click()
        expect(page.get_by_test_id("placed").first).to_be_visible(timeout=40_000)
        expect(page.get_by_test_id("sheet-facts").first).to_contain_text("waste")
        self.assertEqual([], violations(page))
        laying = self.document()["hand_over"]["laying"]
        self.assertEqual(4, laying["copies"])
        # By pointer onto its neighbour: told, and one undo away.
        self.hands.drag(page.get_by_test_id("placed").nth(0), page.get_by_test_id("placed").nth(1))
        expect(page.get_by_role("alert").first).to_contain_text("nearer than 2 mm")
        moved = self.document()["hand_over"]["laying"]["placed"][0]
        self.assertNotEqual(laying["placed"][0], moved)
        # By keys: a quarter turn in six steps, and a millimetre.
        page.get_by_test_id("placed").nth(0).focus()
        page.keyboard.press("[")
        page.keyboard.press("ArrowUp")
        turned = self.document()["hand_over"]["laying"]["placed"][0]
        self.assertAlmostEqual((moved["turn"] + 15) % 360, turned["turn"])
        self.assertAlmostEqual(moved["y"] + 1, turned["y"])

    def test_offcuts_and_what_is_kept_free_are_drawn_and_sheets_filled(self) -> None:
        self.new_design("Bo", "name-keyring")
        page, hands = self.page, self.hands
        page.get_by_role("button", name="Hand over").click()
        page.get_by_role("button", name="Lay on sheets").click()
        page.get_by_role("button", name="Lay out", exact=True).click()
        expect(page.get_by_test_id("placed")).to_have_count(2, timeout=60_000)
        # A box drawn by dragging on the sheet follows the pointer at both ends.
        blank = page.get_by_test_id("blank").first.bounding_box()
        assert blank
        first, last = (blank["x"] + blank["width"] * k for k in (0.4, 0.7))
        hands.drag((first, blank["y"] + 200), (last, blank["y"] + 320))
        box = page.get_by_test_id("kept-free").bounding_box()
        assert box
        self.assertAlmostEqual(first, box["x"], delta=3)
        self.assertAlmostEqual(last, box["x"] + box["width"], delta=3)
        self.assertAlmostEqual(120, box["height"], delta=4)
        # A piece put by hand stays there.
        hands.drag(page.get_by_test_id("placed").first, page.get_by_test_id("kept-free"))
        expect(page.get_by_role("alert").first).to_contain_text("over the margin or what is kept free")
        hands.drag_by(page.get_by_test_id("placed").first, 0, -150)
        expect(page.get_by_role("alert")).to_have_count(0)
        mine = self.document()["hand_over"]["laying"]["placed"][0]
        # An offcut, a corner of which is pulled, and one more out of an edge.
        page.get_by_role("button", name="Offcut", exact=True).first.click()
        expect(page.get_by_text("Changed since it was laid: lay it out anew.")).to_be_visible()
        corners = page.get_by_test_id("offcut-corner")
        expect(corners).to_have_count(4)
        before = corners.nth(2).bounding_box()
        hands.drag_by(corners.nth(2), -60, 50)
        after = corners.nth(2).bounding_box()
        assert before and after
        self.assertAlmostEqual(before["x"] - 60, after["x"], delta=2)
        self.assertAlmostEqual(before["y"] + 50, after["y"], delta=2)
        hands.drag_by(page.get_by_test_id("offcut-edge").nth(1), -40, 0)
        expect(corners).to_have_count(5)
        self.assertEqual([], violations(page))
        hands.retype(page.get_by_label("Quantity of Backer"), "2")
        page.get_by_role("button", name="Lay out anew").click()
        expect(page.get_by_test_id("placed")).to_have_count(3, timeout=60_000)
        laying = self.document()["hand_over"]["laying"]
        self.assertEqual([mine], [one for one in laying["placed"] if one["by_hand"]])
        page.get_by_role("button", name="Let them move").click()
        page.get_by_role("button", name="Fill the sheets").click()
        expect(page.get_by_label("Copies of the whole job")).not_to_have_value("1", timeout=200_000)
        laying = self.document()["hand_over"]["laying"]
        self.assertGreater(laying["copies"], 10)
        self.assertEqual(3 * laying["copies"], len(laying["placed"]))

    def test_the_path_of_a_machine_is_watched(self) -> None:
        self.open_demo("kite-fair-sticker")
        page = self.page
        self.hand_over().get_by_text("Mirror and overcut").click()
        path = page.get_by_label("The path", exact=True)
        expect(path).to_contain_text(re.compile(r"\d+ lines, .* between them: about \d+ s"))
        path.get_by_role("button", name="Watch it").first.click()
        player = page.get_by_role("dialog").last
        expect(player.locator('g[data-done="true"]').first).to_be_attached()
        player.get_by_role("button", name="Pause").click()
        where = player.get_by_role("slider", name="Where the machine is")
        where.focus()
        where.press("End")
        expect(player.locator('g[data-done="false"]')).to_have_count(0)
        self.assertEqual([], violations(page))
        player.get_by_role("button", name="Play").click()
        expect(player.locator('g[data-done="false"]').first).to_be_attached()

    def test_what_leaves_has_every_format(self) -> None:
        self.new_design("Bo")
        panel = self.hand_over()
        for title in ("PDF", "EPS", "HP-GL", "PDF in tiles"):
            panel.get_by_role("checkbox", name=title, exact=True).check()
        self.assertEqual(["svg", "pdf", "eps", "hpgl", "tiles"], self.document()["hand_over"]["formats"])
        id = self.design_id()
        self.assertEqual(200, self.server.http.get(f"/api/designs/{id}/files").status_code)
