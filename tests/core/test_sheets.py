"""The sheet that a job is laid on: what reaches over its edge, the mends of that, and the files' size."""

from __future__ import annotations

import re
import unittest
from typing import Any

from tests.core.test_findings import found_in, with_mend
from tests.support import build_of
from tinhalo.core.design.design import Design
from tinhalo.core.design.reading import parse_design
from tinhalo.core.findings.finding import Finding
from tinhalo.core.output.pack import manifest, pack_files

#: The plate of the job.
WIDE, HIGH = 80, 40


def job(**sheet: float) -> Design:
    plate = {"op": "plate", "shape": "rectangle", "width": WIDE, "height": HIGH}
    layer: dict[str, Any] = {"id": "plate", "material": "ply-3", "recipe": {"from": ["name"], "steps": [plate]}}
    art = [{"id": "name", "text": "o", "font": "anton", "size": 10}]
    return parse_design({"format": "tin-halo/1", "art": art, "layers": [layer], "sheet": sheet or None})


def over(design: Design) -> list[Finding]:
    return [f for f in found_in(design) if f.kind == "off_sheet"]


class Sheets(unittest.TestCase):
    def setUp(self) -> None:
        self.x0, self.y0, self.x1, self.y1 = build_of(job()).bounds or (0, 0, 0, 0)

    def laid(self, left: float, foot: float, width: float = 100, height: float = 60) -> Design:
        """The job with its corner that far from the sheet's."""
        return job(width=width, height=height, x=self.x0 - left, y=self.y0 - foot)

    def test_what_reaches_over_is_measured_on_each_side_and_clean_twins_are_not_told(self) -> None:
        for left, foot, side, where in (
            (-3, 5, "to the left", (self.x0, None)),
            (5, -0.4, "at its foot", (None, self.y0)),
            (22, 5, "to the right", (self.x1, None)),
            (5, 27.5, "at its top", (None, self.y1)),
        ):
            with self.subTest(side=side):
                (found,) = over(self.laid(left, foot))
                self.assertIn(side, found.sentence)
                expected = max(-left, -foot, left + WIDE - 100, foot + HIGH - 60)
                self.assertAlmostEqual(found.measure or 0, expected, places=2)
                for at, edge in zip(found.at or (), where, strict=True):
                    if edge is not None:
                        self.assertAlmostEqual(at, edge, places=2)
        for left, foot in ((0, 0), (20, 20), (7, 3)):
            self.assertEqual(over(self.laid(left, foot)), [])
        self.assertEqual(over(job()), [])

    def test_the_sheet_is_moved_no_further_than_it_takes(self) -> None:
        design = self.laid(-3, 27.5)
        made = with_mend(design, over(design)[0].mends[0])
        self.assertEqual(over(made), [])
        assert design.sheet and made.sheet
        self.assertAlmostEqual(made.sheet.x - design.sheet.x, -3, places=2)
        self.assertAlmostEqual(made.sheet.y - design.sheet.y, 7.5, places=2)
        self.assertEqual((made.art, made.layers), (design.art, design.layers))

    def test_it_is_turned_or_the_job_made_smaller_where_that_is_needed(self) -> None:
        upright = self.laid(5, 5, width=60, height=100)
        (mend,) = over(upright)[0].mends
        made = with_mend(upright, mend)
        self.assertEqual((mend.title, over(made)), ("Turn the sheet, and lay it under", []))
        assert made.sheet
        self.assertEqual((made.sheet.width, made.sheet.height), (100, 60))
        small = self.laid(0, 0, width=40, height=35)
        (mend,) = over(small)[0].mends
        made = with_mend(small, mend)
        self.assertEqual((mend.title, over(made)), ("Make all smaller, to 50 %", []))
        x0, _, x1, _ = build_of(made).bounds or (0, 0, 0, 0)
        self.assertAlmostEqual(x1 - x0, WIDE / 2, places=2)

    def test_files_have_its_size_and_lose_nothing_that_reaches_over(self) -> None:
        for left, wide in ((7, 100), (25, 105), (-4, 104)):
            built = build_of(self.laid(left, 5))
            for name in ("plate.svg", "combined.svg"):
                text = pack_files(built)[name].decode()
                found = re.search(r'width="([\d.]+)mm" height="([\d.]+)mm" viewBox="(\S+)', text)
                assert found
                self.assertAlmostEqual(float(found[1]), wide, places=2)
                self.assertAlmostEqual(float(found[2]), 60, places=2)
                self.assertAlmostEqual(float(found[3]), self.x0 - max(left, 0), places=2)
        assert built.design.sheet
        self.assertEqual(manifest(built)["sheet_mm"], [round(v, 4) for v in built.design.sheet.box])
        self.assertIsNone(manifest(build_of(job()))["sheet_mm"])
