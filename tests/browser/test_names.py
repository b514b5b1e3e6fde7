"""A list of names on the screen: pasted, checked one by one, made to fit, opened alone, all packs at once."""

from __future__ import annotations

import re
import zipfile

from playwright.sync_api import Locator, expect

from tests.browser.base import BrowserTest
from tests.browser.test_shelf import violations

CLASS = [
    "Fenna",
    "Bram",
    "Ottoline",
    "Zoë",
    "Idris",
    "Mia",
    "Anna Sophia",
    "Jo",
    "محمد",
    "Åsa",
    "Max",
    "Lotte",
    "Emil",
    "Noor",
    "Finn",
    "Sara",
    "Theo",
    "Ida",
    "Luca",
    "Mila",
    "Owen",
    "Pia",
    "Quirin",
    "Wilhelmijna",
]


class Names(BrowserTest):
    def listed(self, text: str) -> Locator:
        self.page.get_by_role("button", name="A list of names").click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_label("The list, a row a line").fill(text)
        self.page.keyboard.press("Tab")
        return dialog

    def test_a_class_of_24_from_a_pasted_list_to_packs(self) -> None:
        self.new_design("Fenna", "name-keyring")
        dialog = self.listed("\n".join(CLASS))
        expect(dialog.get_by_test_id("wall-done")).to_contain_text(re.compile(r"of 24 need"), timeout=60_000)
        # What cannot be made stands first, with the reason.
        first = dialog.get_by_role("listitem").first
        expect(first).to_contain_text("محمد")
        expect(first).to_contain_text("Pacifico lacks the characters")
        self.assertEqual([], violations(self.page))
        dialog.get_by_label("How words for “Fenna” are made to fit").click()
        self.page.get_by_role("option", name="get smaller").click()
        width = dialog.get_by_role("spinbutton", name="Width of “Fenna”")
        width.fill("60 mm")
        width.press("Enter")
        expect(dialog.get_by_test_id("name-23")).to_contain_text("was made smaller", timeout=60_000)
        expect(dialog.get_by_test_id("wall-done")).to_be_visible(timeout=60_000)
        with self.page.expect_download(timeout=90_000) as waited:
            dialog.get_by_role("button", name="Download all 24 packs").click()
        with zipfile.ZipFile(waited.value.path()) as packed:
            folders = {name.split("/")[0] for name in packed.namelist() if name.endswith("manifest.json")}
        self.assertEqual(24, len(folders))
        self.assertIn("04 Zoë", folders)
        self.assertEqual("Fenna", self.document()["names"]["rows"][0][0])

    def test_columns_copies_and_one_name_alone(self) -> None:
        self.new_design("Fenna", "plain")
        dialog = self.listed("Bram\t2\nIda\t1")
        expect(dialog.get_by_label("What column 2 is for")).to_contain_text("how many pieces")
        expect(dialog.get_by_test_id("name-0")).to_contain_text("× 2", timeout=30_000)
        dialog.get_by_label("What column 2 is for").click()
        self.page.get_by_role("option", name="nothing").click()
        expect(dialog.get_by_test_id("name-0")).not_to_contain_text("× 2")
        dialog.get_by_test_id("name-1").get_by_role("button", name="Open it").click()
        expect(self.page.get_by_label("Name of the design")).to_have_value(re.compile(", Ida$"))
        opened = self.document()
        self.assertEqual(("Ida", None), (opened["art"][0]["text"], opened["names"]))

    def test_a_list_can_be_cleared_and_that_undone(self) -> None:
        self.new_design("Fenna", "plain")
        dialog = self.listed("Bram\nIda")
        expect(dialog.get_by_test_id("wall-done")).to_be_visible(timeout=30_000)
        dialog.get_by_role("button", name="Clear the list").click()
        expect(dialog.get_by_test_id("wall-done")).to_have_count(0)
        dialog.get_by_role("button", name="Close").click()
        self.page.keyboard.press("Control+z")
        self.page.get_by_role("button", name="A list of names").click()
        expect(dialog.get_by_label("The list, a row a line")).to_have_value("Bram\nIda")
