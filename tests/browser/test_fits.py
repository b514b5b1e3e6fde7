"""At common window sizes nothing is cut off, and what is not worked on folds to a line."""

from __future__ import annotations

from typing import Any

from playwright.sync_api import Page, expect

from tests.browser.base import BrowserTest
from tests.browser.test_shelf import violations

#: What reaches over the window's left or right edge, or over that of the panel it is in.
CUT_OFF = """() => {
  const panel = document.querySelector('aside');
  const out = [];
  for (const one of document.querySelectorAll('button, input, textarea, select, [role=combobox]')) {
    const box = one.getBoundingClientRect();
    if (box.width <= 1 || !one.checkVisibility({visibilityProperty: true})) continue;
    const edge = panel && panel.contains(one) ? panel.getBoundingClientRect() : {left: 0, right: innerWidth};
    if (box.left < edge.left - 1 || box.right > edge.right + 1)
      out.push(`${one.getAttribute('aria-label') || one.textContent}: ${box.left} to ${box.right}`);
  }
  return out;
}"""
SIDEWAYS = "() => document.documentElement.scrollWidth - innerWidth"


def job() -> dict[str, Any]:
    """Three blocks of words and four layers."""
    art = [
        {"id": "words", "text": "Ottoline", "font": "pacifico", "size": 40},
        {"id": "words-2", "text": "Kite Fair", "font": "anton", "size": 18, "place": {"x": 0, "y": -40}},
        {"id": "words-3", "text": "Saturday at ten", "font": "work-sans", "size": 9, "place": {"x": 0, "y": -56}},
    ]
    grown = [{"op": "offset", "by": 5}, {"op": "fill_holes"}]
    layers = [
        {"id": "face", "name": "Face", "material": "acrylic-3", "recipe": {"from": ["words"]}},
        {"id": "small", "name": "Small words", "material": "vinyl-white", "recipe": {"from": ["words-2", "words-3"]}},
        {"id": "shadow", "name": "Shadow", "material": "vinyl", "recipe": {"from": ["words"], "steps": grown}},
        {"id": "back", "name": "Backer", "material": "ply-3", "recipe": {"from": ["words", "words-2"], "steps": grown}},
    ]
    return {"format": "tin-halo/1", "name": "Kite Fair sign", "art": art, "layers": layers}


class Fits(BrowserTest):
    shared = True

    def setUp(self) -> None:
        super().setUp()
        self.job = self.server.post("/api/designs", {"document": job()})["id"]

    def sized(self, width: int, height: int) -> Page:
        self.page.set_viewport_size({"width": width, "height": height})
        self.open(self.job)
        return self.page

    def test_all_of_a_job_is_in_sight_at_once(self) -> None:
        page = self.sized(1280, 800)
        panel = page.get_by_label("Words, shapes and layers")
        # The last that is told of a layer, and it may take a line more.
        expect(panel.get_by_text("thinnest")).to_be_visible()
        left, foot = panel.evaluate("one => [one.scrollHeight - one.clientHeight, one.getBoundingClientRect().bottom]")
        self.assertLessEqual(left, 0)
        for text in ("Kite Fair", "Anton", "18 mm", "Saturday at ten", "Work Sans", "9 mm", "Pacifico"):
            expect(panel.get_by_text(text, exact=True).first).to_be_in_viewport()
        for name, made in (
            ("Small words", "White vinyl · Cut"),
            ("Shadow", "Vinyl · Cut"),
            ("Backer", "Plywood 3 mm · Cut"),
        ):
            card = panel.get_by_label(f"Layer {name}")
            expect(card.get_by_text(made)).to_be_in_viewport()
            expect(card.get_by_role("button", name=f"Colour of {name}")).to_be_in_viewport()
            box = card.bounding_box()
            assert box
            self.assertLessEqual(box["y"] + box["height"], foot)
        self.assertEqual(violations(page), [])

    def test_nothing_is_cut_off(self) -> None:
        for width, height in ((1280, 800), (1000, 700), (820, 1100), (600, 800), (390, 800)):
            with self.subTest(width=width):
                page = self.sized(width, height)
                self.assertEqual(page.evaluate(CUT_OFF), [])
                self.assertLessEqual(page.evaluate(SIDEWAYS), 0)
                page.get_by_role("button", name="Hand over").click()
                expect(page.get_by_role("button", name="Download")).to_be_visible()
                self.assertEqual(page.evaluate(CUT_OFF), [])
                self.assertLessEqual(page.evaluate(SIDEWAYS), 0)
                page.goto(self.server.url)
                expect(page.get_by_role("link", name="Open Kite Fair sign").first).to_be_visible()
                self.assertEqual(page.evaluate(CUT_OFF), [])
                self.assertLessEqual(page.evaluate(SIDEWAYS), 0)

    def test_rows_are_walked_by_keys(self) -> None:
        page = self.sized(1280, 800)
        page.get_by_role("button", name="Open the words “Kite Fair”").focus()
        page.keyboard.press("ArrowDown")
        page.keyboard.press("Enter")
        expect(page.get_by_label("The words “words-3”")).to_be_focused()
        # From the end of the text on to the layers.
        page.keyboard.press("End")
        page.keyboard.press("ArrowDown")
        expect(page.get_by_label("Name of the layer Face")).to_be_focused()
        page.keyboard.press("ArrowDown")
        expect(page.get_by_label("Material of Small words")).to_be_visible()

    def test_the_job_is_fitted_again_when_the_window_changes(self) -> None:
        page = self.sized(1280, 800)
        for width, height in ((900, 600), (1280, 800)):
            page.set_viewport_size({"width": width, "height": height})
            page.wait_for_function(
                """() => {
                  const job = document.querySelector('[data-testid=outlines]').getBoundingClientRect();
                  const stage = document.querySelector('[role=application]').getBoundingClientRect();
                  const share = Math.max(job.width / stage.width, job.height / stage.height);
                  return share > 0.7 && share < 0.95;
                }"""
            )
