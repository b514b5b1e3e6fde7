"""Close up: every word one piece, overlapping as deep as asked, with the smallest moves."""

from __future__ import annotations

import unittest
from itertools import pairwise

import numpy as np
import shapely
from shapely import MultiPolygon
from shapely.affinity import translate

from tests.sampling import sampled
from tests.support import FONTS, build_of, words
from tinhalo.core.artwork.lettering.parts import LetterParts
from tinhalo.core.artwork.lettering.pieces import pieces_by_word
from tinhalo.core.artwork.lettering.shipped import shipped_fonts
from tinhalo.core.artwork.lettering.typeset import Typeset
from tinhalo.core.artwork.seams import seams
from tinhalo.core.geometry.curves.precision import EXACT

# Joins, capitals, accents and descenders; made up.
# fmt: off
NAMES = (
    "Fenna", "Ottoline", "Bram", "Idris", "Zoë", "Łukasz", "Ağça", "Čeněk", "Jörg", "Šárka", "Ñuria", "Piper",
    "Quincy", "Xavier", "Yvonne", "Zygmunt", "Ålesund", "Øystein", "Éloïse", "Çağla", "William", "Harriet",
    "Kjell", "Gypsy", "Jasper", "Ophelia", "Theodora", "Ulysse", "Vigdís", "Wren", "Émile", "Kiki", "Fjord",
    "Tuğba", "Håkon", "Renée", "Dmitri", "Bjørg", "Ivy", "Lily",
)
# fmt: on
SCRIPTS = [font.id for font in shipped_fonts() if font.kind == "script"]


def bodies(made: Typeset) -> list[LetterParts]:
    return [p for p in made.parts(EXACT).values() if p.pieces]


def body(letter: LetterParts) -> MultiPolygon:
    return MultiPolygon(letter.pieces[: letter.body])


class CloseUp(unittest.TestCase):
    def test_every_word_is_one_piece(self) -> None:
        """Dots and accents apart, and capitals that the font itself draws in several strokes that do not touch."""
        for font in sampled(SCRIPTS, 1 / 10):
            for name in NAMES:
                letters = bodies(words(name, font, join={}))
                expected = 1 + sum(letter.body - 1 for letter in letters)
                united = shapely.union_all([body(letter) for letter in letters])
                with self.subTest(font=font, name=name):
                    self.assertLessEqual(len(shapely.get_parts(united)), expected)
        self.assertEqual(len(NAMES), 40)

    def test_depth_and_smallest_move_against_a_fine_search(self) -> None:
        depth, step = 0.3, 0.01
        for font in sampled(SCRIPTS, 1 / 10):
            for name in NAMES[:12]:
                joined, plain = words(name, font, join={"overlap": depth}), words(name, font)
                if [g.letter for g in joined.glyphs] != [g.letter for g in plain.glyphs]:
                    continue  # a ligature in pieces was taken apart
                start = {g.letter: float(g.matrix[0, 2]) for g in reversed(plain.glyphs)}
                end = {g.letter: float(g.matrix[0, 2]) for g in reversed(joined.glyphs)}
                for a, b in pairwise(bodies(plain)):
                    left, right = body(a), body(b)
                    moved = (end[b.index] - end[a.index]) - (start[b.index] - start[a.index])

                    def holds(shift: float, a: MultiPolygon = left, b: MultiPolygon = right) -> bool:
                        return all(a.intersects(translate(b, shift + back)) for back in (0.0, depth * 0.99))

                    needed = next(
                        (s for s in np.arange(0, -12, -step) if holds(float(s))),
                        None,
                    )
                    with self.subTest(font=font, pair=a.text + b.text):
                        assert needed is not None
                        self.assertTrue(holds(moved - 0.003), moved)
                        self.assertLess(abs(moved - needed), 2 * step)

    def test_letters_keep_their_shape_and_words_their_space(self) -> None:
        plain, joined = words("Bram Kote", "work-sans"), words("Bram Kote", "work-sans", join={})
        self.assertEqual(
            [g.glyph.outline.areas.sum() for g in plain.glyphs], [g.glyph.outline.areas.sum() for g in joined.glyphs]
        )
        edges = [(bodies(m)[3].pieces[0].bounds[2], bodies(m)[4].pieces[0].bounds[0]) for m in (plain, joined)]
        self.assertAlmostEqual(edges[0][1] - edges[0][0], edges[1][1] - edges[1][0], places=6)
        self.assertEqual([w.pieces for w in pieces_by_word(joined, joined.parts(EXACT))], [1, 1])

    def test_letters_stand_apart_on_purpose(self) -> None:
        made = words("Fenna", "pacifico", join={"apart": [0]})
        (word,) = pieces_by_word(made, made.parts(EXACT), [0])
        self.assertEqual((word.pieces, [(p.name, p.why, p.parts) for p in word.loose]), (2, [("the F", "apart", (0,))]))

    def test_an_apostrophe_is_passed_over(self) -> None:
        made = words("Fenna's", "grand-hotel", join={})
        (word,) = pieces_by_word(made, made.parts(EXACT))
        self.assertEqual([(p.name, p.why) for p in word.loose], [("the '", "letters")])

    def test_loose_pieces_are_named(self) -> None:
        made = words("Zoë Idris", "pacifico", join={})
        names = {w.text: [(p.name, p.why) for p in w.loose] for w in pieces_by_word(made, made.parts(EXACT))}
        self.assertEqual(names["Zoë"], [("a dot of the ë", "mark")] * 2)
        self.assertEqual(names["Idris"], [("the dot of the i", "mark")])
        plain = words("Čeněk", "anton")
        (word,) = pieces_by_word(plain, plain.parts(EXACT))
        self.assertIn(("the accent of the Č", "mark"), [(p.name, p.why) for p in word.loose])

    def test_it_stays_in_force_and_is_the_same_at_every_precision(self) -> None:
        for font in sampled(FONTS, 1 / 10):
            big = words("Otto", font, 48, join={"overlap": 0.6})
            small = words("Otto", font, 24, join={"overlap": 0.3})
            self.assertTrue(
                np.allclose(*[[g.matrix[0, 2] / s for g in m.glyphs] for m, s in ((big, 2), (small, 1))], atol=0.01)
            )

    def test_seams_are_what_uniting_removes(self) -> None:
        made = words("nn", "pacifico")
        lines = seams(made.parts(EXACT).values())
        region = made.region(EXACT).area
        self.assertTrue(lines)
        for line in lines:
            self.assertTrue(region.buffer(1e-6).contains(line))
            self.assertGreater(line.distance(region.boundary) if line.length < 1e-3 else line.length, 0)
        self.assertEqual(seams(words("nn", "work-sans").parts(EXACT).values()), [])


class Against(unittest.TestCase):
    def test_a_block_slides_until_it_overlaps(self) -> None:
        from tests.support import document
        from tinhalo.core.design.reading import parse_design

        for side, axis, sign in (("below", 1, -1), ("above", 1, 1), ("left", 0, -1), ("right", 0, 1)):
            for overlap in (0.0, 0.5, -1.0):
                data = document()
                data["art"].append(
                    {
                        "id": "b",
                        "text": "HI",
                        "font": "anton",
                        "against": {"art": "name", "side": side, "overlap": overlap},
                    }
                )
                built = build_of(parse_design(data), exact=False)
                first, second = (one.region.area for one in built.art)
                back = [0.0, 0.0]
                back[axis] = sign * overlap
                touching = translate(second, *back)
                with self.subTest(side=side, overlap=overlap):
                    self.assertLess(first.distance(touching), 1e-6)
                    self.assertLess(shapely.intersection(first, touching).area, 1e-6)
