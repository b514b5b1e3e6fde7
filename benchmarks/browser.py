"""From an input event to the frame that shows the outline it leads to."""

from __future__ import annotations

import argparse
import re
import statistics
import tempfile
import time
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import httpx
import numpy as np
import shapely
from playwright.sync_api import Locator, Page, sync_playwright
from tests.browser.base import CHROMIUM, FLAGS, LOWEST
from tests.server import Server

from tinhalo.core.starters import STARTERS, with_words

DOCS = Path(__file__).parents[1] / "docs"

# Notes when each pointer move arrives, and, once the outline of the layer has changed, when the next frame has
# been painted (two animation frames later: the first comes before painting). A frame answers all moves that
# arrived before its outline was asked for; only the newest of them is timed against it.
_WATCH = """
layer => {
  const times = (window.__times = []);
  let last = null;
  addEventListener('pointermove', event => { if (event.buttons) last = event.timeStamp; }, true);
  const target = document.querySelector(`[data-layer="${layer}"]`).parentElement;
  new MutationObserver(() => {
    const from = last;
    last = null;
    if (from !== null)
      requestAnimationFrame(() => requestAnimationFrame(() => times.push(performance.now() - from)));
  }).observe(target, {subtree: true, attributes: true, attributeFilter: ['d']});
}
"""


# Notes how long after the outline of a layer has changed the findings are those of that outline.
_FOLLOW = """
layer => {
  const times = (window.__followed = []);
  let painted = null;
  const target = document.querySelector(`[data-layer="${layer}"]`).parentElement;
  const outlines = document.querySelector('[data-testid="outlines"]');
  // Exact outlines come after the findings; where these were as quick as the drawing, they come with it.
  new MutationObserver(() => {
    if (outlines.dataset.exact === 'true') return;
    if (outlines.dataset.checked === 'true') times.push(0);
    else painted ??= performance.now();
  }).observe(target, {subtree: true, attributes: true, attributeFilter: ['d']});
  new MutationObserver(() => {
    if (outlines.dataset.checked === 'false' || painted === null) return;
    times.push(performance.now() - painted);
    painted = null;
  }).observe(outlines, {attributes: true, attributeFilter: ['data-checked']});
}
"""


# What painting alone takes: other outlines of the same size, put in by hand, to the frame that shows them.
_BARE = """
async layer => {
  const paths = [...document.querySelectorAll(`[data-layer="${layer}"] path`)];
  const outlines = paths.map(path => path.getAttribute('d'));
  const times = [];
  for (let k = 1; k <= 40; k++) {
    await new Promise(done => setTimeout(done, 120));
    const from = performance.now();
    paths.forEach((path, n) => path.setAttribute('d', `M0 0h${k / 1000}z${outlines[n]}`));
    await new Promise(done => requestAnimationFrame(() => requestAnimationFrame(done)));
    times.push(performance.now() - from);
  }
  return times;
}
"""

_EDITS = 5


@dataclass(frozen=True)
class Taken:
    """Milliseconds of a starter: of each input to the frame that shows its outline while a number or an edge (none
    where a layer has none) is dragged, of painting alone, and from an outline to its findings."""

    title: str
    number: list[float]
    edge: list[float]
    bare: list[float]
    followed: list[float]


def measure_drag(data: Path, name: str, moves: int = 60) -> Iterator[Taken]:
    """The first number of the last recipe of each starter with that name in it, and that layer's edge."""
    server = Server(data, "demo")
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            for starter in STARTERS:
                document = with_words(starter.document, name).model_dump(mode="json", by_alias=True)
                id = httpx.post(f"{server.url}/api/designs", json={"document": document}).json()["id"]
                page.goto(f"{server.url}/design/{id}")
                _rested(page)
                layer = next(one.id for one in reversed(starter.document.layers) if one.recipe.steps)
                yield _measured(page, starter.title, layer, moves)
            browser.close()
    finally:
        server.stop()


def _rested(page: Page) -> None:
    """Everything is there, and nothing moves any more."""
    page.locator('[data-testid="outlines"][data-exact="true"][data-checked="true"][data-current="true"]').wait_for()
    page.wait_for_timeout(500)


