"""The real interface in headless Chromium, against a real server with the demo designs."""

from __future__ import annotations

import atexit
import os
import re
import tempfile
import unittest
from functools import cache
from pathlib import Path
from typing import Any, ClassVar

from playwright.sync_api import Browser, BrowserContext, Locator, Page, Playwright, expect, sync_playwright

from tests.server import PATIENCE, Server
from tinhalo.core.starters import STARTERS, with_words

CHROMIUM = os.environ.get("CHROMIUM", "/usr/bin/chromium")
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]

expect.set_options(timeout=PATIENCE * 1_000)


#: The same, and it draws in the round without a graphics card.
DRAWS = [*FLAGS, "--enable-unsafe-swiftshader"]
#: The lowest place of a path on the screen, in pixels.
LOWEST = """
path => {
  const size = path.getTotalLength();
  const to = path.getScreenCTM();
  let low = null;
  for (let k = 0; k < 400; k++) {
    const at = path.getPointAtLength((k * size) / 400).matrixTransform(to);
    if (!low || at.y > low.y) low = at;
  }
  return [low.x, low.y];
}
"""


@cache
def _playwright() -> Playwright:
    started = sync_playwright().start()
    atexit.register(started.stop)
    return started


@cache
def _browser(*flags: str) -> Browser:
    """One for all tests that start it in this way: each test has a window of its own."""
    started = _playwright().chromium.launch(executable_path=CHROMIUM, args=flags)
    atexit.register(started.close)
    return started


@cache
def _shared_server() -> Server:
    folder = tempfile.TemporaryDirectory()
    started = Server(Path(folder.name), "demo")
    atexit.register(folder.cleanup)
    atexit.register(started.stop)
    return started


class BrowserTest(unittest.TestCase):
    browser: Browser
    server: Server
    #: What its browser is started with.
    flags: ClassVar[list[str]] = FLAGS
    #: Whether others' tests are served from the same data: for those that work on designs of their own.
    shared: ClassVar[bool] = False

    @classmethod
    def setUpClass(cls) -> None:
        cls.browser = _browser(*cls.flags)
        if cls.shared:
            cls.server = _shared_server()
            return
        data = Path(cls.enterClassContext(tempfile.TemporaryDirectory()))
        cls.server = Server(data, "demo")
        cls.addClassCleanup(cls.server.stop)

    def setUp(self) -> None:
        self.complaints: list[str] = []
        self.context = self.window()
        self.page = self.context.new_page()
        self.listen(self.page)

    def tearDown(self) -> None:
        self.context.close()
        self.assertEqual(self.complaints, [])

    def window(self) -> BrowserContext:
        return self.browser.new_context(viewport={"width": 1280, "height": 800}, accept_downloads=True)

    def listen(self, page: Page) -> None:
        page.on("pageerror", lambda error: self.complaints.append(str(error)))
        # What the policy of the app's own pages forbids is no part of them.
        page.on("console", lambda one: self.complaints.append(one.text) if "Content Security" in one.text else None)

    def open(self, design: str, page: Page | None = None) -> None:
        page = page or self.page
        page.goto(f"{self.server.url}/design/{design}")
        self.settled(page)

    def new_design(self, text: str = "Fenna", starter: str = "plain", material: str | None = None) -> str:
        """Open a new design of a starter with these words, its first layer of another material; its id."""
        chosen = next(s for s in STARTERS if s.id == starter)
        document: dict[str, Any] = with_words(chosen.document, text).model_dump(mode="json", by_alias=True)
        document["name"] = "Untitled"
        if material:
            document["layers"][0]["material"] = material
        id = self.server.post("/api/designs", {"document": document})["id"]
        self.open(id)
        return id

    @staticmethod
    def settled(page: Page) -> None:
        """Wait for the exact outlines of the document as it stands."""
        # Those from before the last edit are exact, too.
        expect(page.locator('[data-testid="outlines"][data-exact="true"][data-current="true"]')).to_be_visible()

    def saved(self, page: Page | None = None) -> None:
        expect((page or self.page).get_by_text(re.compile(r"^Saved$"))).to_be_visible()

    def outline(self, layer: str, page: Page | None = None) -> str:
        path = (page or self.page).locator(f'[data-layer="{layer}"]').first
        inner = path.locator("path").last
        return ((inner if inner.count() else path).get_attribute("d")) or ""

    def document(self) -> dict[str, Any]:
        """The document as it is saved."""
        self.saved()
        state = self.server.get(f"/api/designs/{self.page.url.rsplit('/', 1)[1]}")
        return state["timeline"][state["at"] - state["first"]]

    def opened(self, layer: str) -> Locator:
        """The card of a layer, unfolded."""
        card = self.page.get_by_test_id(f"layer-{layer}")
        folded = card.get_by_role("button", name=re.compile("^Open "))
        if folded.count():
            folded.click()
        return card

    def drag(self, target: Locator, dx: float, dy: float, at: tuple[float, float] = (0.5, 0.5)) -> None:
        """Drag from a place of the target's box, in parts of its width and height."""
        box = target.bounding_box()
        assert box
        x, y = box["x"] + box["width"] * at[0], box["y"] + box["height"] * at[1]
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        self.page.mouse.move(x + dx / 2, y + dy / 2)
        self.page.mouse.move(x + dx, y + dy)
        self.page.mouse.up()

    def distance(self) -> Locator:
        return self.page.get_by_role("spinbutton", name="Distance")
