"""What a hand does on the bench: colours, edges, words; by pointer and by keyboard."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.browser.base import BrowserTest
from tests.browser.test_shelf import violations


class Colours(BrowserTest):
    def colours(self) -> list[str | None]:
        return [one["colour"] for one in self.document()["layers"]]

    def test_a_stack_is_recoloured_by_pointer(self) -> None:
        self.new_design("Bram")
        self.page.get_by_role("button", name="Colour of Face").click()
        self.page.get_by_role("button", name="Gold").click()
        expect(self.page.get_by_role("button", name="Gold")).to_have_attribute("aria-pressed", "true")
        self.assertEqual(violations(self.page), [])
        self.page.get_by_role("checkbox", name="Backer").check()
        self.page.get_by_role("button", name="Navy").click()
        self.assertEqual(self.colours(), ["#1f2a44", "#1f2a44"])
        fill = self.page.locator('[data-layer="face"] path').last
        expect(fill).to_have_attribute("fill", "#1f2a44")
        self.page.keyboard.press("Escape")
        self.page.get_by_role("button", name="Undo (Ctrl+Z)").click()
        self.assertEqual(self.colours(), ["#c9a24a", "#c9a24a"])

    def test_a_stack_is_recoloured_by_keyboard(self) -> None:
        self.new_design("Bram")
        self.page.get_by_role("button", name="Colour of Backer").focus()
        self.page.keyboard.press("Enter")
        code = self.page.get_by_label("Colour by its code")
        code.fill("#0a7")
        code.press("Tab")
        self.assertEqual(self.colours(), [None, "#00aa77"])
        self.page.keyboard.press("Escape")
        # What was chosen by its code is among the last ones.
        self.page.get_by_role("button", name="Colour of Face").press("Enter")
        self.page.get_by_role("button", name="#00aa77").press("Enter")
        self.page.get_by_role("button", name="Usual").press("Enter")
        self.assertEqual(self.colours(), [None, "#00aa77"])
