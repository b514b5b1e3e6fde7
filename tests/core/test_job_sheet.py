"""Job sheets, read by pypdf: what whoever makes it needs to know, and in which order."""

from __future__ import annotations

import io
import unittest

import pypdf

from tests.core.test_formats import sign
from tests.core.test_machine_files import BY_NAME, demo
from tinhalo.core.artwork.lettering.font_file import FontFacts
from tinhalo.core.artwork.lettering.licence import OFL_WORDS, of_own
from tinhalo.core.artwork.lettering.shipped import shipped_fonts
from tinhalo.core.output import job_sheet


def text_of(page: bytes) -> str:
    return " ".join("\n".join(one.extract_text() for one in pypdf.PdfReader(io.BytesIO(page)).pages).split())


class JobSheet(unittest.TestCase):
    def test_it_says_what_is_made_of_what_and_in_which_order(self) -> None:
        made = demo(BY_NAME["launch-field-sign"])
        page = job_sheet.write(made, listed=[job_sheet.Listed(1, "Fenna", 2), job_sheet.Listed(2, "Idris", 1)])
        self.assertLessEqual(len(pypdf.PdfReader(io.BytesIO(page)).pages), 2)
        text = text_of(page)
        assert made.finished
        for part in ("Finished size 247.7 × 51.91 mm, 7 mm thick", "Acrylic 3 mm", "scored", "Lay Letters on Plate"):
            self.assertIn(part, text)
        self.assertIn("Fenna", text)
        self.assertIn("Bevan: Yes. SIL Open Font License 1.1: “The requirement for fonts to remain under this", text)
        steps = job_sheet.order_of_work(made)
        cut = next(k for k, one in enumerate(steps) if "score Border line; cut Plate" in one)
        self.assertLess(cut, next(k for k, one in enumerate(steps) if one.startswith("Lay ")))
        # Area of what is cut by that of the board: what is left is waste.
        plate = next(one for one in made.leaving() if one.layer.id == "plate")
        share = plate.measures.area / (247.7 * 51.91)
        self.assertIn(f"{share:.0%} {1 - share:.0%}", text)

    def test_what_is_printed_comes_first_and_what_is_mirrored_is_told(self) -> None:
        steps = job_sheet.order_of_work(sign(hand_over={"mirror": "all"}))
        self.assertTrue(steps[0].startswith("Print Print for Plywood 3 mm"))
        self.assertIn("mirrored", steps[1])
        self.assertIn("cut (mirrored)", text_of(job_sheet.write(sign(hand_over={"mirror": "all"}))))

    def test_the_licence_is_quoted_as_it_stands_in_the_fonts_own_files(self) -> None:
        for font in shipped_fonts():
            self.assertIn(OFL_WORDS, " ".join(font.licence.read_text("utf-8").split()))
        facts = {"family": "Own", "style": "Regular", "copyright": "", "licence": "", "embedding": "May be embedded."}
        silent = FontFacts.model_validate(facts | {"axes": (), "features": ()})
        self.assertIn("does not say", of_own(silent))
        told = of_own(silent.model_copy(update={"licence": "For one shop. " * 40}))
        self.assertIn("“For one shop.", told)
        self.assertLess(len(told), 250)


if __name__ == "__main__":
    unittest.main()
