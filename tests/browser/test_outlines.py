"""Outlines of their own: words turned into one and back, nodes moved by pointer and keys, pieces and holes, simpler."""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import Locator, expect

from tests.browser.base import BrowserTest
from tests.browser.test_shelf import violations


class Outlines(BrowserTest):
    shared = True

    def outlined(self, text: str = "Fenna", starter: str = "plain") -> Locator:
        """A design whose words are an outline, with its nodes shown; its box."""
        self.new_design(text, starter)
        page = self.page
        page.get_by_text("Spacing, lines and place").click()
        page.get_by_role("button", name="To outline").first.click()
        box = page.get_by_test_id(re.compile("^outline-[a-z]"))
        expect(box.get_by_test_id("outline-facts")).to_contain_text("nodes")
        expect(page.get_by_test_id("nodes")).to_be_visible()
        self.settled(page)
        return box

    def art(self) -> dict[str, Any]:
        return self.document()["art"][0]

    def nodes(self) -> int:
        return self.page.get_by_test_id("node").count()

    def test_a_node_is_dragged_with_the_border_following_and_words_come_back(self) -> None:
        box = self.outlined("Fenna", "bordered-sticker")
        page = self.page
        border = self.document()["layers"][-1]["id"]
        before = self.outline(border)
        x, y = self.hands.spot(page.get_by_test_id("node").nth(4))
        self.hands.drag((x, y), (x + 40, y - 30))
        self.settled(page)
        self.assertNotEqual(before, self.outline(border))
        expect(page.locator('[data-testid="node"][data-taken="true"]')).to_have_count(1)
        self.assertEqual([], violations(page))
        # The way a pointer goes is the way the node goes.
        there = self.hands.spot(page.get_by_test_id("node").nth(4))
        self.assertAlmostEqual(x + 40, there[0], delta=3)
        self.assertAlmostEqual(y - 30, there[1], delta=3)
        box.get_by_role("button", name="Back to words").click()
        expect(page.get_by_label(re.compile("The words"))).to_have_value("Fenna")
        self.settled(page)
        self.assertEqual("lettering", self.art()["kind"])
        page.get_by_role("button", name="Undo").first.click()
        self.assertEqual("outline", self.art()["kind"])

    def test_nodes_are_walked_to_moved_and_deleted_by_keys(self) -> None:
        self.outlined()
        page = self.page
        count = self.nodes()
        group = page.get_by_test_id("nodes")
        group.focus()
        page.keyboard.press("PageDown")
        path = self.art()["path"]
        page.keyboard.press("Shift+ArrowRight")
        moved = self.art()["path"]
        start, after = (float(re.match(r"M([-\d.]+),", one)[1]) for one in (path, moved))  # type: ignore[index]
        self.assertAlmostEqual(1, after - start, places=4)
        page.keyboard.press("Shift+PageDown")
        expect(page.get_by_test_id("node-actions")).to_contain_text("2 nodes")
        page.keyboard.press("Delete")
        expect(page.get_by_test_id("node")).to_have_count(count - 2)
        page.keyboard.press("Control+a")
        expect(page.get_by_test_id("node-actions")).to_contain_text(f"{count - 2} nodes")
        page.keyboard.press("Escape")
        expect(page.get_by_test_id("node-actions")).to_have_count(0)
        page.keyboard.press("Escape")
        expect(group).to_have_count(0)

    def test_a_loop_takes_nodes_and_a_double_click_adds_one(self) -> None:
        box = self.outlined()
        page = self.page
        count = self.nodes()
        # Beside a node on its edge: the middle of a straight or curve of some length.
        edge = page.get_by_test_id("edge").nth(2)
        at = edge.evaluate(
            "path => { const p = path.getPointAtLength(path.getTotalLength() / 2).matrixTransform(path.getScreenCTM());"
            " return [p.x, p.y]; }"
        )
        page.mouse.dblclick(*at)
        expect(page.get_by_test_id("node")).to_have_count(count + 1)
        corners = [(0.02, 0.1), (0.98, 0.1), (0.98, 0.9), (0.02, 0.9)]
        self.hands.drag(*(self.hands.spot(page.get_by_test_id("loop"), corner) for corner in corners))
        expect(box.get_by_test_id("node-actions")).to_contain_text(f"{count + 1} nodes")
        box.get_by_role("button", name="Even out").click()
        self.settled(page)
        expect(box.get_by_test_id("node-actions")).to_have_count(0)

    def test_holes_are_filled_pieces_joined_and_the_outline_simplified(self) -> None:
        box = self.outlined("Bo")
        page = self.page
        box.get_by_text("Pieces and holes").click()
        holes = box.get_by_role("checkbox", name=re.compile("^Hole"))
        expect(holes).to_have_count(3 if holes.count() == 3 else holes.count())
        first = holes.count()
        holes.first.check()
        box.get_by_role("button", name="Fill it").click()
        expect(holes).to_have_count(first - 1)
        pieces = box.get_by_role("checkbox", name=re.compile("^Piece"))
        if pieces.count() > 1:
            for number in range(pieces.count()):
                pieces.nth(number).check()
            box.get_by_role("button", name="Join").click()
            expect(pieces).to_have_count(1)
        box.get_by_text("Simplify", exact=True).first.click()
        expect(box.get_by_test_id("simplified")).to_contain_text(re.compile(r"→ \d+ nodes, at most 0\.0\d+ mm off"))
        told = re.search(r"→ (\d+) nodes", box.get_by_test_id("simplified").inner_text())
        assert told
        box.get_by_role("button", name="Simplify").click()
        expect(page.get_by_test_id("node")).to_have_count(int(told[1]))
        self.settled(page)
