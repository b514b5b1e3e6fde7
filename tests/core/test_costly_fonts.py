"""Fonts that are sound, and made to cost time and memory: each is refused in a sentence, or set as it is."""

from __future__ import annotations

import io
import math
import random
import unittest
from typing import Any

from fontTools.fontBuilder import FontBuilder
from fontTools.pens.ttGlyphPen import TTGlyphPen
from fontTools.ttLib.tables._g_l_y_f import Glyph, GlyphComponent

from tests.sampling import sampled
from tinhalo.core.artwork.lettering import vet
from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.artwork.lettering.face import Face, FontError
from tinhalo.core.artwork.lettering.sampling import sample
from tinhalo.core.artwork.lettering.typeset import typeset
from tinhalo.core.geometry.curves.precision import EXACT

WORDS = "Wilhelmijn and Ottoline of the Launch Field, kite by kite"


def font(glyph: Any, advance: int = 600, parts: dict[str, Any] | None = None) -> bytes:
    """A font that draws every letter as this glyph; ``parts`` are those it is composed of, by name."""
    glyphs = {".notdef": TTGlyphPen(None).glyph(), **(parts or {}), "one": glyph}
    builder = FontBuilder(1000, isTTF=True)
    # What they come to does not fit into the font's own table of limits.
    builder.font.recalcBBoxes = False
    builder.setupGlyphOrder(list(glyphs))
    builder.setupCharacterMap(dict.fromkeys((*range(33, 127), *range(192, 256)), "one"))
    builder.setupGlyf(glyphs)
    builder.setupHorizontalMetrics(dict.fromkeys(glyphs, (advance, 0)))
    builder.setupHorizontalHeader(ascent=800, descent=-200)
    builder.setupNameTable({"familyName": "Made Up", "styleName": "Regular"})
    builder.setupOS2()
    builder.setupPost()
    made = io.BytesIO()
    builder.save(made)
    return made.getvalue()


def polygons(rings: list[list[tuple[int, int]]]) -> Any:
    pen = TTGlyphPen(None)
    for ring in rings:
        pen.moveTo(ring[0])
        for point in ring[1:]:
            pen.lineTo(point)
        pen.closePath()
    return pen.glyph()


def bars(count: int) -> Any:
    """So many bars across and as many upright: they cross in four times the square of their number."""
    step = 1000 // count
    half = max(1, step // 2)
    levels = [(k * step, k * step + half) for k in range(count)]
    across = [[(0, low), (1000, low), (1000, high), (0, high)] for low, high in levels]
    upright = [[(y, x) for x, y in reversed(ring)] for ring in across]
    return polygons(across + upright)


def dots(count: int) -> Any:
    side = math.ceil(math.sqrt(count))
    step = max(2, 1000 // side)
    places = [(step * (k % side), step * (k // side)) for k in range(count)]
    half = step // 2
    return polygons([[(x, y), (x, y + half), (x + half, y + half), (x + half, y)] for x, y in places])


def star(points: int) -> Any:
    """One contour that crosses itself all over."""
    ring = [round(points * 0.49) * k % points for k in range(points)]
    turn = 2 * math.pi / points
    return polygons([[(round(500 + 500 * math.cos(turn * k)), round(500 + 500 * math.sin(turn * k))) for k in ring]])


def composed(levels: int, times: int, inner: Any) -> tuple[Any, dict[str, Any]]:
    """A glyph of ``times`` copies of one of as many copies, and so on."""
    parts = {"part0": inner}
    for level in range(1, levels + 1):
        glyph = Glyph()
        glyph.numberOfContours = -1
        glyph.components = []
        for k in range(times):
            part = GlyphComponent()
            part.glyphName = f"part{level - 1}"
            part.x, part.y, part.flags = 7 * k, 3 * level, 0x0002
            glyph.components.append(part)
        parts[f"part{level}"] = glyph
    return parts.pop(f"part{levels}"), parts


def costly(rng: random.Random) -> bytes:
    """One of many: a count that no lettering has, or just so much that it passes."""
    advance = rng.choice([0, 0, 3, 600])
    match rng.randrange(4):
        case 0:
            return font(bars(rng.choice([4, 7, 10, 60, 250])), advance)
        case 1:
            return font(dots(rng.choice([200, 1_400, 3_000, 16_000])), advance)
        case 2:
            return font(star(rng.choice([31, 81, 151, 2_001])), advance)
        case _:
            glyph, parts = composed(rng.randint(1, 8), rng.choice([2, 5, 12]), dots(rng.choice([1, 9])))
            return font(glyph, advance, parts)


def judged(data: bytes) -> str:
    """What becomes of it: why it is refused, or that it is set."""
    try:
        (found,) = vet.vet(data, "made-up.ttf")
        face = Face(found.data, "Made Up")
        sample(WORDS, "own-1", 24, face)
        made = typeset(Lettering(id="words", text=WORDS, font="own-1", size=24), face)
        made.check_crossings(made.parts(EXACT))
        made.region(EXACT)
    except FontError as error:
        return str(error)
    return "set"


class Costly(unittest.TestCase):
    def test_what_no_lettering_has_is_refused_and_told(self) -> None:
        told = "made-up.ttf cannot be used: "
        cases = {
            f"{told}the outlines of a letter cross in more than 300 places.": font(bars(60)),
            f"{told}a letter of it has more than 4,000 curves.": font(dots(3_000)),
            f"{told}a letter of it has more than 1,000 outlines.": font(polygons([[(0, 0), (0, 9), (9, 9)]] * 1_001)),
        }
        for sentence, data in cases.items():
            self.assertEqual(judged(data), sentence)

    def test_what_unfolds_without_end_is_refused(self) -> None:
        glyph, parts = composed(6, 8, dots(4))
        self.assertIn("cannot be used", judged(font(glyph, 600, parts)))

    def test_letters_upon_each_other_are_told_with_the_words(self) -> None:
        told = judged(font(bars(7), 0))
        self.assertIn("cross each other in more than 2,000 places: choose another font for them.", told)

    def test_what_a_worn_font_has_is_set(self) -> None:
        for glyph, advance in sampled((("dots", 1_000), ("bars", 1_100)), 1 / 2):
            worn = dots(400) if glyph == "dots" else bars(7)
            self.assertEqual(judged(font(worn, advance)), "set")

    def test_made_at_random(self) -> None:
        for seed in sampled(range(30), 1 / 10):
            told = judged(costly(random.Random(seed)))
            self.assertTrue(told == "set" or told.endswith((".", "them.")), told)


if __name__ == "__main__":
    unittest.main()
