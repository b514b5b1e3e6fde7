"""Every number field, found by walking the interface, takes its value by Enter, by Tab and by leaving it."""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import Locator, expect

from tests.browser.base import BrowserTest
from tests.sampling import sampled

#: How a hand leaves a field, and the key that does it.
WAYS = ("Enter", "Tab", None)
#: Starters whose layers have most of the steps.
WALKED = ("name-keyring", "drop-shadow-title", "raised-sign", "stitched-patch", "dough-cutter")
#: Starters with whose dialogs, taken together, all can be reached.
DIALOGS = ("name-keyring", "carved-sign", "printed-sticker")
#: The value that a field has in the document, or in its dialog.
NOW = "field => Number(field.getAttribute('aria-valuenow'))"
#: Whether Enter sends the form that a field is part of, which closes it.
SENT = "field => Boolean(field.form?.querySelector('[type=submit]'))"


class Numbers(BrowserTest):
    shared = True

    def take(self, field: Locator, way: str | None) -> None:
        """Type another value into a field, leave it, and see that it has been taken; then Escape gives it up again."""
        field.scroll_into_view_if_needed()
        before = field.evaluate(NOW)
        label = field.get_attribute("aria-label")
        for wanted in (before + 1, before - 1, before + 0.05):
            self.hands.retype(field, f"{wanted:.6g}")
            if field.get_attribute("aria-invalid") == "false" and field.evaluate(NOW) != before:
                break
            field.press("Escape")
        else:
            self.fail(f"{label} takes no other number than {before}")
        wanted = float(f"{wanted:.6g}")
        if way and not (way == "Enter" and field.evaluate(SENT)):
            self.page.keyboard.press(way)
        else:
            field.evaluate("field => field.blur()")
        self.assertAlmostEqual(wanted, field.evaluate(NOW), 2, f"{label} by {way or 'leaving'}")
        self.hands.retype(field, f"{before:.6g}9")
        self.page.keyboard.press("Escape")
        self.assertAlmostEqual(wanted, field.evaluate(NOW), 2, f"{label} after Escape")

    def walk(self, where: Locator) -> list[str]:
        """Try every number field there is, whatever comes and goes while they change; their labels."""
        tried: list[str] = []
        while True:
            labels = [one.get_attribute("aria-label") or "" for one in where.get_by_role("spinbutton").all()]
            untried = [label for label in labels if label not in tried]
            if not untried:
                return tried
            field = where.get_by_role("spinbutton", name=untried[0], exact=True).first
            self.take(field, WAYS[len(tried) % len(WAYS)])
            tried.append(untried[0])

    def unfold(self, where: Locator) -> None:
        folded = where.locator("details:not([open]) > summary")
        while folded.count():
            folded.first.click()
        for more in where.get_by_role("button", name=re.compile("^More of the ")).all():
            more.click()

    def openers(self) -> list[tuple[str, str | None]]:
        """What opens a dialog from the topmost one, or from the bench: buttons, and what layers' menus offer."""
        self.settled(self.page)
        dialogs = self.page.locator('[role="dialog"]')
        top = dialogs.last if dialogs.count() else self.page.locator("#root")
        found: list[tuple[str, str | None]] = []
        for button in top.locator('[aria-haspopup="dialog"]:enabled').all():
            found.append((button.get_attribute("aria-label") or button.inner_text(), None))
        for button in top.get_by_role("button", name=re.compile("^More for ")).all():
            button.click()
            items = self.page.get_by_role("menuitem", name=re.compile("…$")).all()
            found += [(button.get_attribute("aria-label") or "", item.inner_text()) for item in items]
            self.page.keyboard.press("Escape")
        return found

    def choose(self, button: str, item: str | None) -> None:
        if item:
            card = self.page.get_by_role("listitem", name=button.replace("More for ", "Layer "), exact=True)
            card.click(position={"x": 120, "y": 12})
        self.page.get_by_role("button", name=button, exact=True).first.click()
        if item:
            self.page.get_by_role("menuitem", name=item, exact=True).click()

    def walk_dialogs(self, depth: int = 0) -> set[str]:
        walked: set[str] = set()
        for button, item in self.openers():
            dialogs = self.page.locator('[role="dialog"]')
            before = dialogs.count()
            self.choose(button, item)
            dialog = dialogs.nth(before)
            expect(dialog, button).to_be_visible()
            self.unfold(dialog)
            walked |= set(self.walk(dialog))
            if depth < 3:
                walked |= self.walk_dialogs(depth + 1)
            self.page.keyboard.press("Escape")
            expect(dialogs, button).to_have_count(before)
        return walked

    def test_of_the_panels(self) -> None:
        walked: set[str] = set()
        for starter in sampled(WALKED, 1 / 5):
            self.new_design("Bram", starter)
            panel = self.page.get_by_role("complementary", name="Words, shapes and layers")
            for layer in panel.locator('[data-testid^="layer-"]').all():
                layer.click(position={"x": 120, "y": 12})
                self.unfold(panel)
                with self.subTest(starter):
                    walked |= set(self.walk(layer))
            with self.subTest(starter):
                walked |= set(self.walk(panel.get_by_role("region", name="Words and shapes")))
        self.assertGreater(len(walked), 8, walked)

    def test_of_the_dialogs(self) -> None:
        walked: set[str] = set()
        for starter in sampled(DIALOGS, 1 / 3):
            self.new_design("Bram", starter)
            walked |= self.walk_dialogs()
        self.assertGreater(len(walked), 12, walked)

    def test_of_the_hand_over(self) -> None:
        self.new_design("Bram", "name-keyring")
        panel = self.hand_over()
        for title in ("DXF", "PDF in tiles", "PNG"):
            panel.get_by_role("checkbox", name=title, exact=True).check()
        self.unfold(panel)
        walked = set(self.walk(panel))
        self.assertGreater(len(walked), 7, walked)

    def test_of_the_finished_size(self) -> None:
        for way in ("Enter", "outside"):
            with self.subTest(way):
                self.new_design("Fenna")
                self.page.get_by_test_id("finished-size").click()
                width = self.page.get_by_role("spinbutton", name="Finished width")
                self.hands.retype(width, "4 in")
                if way == "Enter":
                    self.page.keyboard.press("Enter")
                else:
                    self.page.get_by_role("application", name=re.compile("^Stage")).click(position={"x": 60, "y": 500})
                expect(width).to_have_count(0)
                expect(self.page.get_by_test_id("finished-size")).to_have_text(re.compile(r"^101\.6 mm × "))

    def test_of_the_sheets(self) -> None:
        self.new_design("Fenna", "name-keyring")
        self.page.get_by_role("button", name="Hand over").click()
        self.page.get_by_role("button", name="Lay on sheets").click()
        width = self.page.get_by_label(re.compile("^Width of the sheets of")).first
        self.hands.retype(width, "310")
        self.hands.press("Tab")
        self.page.keyboard.press("Control+a")
        self.hands.type("210")
        self.hands.press("Tab")
        size: dict[str, Any] = self.document()["hand_over"]["laying"]["sizes"][0]
        self.assertEqual((310, 210), (size["width"], size["height"]))


