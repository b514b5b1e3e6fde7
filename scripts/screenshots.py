"""Take one picture of each main view with the demo data, into docs/screenshots/."""

from __future__ import annotations

import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT))

from tests.browser.base import CHROMIUM, FLAGS  # noqa: E402
from tests.server import Server  # noqa: E402

OUT = ROOT / "docs" / "screenshots"


def bench(page: Page, design: str) -> None:
    page.goto(f"/design/{design}")
    page.locator('[data-testid="outlines"][data-exact="true"]').wait_for()


def shelf(page: Page) -> None:
    page.goto("/")
    page.wait_for_load_state("networkidle")


def solid(page: Page) -> None:
    bench(page, "fenna-keyring")
    page.get_by_label("Layer Backer").get_by_role("spinbutton", name="Distance").focus()


def cut_lines(page: Page) -> None:
    bench(page, "kite-fair-sticker")
    page.get_by_role("radio", name="Cut lines").click()
    page.get_by_label("Name of the layer White border").focus()


def stack(page: Page) -> None:
    bench(page, "stepped-idris")
    page.get_by_role("button", name="Dark theme").click()


def hand_over(page: Page) -> None:
    bench(page, "kite-fair-sticker")
    page.get_by_role("button", name="Light theme").click()
    page.get_by_role("button", name="Hand over").click()


VIEWS: dict[str, Callable[[Page], None]] = {
    "shelf": shelf,
    "bench": solid,
    "bench-cut-lines": cut_lines,
    "bench-stack-dark": stack,
    "hand-over": hand_over,
}


def main() -> None:
    OUT.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as playwright:
        server = Server(Path(folder), "demo")
        try:
            browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
            page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=server.url)
            for name, show in VIEWS.items():
                show(page)
                page.wait_for_timeout(400)
                page.screenshot(path=OUT / f"{name}.png")
                print(f"docs/screenshots/{name}.png")
            browser.close()
        finally:
            server.stop()


if __name__ == "__main__":
    main()
