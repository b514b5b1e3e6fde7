"""What goes wrong on screen: bad input, two windows, a server that is gone. Nothing typed is lost."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.browser.base import BrowserTest
from tests.waiting import until


class BadInput(BrowserTest):
    shared = True

    def strip(self) -> object:
        return expect(self.page.get_by_role("region", name="Findings"))

    def test_words_that_cannot_be_drawn_are_told_and_kept(self) -> None:
        self.new_design()
        box = self.page.get_by_label("The words")
        for text, sentence in (
            ("", "There is nothing to cut in the words"),
            ("Fenna 字", "Pacifico lacks the character “字”"),
            ("a" * 5_000, "5,000 letters; one block can draw 2,000"),
        ):
            if len(text) < 100:
                self.hands.retype(box, text)
            else:
                self.hands.paste(box, text)
            self.strip().to_contain_text(sentence)  # type: ignore[attr-defined]
            self.saved()
            self.page.reload()
            expect(box).to_have_value(text)

    def test_numbers_that_make_no_sense_stay_in_the_field_with_a_sentence(self) -> None:
        self.new_design()
        field = self.page.get_by_role("spinbutton", name="Size")
        for typed, sentence in (
            ("0", "Size must be at least 0.5 mm."),
            ("-3", "Size must be at least 0.5 mm."),
            ("big", "Type a length such as 3 mm or 1/8 in."),
            ("6000", "Size can be at most 5000 mm."),
        ):
            self.hands.retype(field, typed)
            expect(self.page.get_by_role("alert").filter(has_text=sentence)).to_be_visible()
            field.blur()
            expect(field).to_have_value(typed)
            expect(self.page.get_by_test_id("measures-face")).to_contain_text("mm²")
        field.press("Escape")
        expect(field).to_have_value("24 mm")

    def test_a_distance_that_leaves_nothing_is_told(self) -> None:
        self.new_design()
        self.hands.retype(self.distance(), "-20")
        self.strip().to_contain_text("Nothing is left of “Backer”")  # type: ignore[attr-defined]
        expect(self.page.get_by_test_id("measures-backer")).to_contain_text("nothing to cut")
        expect(self.distance()).to_have_value("-20")

    def test_a_circle_of_layers_cannot_be_chosen_and_says_why(self) -> None:
        self.open_demo("stepped-idris")
        self.page.get_by_test_id("layer-step-1").get_by_role("button", name=re.compile("^Made from")).click()
        item = self.page.get_by_role("menuitemcheckbox", name="Third step – is itself made from First step")
        expect(item).to_be_disabled()
        expect(self.page.get_by_role("menuitemcheckbox", name="Top")).to_be_enabled()

    def test_a_design_that_is_not_there(self) -> None:
        self.page.goto(f"{self.server.url}/design/gone")
        expect(self.page.get_by_role("heading")).to_contain_text("This design is not here")
        self.page.get_by_role("link", name="Back to the shelf").click()
        expect(self.page.get_by_role("heading", name="The shelf")).to_be_visible()

    def test_an_unanswered_save_is_kept_and_tried_again(self) -> None:
        self.new_design()
        self.page.route("**/api/designs/*", lambda route: route.abort())
        self.hands.retype(self.page.get_by_label("The words"), "Ottoline")
        expect(self.page.get_by_text("Not saved: no answer from the server")).to_be_visible()
        self.page.unroute("**/api/designs/*")
        self.saved()
        self.page.reload()
        expect(self.page.get_by_label("The words")).to_have_value("Ottoline")

    def test_a_save_under_way_goes_on_when_the_page_is_left(self) -> None:
        design = self.new_design()
        slow = self.context.new_cdp_session(self.page)
        self.addCleanup(slow.detach)
        slow.send("Network.enable")
        slow.send(
            "Network.emulateNetworkConditions",
            {"offline": False, "latency": 1_500, "downloadThroughput": -1, "uploadThroughput": 2_000},
        )
        with self.page.expect_request(lambda request: request.method == "PUT"):
            self.hands.paste(self.page.get_by_label("The words"), "Ottoline")
        self.page.goto("about:blank")

        def arrived() -> bool:
            state = self.server.get(f"/api/designs/{design}")
            return state["timeline"][state["at"] - state["first"]]["art"][0]["text"] == "Ottoline"

        until(arrived)


class TwoWindows(BrowserTest):
    shared = True

    def setUp(self) -> None:
        super().setUp()
        design = self.new_design("Start")
        other = self.window()
        self.addCleanup(other.close)
        self.other = other.new_page()
        self.open(design, self.other)

    def words(self, page: Page):
        return page.get_by_label("The words")

    def clash(self) -> None:
        self.hands.retype(self.words(self.page), "Mine")
        self.saved()
        self.hands.retype(self.words(self.other), "Theirs")
        expect(self.other.get_by_text("This design was changed in another window.")).to_be_visible()
        expect(self.words(self.other)).to_have_value("Theirs")

    def test_keeping_mine_leaves_the_other_one_undo_away(self) -> None:
        self.clash()
        self.other.get_by_role("button", name="Keep mine").click()
        self.saved(self.other)
        self.other.reload()
        expect(self.words(self.other)).to_have_value("Theirs")
        self.other.get_by_role("button", name="Undo").click()
        expect(self.words(self.other)).to_have_value("Mine")

    def test_taking_theirs_leaves_mine_one_undo_away(self) -> None:
        self.clash()
        self.other.get_by_role("button", name="Take theirs").click()
        expect(self.words(self.other)).to_have_value("Mine")
        self.saved(self.other)
        self.other.get_by_role("button", name="Undo").click()
        expect(self.words(self.other)).to_have_value("Theirs")

    def test_keeping_both_makes_a_second_design(self) -> None:
        self.clash()
        self.other.get_by_role("button", name="Keep both").click()
        expect(self.words(self.other)).to_have_value("Mine")
        self.saved(self.other)
        self.other.get_by_role("link", name="Back to the shelf").click()
        self.other.get_by_role("link", name=re.compile(r"^Open .*\(my version\)")).first.click()
        expect(self.words(self.other)).to_have_value("Theirs")

    def test_a_window_with_nothing_unsent_follows_the_other(self) -> None:
        self.hands.retype(self.words(self.page), "Newer")
        self.saved()
        self.other.evaluate("window.dispatchEvent(new Event('focus'))")
        expect(self.words(self.other)).to_have_value("Newer")
        self.hands.retype(self.words(self.other), "Newest")
        self.saved(self.other)
