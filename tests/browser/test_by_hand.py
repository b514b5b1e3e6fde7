"""What a hand does on the bench: colours, edges, words; by pointer and by keyboard."""

from __future__ import annotations

import io
import re
import time

from PIL import Image
from playwright.sync_api import BrowserContext, Locator, expect

from tests.browser.base import LOWEST, BrowserTest
from tests.browser.test_shelf import violations


class Colours(BrowserTest):
    shared = True

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
        self.hands.retype(code, "#0a7")
        code.press("Tab")
        self.assertEqual(self.colours(), [None, "#00aa77"])
        self.page.keyboard.press("Escape")
        # What was chosen by its code is among the last ones.
        self.page.get_by_role("button", name="Colour of Face").press("Enter")
        self.page.get_by_role("button", name="#00aa77").press("Enter")
        self.page.get_by_role("button", name="Usual").press("Enter")
        self.assertEqual(self.colours(), [None, "#00aa77"])


class Ways(BrowserTest):
    shared = True

    def test_colours_are_kept_under_names_and_taken_again(self) -> None:
        self.new_design("Bram")
        page = self.page
        page.get_by_role("button", name="Colour ways").click()
        self.hands.retype(page.get_by_label("Name for these colours"), "Birch")
        page.get_by_role("button", name="Keep", exact=True).click()
        expect(page.get_by_role("button", name="Take Birch")).to_be_visible()
        page.keyboard.press("Escape")
        page.get_by_role("button", name="Colour of Face").click()
        page.get_by_role("button", name="Gold").click()
        page.keyboard.press("Escape")
        page.get_by_role("button", name="Colour ways").press("Enter")
        name = page.get_by_label("Name for these colours")
        self.hands.retype(name, "Fair")
        name.press("Enter")
        # Side by side: as it is now, and both.
        expect(page.get_by_role("dialog").locator("img")).to_have_count(3)
        pictures = page.get_by_role("dialog").locator("img").evaluate_all("all => all.map(one => one.src)")
        self.assertEqual([True, False], [pictures[0] == pictures[2], pictures[0] == pictures[1]])
        page.get_by_role("button", name="Contact sheet").click()
        with page.expect_download() as sheet:
            page.get_by_role("button", name="Save the contact sheet").click()
        self.assertEqual(sheet.value.suggested_filename, "Untitled colour ways.pdf")
        # Of the panels the upper one only.
        page.keyboard.press("Escape")
        self.assertEqual(violations(page), [])
        page.get_by_role("button", name="Take Birch").press("Enter")
        self.assertEqual([one["colour"] for one in self.document()["layers"]], [None, None])
        expect(page.locator('[data-worn="true"]')).to_contain_text("Birch")
        page.get_by_role("button", name="Take Fair").click()
        self.assertEqual([one["colour"] for one in self.document()["layers"]], ["#c9a24a", None])
        page.get_by_role("button", name="Delete Birch").click()
        self.assertEqual([one["name"] for one in self.document()["colour_ways"]], ["Fair"])


class Prints(BrowserTest):
    shared = True

    def test_a_printed_layer_gets_a_pattern_and_a_picture(self) -> None:
        self.new_design("Bram", material="ply-3")
        card = self.opened("face")
        process = card.get_by_role("combobox", name="Process of Face")
        process.press("Enter")
        self.page.get_by_role("option", name="Print").press("Enter")
        # The list gives the focus back once it is gone, and that would close what is opened before.
        expect(process).to_be_focused()
        self.page.get_by_role("button", name="Colour of Face").press("Enter")
        self.page.get_by_role("combobox", name="What Face is printed with").press("Enter")
        self.page.get_by_role("option", name="Gingham").press("Enter")
        expect(self.page.get_by_test_id("paint")).to_have_count(1)
        size = self.page.get_by_label("Again after")
        self.hands.retype(size, "9")
        size.press("Enter")
        self.assertEqual(self.document()["layers"][0]["fill"]["size"], 9)
        self.assertEqual(violations(self.page), [])
        with self.page.expect_file_chooser() as chooser:
            self.page.get_by_role("combobox", name="What Face is printed with").click()
            self.page.get_by_role("option", name="A picture…").click()
        held = io.BytesIO()
        Image.new("RGB", (60, 40), "#cc3355").save(held, "PNG")
        chooser.value.set_files({"name": "Gull.png", "mimeType": "image/png", "buffer": held.getvalue()})
        expect(self.page.get_by_role("combobox", name="How the picture lies")).to_be_visible()
        self.page.keyboard.press("Escape")
        expect(self.page.locator('[data-layer="face"] image')).to_have_count(1)
        # So few dots on so large a name are told.
        expect(self.page.get_by_text("dots to an inch")).to_be_visible()


