"""Benchmarks, as ratios against the bare library calls in the same run. ``make bench`` prints them; nothing fails.

Engine: a cold build of each demo design against shaping, flattening, union and offset called directly; a changed
distance; the outlines that leave. Browser: from an input event to the frame that shows the new outline.
"""

from __future__ import annotations

import gc
import json
import time
from collections.abc import Callable
from typing import Any

import numpy as np
import pyvoronoi
import shapely
import uharfbuzz as hb
from shapely import Polygon

from tinhalo.core.artwork.lettering import close_up
from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.artwork.lettering.settings import Join
from tinhalo.core.artwork.lettering.shipped import ShippedLibrary, shipped_fonts
from tinhalo.core.artwork.lettering.typeset import typeset
from tinhalo.core.design.design import Design
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.build import build
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.curves.precision import EXACT, SCREEN, Precision
from tinhalo.core.geometry.exact.recover import trace
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.geometry.strokes.thicken import thicken_thin
from tinhalo.core.geometry.strokes.widths import measure
from tinhalo.core.geometry.warm import warm
from tinhalo.core.recipe.fill_holes_step import FillHoles
from tinhalo.core.recipe.offset_step import Offset
from tinhalo.core.runtime.memo import Memo
from tinhalo.demo.seed import demo_designs

LIBRARY = ShippedLibrary()


def fastest(*runs: Callable[[], object], times: int = 12) -> list[float]:
    """Milliseconds of the fastest of several rounds of each: the machine is noisy, and noise only adds.

    They take turns, so that a busy minute of the machine meets all of them.
    """
    best = [float("inf")] * len(runs)
    for _ in range(times):
        for index, run in enumerate(runs):
            gc.collect()
            start = time.perf_counter()
            run()
            best[index] = min(best[index], (time.perf_counter() - start) * 1000)
    return best


class Bare:
    """The library calls a design needs, and nothing else: HarfBuzz, numpy, GEOS."""

    def __init__(self, design: Design, precision: Precision) -> None:
        self.design, self.precision = design, precision
        paths = {f.id: f.path for f in shipped_fonts()}
        self.blocks = [art for art in design.art if isinstance(art, Lettering)]
        self.fonts = {art.font: hb.Font(hb.Face(paths[art.font].read_bytes())) for art in self.blocks}
        self.glyphs: dict[tuple[str, int], Outline] = {}

    def words(self) -> dict[str, shapely.Geometry]:
        found: dict[str, shapely.Geometry] = {}
        for art in self.blocks:
            font = self.fonts[art.font]
            buffer = hb.Buffer()
            buffer.add_codepoints([ord(c) for c in art.text])
            buffer.guess_segment_properties()
            hb.shape(font, buffer)
            scale = art.size / LIBRARY.face(art.font).units_per_em
            outlines: list[Outline] = []
            x = 0
            for info, place in zip(buffer.glyph_infos or [], buffer.glyph_positions or [], strict=True):
                outline = LIBRARY.face(art.font).glyph(info.codepoint).outline
                matrix = np.array([[scale, 0, (x + place.x_offset) * scale], [0, scale, 0]])
                outlines.append(outline.transformed(matrix))
                x += place.x_advance
            rings = Outline.joined(outlines).flattened(self.precision.chord, self.precision.turn)
            areas = [Polygon(ring) for ring in rings]
            direction = [shapely.is_ccw(area.exterior) for area in areas]
            solid = [a for a, ccw in zip(areas, direction, strict=True) if not ccw]
            holes = [a for a, ccw in zip(areas, direction, strict=True) if ccw]
            found[art.id] = shapely.difference(shapely.union_all(solid), shapely.union_all(holes))
        return found

    def run(self) -> None:
        made = self.words()
        for layer in self.design.layer_order():
            region = shapely.union_all([made[name] for name in layer.recipe.sources])
            for step in layer.recipe.steps:
                if isinstance(step, Offset):
                    join: Any = {"round": "round", "miter": "mitre", "bevel": "bevel"}[step.corners]
                    quarter = self.precision.quarter_segments(abs(step.by))
                    region = shapely.buffer(
                        region, step.by, quad_segs=quarter, join_style=join, mitre_limit=step.miter_limit
                    )
            made[layer.id] = region


