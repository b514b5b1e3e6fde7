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