class Ready(BrowserTest):
    """What is opened or added can be typed into at once."""

    shared = True

    def test_added_words_are_typed_over(self) -> None:
        self.new_design("Fenna")
        self.page.get_by_role("button", name="Words", exact=True).click()
        self.hands.type("Oline")
        self.assertEqual(["Fenna", "Oline"], [art["text"] for art in self.document()["art"]])

    def test_a_new_design_begins_by_keys(self) -> None:
        for keys, title in ((("Enter",), None), (("ArrowDown", "ArrowRight", "Enter"), "second")):
            with self.subTest(title):
                self.page.goto(self.server.url)
                self.page.get_by_role("button", name="New design").click()
                expect(self.page.locator("[data-starter]").nth(1)).to_be_visible()
                second = self.page.locator("[data-starter]").nth(1).get_attribute("data-starter")
                self.hands.type("Idris")
                self.hands.press(*keys)
                self.page.wait_for_url("**/design/*")
                self.settled(self.page)
                document = self.document()
                self.assertEqual("Idris", document["art"][0]["text"])
                if title:
                    starters = {one["id"]: one["document"] for one in self.server.get("/api/starters")}
                    self.assertEqual(len(starters[second]["layers"]), len(document["layers"]))

    def test_undo_in_a_text_box_is_of_its_text(self) -> None:
        self.new_design("Fenna")
        self.hands.retype(self.page.get_by_role("spinbutton", name="Size", exact=True), "50")
        self.hands.press("Enter")
        self.page.get_by_label("The words").press("End")
        self.hands.type("s")
        self.hands.press("Control+z")
        expect(self.page.get_by_label("The words")).to_have_value("Fenna")
        # The size was another place's: it is told first.
        self.hands.press("Control+z")
        expect(self.page.get_by_text("Undo once more takes back the change of “Fenna”.").first).to_be_visible()
        self.assertEqual(50, self.document()["art"][0]["size"])
        self.hands.press("Control+z")
        self.assertNotEqual(50, self.document()["art"][0]["size"])
