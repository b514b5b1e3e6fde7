"""Blocks of several lines: how far these are apart, and the block as one for each of its lines or words."""

from __future__ import annotations

import unittest
from typing import Any, Literal

import shapely

from tests.sampling import sampled
from tests.support import FONTS, build_of
from tinhalo.core.artwork.error import ArtError
from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.artwork.lettering.set_words import SetWords
from tinhalo.core.artwork.lettering.splitting import split_words
from tinhalo.core.artwork.lettering.typeset import LINE_GAP, Typeset
from tinhalo.core.design.design import Design
from tinhalo.core.design.reading import parse_design


def block(text: str, font: str = "pacifico", **more: Any) -> Design:
    art = {"id": "w", "font": font, "size": 24, "text": text, **more}
    return parse_design({"format": "tin-halo/1", "art": [art]})


def split(design: Design, by: Literal["line", "word"]) -> list[Lettering]:
    """The first words of a design split."""

    def typeset(changed: Design) -> Typeset:
        drawn = build_of(changed).art[0].drawn
        assert isinstance(drawn, SetWords)
        return drawn.typeset

    words = design.art[0]
    assert isinstance(words, Lettering)
    return split_words(words, typeset(design), by, lambda part: typeset(design.model_copy(update={"art": (part,)})))


class Lines(unittest.TestCase):
    def test_the_ink_of_neighbouring_lines_leaves_the_same_gap_in_every_font(self) -> None:
        for font in sampled(FONTS, 1 / 3):
            for text in ("HAM\nNOR", "gypsy\nWillow"):
                with self.subTest(font=font, text=text):
                    pieces = build_of(block(text, font)).art[0].drawn.parts
                    first, second = (
                        shapely.union_all(
                            [
                                piece
                                for i, one in pieces.items()
                                if (i > text.index("\n")) == below
                                for piece in one.pieces
                            ]
                        )
                        for below in (False, True)
                    )
                    self.assertAlmostEqual(first.bounds[1] - second.bounds[3], LINE_GAP * 24, delta=0.02)

    def test_a_distance_that_is_said_is_that_of_the_baselines(self) -> None:
        pieces = build_of(block("HH\nHH", "anton", line_spacing=1.5)).art[0].drawn.parts
        feet = [one.pieces[0].bounds[1] for one in pieces.values()]
        self.assertAlmostEqual(feet[0] - feet[-1], 1.5 * 24, places=3)


class Splitting(unittest.TestCase):
    def test_parts_stand_where_they_stood(self) -> None:
        turned = {"x": 3, "y": 4, "rotate": 20, "scale_x": 1.2, "scale_y": 0.9}
        settings = {
            "letter_spacing": 0.4,
            "nudges": {"6": 2},
            "moves": {"7": {"dx": 1, "dy": 2, "turn": 5}},
            "join": {},
        }
        whole = block("High Wind\nLaunch field", place=turned, **settings)
        ink = build_of(whole).art[0].region.area
        wanted: dict[Literal["line", "word"], list[str]] = {
            "line": ["High Wind", "Launch field"],
            "word": ["High", "Wind", "Launch", "field"],
        }
        for by, texts in wanted.items():
            with self.subTest(by):
                parts = split(whole, by)
                self.assertEqual(texts, [one.text for one in parts])
                art = tuple(one.model_copy(update={"id": f"w{k}"}) for k, one in enumerate(parts))
                made = build_of(whole.model_copy(update={"art": art}))
                again = shapely.union_all([one.region.area for one in made.art])
                self.assertLess(again.symmetric_difference(ink).area, 1e-4 * ink.area)

    def test_words_on_a_curve_or_in_a_shape_say_why_not(self) -> None:
        with self.assertRaisesRegex(ArtError, "Words on a curve stay one block"):
            split(block("High Wind", line={}), "word")
        framed = block("High Wind").model_dump(mode="json", by_alias=True)
        framed["art"][0]["into"] = {"art": "s"}
        framed["art"].append({"id": "s", "kind": "shape", "shape": "ellipse"})
        with self.assertRaisesRegex(ArtError, "set into a shape stay in their line"):
            split(parse_design(framed), "word")
