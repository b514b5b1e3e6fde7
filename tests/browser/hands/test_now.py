"""What is shown is of one document: in no frame do outlines, sizes and findings belong to different ones."""

from __future__ import annotations

import contextlib
from itertools import pairwise
from typing import Any

from playwright.sync_api import Error, expect

from tests.browser.base import BrowserTest
from tests.sampling import sampled
from tests.waiting import until
from tinhalo.core.starters import STARTERS

#: Notes in each frame which build everything on the screen is of, and what could be clicked in the findings' strip.
WATCH = """() => {
  window.seenFrames = [];
  const of = (selector) => document.querySelector(selector)?.getAttribute('data-build') ?? null;
  const look = () => {
    const strip = document.querySelector('section[aria-label="Findings"]');
    const outlines = document.querySelector('[data-testid="outlines"]');
    window.seenFrames.push({
      builds: [of('[data-testid="outlines"]'), of('[data-testid="finished-size"]'),
        of('section[aria-label="Build sheet"]'), strip?.getAttribute('data-build') ?? null],
      current: outlines?.getAttribute('data-current') === 'true',
      checked: outlines?.getAttribute('data-checked') === 'true',
      busy: strip?.getAttribute('aria-busy') === 'true',
      mends: strip?.querySelectorAll('fieldset button:enabled').length ?? 0,
    });
    window.watching = requestAnimationFrame(look);
  };
  look();
}"""
FRAMES = """async () => {
  await new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)));
  cancelAnimationFrame(window.watching);
  return window.seenFrames;
}"""


class Now(BrowserTest):
    shared = True

    def test_no_frame_mixes_documents(self) -> None:
        for starter in sampled(STARTERS, 1 / 5):
            with self.subTest(starter.id):
                self.new_design("Bram", starter.id)
                strip = self.page.get_by_role("region", name="Findings")
                until(lambda strip=strip: strip.get_attribute("aria-busy") == "false")
                self.page.evaluate(WATCH)
                before = self.document()["art"][0]["text"]
                self.page.get_by_label("The words").first.press("End")
                self.hands.type("s")
                self.page.wait_for_function("document.querySelector('[aria-busy=true]')")
                until(lambda strip=strip: strip.get_attribute("aria-busy") == "false")
                frames: list[dict[str, Any]] = self.page.evaluate(FRAMES)
                self.assertNotEqual(before, self.document()["art"][0]["text"])
                self.assertGreater(len({frame["builds"][0] for frame in frames}), 1)
                for frame in frames:
                    self.assertEqual(1, len(set(frame["builds"])), frame)
                    if not (frame["current"] and frame["checked"]):
                        # An earlier document's findings: nothing mends them.
                        self.assertEqual((0, True), (frame["mends"], frame["busy"]), frame)
                # One state from the edit to the last result: it does not come and go.
                changes = [b for a, b in pairwise(frames) if a["busy"] != b["busy"]]
                self.assertEqual([True, False], [frame["busy"] for frame in changes])


class Sharp(BrowserTest):
    shared = True

    def test_a_stale_finding_is_greyed(self) -> None:
        self.new_design("Iii", "name-keyring")
        strip = self.page.get_by_role("region", name="Findings")
        until(lambda: strip.get_attribute("aria-busy") == "false")
        # The answer to what follows is held back, as on a busy machine.
        held: list[Any] = []
        self.page.route("**/api/build", lambda route: held.append(route))
        self.page.get_by_label("The words").press("End")
        self.hands.type("i")
        expect(strip.get_by_text("Checking…")).to_be_visible()
        self.assertEqual(0, strip.locator("fieldset button:enabled").count())
        self.page.unroute("**/api/build")
        for route in held:
            # Those that were given up meanwhile are nobody's any more.
            with contextlib.suppress(Error):
                route.continue_()
        until(lambda: strip.get_attribute("aria-busy") == "false")
