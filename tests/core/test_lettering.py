"""Lettering against a rasteriser that reads the font itself, and against the font's own metrics."""

from __future__ import annotations

import unittest
from typing import Any

import freetype
import numpy as np
import shapely
from fontTools.ttLib import TTFont
from freetype.ft_enums.ft_load_flags import FT_LOAD_FLAGS

from tests.sampling import sampled
from tests.support import FONTS, LIBRARY, lettering, words
from tinhalo.core.artwork.lettering.face import Face, FontError
from tinhalo.core.artwork.lettering.lines import graphemes
from tinhalo.core.artwork.lettering.placed import PlacedGlyph
from tinhalo.core.artwork.lettering.shipped import shipped_fonts
from tinhalo.core.artwork.lettering.typeset import Typeset
from tinhalo.core.geometry.curves.precision import EXACT, SCREEN

ACCENTED = "Zoë Łukasz Ağça Čeněk"


class FilledArea(unittest.TestCase):
    """FreeType's anti-aliased rasteriser gives the covered area of each glyph; it reads the font by itself."""

    PPEM = 400

    def test_every_glyph_of_a_sample_in_every_font(self) -> None:
        worst = 0.0
        for font in sampled(shipped_fonts(), 1 / 10):
            raster = freetype.Face(str(font.path))
            raster.set_pixel_sizes(self.PPEM, self.PPEM)
            face = LIBRARY.face(font.id)
            scale = self.PPEM / face.units_per_em
            sample = [ord(c) for c in "Zoë Łukasz Ağça Čeněk & Bram 48"]
            for glyph in {g.glyph for g in face.shape(sample, [])} - {0}:
                raster.load_glyph(glyph, FT_LOAD_FLAGS["FT_LOAD_RENDER"] | FT_LOAD_FLAGS["FT_LOAD_NO_HINTING"])
                covered = np.array(raster.glyph.bitmap.buffer, float).sum() / 255
                if not covered:
                    continue
                placed = PlacedGlyph(0, face.glyph(glyph), np.array([[scale, 0, 0], [0, scale, 0]], float))
                off = abs(Typeset((placed,), (), ("x",)).region(EXACT).area.area / covered - 1)
                worst = max(worst, off)
                with self.subTest(font=font.id, glyph=glyph):
                    self.assertLess(off, 3e-3)


