"""Where the sheet lies once it gets another size, by the front end's own arithmetic."""

from __future__ import annotations

import unittest

from tests.web.node import call

JOB = [-30.0, -10.0, 30.0, 20.0]
SHEET = {"width": 100.0, "height": 80.0, "x": -50.0, "y": -10.0}


class Resizing(unittest.TestCase):
    def test_what_lies_in_the_middle_or_along_an_edge_stays_there(self) -> None:
        wide, high, small, tight, back = call(
            "sheet",
            "resized",
            [SHEET, "width", 200, JOB],
            [SHEET, "height", 40, JOB],
            [SHEET, "width", 40, JOB],
            [SHEET, "width", 60, JOB],
            [SHEET | {"width": 60, "x": -30}, "width", 100, JOB],
        )
        self.assertEqual(wide, SHEET | {"width": 200, "x": -100})
        self.assertEqual(high, SHEET | {"height": 40})
        self.assertEqual(small, SHEET | {"width": 40, "x": -20})
        self.assertEqual(tight, SHEET | {"width": 60, "x": -30})
        self.assertEqual(back, SHEET)
        top = SHEET | {"y": 20 - 80}
        self.assertEqual(call("sheet", "resized", [top, "height", 50, JOB]), [top | {"height": 50, "y": -30}])

    def test_a_job_that_is_partly_off_the_sheet_stays_where_it_is(self) -> None:
        off = SHEET | {"x": -20}
        self.assertEqual(call("sheet", "resized", [off, "width", 300, JOB]), [off | {"width": 300}])

    def test_the_job_comes_into_the_middle(self) -> None:
        (found,) = call("sheet", "centred", [{"width": 100, "height": 80}, JOB])
        self.assertEqual(found, SHEET | {"y": -35})
