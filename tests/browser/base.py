"""The real interface in headless Chromium, against a real server with the demo designs."""

from __future__ import annotations

import atexit
import os
import re
import tempfile
import unittest
from collections.abc import Callable
from functools import cache
from pathlib import Path
from typing import Any, ClassVar

from playwright.sync_api import (
    Browser,
    BrowserContext,
    ConsoleMessage,
    Error,
    Locator,
    Page,
    Playwright,
    ViewportSize,
    expect,
    sync_playwright,
)

from tests.browser.hands import Hands
from tests.server import Server
from tests.support import bare
from tests.waiting import PATIENCE, until
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
SIZE: ViewportSize = {"width": 1280, "height": 800}
#: Whether a scene in the round is drawn as well as at rest, at its size, and shows what is to be seen now.
RESTS = """() => {
  const canvas = document.querySelector('[data-seen] canvas');
  const seen = canvas.closest('[data-seen]');
  return canvas.dataset.still === `${seen.dataset.seen} ${canvas.width}x${canvas.height}`
    && Math.abs(canvas.width - 1.5 * seen.clientWidth) < 3;
}"""
#: Goes to another page of the app as its own links do.
GO = "path => { history.pushState({}, '', path); dispatchEvent(new PopStateEvent('popstate', {state: {}})); }"
#: Takes all messages away.
CLOSE_MESSAGES = "document.querySelectorAll('[aria-label=\"Close this message\"]').forEach(close => close.click())"
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
    """One for all tests that start it in this way."""
    started = _playwright().chromium.launch(executable_path=CHROMIUM, args=flags)
    atexit.register(started.close)
    return started


@cache
def _kept_page(*flags: str) -> Page:
    """The one in which tests open what they need: a new window reads all scripts anew, most of an opening's time."""
    return _window(_browser(*flags)).new_page()


def _window(browser: Browser) -> BrowserContext:
    return browser.new_context(viewport=SIZE, accept_downloads=True)


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
    #: Where its server keeps everything; only those have it that share none.
    data: Path
    #: What its browser is started with.
    flags: ClassVar[list[str]] = FLAGS
    #: Whether others' tests are served from the same data: for those that work on designs of their own.
    shared: ClassVar[bool] = False
    #: Whether each test has a window to itself: for those that do to it what cannot be undone.
    own_window: ClassVar[bool] = False

    @classmethod
    def setUpClass(cls) -> None:
        cls.browser = _browser(*cls.flags)
        if cls.shared:
            cls.server = _shared_server()
            return
        cls.data = Path(cls.enterClassContext(tempfile.TemporaryDirectory()))
        cls.server = Server(cls.data, "demo")
        cls.addClassCleanup(cls.server.stop)

    def setUp(self) -> None:
        self.complaints: list[str] = []
        if self.own_window:
            self.context = self.window()
            self.addCleanup(self.context.close)
            self.page = self.context.new_page()
        else:
            self.page = _kept_page(*self.flags)
            # Behind another test's own window, even a closed one, it would get one frame a second.
            self.page.bring_to_front()
            self.context = self.page.context
            self.addCleanup(self.emptied)
        self.hands = Hands(self.page)
        self.page.on("pageerror", self.on_error)
        self.page.on("console", self.on_console)

    def tearDown(self) -> None:
        self.assertEqual(self.complaints, [])

    def emptied(self) -> None:
        """Leave the window to the next test as it was."""
        self.page.remove_listener("pageerror", self.on_error)
        self.page.remove_listener("console", self.on_console)
        self.page.unroute_all()
        if self.page.url.startswith(self.server.url):
            self.page.evaluate("localStorage.clear(), sessionStorage.clear()")
            # Messages wait while another window is in front: one that ends later would move what a hand reaches for.
            self.page.evaluate(CLOSE_MESSAGES)
        self.context.clear_cookies()
        # It stays at the page: after an empty one the next would be of a new process, which reads all scripts anew.
        self.page.set_viewport_size(SIZE)

    def window(self) -> BrowserContext:
        return _window(self.browser)

    def on_error(self, error: Error) -> None:
        self.complaints.append(str(error))

    def on_console(self, message: ConsoleMessage) -> None:
        # What the policy of the app's own pages forbids is no part of them.
        if "Content Security" in message.text:
            self.complaints.append(message.text)

    def open(self, design: str, page: Page | None = None) -> None:
        page = page or self.page
        if page.url.startswith(self.server.url):
            # As from the shelf, within the page: reading all scripts anew takes longer than most tests.
            # What is still on its way there, such as a design that is being opened, may come in between.
            until(lambda: self.left(page))
            page.evaluate(GO, f"/design/{design}")
        else:
            page.goto(f"{self.server.url}/design/{design}")
        self.settled(page)

    @staticmethod
    def left(page: Page) -> bool:
        """Go to a page without a design; whether it is there."""
        page.evaluate(GO, "/between")
        try:
            expect(page.get_by_test_id("outlines")).to_have_count(0, timeout=3_000)
        except AssertionError:
            return False
        return True

    def open_demo(self, design: str, change: Callable[[dict[str, Any]], None] = lambda document: None) -> None:
        """Open a design of its own that begins as one of the demo designs, after a change of its document."""
        state = self.server.get(f"/api/designs/{design}")
        document = state["timeline"][state["at"] - state["first"]]
        change(document)
        self.open(self.server.post("/api/designs", {"document": document})["id"])

    def new_design(
        self, text: str = "Fenna", starter: str = "plain", material: str | None = None, *, unprotected: bool = False
    ) -> str:
        """Open a new design of a starter with these words, its first layer of another material; its id.

        Args:
            unprotected: without the steps by which it opens without findings.
        """
        chosen = with_words(next(s for s in STARTERS if s.id == starter).document, text)
        document: dict[str, Any] = (bare(chosen) if unprotected else chosen).model_dump(mode="json", by_alias=True)
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
        state = self.server.get(f"/api/designs/{self.design_id()}")
        return state["timeline"][state["at"] - state["first"]]

    def design_id(self) -> str:
        """The id of the design that is open, on the bench or at its hand-over."""
        found = re.search(r"/design/([^/]+)", self.page.url)
        assert found
        return found[1]

    def hand_over(self) -> Locator:
        """Go to the hand-over, and wait until its files are drawn; the page's parts beside the pictures."""
        self.page.get_by_role("button", name="Hand over").click()
        expect(self.page.locator('[aria-label="Files"][aria-busy="false"] li').first).to_be_visible()
        return self.page.get_by_role("complementary", name="How it leaves")

    def opened(self, layer: str) -> Locator:
        """The card of a layer, unfolded."""
        card = self.page.get_by_test_id(f"layer-{layer}")
        folded = card.get_by_role("button", name=re.compile("^Open "))
        if folded.count():
            folded.click()
        return card

    def distance(self) -> Locator:
        return self.page.get_by_role("spinbutton", name="Distance")