class Setting(unittest.TestCase):
    def test_accented_names_are_drawn_where_the_font_has_the_letters(self) -> None:
        for font in shipped_fonts():
            known = TTFont(font.path).getBestCmap() or {}
            lacking = [c for c in dict.fromkeys(ACCENTED) if ord(c) not in known]
            with self.subTest(font=font.id):
                self.assertEqual(list(words(ACCENTED, font.id).missing), lacking)
                if font.id != "graduate":
                    self.assertEqual(lacking, [])

    def test_width_follows_the_font_s_advances_and_kerning(self) -> None:
        """hmtx advances and the kern feature, read with fontTools: "AV" in Work Sans is kerned together."""
        font: Any = TTFont(next(f.path for f in shipped_fonts() if f.id == "work-sans"))
        names = font.getBestCmap()
        units = font["head"].unitsPerEm
        advance = sum(font["hmtx"][names[ord(c)]][0] for c in "HH") / units * 100
        pair = words("HHH", "work-sans", 100, align="left")
        placed = [g.matrix[0, 2] for g in pair.glyphs]
        self.assertAlmostEqual(placed[2] - placed[0], advance, places=6)
        kerned = words("AV", "work-sans", 100, align="left")
        self.assertLess(kerned.glyphs[1].matrix[0, 2], font["hmtx"]["A"][0] / units * 100 - 1)

    def test_size_is_the_em_in_millimetres(self) -> None:
        """OS/2 sCapHeight of the font file gives the height of H."""
        font: Any = TTFont(next(f.path for f in shipped_fonts() if f.id == "work-sans"))
        cap = font["OS/2"].sCapHeight / font["head"].unitsPerEm * 50
        bounds = lettering("H", "work-sans", 50).bounds
        assert bounds
        self.assertAlmostEqual(bounds[3] - bounds[1], cap, places=3)

    def test_overlapping_letters_become_one_outline(self) -> None:
        self.assertEqual(lettering("nn", "pacifico").pieces, 1)
        self.assertEqual(lettering("nn", "work-sans").pieces, 2)

    def test_lines_and_alignment(self) -> None:
        centres = {}
        for align in ("left", "center", "right"):
            region = lettering("MMMM\nM", "work-sans", 10, align=align, line_spacing=2)
            upper = shapely.intersection(region.area, shapely.box(-99, -1, 99, 99))
            lower = shapely.intersection(region.area, shapely.box(-99, -99, 99, -1))
            self.assertAlmostEqual(upper.bounds[1] - lower.bounds[1], 20, places=6)
            centres[align] = (upper.bounds, lower.bounds)
        left, right = centres["left"], centres["right"]
        self.assertAlmostEqual(left[0][0], left[1][0], places=6)
        self.assertAlmostEqual(right[0][2], right[1][2], places=6)
        u, v = centres["center"]
        self.assertAlmostEqual(u[0] + u[2], v[0] + v[2], places=3)

    def test_letter_spacing_and_nudges_move_what_follows(self) -> None:
        plain, spaced = words("abc", "work-sans"), words("abc", "work-sans", letter_spacing=2)
        moved = words("abc", "work-sans", align="left", nudges={"1": 1.5})
        left = words("abc", "work-sans", align="left")
        gaps = [b.matrix[0, 2] - a.matrix[0, 2] for a, b in zip(plain.glyphs, spaced.glyphs, strict=True)]
        self.assertTrue(np.allclose(np.diff(gaps), 2))
        shifts = [b.matrix[0, 2] - a.matrix[0, 2] for a, b in zip(left.glyphs, moved.glyphs, strict=True)]
        self.assertTrue(np.allclose(shifts, [0, 1.5, 1.5]))

    def test_a_letter_moves_alone_and_counts_as_seen(self) -> None:
        # Two code points make the first letter; the second one is index 1.
        text = "e\u0301x"
        self.assertEqual(graphemes(text), ["e\u0301", "x"])
        still, moved = (words(text, "work-sans", moves=m) for m in ({}, {"1": {"dy": 3, "scale": 2}}))
        self.assertTrue(np.allclose(still.glyphs[0].matrix, moved.glyphs[0].matrix))
        self.assertAlmostEqual(moved.glyphs[-1].matrix[1, 2] - still.glyphs[-1].matrix[1, 2], 3)
        self.assertAlmostEqual(moved.glyphs[-1].matrix[0, 0], 2 * still.glyphs[-1].matrix[0, 0])

    def test_place_scales_turns_then_moves(self) -> None:
        plain = lettering("F", "anton").area
        placed = lettering("F", "anton", place={"x": 5, "y": -2, "rotate": 90, "scale_x": 2, "scale_y": 0.5}).area
        self.assertAlmostEqual(placed.area, plain.area, delta=plain.area * 1e-4)
        expected = (5 - plain.bounds[3] / 2, -2 + plain.bounds[0] * 2, 5 - plain.bounds[1] / 2)
        self.assertTrue(np.allclose(placed.bounds[:3], expected, atol=0.01), (placed.bounds, expected))

    def test_missing_characters_are_named_and_the_rest_is_drawn(self) -> None:
        made = words("Fe字nna", "pacifico")
        self.assertEqual(made.missing, ("字",))
        self.assertAlmostEqual(made.region(EXACT).area.area, lettering("Fe nna").area.area, delta=8)

    def test_screen_precision_is_close_to_exact(self) -> None:
        for font in sampled(FONTS, 1 / 10):
            exact, screen = (lettering("Bram", font, precision=p).area.area for p in (EXACT, SCREEN))
            self.assertLess(abs(screen / exact - 1), 3e-3)


class FontFiles(unittest.TestCase):
    def test_at_least_fourteen_open_fonts_with_their_licences(self) -> None:
        fonts = shipped_fonts()
        self.assertGreaterEqual(len(fonts), 14)
        self.assertGreaterEqual({f.kind for f in fonts}, {"script", "heavy", "slab", "athletic", "rounded", "stencil"})
        for font in fonts:
            self.assertIn("SIL OPEN FONT LICENSE", font.licence.read_text("utf-8").upper())

    def test_damaged_files_are_refused_with_a_sentence(self) -> None:
        whole = shipped_fonts()[0].path.read_bytes()
        for data in (b"", b"not a font at all", whole[:40], b"\x00\x01\x00\x00" + b"\xff" * 200):
            with self.assertRaisesRegex(FontError, "Mine cannot be read"):
                Face(data, "Mine")

    def test_an_unknown_font_is_named(self) -> None:
        with self.assertRaisesRegex(FontError, "no font “comic”"):
            LIBRARY.face("comic")
