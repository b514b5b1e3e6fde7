"""Words on the stage, single letters, closing up, thickening, fonts and sizes, by key and by pointer."""

from __future__ import annotations

import re
import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import Any

from playwright.sync_api import Locator, expect

from tests.browser.base import BrowserTest
from tests.browser.test_shelf import violations
from tests.core.test_font_files import VARIABLE
from tests.waiting import until


class Words(BrowserTest):
    shared = True

    def art(self, index: int = 0) -> dict[str, Any]:
        """The block as it is stored."""
        return self.document()["art"][index]

    def stored(self, wanted: Any, read: Callable[[dict[str, Any]], Any], index: int = 0) -> None:
        """Wait until what is read from the stored block is as wanted."""
        until(lambda: read(self.art(index)) == wanted)

    def inside(self, path: Locator) -> tuple[float, float]:
        """A point of the screen that is on the path's filled area."""
        return tuple(
            path.evaluate("""path => {
                const box = path.getBBox();
                for (let i = 1; i < 20; i++) for (let j = 1; j < 20; j++) {
                    const at = new DOMPoint(box.x + (box.width * i) / 20, box.y + (box.height * j) / 20);
                    if (path.isPointInFill(at)) {
                        const there = at.matrixTransform(path.getScreenCTM());
                        return [there.x, there.y];
                    }
                }
            }""")
        )

    def letter(self, name: str) -> Locator:
        return self.page.get_by_role("button", name=re.compile(f"^Letter {name}"))

    def status(self) -> Locator:
        return self.page.get_by_test_id("words-words")

    def test_by_keyboard(self) -> None:
        self.new_design("Fenna")
        self.settled(self.page)
        self.page.get_by_role("button", name="Pick “Fenna”").press("Enter")
        frame = self.page.get_by_test_id("frame")
        expect(frame).to_be_focused()
        for _ in range(3):
            frame.press("ArrowRight")
        frame.press("Shift+ArrowUp")
        place = self.art()["place"]
        self.assertEqual((place["x"], place["y"]), (0.3, 1))
        self.letter("a").press("ArrowUp")
        self.letter("a").press("Shift+ArrowLeft")
        expect(self.letter("a")).to_have_attribute("aria-label", re.compile("moved"))
        self.assertEqual(self.art()["moves"], {"4": {"dx": -1, "dy": 0.1, "turn": 0, "scale": 1}})
        frame.press("[")
        self.assertEqual(self.art()["place"]["rotate"], 1)
        # What was set stays with its letter while the text in front of it changes.
        box = self.page.get_by_label("The words")
        box.press("Home")
        self.hands.type("Oh ")
        # Leaving the box ends the typing: what comes after is an undo of its own, however quick it is.
        box.blur()
        self.stored(["7"], lambda art: list(art["moves"]))
        box.press("End")
        box.press("Backspace")
        self.stored([], lambda art: list(art["moves"]))
        # Typing is one undo, and brings the letter's move back with the letter.
        self.page.keyboard.press("Control+z")
        self.stored(("Oh Fenna", ["7"]), lambda art: (art["text"], list(art["moves"])))
        self.page.keyboard.press("Control+z")
        self.stored(("Fenna", ["4"]), lambda art: (art["text"], list(art["moves"])))

    def test_by_pointer(self) -> None:
        self.new_design("Fenna")
        self.settled(self.page)
        self.page.get_by_role("button", name="Pick “Fenna”").click()
        expect(self.letter("F")).to_be_visible()
        self.hands.drag_by(self.letter("F").locator("path"), 60, -30)
        place = self.art()["place"]
        self.assertGreater(place["x"], 1)
        self.assertGreater(place["y"], 0.5)
        self.hands.drag_by(self.page.get_by_role("button", name="Resize from the upper right"), 60, -40)
        place = self.art()["place"]
        self.assertGreater(place["scale_x"], 1.02)
        self.assertEqual(place["scale_x"], place["scale_y"])
        self.hands.drag_by(self.page.get_by_role("button", name="Turn", exact=True), 120, 30)
        self.assertLess(self.art()["place"]["rotate"], -5)
        # A second click picks the letter; then it moves, alone or with those that follow.
        self.page.mouse.click(*self.inside(self.letter("n").first.locator("path")))
        strip = self.page.get_by_role("region", name="The letter n")
        self.hands.retype(strip.get_by_role("spinbutton", name="Letter up"), "1.5")
        self.stored(1.5, lambda art: art["moves"].get("2", {}).get("dy"))
        strip.get_by_label("With all that follow").check()
        self.hands.retype(strip.get_by_role("spinbutton", name="Letter across"), "2")
        self.stored({"2": 2}, lambda art: art["nudges"])
        strip.get_by_role("button", name="Put back").click()
        self.stored(({}, {}), lambda art: (art["moves"], art["nudges"]))
        strip.get_by_role("button", name="Done").click()
        expect(strip).to_have_count(0)
        self.assertEqual(violations(self.page), [])

    def test_words_are_closed_up_and_stay_so(self) -> None:
        self.new_design("Fenna")
        expect(self.status()).to_contain_text("Fenna: 2 pieces")
        self.page.get_by_role("button", name="Close up").click()
        expect(self.status()).to_contain_text("Fenna: one piece")
        self.hands.retype(self.page.get_by_label("The words"), "Fenna Zoë")
        expect(self.status()).to_contain_text("Zoë: 3 pieces; 2 dots of the ë stand free")
        self.settled(self.page)
        self.assertEqual(self.page.get_by_test_id("joints").locator("[data-loose]").count(), 2)
        self.page.get_by_role("button", name="all letters").click()
        self.page.get_by_role("menuitemcheckbox", name="F").click()
        self.page.keyboard.press("Escape")
        expect(self.status()).to_contain_text("the F stands apart as you chose")
        self.page.get_by_role("button", name="Show the seams").click()
        expect(self.page.locator("[data-seams]")).to_have_attribute("d", re.compile("^M"))

    def test_two_blocks_are_lined_up_and_set_against_each_other(self) -> None:
        self.new_design("Ostrel Bay")
        self.page.get_by_role("button", name="Words", exact=True).click()
        self.hands.retype(self.page.get_by_label("The words “words-2”"), "Kite Fair")
        self.settled(self.page)
        second = self.page.get_by_test_id("words-words-2")
        second.get_by_text("Spacing, lines and place").click()
        self.hands.retype(second.get_by_role("spinbutton", name="Across"), "20")
        self.saved()
        self.page.get_by_role("button", name="Line up").click()
        self.page.get_by_role("menuitem", name="Centres, side to side").click()
        self.stored(True, lambda art: abs(art["place"]["x"] - self.art(0)["place"]["x"]) < 3, 1)
        second.get_by_label("Set against").click()
        self.page.get_by_role("option", name="Ostrel Bay").click()
        self.stored({"art": "words", "side": "below", "overlap": 0.3}, lambda art: art["against"], 1)

    def test_strokes_are_thickened_and_the_thinnest_place_is_shown(self) -> None:
        self.new_design("Bram", unprotected=True)
        face = self.page.get_by_test_id("layer-face")
        expect(face.get_by_role("button", name="thinnest")).to_be_visible()
        face.get_by_role("button", name="Add a step").click()
        self.page.get_by_role("menuitem", name="Thicken strokes").click()
        # It begins with every stroke, and as wide as the material needs the thinnest one.
        width = face.get_by_role("spinbutton", name="Least stroke width")
        expect(width).to_have_value("1.5 mm")
        expect(face).to_contain_text(re.compile(r"\(by 0\.\d+ mm\)"))
        face.get_by_label("How to thicken").click()
        self.page.get_by_role("option", name="only where thin").click()
        self.hands.retype(width, "2")
        expect(face.get_by_role("button", name="thinnest 2 mm")).to_be_visible()
        expect(self.page.get_by_test_id("before")).to_have_attribute("d", re.compile("^M"))
        face.get_by_role("button", name="thinnest").click()
        expect(self.page.get_by_test_id("spot")).to_be_visible()
        # Between letters this close no stroke can be that wide and the gaps stay open: that is told.
        self.hands.retype(width, "9")
        expect(face).to_contain_text("leave no room for 9 mm")

    def test_the_finished_size_is_set(self) -> None:
        self.new_design("Bram")
        self.settled(self.page)
        self.page.get_by_test_id("finished-size").click()
        self.hands.retype(self.page.get_by_role("spinbutton", name="Finished width"), "5")
        self.page.get_by_role("button", name="Make it 5 mm wide").click()
        expect(self.page.get_by_role("alert")).to_contain_text("cannot be reached")
        self.hands.retype(self.page.get_by_role("spinbutton", name="Finished width"), "120")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_test_id("finished-size")).to_contain_text(re.compile(r"^1(20|19\.99|20\.01) mm"))

    def test_a_range_is_tried(self) -> None:
        self.new_design("Bram")
        self.distance().click(button="right")
        self.page.get_by_role("menuitem", name="Try a range").click()
        sheet = self.page.get_by_role("dialog")
        # Six even values, the present one and none of it.
        expect(sheet.get_by_role("listitem")).to_have_count(8)
        expect(sheet.get_by_text("Working it out…")).to_have_count(0)
        expect(sheet.get_by_text("Backer: 1 piece, 0 holes, thinnest").first).to_be_visible()
        expect(sheet.get_by_text("No warnings").first).to_be_visible()
        expect(sheet.get_by_role("listitem").filter(has_text="as it is")).to_contain_text("4 mm")
        self.assertEqual(violations(self.page), [])
        sheet.get_by_role("button", name="Set Distance to 2.8 mm").click()
        expect(self.distance()).to_have_value("2.8 mm")
        # One after the other at full size: all of them are one edit.
        values = self.page.get_by_role("region", name="Values of Distance")
        values.get_by_role("button", name="Without").click()
        expect(self.page.locator(".line-through[data-step=offset]")).to_be_visible()
        values.get_by_role("button", name="5.2 mm").click()
        expect(self.distance()).to_have_value("5.2 mm")
        values.get_by_role("button", name="Keep this value").click()
        expect(values).to_be_hidden()
        self.page.get_by_role("button", name="Undo").click()
        expect(self.distance()).to_have_value("4 mm")

    def test_several_values_of_a_range_are_taken_side_by_side(self) -> None:
        self.new_design("Bram")
        self.distance().click(button="right")
        self.page.get_by_role("menuitem", name="Try a range").click()
        sheet = self.page.get_by_role("dialog")
        for value in ("2 mm", "4 mm", "6 mm"):
            sheet.get_by_role("checkbox", name=f"Take {value}", exact=True).click()
        sheet.get_by_role("button", name="Take 3 side by side").click()
        expect(sheet).to_be_hidden()
        self.settled(self.page)
        layers = self.document()["layers"]
        self.assertEqual(
            [("face", None), ("backer", 2), ("backer-3", 6), ("backer-2", 4)],
            [
                (one["id"], next((s["by"] for s in one["recipe"]["steps"] if s["op"] == "offset"), None))
                for one in layers
            ],
        )
        build = {"document": self.document(), "exact": True, "have": [], "parts_of": None, "seams": False}
        reply = self.server.post("/api/build", build | {"checks": False, "widths": False})
        boxes = {one["id"]: one["bounds_mm"] for one in reply["layers"]}
        # Beside each other, with room between them.
        self.assertLess(boxes["backer"][2], boxes["backer-2"][0])
        self.assertLess(boxes["backer-2"][2], boxes["backer-3"][0])


