"""SVG files read, against resvg's pictures of them, our own files, and closed formulas."""

from __future__ import annotations

import io
import unittest

import numpy as np
import resvg_py
from PIL import Image

from tests.core.svg_cases import CASES
from tinhalo.core.artwork.drawings.drawing_file import DrawingFile
from tinhalo.core.artwork.drawings.svg_file import MM, read_svg
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.output.svg_path import curves

SIDE = 500
OPEN = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 100 100"'


def drawing(inner: str, size: str = 'width="100" height="100"') -> str:
    return f"{OPEN} {size}>{inner}</svg>"


def coverage(svg: str) -> np.ndarray:
    """How much of each pixel is painted, by resvg."""
    png = resvg_py.svg_to_bytes(svg_string=svg, width=SIDE, height=SIDE, dpi=96)
    return np.asarray(Image.open(io.BytesIO(bytes(png))).convert("RGBA"))[..., 3] / 255


def redrawn(read: DrawingFile) -> str:
    """What was read, drawn as one black path: plain outlines together fill their union by the non-zero rule."""
    outline = Outline.joined([one.painted for one in read.elements if not one.hidden])
    pixels = outline.transformed(np.array([[1 / MM, 0, 0], [0, 1 / MM, 0]]))
    return drawing(f'<path d="{curves(pixels.contours())}"/>') if len(outline.segments) else drawing("")


class AsRendered(unittest.TestCase):
    def test_each_case_covers_what_resvg_paints(self) -> None:
        count = 0
        for chapter, cases in CASES.items():
            for case in cases:
                count += 1
                with self.subTest(chapter, case=case):
                    wanted = coverage(drawing(case))
                    found = coverage(redrawn(read_svg(drawing(case).encode())))
                    self.assertGreater(wanted.sum() + ("c" in case), 0)
                    self.assertLess(float(np.abs(wanted - found).mean()), 0.003)
        self.assertGreaterEqual(count, 120)