class Edges(BrowserTest):
    shared = True

    def by(self) -> float:
        return self.document()["layers"][1]["recipe"]["steps"][0]["by"]

    def test_a_border_is_pulled_by_its_edge(self) -> None:
        self.new_design("Bram")
        self.opened("backer")
        # Its lowest place; then inwards until it says 3.2 mm.
        x, y = self.page.get_by_test_id("edge").evaluate(LOWEST)
        told = self.page.get_by_test_id("pulled")
        self.hands.grab((x, y))
        for step in range(1, 40):
            self.hands.go((x, y - step + 1), (x, y - step), moves=1)
            if told.count() and told.text_content() == "3.2 mm":
                break
        expect(told).to_have_text("3.2 mm")
        self.page.mouse.up()
        expect(told).to_have_count(0)
        self.assertEqual(self.by(), 3.2)
        # The whole pull is one undo.
        self.page.get_by_role("button", name="Undo (Ctrl+Z)").click()
        self.assertEqual(self.by(), 4)

    def test_a_hand_that_rests_pulls_on(self) -> None:
        self.new_design("Bram")
        self.opened("backer")
        x, y = self.page.get_by_test_id("edge").evaluate(LOWEST)
        self.hands.grab((x, y), (x, y - 10))
        expect(self.page.get_by_test_id("pulled")).not_to_have_text("4 mm")
        # Until what was pulled so far is worked out and saved.
        self.settled(self.page)
        self.saved()
        self.hands.go((x, y - 10), (x, y - 14), moves=4)
        self.page.mouse.up()
        self.assertLess(self.by(), 4)
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
        self.hands.drag_by(tip, 20, 14)
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

    def test_the_margin_of_a_plate_is_pulled_by_keys(self) -> None:
        self.new_design("Bram", "glue-on-letters")
        self.opened("plate")
        edge = self.page.get_by_role("slider", name="Margin of Plate")
        edge.press("ArrowUp")
        edge.press("ArrowUp")
        expect(edge).to_have_attribute("aria-valuetext", "7.2 mm")
        self.assertEqual(self.document()["layers"][2]["recipe"]["steps"][0]["margin"], 7.2)

    def test_a_step_is_copied_to_another_layer(self) -> None:
        self.new_design("Bram", unprotected=True)
        backer = self.opened("backer")
        backer.get_by_role("button", name="grown: move, copy").click()
        self.page.get_by_role("menuitem", name="Copy, for any layer").click()
        face = self.opened("face")
        face.get_by_role("button", name="Add a step").click()
        self.page.get_by_role("menuitem", name="Paste “Grow or shrink”").click()
        layers = self.document()["layers"]
        self.assertEqual(layers[0]["recipe"]["steps"], layers[1]["recipe"]["steps"][:1])


class Touch(BrowserTest):
    shared = True
    own_window = True

    def window(self) -> BrowserContext:
        return self.browser.new_context(viewport={"width": 820, "height": 1100}, has_touch=True)

    def test_a_long_press_on_words_types_into_them(self) -> None:
        self.new_design("Bram")
        box = self.page.locator("[data-art]").first.bounding_box()
        assert box
        at = {"x": box["x"] + box["width"] / 2, "y": box["y"] + box["height"] / 2}
        touch = self.context.new_cdp_session(self.page)
        # How long it is, its events say: 0.6 s.
        now = time.time()
        touch.send("Input.dispatchTouchEvent", {"type": "touchStart", "touchPoints": [at], "timestamp": now})
        touch.send("Input.dispatchTouchEvent", {"type": "touchEnd", "touchPoints": [], "timestamp": now + 0.6})
        expect(self.page.get_by_test_id("typing")).to_be_focused()


