"""Practice machines on the screen: a board sent, watched, paused, stopped, taken up again; a machine that is off."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, expect

from tests.browser.base import BrowserTest
from tests.browser.test_shelf import violations


class Machines(BrowserTest):
    shared = True

    def send(self, machine: str) -> None:
        page = self.page
        page.get_by_label("Machine", exact=True).click()
        page.get_by_role("option", name=re.compile(f"^{machine}")).click()
        page.get_by_role("button", name="Send", exact=True).click()

    def card(self, machine: str) -> Locator:
        return self.page.get_by_test_id(f"machine-{machine}")

    def test_a_board_is_sent_watched_stopped_and_taken_up_again(self) -> None:
        self.open_demo("kite-fair-sticker")
        page = self.page
        page.get_by_role("button", name="Hand over").click()
        page.get_by_role("button", name="To a practice machine").click()
        # The list before the cut refuses nothing.
        page.get_by_role("checkbox", name=re.compile("^The roll is loaded straight")).check()
        self.assertEqual([], violations(page))
        # One that cannot make it says so before: film is not cut by a beam.
        page.get_by_label("Machine", exact=True).click()
        page.get_by_role("option", name=re.compile("^Skerry")).click()
        expect(page.get_by_role("alert")).to_contain_text("Skerry, laser has no knife")
        expect(page.get_by_role("button", name="Send", exact=True)).to_be_disabled()
        self.send("Gannet")
        expect(page.get_by_text("is sent to Gannet").first).to_be_visible()
        self.send("Tern")
        expect(page.get_by_text("it waits until Tern").first).to_be_visible()
        page.goto(f"{self.server.url}/machines")
        gannet, tern = self.card("gannet"), self.card("tern")
        expect(gannet.get_by_test_id("state")).to_have_text("cutting")
        expect(page.get_by_test_id("traced")).to_have_attribute("d", re.compile("M"))
        gannet.get_by_role("button", name="Pause").click()
        expect(gannet.get_by_test_id("state")).to_have_text("paused")
        self.assertEqual([], violations(page))
        gannet.get_by_role("button", name="Go on").click()
        gannet.get_by_role("button", name="Stop").click()
        expect(gannet.get_by_test_id("state")).to_have_text("stopped in the middle")
        gannet.get_by_label(re.compile("^Pace of")).click()
        page.get_by_role("option", name="100 times as fast").click()
        gannet.get_by_role("button", name="Go on").click()
        expect(gannet.get_by_test_id("state")).to_have_text("ready")
        expect(gannet.get_by_role("listitem").first).to_contain_text("done")
        gannet.get_by_role("button", name=re.compile("^Look at")).first.click()
        expect(page.get_by_text(re.compile(r"at most 0\.0[012]\d mm from what was asked"))).to_be_visible()
        # By keys alone: the one that is off is switched on, and does what waited for it.
        expect(tern).to_contain_text("A job waits until it is switched on")
        tern.get_by_label(re.compile("^Pace of")).click()
        page.get_by_role("option", name="100 times as fast").click()
        tern.get_by_role("button", name="Switch on").focus()
        page.keyboard.press("Enter")
        expect(tern.get_by_role("listitem").first).to_contain_text("done")
        tern.get_by_role("button", name="Clear done jobs").click()
        expect(tern.get_by_role("listitem")).to_have_count(0)
        page.get_by_role("link", name="The shelf").click()
        page.get_by_role("link", name="Machines").click()
        expect(page.get_by_role("heading", name="Practice machines")).to_be_visible()
