"""A list of names on the screen: pasted, checked one by one, made to fit, opened alone, all packs at once."""

from __future__ import annotations

import re
import zipfile
from typing import Any

from playwright.sync_api import Locator, expect

from tests.browser.base import BrowserTest
from tests.browser.test_shelf import violations

CLASS = ["Fenna", "Zoë", "Ottoline", "Jo", "محمد", "Wilhelmijna"]


class Names(BrowserTest):
    shared = True

    def listed(self, text: str) -> Locator:
        self.page.get_by_role("button", name="A list of names").click()
        dialog = self.page.get_by_role("dialog")
        self.hands.retype(dialog.get_by_label("The list, a row a line"), text)
        self.page.keyboard.press("Tab")
        return dialog

    def test_a_class_from_a_list_to_sheets_and_packs(self) -> None:
        self.new_design("Fenna", "name-keyring")
        dialog = self.listed("\n".join(CLASS))
        expect(dialog.get_by_test_id("wall-done")).to_contain_text(re.compile(r"of 6 need"))
        # What cannot be made stands first, with the reason.
        first = dialog.get_by_test_id(re.compile("^name-")).first
        expect(first).to_contain_text("محمد")
        expect(first).to_contain_text("Pacifico lacks the characters")
        self.assertEqual([], violations(self.page))
        dialog.get_by_label("How words for “Fenna” are made to fit").click()
        self.page.get_by_role("option", name="get smaller").click()
        width = dialog.get_by_role("spinbutton", name="Width of “Fenna”")
        self.hands.retype(width, "60 mm")
        width.press("Enter")
        expect(dialog.get_by_test_id("name-5")).to_contain_text("was made smaller")
        dialog.get_by_role("button", name="Lay on sheets").click()
        sheets = self.page.get_by_role("dialog").last
        sheets.get_by_role("button", name="Lay out", exact=True).click()
        expect(sheets.get_by_test_id("placed").first).to_be_visible(timeout=120_000)
        expect(sheets.get_by_role("button", name=re.compile("Piece [0-9]+, Ottoline"))).not_to_have_count(0)
        self.assertEqual([], violations(self.page))
        sheets.get_by_role("button", name="Close").click()
        with self.page.expect_download(timeout=120_000) as waited:
            dialog.get_by_role("button", name="Download all 6 packs").click()
        with zipfile.ZipFile(waited.value.path()) as packed:
            every = packed.namelist()
        folders = {name.split("/")[0] for name in every if name.endswith("manifest.json")}
        self.assertEqual(6, len(folders))
        self.assertIn("2 Zoë", folders)
        self.assertLessEqual({"sheets/key.pdf", "check list.pdf", "quantities.xlsx"}, set(every))
        self.assertEqual("Fenna", self.document()["names"]["rows"][0][0])

    def test_a_pasted_list_is_there_at_once(self) -> None:
        self.new_design("Fenna", "plain")
        self.page.get_by_role("button", name="A list of names").click()
        field = self.page.get_by_role("dialog").get_by_label("The list, a row a line")
        field.evaluate(
            """field => {
              const data = new DataTransfer();
              data.setData("text/plain", "name\\tcopies\\nBram\\t2\\nIda\\t1\\n");
              field.dispatchEvent(new ClipboardEvent("paste", {clipboardData: data, bubbles: true, cancelable: true}));
            }"""
        )
        expect(self.page.get_by_label("Row 2, column 1")).to_have_value("Ida")
        self.assertEqual(["words", "copies"], [one["use"] for one in self.document()["names"]["columns"]])
        self.page.get_by_role("button", name="It is a row like the others").click()
        expect(self.page.get_by_label("Row 1, column 1")).to_have_value("name")
        self.assertEqual(3, len(self.document()["names"]["rows"]))

    def test_rows_are_edited_in_place_by_keys(self) -> None:
        self.new_design("Fenna", "plain")
        dialog = self.listed("Bram\t2\nIda\t1")
        expect(dialog.get_by_label("What column 2 is for")).to_contain_text("how many pieces")
        expect(dialog.get_by_test_id("name-0")).to_contain_text("× 2")
        cell = dialog.get_by_label("Row 2, column 1")
        self.hands.retype(cell, "Ottoline")
        cell.press("Enter")
        self.hands.type("Zoë")
        self.page.keyboard.press("ArrowUp")
        expect(dialog.get_by_label("Row 2, column 1")).to_be_focused()
        expect(dialog.get_by_test_id("name-2")).to_contain_text("Zoë")
        self.assertEqual([["Bram", "2"], ["Ottoline", "1"], ["Zoë", ""]], self.document()["names"]["rows"])
        dialog.get_by_role("button", name="Take row 1 out").click()
        expect(dialog.get_by_test_id("name-0")).to_contain_text("Ottoline")
        dialog.get_by_label("What column 2 is for").click()
        self.page.get_by_role("option", name="the size of “Fenna”").click()
        expect(dialog.get_by_test_id("wall-done")).to_be_visible()
        self.assertEqual(["words", "size"], [one["use"] for one in self.document()["names"]["columns"]])

    def test_one_name_is_changed_alone_and_stays_so(self) -> None:
        list_id = self.new_design("Fenna", "plain")
        dialog = self.listed("Bram\nIda")
        dialog.get_by_test_id("name-1").get_by_role("button", name="Change it alone").click()
        expect(self.page.get_by_label("Name of the design")).to_have_value(re.compile(", Ida$"))
        self.settled(self.page)
        opened = self.document()
        self.assertEqual(("Ida", None), (opened["art"][0]["text"], opened["names"]))
        size = self.page.get_by_role("spinbutton", name="Size", exact=True)
        self.hands.retype(size, "33 mm")
        size.press("Enter")
        self.page.get_by_role("button", name="Keep in the list").click()
        expect(self.page).to_have_url(re.compile(f"/design/{list_id}$"))
        # The list is there again.
        dialog = self.page.get_by_role("dialog")
        expect(dialog.get_by_test_id("wall-done")).to_be_visible()
        own = self.document()["names"]["own"]
        self.assertEqual([("Ida", "/art/words/size", 33)], [(one["words"], *_change(one)) for one in own])
        dialog.get_by_test_id("name-1").get_by_role("button", name="As the others").click()
        expect(dialog.get_by_role("button", name="As the others")).to_have_count(0)
        self.assertEqual([], self.document()["names"]["own"])

    def test_a_finding_is_mended_in_all_names_that_have_it(self) -> None:
        self.new_design("Fenna", "name-keyring", unprotected=True)
        dialog = self.listed("Emma\nMia\nMila")
        dialog.get_by_role("button", name="Mend all 3").first.click()
        expect(self.page.get_by_text("Mended for 3 names.", exact=True)).to_be_visible()
        expect(dialog.get_by_role("button", name="As the others")).to_have_count(3)
        self.assertEqual(3, len(self.document()["names"]["own"]))

    def test_a_list_can_be_cleared_and_that_undone(self) -> None:
        self.new_design("Fenna", "plain")
        dialog = self.listed("Bram\nIda")
        expect(dialog.get_by_test_id("wall-done")).to_be_visible()
        dialog.get_by_role("button", name="Clear the list").click()
        expect(dialog.get_by_test_id("wall-done")).to_have_count(0)
        dialog.get_by_role("button", name="Close").click()
        self.page.keyboard.press("Control+z")
        self.page.get_by_role("button", name="A list of names").click()
        expect(dialog.get_by_label("Row 2, column 1")).to_have_value("Ida")


def _change(own: dict[str, Any]) -> tuple[str, Any]:
    (change,) = own["changes"]
    return change["path"], change["value"]