class FontChoice(BrowserTest):
    shared = True

    def test_fonts_are_found_loved_added_and_removed(self) -> None:
        self.new_design("Bram")
        self.page.get_by_role("button", name="Font", exact=True).click()
        rows = self.page.get_by_role("region", name="Fonts").get_by_role("listitem")
        expect(rows).to_have_count(21)
        self.page.get_by_role("button", name="Make Lobster a favourite").click()
        self.page.get_by_label("Show", exact=True).click()
        self.page.get_by_role("option", name="Favourites").click()
        expect(rows).to_have_count(1)
        self.page.get_by_label("Show", exact=True).click()
        self.page.get_by_role("option", name="All kinds").click()
        # The browser reads them when it likes: they stay until the test ends.
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        broken = folder / "Broken.ttf"
        broken.write_bytes(b"\x00\x01\x00\x00" + b"\xff" * 300)
        self.page.get_by_label("Font files").set_input_files([broken, VARIABLE])
        expect(self.page.get_by_text("Broken.ttf cannot be used: the file is damaged.").first).to_be_visible()
        expect(rows).to_have_count(22)
        self.hands.retype(self.page.get_by_label("Search fonts"), "nothing of the kind")
        expect(self.page.get_by_text("No font matches")).to_be_visible()
        self.hands.retype(self.page.get_by_label("Search fonts"), "instrument")
        expect(rows).to_have_count(1)
        expect(self.page.get_by_text("No font matches")).to_have_count(0)
        expect(rows).to_contain_text("one piece once closed up")
        self.page.get_by_role("button", name="Licence of Instrument Sans").click()
        expect(rows).to_contain_text("May it be sold?")
        # What is noted of a licence is what is told from then on.
        self.hands.retype(self.page.get_by_label("Licence bought"), "Of Ada, shop licence")
        self.page.keyboard.press("Enter")
        expect(rows).to_contain_text("A licence is noted: “Of Ada, shop licence”")
        self.assertEqual(violations(self.page), [])
        self.page.get_by_role("button", name="Use Instrument Sans").click()
        self.page.get_by_text("Spacing, lines and place").click()
        self.settled(self.page)
        before = self.outline("face")
        self.page.get_by_label("Weight").press("End")
        expect(self.page.locator('[data-layer="face"] path').last).not_to_have_attribute("d", before)

    def test_a_file_that_is_gone_by_the_time_it_is_read_is_told(self) -> None:
        self.new_design("Bram")
        self.page.get_by_role("button", name="Font", exact=True).click()
        gone = Path(self.enterContext(tempfile.TemporaryDirectory())) / "Gone.ttf"
        gone.write_bytes(VARIABLE.read_bytes())
        files = self.page.get_by_label("Font files")
        self.page.evaluate("addEventListener('change', (held = (event) => event.stopPropagation()), true)")
        files.set_input_files(gone)
        gone.unlink()
        self.page.evaluate("removeEventListener('change', held, true)")
        files.dispatch_event("change")
        told = self.page.get_by_text("Gone.ttf cannot be read: it may have been moved or deleted.")
        expect(told.first).to_be_visible()
