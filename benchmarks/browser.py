"""From an input event to the frame that shows the outline it leads to."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import httpx
from playwright.sync_api import sync_playwright
from tests.browser.base import CHROMIUM, FLAGS
from tests.server import Server

from tinhalo.core.starters import STARTERS, with_words

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


_EDITS = 5


def measure_drag(data: Path, name: str, moves: int = 60) -> Iterator[tuple[str, list[float], list[float]]]:
    """Milliseconds per starter with that name in it.

    For each move of a drag of the first number of its last recipe, from the move to the outline; and for each of a few
    single edits of that number, from the outline to the findings.
    """
    server = Server(data, "demo")
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            for starter in STARTERS:
                document = with_words(starter.document, name).model_dump(mode="json", by_alias=True)
                id = httpx.post(f"{server.url}/api/designs", json={"document": document}).json()["id"]
                page.goto(f"{server.url}/design/{id}")
                page.locator('[data-testid="outlines"][data-exact="true"]').wait_for()
                layer = next(one.id for one in reversed(starter.document.layers) if one.recipe.steps)
                field = page.get_by_test_id(f"layer-{layer}").get_by_role("spinbutton").first
                field.scroll_into_view_if_needed()
                page.evaluate(_WATCH, layer)
                box = field.bounding_box()
                assert box
                x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
                page.mouse.move(x, y)
                page.mouse.down()
                for step in range(1, moves + 1):
                    page.mouse.move(x + 4 * (step if step <= moves // 2 else moves - step) + 8, y)
                    page.wait_for_timeout(120)
                page.mouse.up()
                times = page.evaluate("window.__times")
                page.wait_for_timeout(1500)
                page.evaluate(_FOLLOW, layer)
                field.focus()
                for _ in range(_EDITS):
                    page.keyboard.press("ArrowUp")
                    page.wait_for_timeout(1500)
                yield starter.title, times, page.evaluate("window.__followed")
            browser.close()
    finally:
        server.stop()
