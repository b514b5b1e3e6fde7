"""Take one picture of each main view with the demo data, into docs/screenshots/; or only of views that are named."""

from __future__ import annotations

import re
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

import resvg_py
from playwright.sync_api import Browser, Locator, Page, sync_playwright

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT))

from tests.browser.base import CHROMIUM, FLAGS  # noqa: E402
from tests.browser.test_names import CLASS  # noqa: E402
from tests.server import Server  # noqa: E402

DRAWINGS = ROOT / "src" / "tinhalo" / "drawings"
OUT = ROOT / "docs" / "screenshots"


def bench(page: Page, design: str) -> None:
    page.goto(f"/design/{design}")
    # Findings come last, once the outlines are exact.
    page.get_by_test_id("findings").wait_for(state="attached")


def card(page: Page, layer: str) -> Locator:
    """The card of a layer, unfolded."""
    found = page.get_by_test_id(f"layer-{layer}")
    if (folded := found.get_by_role("button", name=re.compile("^Open "))).count():
        folded.click()
    return found


def shelf(page: Page) -> None:
    page.goto("/")
    page.wait_for_load_state("networkidle")


def solid(page: Page) -> None:
    bench(page, "fenna-keyring")
    page.get_by_label("Layer Backer").get_by_role("spinbutton", name="Distance").focus()


def cut_lines(page: Page) -> None:
    bench(page, "kite-fair-sticker")
    page.get_by_role("radio", name="Cut lines").click()
    page.get_by_role("button", name="Open White border").click()


def stack(page: Page) -> None:
    bench(page, "stepped-idris")
    page.get_by_role("button", name="Dark theme").click()


def hand_over(page: Page) -> None:
    bench(page, "kite-fair-sticker")
    page.get_by_role("button", name="Hand over").click()
    for format in ("DXF", "PNG"):
        page.get_by_role("checkbox", name=format, exact=True).check()
    page.locator('[aria-label="Files"][aria-busy="false"] li').first.wait_for()
    page.get_by_text("Lines and colours", exact=True).click()


def words(page: Page) -> None:
    bench(page, "kite-fair-sticker")
    page.get_by_role("button", name="Pick “KITE FAIR”").click()
    page.get_by_role("button", name="Close up").click()
    page.get_by_role("button", name="Letter K").press("ArrowUp")
    page.get_by_role("button", name="Show the seams between letters").first.click()
    page.wait_for_timeout(1500)


def fonts(page: Page) -> None:
    bench(page, "fenna-keyring")
    page.get_by_role("button", name="Font", exact=True).click()
    page.get_by_text("Trying").wait_for(state="detached", timeout=60_000)
    page.get_by_role("combobox", name="Order").click()
    page.get_by_role("option", name="Thickest").click()


def in_the_round(page: Page) -> None:
    bench(page, "stepped-idris")
    page.get_by_role("radio", name="3D").click()
    page.locator("[data-shown] canvas").wait_for()
    page.get_by_label("Pull the layers apart").fill("6")
    # As exact as it leaves, and drawn well once it rests.
    page.wait_for_timeout(6_000)


def starters(page: Page) -> None:
    shelf(page)
    page.get_by_role("button", name="New design").first.click()
    page.get_by_label("Words for the new design").fill("Ottoline")
    # The drawings come one after the other, each with the typed words.
    page.wait_for_timeout(4000)


def knockout(page: Page) -> None:
    bench(page, "kites-crew")
    page.get_by_role("textbox", name="The words").fill("Annabel")
    word = card(page, "word")
    word.get_by_role("button", name="Find a place").first.click()
    word.get_by_text("necks").first.wait_for()
    word.locator('[data-step="subtract"]').first.hover()
    page.wait_for_timeout(2500)


def drawing(page: Page) -> None:
    bench(page, "bram-kite-tag")
    page.get_by_role("button", name="Open the drawing kite").click()
    page.get_by_text("5 of 5 elements").click()


def traced(page: Page) -> None:
    bench(page, "fenna-keyring")
    scan = Path(tempfile.mkdtemp()) / "gull.png"
    # A scan of our own drawing: grey at its edges, with dust on it.
    svg = (DRAWINGS / "gull.svg").read_text().replace('width="60mm" height="30mm"', 'width="709" height="354"')
    dust = "".join(f'<rect x="{7 * k % 58}" y="{11 * k % 28}" width="0.3" height="0.3"/>' for k in range(1, 9))
    picture = svg.replace("<title>", '<rect width="60" height="30" fill="#f4efe2"/>' + dust + "<title>")
    scan.write_bytes(bytes(resvg_py.svg_to_bytes(svg_string=picture, dpi=96)))
    page.get_by_label("Drawing and picture files").set_input_files(scan)
    page.get_by_test_id("traced-gull").wait_for()
    page.wait_for_timeout(1500)