def engine() -> None:
    print("Cold build against the bare calls it needs (shape, flatten, union, offset)")
    for id, design in demo_designs().items():
        if any(not isinstance(step, Offset | FillHoles) for one in design.layers for step in one.recipe.steps):
            # The starters' own benchmark times the calls of all steps.
            continue
        for name, precision in (("screen", SCREEN), ("exact", EXACT)):
            bare = Bare(design, precision)
            bare.run()
            floor, regions = fastest(
                bare.run, lambda d=design, p=precision: build(d, LIBRARY, exact=False, memo=Memo(), precision=p)
            )
            print(f"  {id:20} {name:7} bare {floor:6.1f} ms   build {regions:6.1f} ms   ratio {regions / floor:4.2f}")


def one_distance() -> None:
    print("One changed distance against a cold build (screen), and what it recomputes")
    for id, design in demo_designs().items():
        data = json.loads(design.model_dump_json(by_alias=True))
        step = next((s for one in data["layers"] for s in one["recipe"]["steps"] if "by" in s), None)
        if step is None:
            continue
        memo = Memo()
        (cold,) = fastest(lambda d=design: build(d, LIBRARY, exact=False, memo=Memo()))
        build(design, LIBRARY, exact=False, memo=memo)
        before = memo.computed
        step["by"] += 0.1
        changed = parse_design(data)
        start = time.perf_counter()
        build(changed, LIBRARY, exact=False, memo=memo)
        took = (time.perf_counter() - start) * 1000
        print(f"  {id:20} cold {cold:6.1f} ms   change {took:6.1f} ms   results recomputed {memo.computed - before}")


def outlines() -> None:
    print("Outlines that leave, warm, per design")
    for id, design in demo_designs().items():
        regions = [b.region for b in build(design, LIBRARY, memo=Memo()).layers]
        (took,) = fastest(lambda r=regions: [trace(one) for one in r])
        print(f"  {id:20} {took:6.1f} ms for {len(regions)} layers")


def lettering() -> None:
    """A delicate line of 17 letters, and a name of 12: what is told of words and done for them."""
    name = Lettering(id="name", text="Wilhelmijnad", font="allura", size=24)
    face = LIBRARY.face("allura")

    def closed_up() -> None:
        close_up.forget()
        typeset(name.model_copy(update={"join": Join()}), face)

    plain, joined = fastest(lambda: typeset(name, face), closed_up)
    print(f"Closing up 12 letters    set {plain:6.1f} ms   set and closed up, cold {joined:6.1f} ms")
    region = typeset(name.model_copy(update={"text": "Ottoline and Fenna"}), face).region(EXACT)
    diagram, cold = fastest(lambda: bare_diagram(region), lambda: measure(region), times=4)
    widths = measure(region)
    again, thin = fastest(
        lambda: widths.strokes.thin_strokes(0.8), lambda: thicken_thin(region, measure, 0.8, 0.3, EXACT), times=3
    )
    print(f"Widths of 17 letters     bare Voronoi diagram {diagram:6.1f} ms   measured {cold:6.1f} ms", end="")
    print(f"   ratio {cold / diagram:4.2f}   another least width {again:6.1f} ms   thickened where thin {thin:6.1f} ms")


def bare_diagram(region: Region) -> None:
    diagram = pyvoronoi.Pyvoronoi(10_000)
    for _, ring in Region.of(shapely.simplify(region.area, 0.004)).rings():
        points = ring.round(4).tolist()
        for a, b in zip(points, points[1:] + points[:1], strict=True):
            diagram.AddSegment([a, b])
    diagram.Construct()
    _ = (diagram.GetVertices(), [diagram.GetEdge(k) for k in range(diagram.CountEdges())], diagram.GetCells())


def main() -> None:
    warm()
    engine()
    one_distance()
    outlines()
    lettering()


if __name__ == "__main__":
    main()