class Looking(BrowserTest):
    shared = True

    def test_before_and_after_of_a_step_are_compared(self) -> None:
        self.new_design("Bram")
        self.opened("backer")
        self.distance().hover()
        self.page.keyboard.down("b")
        before = self.page.get_by_test_id("as-before")
        expect(before.locator("path")).to_have_count(2)
        # Without the border the backer is as wide as the face.
        widths = [self.width(path) for path in before.locator("path").all()]
        self.assertAlmostEqual(widths[0], widths[1], delta=0.1)
        self.page.keyboard.up("b")
        expect(before).to_have_count(0)

    def test_before_and_after_are_compared(self) -> None:
        self.new_design("Bram")
        words = self.page.get_by_label("The words")
        was = self.outline("face")
        self.hands.retype(words, "Idris")
        self.settled(self.page)
        before = self.page.get_by_test_id("as-before")
        stage = self.page.get_by_role("application")
        # By a key, as long as it is held; in a field it is a letter.
        words.press("b")
        expect(before).to_have_count(0)
        self.hands.retype(words, "Idris")
        stage.focus()
        self.page.keyboard.down("b")
        expect(self.page.get_by_text("As it was opened")).to_be_visible()
        expect(before.locator("path")).to_have_count(2)
        self.page.keyboard.up("b")
        expect(before).to_have_count(0)
        # By the button, until it is pressed again.
        button = self.page.get_by_role("button", name="Before")
        button.click()
        shape = before.locator("path").last
        expect(shape).to_be_visible()
        self.assertAlmostEqual(self.width(shape), self.width_of(was), delta=1)
        self.assertEqual(violations(self.page), [])
        button.click()
        expect(before).to_have_count(0)

    def width(self, path: Locator) -> float:
        return path.evaluate("path => path.getBBox().width")

    def width_of(self, outline: str) -> float:
        return self.page.evaluate(
            """d => {
              const path = document.createElementNS('http://www.w3.org/2000/svg', 'path');
              path.setAttribute('d', d);
              document.querySelector('[data-testid=as-before]').append(path);
              const { width } = path.getBBox();
              path.remove();
              return width;
            }""",
            outline,
        )

    def test_places_where_layers_meet_are_looked_through(self) -> None:
        self.new_design("Bram", "drop-shadow-title")
        seams = self.page.get_by_role("button", name="Seams", exact=True)
        seams.click()
        told = self.page.get_by_text(re.compile(r"^1 of \d+: .*slit"))
        expect(told).to_be_visible()
        expect(self.page.get_by_test_id("spot")).to_be_visible()
        self.page.get_by_role("application").focus()
        self.page.keyboard.press("m")
        expect(self.page.get_by_text(re.compile(r"^2 of \d+: "))).to_be_visible()
        self.assertEqual(violations(self.page), [])

    def test_keys_are_told_on_one_page(self) -> None:
        self.new_design("Bram")
        self.page.get_by_role("application").focus()
        self.page.keyboard.press("?")
        page = self.page.get_by_role("dialog", name="Keys and gestures")
        for key in ("Ctrl+Z", "Ctrl+D", "B", "Shift and click"):
            expect(page.get_by_text(key, exact=True).first).to_be_visible()
        self.assertEqual(violations(self.page), [])
        # The guide opens beside the bench, which stays as it is.
        with self.page.expect_popup() as opened:
            page.get_by_role("link", name="maker’s guide").click()
        guide = opened.value
        guide.get_by_role("navigation").get_by_role("link", name="A name keyring").click()
        expect(guide.get_by_role("heading", name="A name keyring")).to_be_visible()
        expect(guide.get_by_role("img", name="A name and its backer")).to_have_js_property("complete", True)
        self.assertEqual(violations(guide), [])
        guide.goto(f"{self.server.url}/guide/nothing")
        expect(guide.get_by_role("heading", name="No such page")).to_be_visible()

    def test_a_range_is_tried_by_the_handle_beside_a_number(self) -> None:
        self.new_design("Bram")
        self.opened("backer")
        self.distance().hover()
        handles = self.page.get_by_role("button", name="Try a range of values")
        handles.filter(visible=True).click()
        expect(self.page.get_by_role("dialog").get_by_role("listitem")).to_have_count(8)