def outline(page: Page) -> None:
    bench(page, "fenna-keyring")
    page.get_by_text("Spacing, lines and place").click()
    page.get_by_role("button", name="To outline").click()
    page.get_by_test_id("nodes").wait_for()
    page.get_by_role("button", name="Close").last.click()
    for number in (3, 4, 5):
        page.get_by_test_id("node").nth(number).click(modifiers=["Shift"])
    page.get_by_text("Pieces and holes").click()
    page.get_by_text("Simplify", exact=True).first.click()
    page.wait_for_timeout(1500)


def sheets(page: Page) -> None:
    bench(page, "bram-kite-tag")
    page.get_by_role("button", name="Hand over").click()
    page.get_by_role("button", name="Lay on sheets").click()
    copies = page.get_by_label("Copies of the whole job")
    copies.fill("24")
    copies.press("Enter")
    page.get_by_role("button", name="Lay out", exact=True).click()
    page.get_by_test_id("placed").first.wait_for(timeout=60_000)
    page.wait_for_timeout(1000)


def machines(page: Page) -> None:
    bench(page, "kite-fair-sticker")
    page.get_by_role("button", name="Hand over").click()
    page.get_by_role("button", name="To a practice machine").click()
    for machine in ("Gannet", "Tern"):
        page.get_by_label("Machine", exact=True).click()
        page.get_by_role("option", name=re.compile(f"^{machine}")).click()
        page.get_by_role("button", name="Send", exact=True).click()
        page.get_by_text(re.compile("is sent")).first.wait_for()
        page.wait_for_timeout(300)
    page.goto("/machines")
    page.wait_for_timeout(6000)


def findings(page: Page) -> None:
    bench(page, "kites-crew")
    page.get_by_role("textbox", name="The words").fill("Annabel")
    strip = page.get_by_role("region", name="Findings")
    strip.get_by_role("button", name=re.compile("Click to see the place")).click()
    page.get_by_test_id("spot").wait_for()


def names(page: Page) -> None:
    bench(page, "fenna-keyring")
    page.get_by_role("button", name="A list of names").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("The list, a row a line").fill("\n".join(CLASS))
    page.keyboard.press("Tab")
    dialog.get_by_test_id("wall-done").wait_for(timeout=60_000)
    dialog.evaluate("panel => panel.firstElementChild.scrollTo(0, 340)")


def sheet(page: Page) -> None:
    bench(page, "launch-field-sign")
    page.get_by_test_id("finished-size").click()
    page.get_by_role("button", name="Lay it on a sheet").click()
    page.get_by_label("Height of the sheet").fill("120")
    page.get_by_label("From the sheet’s foot").focus()


def carved(page: Page) -> None:
    bench(page, "launch-field-carved")
    page.get_by_role("radio", name="3D").click()
    page.locator('[data-relief="all"] canvas').wait_for(timeout=60_000)
    page.get_by_role("button", name="Cut through").click()
    page.get_by_test_id("section").wait_for()
    # Drawn well once it rests.
    page.wait_for_timeout(5_000)


VIEWS: dict[str, Callable[[Page], None]] = {
    "shelf": shelf,
    "bench": solid,
    "bench-cut-lines": cut_lines,
    "bench-stack-dark": stack,
    "hand-over": hand_over,
    "bench-words": words,
    "fonts": fonts,
    "bench-outline": outline,
    "bench-round": in_the_round,
    "starters": starters,
    "bench-knockout": knockout,
    "bench-drawing": drawing,
    "sheets": sheets,
    "machines": machines,
    "bench-findings": findings,
    "names": names,
    "bench-traced": traced,
    "sheet": sheet,
    "bench-carved": carved,
}


def main() -> None:
    OUT.mkdir(parents=True, exist_ok=True)
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=[*FLAGS, "--enable-unsafe-swiftshader"])
        for name, show in VIEWS.items():
            if not sys.argv[1:] or name in sys.argv[1:]:
                take(browser, name, show)
        browser.close()


def take(browser: Browser, name: str, show: Callable[[Page], None]) -> None:
    """Take the picture of a view, from demo data and in a window of its own: nothing is left of the views before."""
    with tempfile.TemporaryDirectory() as folder:
        server = Server(Path(folder), "demo")
        try:
            page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=server.url)
            show(page)
            page.wait_for_timeout(400)
            page.screenshot(path=OUT / f"{name}.png")
            print(f"docs/screenshots/{name}.png")
            page.context.close()
        finally:
            server.stop()


if __name__ == "__main__":
    main()
