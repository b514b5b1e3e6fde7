"""Job sheets, read by pypdf: what whoever makes it needs to know, and in which order."""

from __future__ import annotations

import io
import unittest

import pypdf

from tests.core.test_formats import sign
from tests.core.test_machine_files import BY_NAME, demo
from tests.support import build_of
from tinhalo.core.artwork.lettering.font_file import FontFacts
from tinhalo.core.artwork.lettering.licence import OFL_WORDS, of_own
from tinhalo.core.artwork.lettering.shipped import shipped_fonts
from tinhalo.core.design.hand_over import Costs
from tinhalo.core.output import job_sheet
from tinhalo.core.output.board import boards_of, on_board
from tinhalo.core.output.job import job_of
from tinhalo.core.output.lining_up import framed_drawing


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

    def test_costs_are_those_of_stock_and_minutes(self) -> None:
        made = demo(BY_NAME["launch-field-sign"])
        self.assertNotIn("Cost", text_of(job_sheet.write(made)))
        own = next(one.material for one in made.leaving() if one.layer.id == "plate")
        own = own.model_copy(update={"price": 24.0, "limits": own.limits.model_copy(update={"sheet_width": 600.0})})
        hand_over = made.design.hand_over.model_copy(update={"costs": Costs(per_minute=1.5, currency="kr")})
        priced = build_of(made.design.model_copy(update={"hand_over": hand_over, "materials": (own,)}))
        text = text_of(job_sheet.write(priced))
        # By hand: the board's share of a sheet of 600 × 400 mm, and its time.
        drawing = framed_drawing(priced)
        whole = 0.0
        for board in boards_of(priced):
            part = on_board(priced, drawing, board)
            width, height = part.size
            stock = 24.0 * width * height / (600 * 400) if board.material == own.id else 0.0
            cost = stock + 1.5 * job_of(priced, part).seconds / 60
            self.assertIn(f"{cost:.2f} kr", text)
            whole += cost
        self.assertIn(f"In all {whole:.2f} kr", text)

    def test_the_licence_is_quoted_as_it_stands_in_the_fonts_own_files(self) -> None:
        for font in shipped_fonts():
            self.assertIn(OFL_WORDS, " ".join(font.licence.read_text("utf-8").split()))
        facts = {"family": "Own", "style": "Regular", "copyright": "", "licence": "", "embedding": "May be embedded."}
        silent = FontFacts.model_validate(facts | {"axes": (), "features": ()})
        self.assertIn("does not say", of_own(silent))
        told = of_own(silent.model_copy(update={"licence": "For one shop. " * 40}))
        self.assertIn("“For one shop.", told)
        self.assertLess(len(told), 250)
        self.assertTrue(of_own(silent, "Bought of Ada, 2026").startswith("A licence is noted: “Bought of Ada, 2026”"))


if __name__ == "__main__":
    unittest.main()
