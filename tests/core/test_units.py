"""Lengths in the unit that the maker reads, in every sentence."""

from __future__ import annotations

import re
import unittest

from tests.support import LIBRARY, bare
from tinhalo.core.findings.survey import findings_of
from tinhalo.core.materials import MATERIALS
from tinhalo.core.runtime.memo import Memo
from tinhalo.core.starters import STARTERS, with_words
from tinhalo.core.units import area, length


class Units(unittest.TestCase):
    def test_lengths_and_areas(self) -> None:
        # 1 in is 25.4 mm exactly: the international yard and pound agreement of 1959 (from memory).
        for mm, told, in_inches in (
            (25.4, "25.4 mm", "1 in"),
            (0.3, "0.3 mm", "0.012 in"),
            (1.11, "1.11 mm", "0.044 in"),
            (0.004, "0.004 mm", "0.00016 in"),
            (120.0, "120 mm", "4.724 in"),
            (0.0, "0 mm", "0 in"),
        ):
            self.assertEqual((length(mm), length(mm, "in")), (told, in_inches))
        self.assertEqual(
            [area(4), area(0.0769), area(19.4), area(4, "in")], ["4 mm²", "0.077 mm²", "19 mm²", "0.0062 in²"]
        )

    def test_a_design_in_inches_is_told_in_inches(self) -> None:
        names = re.compile("|".join(re.escape(one.name) for one in MATERIALS))
        told: list[str] = []
        for starter in STARTERS:
            design = bare(with_words(starter.document, "Zoë & Wim")).model_copy(update={"unit": "in"})
            for one in findings_of(design, LIBRARY, Memo()):
                told += [one.sentence, *[mend.title for mend in one.mends]]
        self.assertGreater(sum(" in" in one for one in told), 20)
        self.assertEqual([one for one in told if re.search(r"\d mm", names.sub("", one))], [])