def _measured(page: Page, title: str, layer: str, moves: int) -> Taken:
    field = _first_number(page, layer)
    page.evaluate(_WATCH, layer)
    box = field.bounding_box()
    assert box
    number = _dragged(page, (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2), (4, 0), moves)
    _rested(page)
    page.evaluate(_FOLLOW, layer)
    _first_number(page, layer).focus()
    for _ in range(_EDITS):
        page.keyboard.press("ArrowUp")
        page.wait_for_timeout(1500)
    followed = page.evaluate("window.__followed")
    bare = page.evaluate(_BARE, layer)
    grip = page.get_by_test_id("edge")
    edge = _dragged(page, grip.evaluate(LOWEST), (0, 1), moves) if grip.count() else []
    return Taken(title, number, edge, bare, followed)


def _first_number(page: Page, layer: str) -> Locator:
    """The first number of a layer's recipe, in sight."""
    card = page.get_by_test_id(f"layer-{layer}")
    folded = card.get_by_role("button", name=re.compile("^Open "))
    if folded.count():
        folded.click()
        _rested(page)
    field = card.get_by_role("spinbutton").first
    field.scroll_into_view_if_needed()
    return field


def _dragged(page: Page, start: tuple[float, float], by: tuple[float, float], moves: int) -> list[float]:
    """Drag there and back, some pixels a move; what ``_WATCH`` noted meanwhile."""
    x, y = start
    page.evaluate("window.__times.length = 0")
    page.mouse.move(x, y)
    page.mouse.down()
    for step in range(1, moves + 1):
        way = step if step <= moves // 2 else moves - step
        page.mouse.move(x + by[0] * (way + 2), y + by[1] * (way + 2))
        page.wait_for_timeout(120)
    page.mouse.up()
    return page.evaluate("window.__times")


def p95(times: list[float]) -> float:
    """The time that one in twenty is over."""
    return sorted(times)[int(0.95 * (len(times) - 1))]


HEAD = """
## On the screen

From an input to the frame that shows its outline, in headless Chromium painting without a graphics card, with the same
name: while the first number of the last recipe is dragged, and while the edge of that layer is pulled; median and 95th
percentile. *Painting alone* puts other outlines of the same size in by hand: two frames and what painting takes. At the
end: from an outline to its findings after a single edit, median and slowest. This machine's pace, by one bare call of
GEOS: {pace} to grow a flower of {corners} corners by 4 mm.

| starter | number | 95 % | edge | 95 % | painting alone | 95 % | findings | slowest |
|---|---|---|---|---|---|---|---|---|
"""
_SPLIT = "\n## On the screen\n"
_CORNERS, _TIMES = 3_000, 5


def pace() -> float:
    """Milliseconds of one bare call of GEOS, so that figures of two machines can be told from each other."""
    turn = np.linspace(0, 2 * np.pi, _CORNERS, endpoint=False)
    radius = 20 + 3 * np.sin(9 * turn)
    flower = shapely.Polygon(np.c_[radius * np.cos(turn), radius * np.sin(turn)])
    start = time.perf_counter()
    for _ in range(_TIMES):
        flower.buffer(4, quad_segs=60)
    return 1000 * (time.perf_counter() - start) / _TIMES


def _pair(times: list[float], second: float) -> str:
    return f"{statistics.median(times):.0f} | {second:.0f}" if times else "– | –"


def main() -> None:
    parser = argparse.ArgumentParser(description="Measure from input to paint.")
    parser.add_argument("--write", action="store_true", help="write it to the end of docs/speed.md")
    write = parser.parse_args().write
    head = HEAD.format(pace=f"{min(pace() for _ in range(5)):.0f} ms", corners=f"{_CORNERS:,}")
    print(head, end="")
    rows: list[str] = []
    with tempfile.TemporaryDirectory() as folder:
        for one in measure_drag(Path(folder), "Wilhelmijnad"):
            cells = [_pair(times, p95(times) if times else 0) for times in (one.number, one.edge, one.bare)]
            late = _pair(one.followed, max(one.followed, default=0))
            rows.append(f"| {one.title} | {' | '.join(cells)} | {late} |\n")
            print(rows[-1], end="", flush=True)
    if write:
        page = DOCS / "speed.md"
        page.write_text(page.read_text().split(_SPLIT)[0] + head + "".join(rows))


if __name__ == "__main__":
    main()