class Words(BrowserTest):
    shared = True

    def test_words_are_typed_into_where_they_stand(self) -> None:
        self.new_design("Bram")
        art = self.page.locator("[data-art]").first
        box = art.bounding_box()
        assert box
        self.page.mouse.dblclick(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        field = self.page.get_by_test_id("typing")
        expect(field).to_be_focused()
        # Its letters lie on the outlines: as wide, and on the same line, to a few pixels of the ink.
        lies = field.evaluate("""async one => {
            await document.fonts.ready;
            const style = getComputedStyle(one), pen = document.createElement('canvas').getContext('2d');
            pen.font = `${style.fontSize} ${style.fontFamily}`;
            const ink = pen.measureText(one.value), at = one.getBoundingClientRect();
            return [at.x + at.width / 2 - ink.width / 2 - ink.actualBoundingBoxLeft, ink.actualBoundingBoxRight
                    + ink.actualBoundingBoxLeft];
        }""")
        self.assertAlmostEqual(lies[0], box["x"], delta=4)
        self.assertAlmostEqual(lies[1], box["width"], delta=4)
        self.hands.type("Zoë")
        self.settled(self.page)
        self.assertEqual(self.document()["art"][0]["text"], "Zoë")
        self.page.keyboard.press("Escape")
        expect(field).to_be_hidden()
        # By keyboard; and farther off, as axe-core does not see that the stage cuts the field off beside the list.
        for _ in range(2):
            self.page.get_by_role("button", name="Zoom out").click()
        self.page.get_by_test_id("frame").press("Enter")
        expect(field).to_be_focused()
        self.assertEqual(violations(self.page), [])
        self.page.keyboard.press("End")
        self.hands.type("s")
        self.page.keyboard.press("Control+Enter")
        self.settled(self.page)
        self.assertEqual(self.document()["art"][0]["text"], "Zoës")

    def test_several_are_picked_moved_duplicated_and_deleted_together(self) -> None:
        self.new_design("Ottoline", starter="knocked-out-word")
        before = {one["id"]: one["place"] for one in self.document()["art"]}
        names = [self.page.get_by_role("button", name=f"Pick “{one}”") for one in ("Ottoline", "BLOCK")]
        names[0].press("Enter")
        names[1].press("Shift+Enter")
        expect(names[1]).to_have_attribute("aria-pressed", "true")
        frame = self.page.get_by_test_id("frame")
        frame.press("Shift+ArrowRight")
        box = frame.locator("polygon").bounding_box()
        assert box
        # Inside the frame, beside its handle and the letters; then by the other's frame.
        other = names[1].bounding_box()
        assert other
        for corner in (box, other):
            x, y = corner["x"] + 9, corner["y"] + 9
            self.hands.drag((x, y), (x + 40, y + 30))
            self.settled(self.page)
        self.settled(self.page)
        after = {one["id"]: one["place"] for one in self.document()["art"]}
        ways = {(round(after[id]["x"] - at["x"], 3), round(after[id]["y"] - at["y"], 3)) for id, at in before.items()}
        self.assertEqual(len(ways), 1, ways)
        # Both drags went to the right and down.
        across, up = ways.pop()
        self.assertGreater(across, 1)
        self.assertLess(up, -1)
        self.page.get_by_test_id("frame").press("Control+D")
        self.settled(self.page)
        self.assertEqual(len(self.document()["art"]), 4)
        self.page.get_by_test_id("frame").press("Delete")
        self.settled(self.page)
        self.assertEqual(len(self.document()["art"]), 2)
        self.page.get_by_role("button", name="Undo (").click()
        self.settled(self.page)
        self.assertEqual(len(self.document()["art"]), 4)

    def test_a_layer_is_copied_to_another_design(self) -> None:
        self.new_design("Bram")
        self.opened("backer")
        more = self.page.get_by_role("button", name="More for Backer")
        paste = self.page.get_by_role("menuitem", name="Paste")
        more.click()
        expect(paste).to_be_disabled()
        self.page.get_by_role("menuitem", name="Copy, also for other designs").click()
        more.click()
        expect(paste).to_be_enabled()
        self.new_design("Idris")
        self.page.get_by_role("application").focus()
        self.page.keyboard.press("Control+V")
        expect(self.page.get_by_test_id("layer-backer-2")).to_be_visible()
        made = self.document()
        self.assertEqual([one["text"] for one in made["art"]], ["Idris", "Bram"])
        # The face that it is made from comes along, as that is of other words here.
        face, backer = made["layers"][:2]
        self.assertEqual([face["id"]], backer["recipe"]["from"])
        self.assertEqual([made["art"][1]["id"]], face["recipe"]["from"])
        # Words are duplicated by their key, and taken back by one undo.
        self.page.get_by_role("button", name="Pick “Bram”").press("Enter")
        self.page.keyboard.press("Control+D")
        self.assertEqual([one["text"] for one in self.document()["art"]], ["Idris", "Bram", "Bram"])
        self.page.keyboard.press("Control+Z")
        self.assertEqual([one["text"] for one in self.document()["art"]], ["Idris", "Bram"])

    def test_a_second_name_is_added_to_a_knockout(self) -> None:
        self.new_design("Bram", "knocked-out-word")
        before = self.document()
        self.page.get_by_role("button", name="Words", exact=True).click()
        box = self.page.get_by_label(re.compile("^The words “"))
        expect(box).to_have_value("More words")
        self.hands.retype(box, "Kite")
        self.settled(self.page)
        after = self.document()
        added = after["art"][-1]
        self.assertEqual((added["text"], len(after["art"])), ("Kite", len(before["art"]) + 1))
        self.assertTrue(any(added["id"] in str(one["recipe"]) for one in after["layers"]))
