"""The maker's guide is true to the app: what it sets in bold stands on the screen, and what it points at is there."""

from __future__ import annotations

import re
import unittest
from pathlib import Path

ROOT = Path(__file__).parents[2]
GUIDE = ROOT / "docs" / "guide"
JOBS = sorted(path for path in GUIDE.glob("*.md") if path.name != "README.md")


def on_the_screen() -> str:
    """All that the app says anywhere, in one text: the front end's sources, and what the server words."""
    sources = [*(ROOT / "web" / "src").rglob("*.ts*"), *(ROOT / "src" / "tinhalo" / "core").rglob("*.py")]
    return re.sub(r"\s+", " ", " ".join(path.read_text("utf-8") for path in sources if "api" not in path.parts))


class Guide(unittest.TestCase):
    def test_what_is_bold_stands_on_the_screen(self) -> None:
        said = on_the_screen()
        for page in [*JOBS, GUIDE / "README.md"]:
            # Steps only: under the table and at the machine nothing is clicked.
            clicked = page.read_text("utf-8").split("\n|")[0]
            for label in re.findall(r"\*\*(.+?)\*\*", clicked, re.S):
                plain = re.sub(r"\s+", " ", label)
                with self.subTest(page.name, label=plain):
                    self.assertIn(plain, said)

    def test_links_and_pictures_lead_somewhere(self) -> None:
        for page in GUIDE.glob("*.md"):
            for target in re.findall(r"\]\(([^)]+)\)", page.read_text("utf-8")):
                with self.subTest(page.name, target=target):
                    self.assertTrue((GUIDE / target).is_file())

    def test_every_job_is_listed_once_and_has_its_values_and_what_follows_at_the_table(self) -> None:
        listed = re.findall(r"^\d+\. \[.+\]\((.+)\)$", (GUIDE / "README.md").read_text("utf-8"), re.M)
        self.assertEqual(sorted(listed), [path.name for path in JOBS])
        self.assertEqual(13, len(listed))
        for page in JOBS:
            text = page.read_text("utf-8")
            with self.subTest(page.name):
                self.assertIn("(common practice)", text)
                self.assertIn("**At the table.**", text)
                self.assertIn("**Hand over**", text)
