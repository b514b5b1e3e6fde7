"""Everything that is dragged follows the pointer to its end, in however many moves; Escape takes it back."""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Sequence
from typing import Any

from playwright.sync_api import FloatRect, Locator, expect

from tests.browser.base import BrowserTest
from tests.browser.hands import Point
from tests.sampling import sampled

#: From a jump to a slow hand.
MOVES = (1, 4, 12, 40)
#: How many pixels of the screen a millimetre of the stage has.
SCALE = """() => Number(/scale\\(([^)]+)/.exec(
  document.querySelector('svg[aria-label="The layers"] > g').getAttribute('transform'))[1])"""
#: A place of the screen that is on a path's area, or in a hole of it.
SPOT = """(path, inside) => {
  const box = path.getBBox();
  for (let i = 1; i < 40; i++) for (let j = 1; j < 40; j++) {
    const at = new DOMPoint(box.x + (box.width * i) / 40, box.y + (box.height * j) / 40);
    if (path.isPointInFill(at) !== inside) continue;
    const there = at.matrixTransform(path.getScreenCTM());
    return [there.x, there.y];
  }
}"""

Measure = Callable[[dict[str, Any]], Sequence[float]]


class Drags(BrowserTest):
    shared = True

    def scale(self) -> float:
        return self.page.evaluate(SCALE)

    def follows(
        self,
        start: Callable[[], Locator | Point],
        way: Point | Callable[[], Point],
        measure: Measure,
        wanted: Callable[[float], Sequence[float]],
    ) -> None:
        """A drag by ``way`` pixels changes what is measured of the document as wanted, within 1 % of the way.

        Args:
            wanted: the change for a number of pixels per mm.
        """
        before = self.document()

        def go() -> tuple[Point, Point]:
            dx, dy = way() if callable(way) else way
            x, y = self.hands.spot(start())
            return (x, y), (x + dx, y + dy)

        for moves in sampled(MOVES, 1 / 4):
            with self.subTest(moves=moves):
                # Without snapping: that is tried by itself.
                self.page.keyboard.down("Alt")
                scale = self.scale()
                self.hands.drag(*go(), moves=moves)
                self.page.keyboard.up("Alt")
                change = [b - a for a, b in zip(measure(before), measure(self.document()), strict=True)]
                goal = wanted(scale)
                size = math.hypot(*goal)
                self.assertLess(math.dist(change, goal), max(0.01 * size, 0.02), (change, goal))
                self.page.keyboard.press("Control+z")
                self.settled(self.page)
                self.assertEqual(before, self.document())
        (x, y), end = go()
        self.hands.drag_and_escape((x, y), end[0] - x, end[1] - y)
        self.settled(self.page)
        self.assertEqual(before, self.document())

    def pick(self, text: str) -> None:
        self.page.get_by_role("button", name=f"Pick “{text}”").press("Enter")
        expect(self.page.get_by_test_id("frame")).to_be_focused()

    @staticmethod
    def place(document: dict[str, Any], index: int = 0) -> dict[str, float]:
        return document["art"][index]["place"]

    def test_words_are_moved(self) -> None:
        self.new_design("Fenna")
        self.pick("Fenna")
        frame = self.page.locator('[data-testid="frame"] > polygon')

        def start() -> Point:
            # The corner of the frame is on no letter.
            x, y = self.hands.spot(frame, (0.5, 0.02))
            return x + 20, y + 1

        self.follows(
            start,
            (80, -30),
            lambda one: (self.place(one)["x"], self.place(one)["y"]),
            lambda scale: (80 / scale, 30 / scale),
        )

    def frame(self) -> FloatRect:
        box = self.page.locator('[data-testid="frame"] > polygon').bounding_box()
        assert box
        return box

    def part(self, across: float, up: float) -> Point:
        """A way of so many widths and heights of the frame as it stands."""
        box = self.frame()
        return box["width"] * across, -box["height"] * up

    def test_words_are_resized_by_each_corner(self) -> None:
        self.new_design("Fenna")
        self.pick("Fenna")
        for name, across, up in (("upper right", 1, 1), ("lower left", -1, -1)):
            handle = self.page.get_by_role("button", name=f"Resize from the {name}")
            # Along the diagonal the corner stays under the pointer.
            self.follows(
                lambda handle=handle: handle,
                lambda across=across, up=up: self.part(0.3 * across, 0.3 * up),
                lambda one: (self.place(one)["scale_x"], self.place(one)["scale_y"]),
                lambda _: (0.3, 0.3),
            )

    def test_words_are_turned(self) -> None:
        self.new_design("Fenna")
        self.pick("Fenna")
        knob = self.page.get_by_role("button", name="Turn", exact=True)
        turned: list[float] = []

        def way() -> Point:
            """To the right along a line, by a part of the arm's length."""
            box = self.frame()
            (x, y), middle = self.hands.spot(knob), (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
            arm = middle[1] - y
            turned[:] = [math.degrees(math.atan2(x + arm / 2 - middle[0], arm) - math.atan2(x - middle[0], arm))]
            return arm / 2, 0

        self.follows(lambda: knob, way, lambda one: (self.place(one)["rotate"],), lambda _: [-turned[0]])

    def test_words_are_stretched_by_a_side(self) -> None:
        self.new_design("Fenna")
        self.page.get_by_text("Spacing, lines and place").click()
        self.page.get_by_role("button", name="Proportions are kept. Release them").click()
        self.pick("Fenna")
        self.follows(
            lambda: self.page.get_by_role("button", name="Resize from the right", exact=True),
            lambda: self.part(0.2, 0),
            lambda one: (self.place(one)["scale_x"], self.place(one)["scale_y"]),
            lambda _: (0.2, 0),
        )

    def test_a_shape_and_a_drawing_are_resized(self) -> None:
        for starter, kind, name in (("round-badge", "shape", "star"), ("kite-tag", "drawing", "kite")):
            self.new_design("Fenna", starter)
            index = next(k for k, art in enumerate(self.document()["art"]) if art["kind"] == kind)
            self.page.get_by_role("button", name=re.compile(f"^Pick “{name}", re.I)).press("Enter")
            before = self.place(self.document(), index)["scale_x"]
            self.follows(
                lambda: self.page.get_by_role("button", name="Resize from the upper right"),
                lambda: self.part(0.2, 0.2),
                lambda one, index=index: (self.place(one, index)["scale_x"],),
                lambda _, before=before: (0.2 * before,),
            )

    def test_an_outline_is_resized(self) -> None:
        self.new_design("o")
        self.page.get_by_text("Spacing, lines and place").click()
        self.page.get_by_role("button", name="To outline").click()
        nodes = self.page.get_by_test_id("nodes")
        nodes.focus()
        # Takes none of them, and is done.
        self.hands.press("Escape", "Escape")
        expect(nodes).to_have_count(0)
        self.page.get_by_role("button", name=re.compile("^Pick “")).press("Enter")
        before = self.place(self.document())["scale_x"]
        self.follows(
            lambda: self.page.get_by_role("button", name="Resize from the upper right"),
            lambda: self.part(0.2, 0.2),
            lambda one: (self.place(one)["scale_x"],),
            lambda _: (0.2 * before,),
        )

    def test_a_letter_is_moved_by_anything_in_its_box(self) -> None:
        self.new_design("Fenna")
        self.pick("Fenna")
        letter = self.page.get_by_role("button", name=re.compile("^Letter e"))
        self.page.mouse.click(*letter.locator("path").evaluate(SPOT, True))
        expect(letter).to_have_attribute("aria-pressed", "true")

        def moved(one: dict[str, Any]) -> tuple[float, float]:
            move = one["art"][0]["moves"].get("1", {"dx": 0, "dy": 0})
            return move["dx"], move["dy"]

        # In its notch or counter.
        self.follows(
            lambda: tuple(letter.locator("path").evaluate(SPOT, False)),
            (30, -40),
            moved,
            lambda scale: (30 / scale, 40 / scale),
        )

    def test_several_letters_go_together(self) -> None:
        self.new_design("Fenna")
        self.pick("Fenna")
        for index, keys in ((2, []), (3, ["Shift"])):
            letter = self.page.locator(f'[data-letter="{index}"] path')
            for key in keys:
                self.page.keyboard.down(key)
            self.page.mouse.click(*letter.evaluate(SPOT, True))
            for key in keys:
                self.page.keyboard.up(key)
        strip = self.page.get_by_role("region", name="The letters n n")
        self.follows(
            lambda: tuple(self.page.locator('[data-letter="3"] path').evaluate(SPOT, True)),
            (0, -50),
            lambda one: [one["art"][0]["moves"].get(k, {"dy": 0})["dy"] for k in ("2", "3")],
            lambda scale: (50 / scale, 50 / scale),
        )
        self.hands.retype(strip.get_by_role("spinbutton", name="Letter turned"), "8")
        self.page.keyboard.press("Enter")
        self.hands.retype(strip.get_by_role("spinbutton", name="Letter size"), "1.2")
        self.page.keyboard.press("Enter")
        moves = self.document()["art"][0]["moves"]
        self.assertEqual([(8, 1.2)] * 2, [(moves[k]["turn"], moves[k]["scale"]) for k in ("2", "3")])

    def test_an_edge_is_pulled(self) -> None:
        for starter, id, number in (("plain", "backer", "by"), ("raised-sign", "plate", "margin")):
            self.new_design("o", starter)
            self.page.get_by_test_id(f"layer-{id}").click(position={"x": 120, "y": 12})
            edge = self.page.get_by_test_id("edge")
            expect(edge).to_be_visible()

            def right(edge: Locator = edge) -> Point:
                box = edge.bounding_box()
                assert box
                # The stroke that is grabbed goes 6 pixels over the edge.
                return box["x"] + box["width"], box["y"] + box["height"] / 2

            def far(one: dict[str, Any], id: str = id, number: str = number) -> float:
                layer = next(layer for layer in one["layers"] if layer["id"] == id)
                return layer["recipe"]["steps"][0][number]

            before = self.document()
            for moves in sampled(MOVES, 1 / 4):
                with self.subTest(starter, moves=moves):
                    scale = self.scale()
                    x, y = right()
                    self.hands.drag((x, y), (x + 60, y), moves=moves)
                    # It snaps to round numbers.
                    self.assertAlmostEqual(60 / scale, far(self.document()) - far(before), delta=0.6)
                    self.page.keyboard.press("Control+z")
                    self.settled(self.page)
            self.assertEqual(before, self.document())

    def test_a_shadow_is_pulled_by_its_arrow(self) -> None:
        self.new_design("Bram", "drop-shadow-title")
        self.page.get_by_test_id("layer-shadow").click(position={"x": 120, "y": 12})

        def way(one: dict[str, Any]) -> tuple[float, float]:
            layer = next(layer for layer in one["layers"] if layer["id"] == "shadow")
            step = next(step for step in layer["recipe"]["steps"] if step["op"] == "drop_shadow")
            return step["dx"], step["dy"]

        before = self.document()
        handle = self.page.get_by_test_id("shadow-handle")
        for moves in sampled(MOVES, 1 / 4):
            scale = self.scale()
            # By its rim, off the middle: it does not jump to the pointer.
            x, y = self.hands.spot(handle)
            self.hands.drag((x + 5, y), (x + 5 + 40, y - 30), moves=moves)
            for change, goal in zip(
                (b - a for a, b in zip(way(before), way(self.document()), strict=True)),
                (40 / scale, 30 / scale),
                strict=True,
            ):
                self.assertAlmostEqual(goal, change, delta=0.3)
            self.page.keyboard.press("Control+z")
            self.settled(self.page)
        self.hands.drag_and_escape(handle, -90, 0)
        self.settled(self.page)
        self.assertEqual(before, self.document())

    def test_layers_change_places(self) -> None:
        self.new_design("Bram", "name-keyring")
        before = self.document()
        first, *_, last = (layer["id"] for layer in before["layers"])
        name = self.page.get_by_test_id(f"layer-{first}")
        for moves in sampled(MOVES, 1 / 4):
            grip = name.get_by_role("button", name=re.compile("^Move "))
            x, y = self.hands.spot(grip)
            under = self.page.get_by_test_id(f"layer-{last}").bounding_box()
            assert under
            end = under["y"] + under["height"] - 2
            self.hands.drag((x, y), (x, end), moves=moves)
            self.assertEqual(first, self.document()["layers"][-1]["id"])
            self.page.keyboard.press("Control+z")
            self.assertEqual(before, self.document())
        self.hands.drag_and_escape(name.get_by_role("button", name=re.compile("^Move ")), 0, 150)
        self.assertEqual(before, self.document())

    def test_a_node_is_moved(self) -> None:
        self.new_design("o")
        self.page.get_by_text("Spacing, lines and place").click()
        self.page.get_by_role("button", name="To outline").click()
        expect(self.page.get_by_test_id("nodes")).to_be_visible()
        node = self.page.get_by_test_id("node").nth(3)
        number = int(node.get_attribute("data-node") or "")

        def at(one: dict[str, Any]) -> tuple[float, float]:
            place = self.place(one)
            segment = re.findall(r"[MLC][^MLCZ]+", one["art"][0]["path"])[number]
            x, y = (float(n) for n in re.findall(r"-?[\d.]+", segment)[-2:])
            return place["x"] + place["scale_x"] * x, place["y"] + place["scale_y"] * y

        self.follows(lambda: node, (25, 35), at, lambda scale: (25 / scale, -35 / scale))

    def test_a_piece_is_moved_on_its_sheet(self) -> None:
        self.new_design("Bram", "name-keyring")
        self.page.get_by_role("button", name="Hand over").click()
        self.page.get_by_role("button", name="Lay on sheets").click()
        self.page.get_by_role("button", name="Lay out", exact=True).click()
        expect(self.page.get_by_test_id("placed").first).to_be_visible(timeout=60_000)
        # The last one lies over the others where their boxes overlap.
        piece = self.page.get_by_test_id("placed").last
        before = self.document()
        for moves in sampled(MOVES, 1 / 4):
            per = piece.evaluate("piece => piece.ownerSVGElement.getScreenCTM().a")
            self.hands.drag_by(piece, 50, 30, moves=moves)
            old, new = (one["hand_over"]["laying"]["placed"][-1] for one in (before, self.document()))
            self.assertAlmostEqual(50 / per, new["x"] - old["x"], delta=0.01 * 50 / per + 0.02)
            self.assertAlmostEqual(-30 / per, new["y"] - old["y"], delta=0.01 * 50 / per + 0.02)
            self.page.keyboard.press("Control+z")
            self.assertEqual(before, self.document())
        # Escape takes the drag back, and leaves the dialog open.
        self.hands.drag_and_escape(piece, 70, 0)
        self.assertEqual(before, self.document())
        expect(piece).to_be_visible()

    def test_tab_and_holes_are_held_where_they_are_grabbed(self) -> None:
        for starter, layer, handle, op in (
            ("name-keyring", "backer", "tab-handle", "tab"),
            ("raised-sign", "plate", "hole-handle", "hole"),
        ):
            self.new_design("Bram", starter)
            self.page.get_by_test_id(f"layer-{layer}").click(position={"x": 120, "y": 12})
            before = self.document()

            def at(one: dict[str, Any], layer: str = layer, op: str = op) -> Any:
                steps = next(each for each in one["layers"] if each["id"] == layer)["recipe"]["steps"]
                return next(step for step in steps if step["op"] == op)["at"]

            found = []
            for moves in sampled(MOVES, 1 / 4):
                x, y = self.hands.spot(self.page.get_by_test_id(handle).first)
                self.hands.drag((x + 4, y + 4), (x + 4 + 60, y + 4 + 40), moves=moves)
                found.append(at(self.document()))
                self.page.keyboard.press("Control+z")
                self.settled(self.page)
                self.assertEqual(before, self.document())
            self.assertNotEqual(at(before), found[0])
            self.assertEqual([found[0]] * len(found), found)

    def test_a_number_is_drawn_sideways(self) -> None:
        self.new_design("Bram")
        field = self.page.get_by_role("spinbutton", name="Size", exact=True)
        size = self.document()["art"][0]["size"]
        before = self.document()
        for moves in sampled(MOVES, 1 / 4):
            self.hands.drag_by(field, 40, 0, moves=moves)
            self.assertAlmostEqual(size + 10 * 0.5, self.document()["art"][0]["size"])
            self.page.locator("body").press("Control+z")
            self.assertEqual(before, self.document())
        self.hands.drag_and_escape(field, 60, 0)
        self.assertEqual(before, self.document())

    def test_a_view_goes_back_to_where_it_was(self) -> None:
        self.new_design("Bram")
        view = "document.querySelector('svg[aria-label=\"The layers\"] > g').getAttribute('transform')"
        before = self.page.evaluate(view)
        stage = self.page.get_by_role("application", name=re.compile("^Stage"))
        x, y = self.hands.spot(stage, (0.5, 0.9))
        self.hands.drag_and_escape((x, y), 90, -60)
        self.assertEqual(before, self.page.evaluate(view))
        for moves in sampled(MOVES, 1 / 4):
            old = [float(n) for n in re.findall(r"-?[\d.]+", self.page.evaluate(view))]
            self.hands.drag((x, y), (x + 40, y - 20), moves=moves)
            new = [float(n) for n in re.findall(r"-?[\d.]+", self.page.evaluate(view))]
            self.assertLess(math.dist(new, (old[0] + 40, old[1] - 20, old[2])), 0.5)

    def test_what_snaps_one_way_moves_nothing_the_other_way(self) -> None:
        self.new_design("Fenna", "name-keyring")
        self.page.get_by_role("button", name=re.compile("^Pick “")).first.press("Enter")
        frame = self.page.locator('[data-testid="frame"] > polygon')
        before = self.place(self.document())
        x, y = self.hands.spot(frame, (0.5, 0.02))
        self.hands.drag((x + 20, y + 1), (x + 40, y + 1))
        after = self.place(self.document())
        self.assertNotEqual(before["x"], after["x"])
        self.assertEqual(before["y"], after["y"])
