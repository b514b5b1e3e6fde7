"""What a hand does on the bench: colours, edges, words; by pointer and by keyboard."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.browser.base import BrowserTest
from tests.browser.test_shelf import violations


class Colours(BrowserTest):
    def colours(self) -> list[str | None]:
        return [one["colour"] for one in self.document()["layers"]]

    def test_a_stack_is_recoloured_by_pointer(self) -> None:
        self.new_design("Bram")
        self.page.get_by_role("button", name="Colour of Face").click()
        self.page.get_by_role("button", name="Gold").click()
        expect(self.page.get_by_role("button", name="Gold")).to_have_attribute("aria-pressed", "true")
        self.assertEqual(violations(self.page), [])
        self.page.get_by_role("checkbox", name="Backer").check()
        self.page.get_by_role("button", name="Navy").click()
        self.assertEqual(self.colours(), ["#1f2a44", "#1f2a44"])
        fill = self.page.locator('[data-layer="face"] path').last
        expect(fill).to_have_attribute("fill", "#1f2a44")
        self.page.keyboard.press("Escape")
        self.page.get_by_role("button", name="Undo (Ctrl+Z)").click()
        self.assertEqual(self.colours(), ["#c9a24a", "#c9a24a"])

    def test_a_stack_is_recoloured_by_keyboard(self) -> None:
        self.new_design("Bram")
        self.page.get_by_role("button", name="Colour of Backer").focus()
        self.page.keyboard.press("Enter")
        code = self.page.get_by_label("Colour by its code")
        code.fill("#0a7")
        code.press("Tab")
        self.assertEqual(self.colours(), [None, "#00aa77"])
        self.page.keyboard.press("Escape")
        # What was chosen by its code is among the last ones.
        self.page.get_by_role("button", name="Colour of Face").press("Enter")
        self.page.get_by_role("button", name="#00aa77").press("Enter")
        self.page.get_by_role("button", name="Usual").press("Enter")
        self.assertEqual(self.colours(), [None, "#00aa77"])


class Edges(BrowserTest):
    def by(self) -> float:
        return self.document()["layers"][1]["recipe"]["steps"][0]["by"]

    def test_a_border_is_pulled_by_its_edge(self) -> None:
        self.new_design("Bram")
        self.opened("backer")
        # Its lowest place; then inwards until it says 3.2 mm.
        x, y = self.page.get_by_test_id("edge").evaluate(
            """path => {
              const size = path.getTotalLength();
              const to = path.getScreenCTM();
              let low = null;
              for (let k = 0; k < 400; k++) {
                const at = path.getPointAtLength((k * size) / 400).matrixTransform(to);
                if (!low || at.y > low.y) low = at;
              }
              return [low.x, low.y];
            }"""
        )
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        told = self.page.get_by_test_id("pulled")
        for step in range(1, 40):
            self.page.mouse.move(x, y - step)
            self.page.evaluate("() => new Promise(done => requestAnimationFrame(() => requestAnimationFrame(done)))")
            if told.count() and told.text_content() == "3.2 mm":
                break
        expect(told).to_have_text("3.2 mm")
        self.page.mouse.up()
        expect(told).to_have_count(0)
        self.assertEqual(self.by(), 3.2)
        # The whole pull is one undo.
        self.page.get_by_role("button", name="Undo (Ctrl+Z)").click()
        self.assertEqual(self.by(), 4)

    def test_a_border_is_pulled_by_keys(self) -> None:
        self.new_design("Bram")
        self.opened("backer")
        edge = self.page.get_by_role("slider", name="Distance of Backer")
        edge.focus()
        for _ in range(8):
            edge.press("ArrowDown")
        expect(edge).to_have_attribute("aria-valuetext", "3.2 mm")
        self.assertEqual(self.by(), 3.2)
        self.assertEqual(violations(self.page), [])

    def test_a_shadow_is_pulled_by_its_arrow(self) -> None:
        self.new_design("Bram", "drop-shadow-title")
        shadow = next(
            one["id"]
            for one in self.document()["layers"]
            if any(step["op"] == "drop_shadow" for step in one["recipe"]["steps"])
        )
        self.opened(shadow)
        tip = self.page.get_by_test_id("shadow-handle")
        self.drag(tip, 20, 14)
        layers = self.document()["layers"]
        step = next(
            s for one in layers if one["id"] == shadow for s in one["recipe"]["steps"] if s["op"] == "drop_shadow"
        )
        self.assertGreater(step["dx"], 2)
        self.assertLess(step["dy"], -2)
        tip.press("ArrowUp")
        after = self.document()["layers"]
        moved = next(
            s for one in after if one["id"] == shadow for s in one["recipe"]["steps"] if s["op"] == "drop_shadow"
        )
        self.assertAlmostEqual(moved["dy"] - step["dy"], 0.1, places=6)
