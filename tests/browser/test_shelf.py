"""The shelf, and that both screens can be used by everybody (axe-core, WCAG 2.2 A and AA)."""

from __future__ import annotations

from pathlib import Path

from playwright.sync_api import Download, Page, expect

from tests.browser.base import BrowserTest
from tinhalo.store.notice import Notice

AXE = Path(__file__).parents[2] / "web" / "node_modules" / "axe-core" / "axe.min.js"


#: Only what is wrong is worked out whole, and only its words are taken out of the page: what passes is megabytes.
SERIOUS = """
axe.run(document, {
  runOnly: ["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa", "best-practice"],
  resultTypes: ["violations"],
}).then((found) =>
  found.violations
    .filter((one) => one.impact === "serious" || one.impact === "critical")
    .map((one) => `${one.id}: ${one.help} ${one.nodes.slice(0, 3).map((node) => node.target)}`),
)
"""


def violations(page: Page) -> list[str]:
    """What axe-core finds on a page that is serious or worse."""
    # The policy of the app's pages lets no script in that is not theirs: this one comes from outside of the page.
    if not page.evaluate("'axe' in window"):
        page.evaluate(f"() => {{ {AXE.read_text('utf-8')} }}")
    return page.evaluate(SERIOUS)


class Shelf(BrowserTest):
    def test_rename_duplicate_delete_and_undo(self) -> None:
        self.page.goto(self.server.url)
        cards = self.page.get_by_role("listitem").filter(has=self.page.get_by_role("link"))
        expect(self.page.get_by_role("link", name="Open Fenna keyring")).to_be_visible()
        before = cards.count()
        self.page.get_by_role("button", name="More for Fenna keyring").click()
        self.page.get_by_role("menuitem", name="Duplicate").click()
        expect(cards).to_have_count(before + 1)
        self.page.get_by_role("button", name="More for Fenna keyring copy").click()
        self.page.get_by_role("menuitem", name="Rename").click()
        field = self.page.get_by_label("Name of the design")
        self.hands.retype(field, "Bram keyring")
        field.press("Enter")
        expect(self.page.get_by_role("link", name="Open Bram keyring")).to_be_visible()
        self.page.get_by_role("button", name="More for Bram keyring").click()
        self.page.get_by_role("menuitem", name="Delete").click()
        expect(cards).to_have_count(before)
        self.page.get_by_role("button", name="Put it back").click()
        expect(self.page.get_by_role("link", name="Open Bram keyring")).to_be_visible()

    def test_several_are_picked_deleted_and_put_back(self) -> None:
        self.page.goto(self.server.url)
        cards = self.page.get_by_role("listitem").filter(has=self.page.get_by_role("link"))
        expect(self.page.get_by_role("link", name="Open Fenna keyring")).to_be_visible()
        before = cards.count()
        for box in self.page.get_by_role("checkbox").all()[:2]:
            box.check()
        bar = self.page.get_by_role("region", name="Picked designs")
        expect(bar).to_contain_text("2 picked")
        self.assertEqual(violations(self.page), [])
        packs: list[str] = []

        def came(one: Download) -> None:
            packs.append(one.suggested_filename)

        self.page.on("download", came)
        self.addCleanup(self.page.remove_listener, "download", came)
        bar.get_by_role("button", name="Cut packs").click()
        while len(packs) < 2:
            self.page.wait_for_event("download")
        self.assertEqual(len(set(packs)), 2)
        bar.get_by_role("button", name="Contact sheet").click()
        self.page.get_by_label("Scale of the contact sheet").click()
        self.page.get_by_role("option", name="all at one scale").click()
        self.assertEqual(violations(self.page), [])
        with self.page.expect_download() as sheet:
            self.page.get_by_role("button", name="Save the contact sheet").click()
        self.assertEqual(sheet.value.suggested_filename, "contact sheet.pdf")
        self.page.keyboard.press("Escape")
        bar.get_by_role("button", name="Delete").click()
        expect(cards).to_have_count(before - 2)
        self.page.get_by_role("button", name="Put them back").click()
        expect(cards).to_have_count(before)

    def test_a_full_shelf_is_searched_and_ordered(self) -> None:
        document = {"format": "tin-halo/1", "art": [], "layers": []}
        made = [
            self.server.post("/api/designs", {"document": document | {"name": f"Zoë {k:02}"}})["id"] for k in range(21)
        ]
        self.page.goto(self.server.url)
        cards = self.page.get_by_role("listitem").filter(has=self.page.get_by_role("link"))
        self.hands.retype(self.page.get_by_label("Find a design"), "zoe 1")
        expect(cards).to_have_count(11)
        self.page.get_by_label("Order of the shelf").click()
        self.page.get_by_role("option", name="by name").click()
        expect(cards.first).to_contain_text("Zoë 01")
        self.hands.retype(self.page.get_by_label("Find a design"), "nobody")
        expect(self.page.get_by_text("No design here is called that")).to_be_visible()
        self.hands.retype(self.page.get_by_label("Find a design"), "zoe 1")
        for box in self.page.get_by_role("checkbox").all()[:2]:
            box.check()
        self.page.get_by_role("button", name="Put into…").click()
        self.page.get_by_role("menuitem", name="New folder…").click()
        self.hands.retype(self.page.get_by_label("Name of the new folder"), "Kite fair")
        self.page.keyboard.press("Enter")
        self.page.get_by_role("radio", name="Kite fair 2").click()
        expect(cards).to_have_count(2)
        self.hands.retype(self.page.get_by_label("Find a design"), "zoe 20")
        expect(cards).to_have_count(0)
        self.page.get_by_role("radio", name="In no folder").click()
        expect(cards).to_have_count(1)
        self.hands.retype(self.page.get_by_label("Find a design"), "")
        self.assertEqual(violations(self.page), [])
        for id in made:
            self.server.http.delete(f"/api/designs/{id}").raise_for_status()

    def test_what_happened_to_the_data_is_told_until_it_was_read(self) -> None:
        told = "The database was damaged. It is kept as /data/damaged-1.sqlite; 9 designs could be brought over."
        Notice(self.data).put(told)
        self.page.goto(self.server.url)
        alert = self.page.get_by_role("alert")
        expect(alert).to_contain_text(told)
        self.assertEqual([], violations(self.page))
        self.page.get_by_role("button", name="I have read it").press("Enter")
        expect(alert).to_have_count(0)
        with self.page.expect_response("**/api/notice"):
            self.page.reload()
        expect(self.page.get_by_role("link", name="Open Fenna keyring")).to_be_visible()
        expect(alert).to_have_count(0)

    def test_pictures_follow_the_design(self) -> None:
        self.new_design("Bram")
        self.page.get_by_role("link", name="Back to the shelf").click()
        picture = self.page.get_by_role("link", name="Open Untitled").first.locator("img")
        expect(picture).to_be_visible()
        self.assertGreater(picture.evaluate("async img => { await img.decode(); return img.naturalWidth }"), 0)


class Access(BrowserTest):
    shared = True

    def test_no_serious_violations_on_either_screen_in_either_theme(self) -> None:
        for theme in ("light", "dark"):
            self.page.goto(self.server.url)
            self.page.evaluate("theme => localStorage.setItem('tinhalo.theme', theme)", theme)
            self.page.reload()
            expect(self.page.get_by_role("link", name="Open Fenna keyring").first).to_be_visible()
            self.assertEqual(violations(self.page), [])
            self.open_demo("fenna-keyring")
            self.page.get_by_text("Spacing, lines and place").click()
            self.opened("backer").get_by_label("Process of Backer").focus()
            self.assertEqual(violations(self.page), [])
            self.hand_over()
            self.assertEqual(violations(self.page), [])
