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

    def hand_over(self) -> Locator:
        self.page.get_by_role("button", name="Hand over").click()
        return self.page.get_by_role("dialog")

    def download(self, dialog: Locator) -> zipfile.ZipFile:
        with self.page.expect_download() as caught:
            dialog.get_by_role("button", name="Download cut pack").click()
        return zipfile.ZipFile(caught.value.path())

    def test_formats_are_ticked_and_remembered(self) -> None:
        self.new_design("Bram")
        dialog = self.hand_over()
        ticks = dialog.get_by_role("group", name="Files").get_by_role("checkbox")
        expect(ticks).to_have_count(8)
        # The last one cannot be taken away: a pack without files would be none.
        expect(ticks.first).to_be_checked()
        expect(ticks.first).to_be_disabled()
        for tick in (ticks.nth(1), ticks.nth(7)):
            tick.check()
        dots = dialog.get_by_role("spinbutton", name="Dots per inch")
        self.hands.retype(dots, "150")
        dots.blur()
        self.assertEqual(violations(self.page), [])
        with self.download(dialog) as pack:
            names = set(pack.namelist())
            manifest = json.loads(pack.read("manifest.json"))
        for layer in ("face", "backer"):
            self.assertLessEqual({f"{layer}.svg", f"{layer}.dxf", f"{layer}.png"}, names)
        self.assertEqual(manifest["formats"], ["svg", "dxf", "png"])
        self.page.reload()
        self.settled(self.page)
        dialog = self.hand_over()
        expect(dialog.get_by_role("checkbox").nth(1)).to_be_checked()
        expect(dialog.get_by_role("spinbutton", name="Dots per inch")).to_have_value("150")

    def test_how_a_process_leaves_is_changed_and_saved_as_ones_own(self) -> None:
        self.new_design("Bram")
        dialog = self.hand_over()
        dialog.get_by_text("How each process leaves").click()
        width = dialog.get_by_role("spinbutton", name="Line width of cut")
        self.hands.retype(width, "0.2")
        width.blur()
        self.hands.retype(dialog.get_by_label("Name of the table"), "Shed")
        dialog.get_by_role("button", name="Save as mine").click()
        expect(self.page.get_by_text("The table is saved as “Shed”").first).to_be_visible()
        dialog.get_by_role("combobox", name="Face leaves as").click()
        self.page.get_by_role("option", name="a filled area", exact=True).click()
        self.assertEqual(violations(self.page), [])
        with self.download(dialog) as pack:
            face, backer = json.loads(pack.read("manifest.json"))["layers"]
            drawn = pack.read("backer.svg").decode()
        self.assertIsNone(face["stroke"])
        self.assertIsNotNone(face["fill"])
        self.assertIsNone(backer["fill"])
        self.assertEqual(backer["line_width_mm"], 0.2)
        self.assertIn('fill="none"', drawn)
        dialog.get_by_role("button", name="As usual").click()
        expect(width).not_to_have_value("0.2 mm")
        # One's own table is there for the next design.
        self.new_design("Idris")
        dialog = self.hand_over()
        dialog.get_by_text("How each process leaves").click()
        dialog.get_by_role("button", name="Shed", exact=True).click()
        expect(dialog.get_by_role("spinbutton", name="Line width of cut")).to_have_value("0.2 mm")
        dialog.get_by_role("button", name="Forget the table Shed").click()
        expect(dialog.get_by_role("button", name="Shed", exact=True)).to_have_count(0)

    def test_layers_are_put_together_on_one_board(self) -> None:
        self.open_demo("stepped-idris")
        dialog = self.hand_over()
        for layer in ("Second step", "Third step"):
            board = dialog.get_by_role("textbox", name=f"Board of {layer}")
            self.hands.retype(board, "Base")
            board.blur()
        self.assertEqual(violations(self.page), [])
        with self.download(dialog) as pack:
            boards = json.loads(pack.read("manifest.json"))["boards"]
            names = pack.namelist()
            together = next(board for board in boards if "step-2" in board["layers"])
            drawn = pack.read(together["file"]).decode()
        self.assertEqual(together["layers"], ["step-2", "step-3"])
        self.assertTrue(all(board["file"] in names for board in boards))
        self.assertEqual(sorted(re.findall(r'<g [^>]*id="([^"]*)"', drawn)), ["step-2", "step-3"])
        # Every layer is on one board, once.
        self.assertEqual(
            sorted(id for board in boards for id in board["layers"]), ["step-1", "step-2", "step-3", "top"]
        )
