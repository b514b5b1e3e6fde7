"""The hand-over: formats ticked, how each process leaves, boards put together; what the screen says is what leaves."""

from __future__ import annotations

import json
import re
import zipfile

from playwright.sync_api import Locator, expect

from tests.browser.base import BrowserTest
from tests.browser.test_shelf import violations


class HandOver(BrowserTest):
    shared = True

    def download(self, panel: Locator) -> zipfile.ZipFile:
        with self.page.expect_download() as caught:
            panel.get_by_role("button", name="Download").click()
        return zipfile.ZipFile(caught.value.path())

    def test_formats_are_ticked_and_remembered(self) -> None:
        self.new_design("Bram")
        panel = self.hand_over()
        ticks = panel.get_by_role("group", name="Formats").get_by_role("checkbox")
        expect(ticks).to_have_count(8)
        # The last one cannot be taken away: a pack without files would be none.
        expect(ticks.first).to_be_checked()
        expect(ticks.first).to_be_disabled()
        for tick in (ticks.nth(1), ticks.nth(7)):
            tick.check()
        dots = panel.get_by_role("spinbutton", name="Dots per inch")
        self.hands.retype(dots, "150")
        dots.blur()
        self.assertEqual(violations(self.page), [])
        with self.download(panel) as pack:
            names = set(pack.namelist())
            manifest = json.loads(pack.read("Untitled - manifest.json"))
        for board in ("Acrylic 3 mm", "Plywood 3 mm"):
            files = {f"Untitled - {board}.{ending}" for ending in ("svg", "dxf", "png")}
            self.assertLessEqual(files, names)
        self.assertEqual(manifest["formats"], ["svg", "dxf", "png"])
        self.page.reload()
        expect(panel.get_by_role("checkbox", name="DXF", exact=True)).to_be_checked()
        expect(panel.get_by_role("spinbutton", name="Dots per inch")).to_have_value("150")

    def test_how_a_process_leaves_is_changed_and_saved_as_ones_own(self) -> None:
        self.new_design("Bram")
        panel = self.hand_over()
        panel.get_by_text("Lines and colours", exact=True).click()
        panel.get_by_text("Boards", exact=True).click()
        width = panel.get_by_role("spinbutton", name="Line width of cut", exact=True)
        self.hands.retype(width, "0.2")
        width.blur()
        self.hands.retype(panel.get_by_label("Name of the preset"), "Shed")
        panel.get_by_role("button", name="Save as preset").click()
        expect(self.page.get_by_text("The preset is saved as “Shed”").first).to_be_visible()
        panel.get_by_role("combobox", name="Face leaves as").click()
        self.page.get_by_role("option", name="a filled area", exact=True).click()
        self.assertEqual(violations(self.page), [])
        with self.download(panel) as pack:
            face, backer = json.loads(pack.read("Untitled - manifest.json"))["layers"]
            drawn = pack.read("Untitled - Plywood 3 mm.svg").decode()
        self.assertIsNone(face["stroke"])
        self.assertIsNotNone(face["fill"])
        self.assertIsNone(backer["fill"])
        self.assertEqual(backer["line_width_mm"], 0.2)
        self.assertIn('fill="none"', drawn)
        self.choose(panel, "as usual")
        expect(width).not_to_have_value("0.2 mm")
        # One's own table is there for the next design.
        self.new_design("Idris")
        panel = self.hand_over()
        panel.get_by_text("Lines and colours", exact=True).click()
        self.choose(panel, "Shed")
        expect(panel.get_by_role("spinbutton", name="Line width of cut", exact=True)).to_have_value("0.2 mm")
        panel.get_by_role("button", name="Forget the preset Shed").click()
        expect(panel.get_by_role("button", name="Forget the preset Shed")).to_have_count(0)

    def choose(self, panel: Locator, preset: str) -> None:
        panel.get_by_role("combobox", name="Preset").click()
        self.page.get_by_role("option", name=preset, exact=True).click()

    def test_layers_are_put_together_on_one_board(self) -> None:
        self.open_demo("stepped-idris")
        panel = self.hand_over()
        panel.get_by_text("Boards", exact=True).click()
        for layer in ("Second step", "Third step"):
            board = panel.get_by_role("textbox", name=f"Board of {layer}")
            self.hands.retype(board, "Base")
            board.blur()
        self.assertEqual(violations(self.page), [])
        with self.download(panel) as pack:
            names = pack.namelist()
            boards = json.loads(pack.read(next(one for one in names if one.endswith("manifest.json"))))["boards"]
            together = next(board for board in boards if "step-2" in board["layers"])
            drawn = pack.read(together["file"]).decode()
        self.assertEqual(together["layers"], ["step-2", "step-3"])
        self.assertTrue(all(board["file"] in names for board in boards))
        self.assertEqual(sorted(re.findall(r'<g [^>]*id="([^"]*)"', drawn)), ["step-2", "step-3"])
        # Every layer is on one board, once.
        self.assertEqual(
            sorted(id for board in boards for id in board["layers"]), ["step-1", "step-2", "step-3", "top"]
        )

    def test_what_leaves_is_seen_before_and_is_one_file_where_it_is_one(self) -> None:
        """By a hand, from the bench to the file and back: one material, one format, one file under a name."""
        self.new_design("Bram", "words-in-a-frame")
        self.hands.retype(self.page.get_by_label("Name of the design"), "Bram & Åsa")
        panel = self.hand_over()
        cards = self.page.get_by_role("region", name="Files").get_by_role("listitem")
        expect(cards).to_have_count(1)
        expect(cards).to_contain_text("Bram and Åsa - Plywood 3 mm.svg")
        with self.page.expect_download() as caught:
            panel.get_by_role("button", name="Download").click()
        self.assertEqual("Bram and Åsa - Plywood 3 mm.svg", caught.value.suggested_filename)
        shown = cards.get_by_role("img").evaluate("image => image.naturalWidth")
        self.assertGreater(shown, 10)
        # Each layer as well is the same file: it does not leave twice.
        panel.get_by_role("checkbox", name="Each layer").click()
        expect(self.page.locator('[aria-label="Files"][aria-busy="false"]')).to_be_visible()
        expect(cards).to_have_count(1)
        panel.get_by_role("checkbox", name="PDF", exact=True).click()
        expect(cards).to_contain_text(".pdf")
        self.assertEqual(violations(self.page), [])
        self.hands.press("Control+z")
        expect(panel.get_by_role("checkbox", name="PDF", exact=True)).not_to_be_checked()
        self.page.get_by_role("link", name="Back to the bench").click()
        self.settled(self.page)

    def test_what_a_minute_costs_is_offered_to_the_next_design(self) -> None:
        self.new_design("Fenna", "name-keyring")
        self.hand_over()
        page = self.page
        page.get_by_text("Costs", exact=True).click()
        self.hands.retype(page.get_by_label("Price of a minute"), "1.5")
        self.hands.press("Tab")
        expect(page.get_by_text("in the job sheet")).to_be_visible()
        self.new_design("Bo", "name-keyring")
        self.hand_over()
        page.get_by_text("Costs", exact=True).click()
        page.get_by_role("button", name="As last time: 1.50").click()
        self.assertEqual({"per_minute": 1.5, "currency": "€"}, self.document()["hand_over"]["costs"])
        self.assertEqual([], violations(page))

    def test_sheets_that_are_out_of_date_are_told_and_laid_anew(self) -> None:
        self.new_design("Bo", material="ply-3")
        panel = self.hand_over()
        panel.get_by_role("button", name="Lay on sheets").click()
        self.page.get_by_role("button", name="Lay out", exact=True).click()
        expect(self.page.get_by_test_id("placed").first).to_be_visible(timeout=60_000)
        self.hands.press("Escape")
        cards = self.page.get_by_role("region", name="Files").get_by_role("listitem")
        expect(cards).to_contain_text("sheet 1.svg")
        self.page.get_by_role("link", name="Back to the bench").click()
        self.settled(self.page)
        self.hands.retype(self.page.get_by_label("The words"), "Bob")
        self.settled(self.page)
        self.hand_over()
        expect(self.page.get_by_role("alert")).to_contain_text("boards leave instead")
        expect(cards).not_to_contain_text("sheet 1.svg")
        self.page.get_by_role("button", name="Lay out anew").click()
        expect(cards).to_contain_text("sheet 1.svg", timeout=60_000)
        expect(self.page.get_by_role("alert")).to_have_count(0)
