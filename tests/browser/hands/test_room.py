"""Nothing lies over anything that can be clicked, and nothing leaves its panel, in windows of any size."""

from __future__ import annotations

import re
from typing import Any

from tests.browser.base import BrowserTest

SIZES = ((1280, 800), (1440, 900), (820, 1100), (390, 800))
#: Everything that can be clicked and is in sight, but is covered in its middle by something that is no part of it.
COVERED = """() => {
  const clickable = 'button, input, textarea, select, summary, a[href], [role="slider"], [role="option"]';
  const shown = (element) => element.checkVisibility({opacityProperty: true, visibilityProperty: true});
  const top = [...document.querySelectorAll('[role="dialog"]')].at(-1) ?? document.body;
  return [...top.querySelectorAll(clickable)].filter(shown).flatMap((element) => {
    if (element.closest('svg') || element.matches('[hidden], .sr-only, [type="file"]')) return [];
    element.scrollIntoView({block: 'nearest', inline: 'nearest'});
    const box = element.getBoundingClientRect();
    if (box.width < 2 || box.height < 2) return [];
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    const name = element.getAttribute('aria-label') || element.textContent.trim().slice(0, 40);
    if (x < 0 || y < 0 || x >= innerWidth || y >= innerHeight) return [`${name}: out of the window`];
    const over = document.elementFromPoint(x, y);
    const label = element.closest('label');
    if (!over || element.contains(over) || over.contains(element) || label?.contains(over)) return [];
    return [`${name}: under ${over.tagName} ${over.getAttribute('aria-label') ?? over.getAttribute('class')}`];
  });
}"""
#: Panels whose content is wider than they are.
WIDE = """() => [...document.querySelectorAll('aside, [role="dialog"], section, header, fieldset')]
  .filter((one) => one.checkVisibility() && one.scrollWidth > one.clientWidth + 1
    && getComputedStyle(one).overflowX !== 'visible' && getComputedStyle(one).overflowX !== 'hidden')
  .map((one) => `${one.getAttribute('aria-label') ?? one.tagName}: ${one.scrollWidth} > ${one.clientWidth}`)"""
#: Labels as long as German ones: a third longer than English (common practice of translators), in longer words.
#: What is longer already ends in an x.
LENGTHEN = """() => {
  const texts = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  while (texts.nextNode()) {
    const text = texts.currentNode;
    if (text.parentElement.closest('svg, style, script, textarea')) continue;
    text.nodeValue = text.nodeValue.replace(/\\p{L}{3,}/gu,
      (word) => word.endsWith('x') ? word : `${word}${'ungenheiten'.slice(0, Math.ceil(word.length / 3) - 1)}x`);
  }
}"""
LONG = "Ostrelbaykitefairvolunteersofthelaunches"


class Room(BrowserTest):
    shared = True

    def check(self, what: str) -> None:
        for script in (COVERED, WIDE):
            told: list[Any] = self.page.evaluate(script)
            self.assertEqual([], told, what)

    def test_the_bench(self) -> None:
        for starter, text in (
            ("name-keyring", LONG),
            ("raised-sign", "Launch\nField\nCrew"),
            ("carved-sign", "Launch"),
        ):
            self.new_design(text, starter)
            for width, height in SIZES:
                with self.subTest(starter=starter, width=width):
                    self.page.set_viewport_size({"width": width, "height": height})
                    self.settled(self.page)
                    self.check("folded")
                    for fold in self.page.locator("aside details:not([open]) > summary").all():
                        fold.click()
                    self.check("unfolded")
                    self.page.get_by_role("region", name="Build sheet").scroll_into_view_if_needed()
            # What is opened leaves the build sheet in sight.
            self.page.set_viewport_size({"width": 1280, "height": 800})
            self.page.locator("aside").evaluate("one => one.scrollTo(0, 0)")
            head = self.page.get_by_role("heading", name="Build sheet").bounding_box()
            assert head
            self.assertLess(head["y"], 720, starter)

    def test_picked_letters_pieces_and_widths(self) -> None:
        self.new_design("Fenna", "name-keyring")
        for width, height in SIZES:
            self.page.set_viewport_size({"width": width, "height": height})
            self.settled(self.page)
            with self.subTest(width=width):
                self.page.get_by_role("button", name="Pick “Fenna”").press("Enter")
                self.page.get_by_role("button", name=re.compile("^Letter e")).press("Enter")
                self.check("letter")
                self.page.keyboard.press("Escape")
                self.page.keyboard.press("Escape")
                self.page.get_by_role("radio", name="Widths").click()
                self.check("widths")
                self.page.get_by_role("radio", name="Solid").click()

    def test_the_dialogs(self) -> None:
        self.new_design(LONG[:20], "name-keyring")
        for width, height in SIZES:
            self.page.set_viewport_size({"width": width, "height": height})
            self.settled(self.page)
            with self.subTest(dialog="Font", width=width):
                self.page.get_by_role("button", name="Font", exact=True).click()
                self.check("Font")
                self.page.keyboard.press("Escape")
            with self.subTest(page="Hand over", width=width):
                self.hand_over()
                self.check("Hand over")
                self.page.get_by_role("link", name="Back to the bench").click()

    def test_labels_as_long_as_german_ones(self) -> None:
        for starter in ("name-keyring", "carved-sign"):
            self.new_design("Fenna", starter)
            for width, height in SIZES:
                with self.subTest(starter=starter, width=width):
                    self.page.set_viewport_size({"width": width, "height": height})
                    self.settled(self.page)
                    for fold in self.page.locator("aside details:not([open]) > summary").all():
                        fold.click()
                    self.page.evaluate(LENGTHEN)
                    self.check("bench")
                    self.page.get_by_role("button", name=re.compile("^Hand")).click()
                    self.page.evaluate(LENGTHEN)
                    self.check("hand over")
                    self.page.go_back()

    def test_a_message_covers_nothing(self) -> None:
        self.new_design("Fenna")
        self.page.get_by_text("Spacing, lines and place").click()
        self.page.get_by_role("button", name="Remove", exact=True).click()
        self.check("message")
