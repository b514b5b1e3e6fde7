"""Work at the bench: typing, distances, layers, undo, hand-over, by pointer and by keyboard alone."""

from __future__ import annotations

import io
import json
import re
import xml.etree.ElementTree as ET
import zipfile
from typing import Any

import svgelements
from playwright.sync_api import expect

from tests.browser.base import BrowserTest


def lines_of(path: str) -> list[tuple[float, ...]]:
    """Of each line of path data its box and length, as svgelements reads it."""
    subs: list[Any] = [svgelements.Path(sub) for sub in svgelements.Path(path).as_subpaths()]
    return sorted((*(float(v) for v in one.bbox()), float(one.length(error=1e-4))) for one in subs)


class Bench(BrowserTest):
    shared = True

    def measures(self, layer: str):
        return self.page.get_by_test_id(f"measures-{layer}")

    def test_typed_words_reach_every_layer(self) -> None:
        self.open_demo("fenna-keyring")
        before = self.outline("face"), self.outline("backer")
        self.hands.retype(self.page.get_by_label("The words"), "Zoë")
        expect(self.measures("face")).to_contain_text("3 pieces")
        self.settled(self.page)
        for old, layer in zip(before, ("face", "backer"), strict=True):
            self.assertNotEqual(self.outline(layer), old)
        expect(self.page.get_by_test_id("layer-face")).to_contain_text("Zoë")

    def test_a_distance_is_typed_in_any_unit_dragged_stepped_and_wheeled(self) -> None:
        self.new_design()
        field = self.distance()
        for typed, shown in (("1/8 in", "3.18 mm"), ("0.25in", "6.35 mm"), ("2,5", "2.5 mm"), ("1 cm", "10 mm")):
            self.hands.retype(field, typed)
            self.hands.press("Tab")
            expect(field).to_have_value(shown)
        self.hands.retype(field, "4")
        field.press("ArrowUp")
        expect(field).to_have_value("4.1 mm")
        field.press("Shift+ArrowDown")
        expect(field).to_have_value("3.1 mm")
        field.hover()
        self.page.mouse.wheel(0, -120)
        expect(field).to_have_value("3.2 mm")
        field.blur()
        self.hands.drag_by(field, 80, 0)
        expect(field).to_have_value("5.2 mm")
        # One drag is one step back.
        self.page.get_by_role("button", name="Undo").click()
        expect(field).to_have_value("3.2 mm")
        self.page.get_by_role("button", name="Unit: millimetres").click()
        expect(field).to_have_value("0.126 in")

    def test_shrinking_reads_as_shrinking(self) -> None:
        self.new_design()
        field = self.distance()
        self.hands.retype(field, "-0.3")
        expect(self.page.get_by_test_id("layer-backer")).to_contain_text("shrunk")
        field.blur()
        expect(field).to_have_value("0.3 mm")
        self.hands.retype(field, "0.2")
        field.blur()
        expect(self.page.get_by_test_id("layer-backer")).to_contain_text("shrunk")
        self.hands.retype(field, "+1")
        expect(self.page.get_by_test_id("layer-backer")).to_contain_text("grown")

    def test_undo_and_redo_survive_a_reload(self) -> None:
        id = self.new_design("Words")
        self.hands.retype(self.page.get_by_label("The words"), "Bram")
        self.page.get_by_label("The words").blur()
        self.hands.retype(self.distance(), "6")
        self.distance().blur()
        self.page.get_by_role("button", name=re.compile("^Hide Face")).click()
        self.saved()
        self.page.reload()
        undo, redo = (self.page.get_by_role("button", name=n) for n in ("Undo", "Redo"))
        expect(self.page.get_by_role("button", name="Show Face")).to_be_visible()
        undo.click()
        expect(self.page.get_by_role("button", name=re.compile("^Hide Face"))).to_be_visible()
        undo.click()
        expect(self.distance()).to_have_value("4 mm")
        self.saved()
        self.open(id)
        expect(self.distance()).to_have_value("4 mm")
        redo.click()
        expect(self.distance()).to_have_value("6 mm")
        undo.click()
        undo.click()
        expect(self.page.get_by_label("The words")).to_have_value("Words")
        expect(undo).to_be_disabled()

    def test_layers_are_added_duplicated_reordered_and_deleted(self) -> None:
        self.new_design()
        cards = self.page.get_by_role("region", name="Build sheet").get_by_role("listitem")
        self.page.get_by_role("button", name="Add a layer at the bottom").click()
        expect(cards).to_have_count(3)
        expect(self.measures("layer")).to_contain_text("1 piece")
        self.page.get_by_role("button", name="Move Layer 3: arrow keys up and down").press("ArrowUp")
        expect(cards.nth(1)).to_have_attribute("aria-label", "Layer Layer 3")
        third = cards.nth(2).bounding_box()
        assert third
        held = cards.nth(0).get_by_title(re.compile("^Drag to another place"))
        self.hands.drag(held, (third["x"] + 60, third["y"] + 40))
        expect(cards.nth(2)).to_have_attribute("aria-label", "Layer Face")
        self.opened("backer")
        self.page.get_by_role("button", name="More for Backer").click()
        self.page.get_by_role("menuitem", name="Duplicate").click()
        expect(cards).to_have_count(4)
        self.opened("backer")
        self.page.get_by_role("button", name="More for Backer", exact=True).click()
        self.page.get_by_role("menuitem", name="Delete").click()
        expect(cards).to_have_count(3)
        # What was made from the deleted layer says so.
        expect(self.page.get_by_test_id("layer-layer")).to_contain_text("choose words")
        self.page.get_by_role("button", name="Undo (").click()
        expect(cards).to_have_count(4)
        expect(self.page.get_by_test_id("layer-layer")).to_contain_text("Backer")

    def test_steps_are_added_moved_and_removed_in_the_sentence(self) -> None:
        self.new_design(unprotected=True)
        face = self.page.get_by_test_id("layer-face")
        face.get_by_role("button", name="Add a step").click()
        self.page.get_by_role("menuitem", name="Cut away").click()
        expect(face).to_contain_text("cut away Fenna")
        expect(self.measures("face")).to_contain_text("nothing to cut")
        # The button of what is cut away shows where the pointer is in it.
        face.get_by_role("button", name="Made from Fenna").last.hover()
        face.get_by_role("button", name="Add a step").first.click()
        self.page.get_by_role("menuitem", name="Grow or shrink").click()
        self.hands.retype(face.get_by_role("spinbutton", name="Distance"), "-0.6")
        expect(self.measures("face")).to_contain_text("mm²")
        face.get_by_role("button", name=re.compile("^cut away")).click()
        self.page.get_by_role("menuitem", name="Remove this step").click()
        expect(face).not_to_contain_text("cut away")
        backer = self.page.get_by_test_id("layer-backer")
        # Before the gaps are closed, then before it is grown.
        for _ in range(2):
            backer.get_by_role("button", name=re.compile("^holes filled")).click()
            self.page.get_by_role("menuitem", name="Earlier").click()
        expect(backer).to_contain_text(re.compile("holes filled.*grown"))

    def test_its_name_follows_its_words_until_it_is_named_by_hand(self) -> None:
        self.new_design("Bram")
        name, words = self.page.get_by_label("Name of the design"), self.page.get_by_label("The words")
        self.hands.retype(words, "Fenna")
        expect(name).to_have_value("Fenna")
        self.hands.retype(name, "For the fair")
        self.hands.retype(words, "Idris")
        expect(name).to_have_value("For the fair")

    def test_cut_lines_show_exactly_what_leaves(self) -> None:
        self.open_demo("kite-fair-sticker")
        self.page.get_by_role("radio", name="Cut lines").click()
        shown = {layer: self.outline(layer) for layer in ("words", "border", "ground")}
        with self.page.expect_download() as caught:
            self.hand_over().get_by_role("button", name="Download").click()
        with zipfile.ZipFile(caught.value.path()) as pack:
            drawings = [pack.read(name).decode() for name in pack.namelist() if name.endswith(".svg")]
        for layer, drawn in shown.items():
            root = next(ET.fromstring(one) for one in drawings if f'id="{layer}"' in one)
            paths = [p.get("d", "") for p in root.iter("{http://www.w3.org/2000/svg}path")]
            # In another order, and begun elsewhere: the same lines all the same.
            for one, other in zip(lines_of("".join(paths)), lines_of(drawn), strict=True):
                self.assertLess(max(abs(a - b) for a, b in zip(one, other, strict=True)), 1e-3)

    def test_keyboard_alone_from_an_empty_bench_to_the_files(self) -> None:
        keys = self.page.keyboard
        self.page.goto(self.server.url)
        expect(self.page.get_by_role("heading", name="The shelf")).to_be_visible()

        def tab_to(name: str | re.Pattern[str], role: str = "button") -> None:
            wanted = self.page.get_by_role(role, name=name).first  # type: ignore[arg-type]
            expect(wanted).to_be_visible()
            for _ in range(80):
                if wanted.evaluate("element => element === document.activeElement"):
                    return
                keys.press("Tab")
            self.fail(f"{name} cannot be reached by Tab")

        tab_to("New design")
        keys.press("Enter")
        expect(self.page.get_by_label("Words for the new design")).to_be_focused()
        tab_to("Plain")
        keys.press("Enter")
        # The words of a new design are ready to be typed over.
        expect(self.page.get_by_label("The words")).to_be_focused()
        self.hands.type("Idris")
        expect(self.page.get_by_test_id("layer-face")).to_contain_text("Idris")
        tab_to("Distance", "spinbutton")
        self.hands.type("5")
        expect(self.distance()).to_have_value("5")
        self.page.keyboard.press("Shift+Tab")
        for _ in range(40):
            keys.press("Shift+Tab")
            if self.page.evaluate("document.activeElement.ariaLabel || ''").startswith("Move Backer"):
                break
        keys.press("ArrowUp")
        cards = self.page.get_by_role("region", name="Build sheet").get_by_role("listitem")
        expect(cards.first).to_have_attribute("aria-label", "Layer Backer")
        keys.press("Control+z")
        expect(cards.first).to_have_attribute("aria-label", "Layer Face")
        tab_to("Hand over")
        keys.press("Enter")
        tab_to(re.compile("Download"))
        with self.page.expect_download() as caught:
            keys.press("Enter")
        with zipfile.ZipFile(io.BytesIO(caught.value.path().read_bytes())) as pack:
            layers = json.loads(pack.read("Idris - manifest.json"))["layers"]
        self.assertEqual([layer["id"] for layer in layers], ["face", "backer"])
        size = [layer["bounds_mm"][2] - layer["bounds_mm"][0] for layer in layers]
        self.assertAlmostEqual(size[1] - size[0], 10, delta=0.05)

    def test_the_stage_zooms_to_the_pointer_pans_and_fits(self) -> None:
        self.open_demo("fenna-keyring")
        stage = self.page.get_by_role("application")
        group = self.page.locator("svg[role=img] > g").first
        stage.press("0")
        self.settled(self.page)
        start = group.get_attribute("transform")
        for key in ("+", "ArrowLeft"):
            before = group.get_attribute("transform")
            stage.press(key)
            expect(group).not_to_have_attribute("transform", before or "")
        stage.press("0")
        expect(group).to_have_attribute("transform", start or "")
        target = self.page.locator('[data-layer="face"]')
        point = {"x": 400, "y": 400}
        before = target.evaluate(
            "(e, p) => { const m = e.getScreenCTM().inverse(); return [m.a*p.x+m.e, m.d*p.y+m.f] }", point
        )
        self.page.mouse.move(400, 400)
        self.page.mouse.wheel(0, -400)
        expect(group).not_to_have_attribute("transform", start or "")
        after = target.evaluate(
            "(e, p) => { const m = e.getScreenCTM().inverse(); return [m.a*p.x+m.e, m.d*p.y+m.f] }", point
        )
        for a, b in zip(before, after, strict=True):
            self.assertAlmostEqual(a, b, places=3)

    def test_picking_on_the_stage_selects_the_card(self) -> None:
        self.open_demo("kite-fair-sticker")
        self.page.locator('[data-layer="ground"] path').last.click(position={"x": 3, "y": 60}, force=True)
        self.page.locator('[data-layer="words"]').first.click(force=True)
        expect(self.page.locator(".stroke-glow path").first).to_be_visible()
