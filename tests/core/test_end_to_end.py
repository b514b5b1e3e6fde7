"""From a design file to the files that leave, against a second way of computing the same.

The reference reads the font with fontTools, shapes with HarfBuzz, fills each glyph by winding numbers, unites and
buffers with GEOS at a hundred times finer arcs, and shares no code with the engine. The files are
read with svgelements.
"""

from __future__ import annotations

import json
import tempfile
import unittest
import xml.etree.ElementTree as ET
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np
import shapely
import svgelements
import uharfbuzz as hb
from fontTools.pens.basePen import BasePen
from fontTools.ttLib import TTFont
from shapely import LinearRing, MultiPolygon, Polygon

from tests.sampling import sampled
from tests.support import build_of, edge_distances
from tinhalo.core.artwork.lettering.shipped import ShippedFont, shipped_fonts
from tinhalo.core.design.reading import parse_design
from tinhalo.core.output.pack import pack_files

TEXT, SIZE = "Ottol", 24


class Dense(BasePen):
    """Draws contours as points, 40 to a curve."""

    def __init__(self, glyphs: Any) -> None:
        super().__init__(glyphs)
        self.rings: list[list[tuple[float, float]]] = []

    def _moveTo(self, pt: Any) -> None:  # noqa: N802
        self.rings.append([pt])

    def _lineTo(self, pt: Any) -> None:  # noqa: N802
        self.rings[-1].append(pt)

    def _curveToOne(self, pt1: Any, pt2: Any, pt3: Any) -> None:  # noqa: N802
        start = self.rings[-1][-1]
        for t in np.linspace(0, 1, 41)[1:]:
            u = 1 - t
            weights = (u**3, 3 * u * u * t, 3 * u * t * t, t**3)
            x, y = (sum(w * p[k] for w, p in zip(weights, (start, pt1, pt2, pt3), strict=True)) for k in (0, 1))
            self.rings[-1].append((x, y))


def filled(rings: list[np.ndarray]) -> Iterator[Polygon]:
    lines = shapely.union_all([LinearRing(r) for r in rings])
    for face in shapely.get_parts(shapely.polygonize(shapely.get_parts(lines))):
        inside = face.representative_point()
        turned = 0.0
        for ring in rings:
            to = ring - [inside.x, inside.y]
            angle = np.arctan2(to[:, 1], to[:, 0])
            step = np.diff(np.append(angle, angle[0]))
            turned += ((step + np.pi) % (2 * np.pi) - np.pi).sum()
        if round(turned / (2 * np.pi)) != 0:
            yield face


def reference(font: ShippedFont) -> Polygon | MultiPolygon:
    face = hb.Face(font.path.read_bytes())
    buffer = hb.Buffer()
    buffer.add_codepoints([ord(c) for c in TEXT])
    buffer.guess_segment_properties()
    hb.shape(hb.Font(face), buffer)
    table = TTFont(font.path)
    glyphs, names = table.getGlyphSet(), table.getGlyphOrder()
    places = buffer.glyph_positions or []
    x = -sum(p.x_advance for p in places) / 2
    found: list[Polygon] = []
    for info, place in zip(buffer.glyph_infos or [], places, strict=True):
        pen = Dense(glyphs)
        glyphs[names[info.codepoint]].draw(pen)
        shift = np.array([x + place.x_offset, place.y_offset])
        found += filled([(np.array(r, float) + shift) * SIZE / face.upem for r in pen.rings if len(r) > 2])
        x += place.x_advance
    united = shapely.union_all(found)
    assert isinstance(united, Polygon | MultiPolygon)
    return united


def read_file(text: str) -> list[np.ndarray]:
    """Rings of all paths, 40 points to a curve, in the design's coordinates."""
    rings: list[np.ndarray] = []
    for path in ET.fromstring(text).iter("{http://www.w3.org/2000/svg}path"):
        for sub in svgelements.Path(path.get("d")).as_subpaths():
            points: list[np.ndarray] = []
            for segment in svgelements.Path(sub).segments():
                if not isinstance(segment, svgelements.Move):
                    straight = isinstance(segment, svgelements.Line | svgelements.Close)
                    points.append(segment.npoint(np.linspace(0, 1, 1 if straight else 40, endpoint=False)))
            rings.append(np.concatenate(points) * (1, -1))
    return rings


class AgainstAnotherReading(unittest.TestCase):
    STEPS = (("face", 0.0), ("wide", 4.0), ("slim", 1.0), ("thin", -0.2))

    def test_every_font(self) -> None:
        worst_area = worst_distance = 0.0
        for font in sampled(shipped_fonts(), 1 / 10):
            layers: list[dict[str, Any]] = [
                {"id": id, "recipe": {"from": ["n"], "steps": [{"op": "offset", "by": by}] if by else []}}
                for id, by in self.STEPS
            ]
            art = {"id": "n", "text": TEXT, "font": font.id, "size": SIZE}
            made = build_of(parse_design({"format": "tin-halo/1", "art": [art], "layers": layers}))
            files = pack_files(made)
            told = json.loads(files["manifest.json"])["layers"]
            base = reference(font)
            for (id, by), layer in zip(self.STEPS, told, strict=True):
                wanted = base.buffer(by, quad_segs=200) if by else base
                parts = shapely.get_parts(wanted)
                with self.subTest(font=font.id, layer=id):
                    holes = sum(len(p.interiors) for p in parts)
                    self.assertEqual((layer["pieces"], layer["holes"]), (len(parts), holes))
                    area = abs(layer["area_mm2"] / wanted.area - 1)
                    # A quarter of a millimetre of stroke is left in the finest scripts: there a micrometre counts.
                    self.assertLess(area, 2e-3 if id == "thin" else 6e-4)
                    rings = [np.asarray(r.coords)[:-1] for p in parts for r in (p.exterior, *p.interiors)]
                    read = read_file(files[layer["file"]].decode())
                    distances = np.concatenate([edge_distances(rings, read), edge_distances(read, rings)])
                    # Where two offset fronts meet at a hair's angle, the end of the slit between them is ill-defined.
                    self.assertLess(np.quantile(distances, 0.998), 0.02)
                    self.assertLess(distances.max(), 0.06)
                    worst_area = max(worst_area, area)
                    worst_distance = max(worst_distance, float(distances.max()))

    def test_the_command_writes_the_same_files(self) -> None:
        from tinhalo.cli import main

        design = Path(__file__).parents[2] / "src/tinhalo/demo/designs/bram-kite-tag.json"
        with tempfile.TemporaryDirectory() as folder:
            self.assertEqual(main(["pack", str(design), "--out", folder]), 0)
            expected = pack_files(build_of(parse_design(json.loads(design.read_text("utf-8")))))
            self.assertEqual({p.name: p.read_bytes() for p in Path(folder).iterdir()}, expected)
