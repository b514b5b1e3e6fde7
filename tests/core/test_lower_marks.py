"""Dots and accents moved until they touch: straight up or down, as deep as asked, in every font."""

from __future__ import annotations

import unittest
from typing import Any

import shapely
from shapely import MultiPolygon, Polygon
from shapely.affinity import translate

from tests.core.test_findings import face, found_in, with_mend
from tests.sampling import sampled
from tests.support import FONTS, words
from tinhalo.core.artwork.lettering.lower_marks import can_lower
from tinhalo.core.artwork.lettering.parts import LetterParts
from tinhalo.core.geometry.curves.affine import shift
from tinhalo.core.geometry.curves.precision import EXACT

DEEP = 0.3


def letter(text: str, font: str, **settings: Any) -> LetterParts:
    return words(text, font, **settings).parts(EXACT).get(0, LetterParts(0, text, (), 0))


def till_it_touches(mark: Polygon, body: MultiPolygon) -> float:
    """How far a mark has to move along y until it touches: never further at once than it is away."""
    up = 1 if body.centroid.y > mark.centroid.y else -1
    moved = 0.0
    while (gap := translate(mark, 0, moved).distance(body)) > 1e-4:
        moved += up * gap
    return moved + up * DEEP


class Lowering(unittest.TestCase):
    def test_one_mark_is_moved_as_far_as_a_march_says(self) -> None:
        tried, fonts = 0, sampled(FONTS, 1 / 10)
        for font in fonts:
            for text in "ijé!ñç":
                before = letter(text, font)
                if before.body != 1 or len(before.pieces) != 2:
                    continue
                body, mark = before.pieces
                tried += 1
                with self.subTest(font=font, letter=text):
                    after = letter(text, font, lowered={"0": DEEP})
                    self.assertEqual(len(after.pieces), 1)
                    moved = translate(mark, 0, till_it_touches(mark, MultiPolygon([body])))
                    expected = shapely.union(body, moved)
                    self.assertLess(expected.symmetric_difference(after.pieces[0]).area, 0.004 * expected.length)
        self.assertGreaterEqual(tried, 2 * len(fonts))

    def test_several_marks_rest_on_the_letter_or_on_each_other(self) -> None:
        tried = 0
        for font in FONTS:
            for text in "üế":
                # In stencil letters, and where an accent stands aside, not all can reach the letter.
                if can_lower(letter(text, font), shift(0, 0)):
                    tried += 1
                    with self.subTest(font=font, letter=text):
                        self.assertEqual(len(letter(text, font, lowered={"0": DEEP}).pieces), 1)
        self.assertGreater(tried, len(FONTS))

    def test_only_that_letter_changes_also_where_letters_close_up(self) -> None:
        plain, one = words("ii", "anton"), words("ii", "anton", lowered={"1": DEEP})
        pieces = [len(parts.pieces) for parts in one.parts(EXACT).values()]
        self.assertEqual(pieces, [2, 1])
        first, second = (made.parts(EXACT)[0] for made in (plain, one))
        self.assertTrue(all(a.equals(b) for a, b in zip(first.pieces, second.pieces, strict=True)))
        joined = words("Fifi", "pacifico", join={"overlap": 0.3}, lowered={"1": DEEP, "3": DEEP})
        self.assertEqual(len(joined.region(EXACT).area.geoms), 1)

    def test_a_loose_dot_is_offered_it_wherever_the_words_stand(self) -> None:
        for place in ({}, {"x": 30, "rotate": 90}, {"rotate": -30, "scale_x": 1.4}):
            data = face("Bi").model_dump(mode="json", by_alias=True)
            data["art"][0]["place"] = place
            design = type(face("Bi")).model_validate(data)
            loose = [f for f in found_in(design) if "dot" in f.sentence]
            self.assertEqual(loose[0].mends[0].title, "Move it until it touches")
            after = with_mend(design, loose[0].mends[0])
            self.assertEqual([f for f in found_in(after) if "dot" in f.sentence], [])
