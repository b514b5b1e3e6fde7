"""Drawings: brought in from files by dialog, drop and paste, chosen from, replaced, joined with words, and cut."""

from __future__ import annotations

import io
import re
import tempfile
from pathlib import Path

from PIL import Image, ImageDraw
from playwright.sync_api import expect

from tests.browser.base import BrowserTest
from tests.browser.test_shelf import violations

CREST = b"""<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="40mm" viewBox="0 0 60 40">
<rect id="sheet" width="60" height="40" fill="#ffffff"/>
<path id="shield" d="M10 4H50V20C50 30 40 36 30 38C20 36 10 30 10 20Z"/>
<circle id="eye" cx="30" cy="18" r="6" fill="#fff"/>
<rect id="old" x="2" y="2" width="8" height="8" display="none"/>
<text x="5" y="30">Ostrel</text></svg>"""


class Drawings(BrowserTest):
    shared = True

    def file(self, name: str, data: bytes) -> Path:
        path = Path(self.enterContext(tempfile.TemporaryDirectory())) / name
        path.write_bytes(data)
        return path

    def test_a_file_is_brought_in_at_its_size_and_told_what_was_left_out(self) -> None:
        self.new_design()
        page = self.page
        page.get_by_label("Drawing and picture files").set_input_files(self.file("crest.svg", CREST))
        box = page.get_by_test_id("drawing-crest")
        expect(box).to_contain_text("“Ostrel”")
        expect(box.get_by_label("Width of the drawing")).to_have_value("40 mm")
        box.get_by_role("button", name="Set “Ostrel” as words").click()
        expect(page.get_by_label(re.compile("The words “words"))).to_have_value("Ostrel")
        page.get_by_role("button", name="Open the drawing crest").click()
        # 3 of 4 elements are seen; white takes away from what lies under it.
        box.get_by_text("3 of 4 elements, 1 hidden in the file").click()
        expect(page.get_by_label("Name of the layer Crest")).to_be_visible()
        self.assertEqual([], violations(page))
        box.get_by_label("White takes away").uncheck()
        self.settled(page)
        box.get_by_label("White takes away").check()
        box.get_by_role("checkbox", name="shield").uncheck()
        box.get_by_role("checkbox", name="shield").check()
        self.hands.retype(box.get_by_label("Width of the drawing"), "80")
        box.get_by_label("Width of the drawing").press("Enter")
        expect(box.get_by_label("Height of the drawing")).to_have_value("68 mm")
        self.settled(page)
        # The sheet is hidden by being white: the layer is the shield less its eye.
        layer = self.document()["layers"][0]
        self.assertEqual(["crest", "words-2"], layer["recipe"]["from"])

    def test_what_cannot_be_read_is_told_and_nothing_is_lost(self) -> None:
        self.new_design()
        page = self.page
        for name, data, told in (
            ("broken.svg", b"<svg><g>", "broken.svg cannot be used: it is no sound XML"),
            ("empty.svg", b"<svg xmlns='http://www.w3.org/2000/svg'/>", "there is nothing in it that can be cut"),
        ):
            page.get_by_label("Drawing and picture files").set_input_files(self.file(name, data))
            failure = page.get_by_role("region", name="Words and shapes").get_by_role("alert")
            expect(failure).to_contain_text(told)
        expect(page.get_by_test_id(re.compile("^words-")).first).to_be_visible()
        # It stays until it is closed, or until another file is read.
        page.get_by_role("button", name="Close this failure").click()
        expect(failure).to_have_count(0)

    def test_dropped_and_pasted_files_come_in_and_a_newer_one_takes_their_place(self) -> None:
        self.new_design()
        page = self.page
        send = """([kind, text]) => {
          const held = new DataTransfer();
          if (kind === "drop") held.items.add(new File([text], "crest.svg"));
          else held.setData("text/plain", text);
          const made = kind === "drop" ? new DragEvent("drop", { dataTransfer: held, bubbles: true, cancelable: true })
            : new ClipboardEvent("paste", { clipboardData: held, bubbles: true, cancelable: true });
          document.body.dispatchEvent(made);
        }"""
        page.evaluate(send, ["drop", CREST.decode()])
        expect(page.get_by_test_id("drawing-crest")).to_be_visible()
        page.evaluate(send, ["paste", CREST.decode().replace("shield", "board")])
        pasted = page.get_by_test_id("drawing-pasted")
        expect(pasted).to_contain_text("3 of 4 elements")
        # What is left out stays left out, wherever it stands in the newer file.
        pasted.get_by_text("3 of 4 elements").click()
        pasted.get_by_role("checkbox", name="board").uncheck()
        left_out = self.document()["art"][-1]["left_out"]
        self.assertEqual(1, len(left_out))
        before = self.document()["layers"]
        newer = CREST.decode().replace('r="6"', 'r="9"').replace("shield", "board").encode()
        page.get_by_label("Another file for Pasted").set_input_files(self.file("newer.svg", newer))
        expect(page.get_by_test_id("drawing-pasted")).to_contain_text("newer")
        self.settled(page)
        self.assertEqual(before, self.document()["layers"])
        self.assertEqual(left_out, self.document()["art"][-1]["left_out"])

    def test_words_and_a_drawing_become_one_piece_by_the_keyboard(self) -> None:
        self.new_design("Bram", unprotected=True)
        page = self.page
        page.get_by_role("button", name="Drawing", exact=True).press("Enter")
        page.get_by_role("menuitem", name="gull").press("Enter")
        box = page.get_by_test_id("drawing-gull")
        box.get_by_text("Place", exact=True).press("Enter")
        box.get_by_label("Set against").press("Enter")
        page.get_by_role("option", name="Bram").press("Enter")
        # It stands beside the words: under them it would slide past.
        box.get_by_label("Side").press("Enter")
        page.get_by_role("option", name="right of").press("Enter")
        overlap = box.get_by_label("Overlap with the other art")
        overlap.press("ControlOrMeta+a")
        self.hands.type("2")
        overlap.press("Enter")
        card = self.opened("face")
        card.get_by_role("button", name="Add a step").press("Enter")
        self.hands.type("join")
        page.get_by_role("menuitem", name="Join with").press("Enter")
        self.settled(page)
        face = next(one for one in self.document()["layers"] if one["id"] == "face")
        (step,) = face["recipe"]["steps"]
        self.assertEqual("union", step["op"])

    def test_a_design_travels_in_one_file(self) -> None:
        self.open("bram-kite-tag")
        page = self.page
        page.get_by_role("link", name="Back to the shelf").click()
        with page.expect_download() as download:
            page.get_by_role("button", name="More for Bram’s kite tag").click()
            page.get_by_role("menuitem", name="Save as one file").click()
        path = Path(self.enterContext(tempfile.TemporaryDirectory())) / download.value.suggested_filename
        download.value.save_as(path)
        page.get_by_label("A design's file").set_input_files(path)
        self.settled(page)
        expect(page.get_by_label("Name of the design")).to_have_value("Bram’s kite tag")
        self.assertNotIn("bram-kite-tag", page.url)

    def test_a_picture_is_traced_and_cut(self) -> None:
        self.new_design()
        page = self.page
        page.get_by_label("Drawing and picture files").set_input_files(self.file("gull.png", picture()))
        box = page.get_by_test_id("picture-gull")
        found = box.get_by_test_id("traced-gull")
        expect(found).to_contain_text("2 pieces · 1 hole")
        self.settled(page)
        self.assertEqual([], violations(page))
        box.get_by_label("One outer line only").check()
        expect(found).not_to_contain_text("hole")
        expect(found).to_contain_text("2 pieces")
        self.hands.retype(box.get_by_label("Specks of fewer dots are left out"), "20000")
        box.get_by_label("Specks of fewer dots are left out").press("Enter")
        expect(found).to_contain_text("1 piece · 1 specks left out")
        width = box.get_by_label("Width of what is traced")
        self.hands.retype(width, "50")
        width.press("Enter")
        self.settled(page)
        with page.expect_download() as download:
            page.get_by_role("button", name="Hand over").click()
            page.get_by_role("button", name="Download").first.click()
        self.assertTrue(download.value.suggested_filename.endswith(".zip"))


def picture() -> bytes:
    """A ring and a square, as a scan has them."""
    drawn = Image.new("L", (1600, 1000), 255)
    pen = ImageDraw.Draw(drawn)
    pen.ellipse((200, 200, 800, 800), fill=0)
    pen.ellipse((400, 400, 600, 600), fill=255)
    pen.rectangle((1100, 400, 1220, 520), fill=0)
    made = io.BytesIO()
    drawn.resize((800, 500), Image.Resampling.BOX).save(made, "PNG", dpi=(300, 300))
    return made.getvalue()
