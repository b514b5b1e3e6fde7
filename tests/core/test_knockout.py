"""Finding a place for a knockout, against a full search that shares none of its shortcuts."""

from __future__ import annotations

import unittest
from typing import Any

import numpy as np
import shapely
from shapely import box
from shapely.affinity import translate

from tests.sampling import FUZZ, sampled
from tests.support import LIBRARY, lettering
from tinhalo.core.design.problem import DesignError
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.build import build
from tinhalo.core.engine.knockout import seek_place, with_art_scaled
from tinhalo.core.findings.mends.changes import mended
from tinhalo.core.findings.mends.mend import FindPlace as FindPlaceChange
from tinhalo.core.findings.mends.mend import Mend, ScaleArt
from tinhalo.core.findings.survey import findings_of
from tinhalo.core.geometry.curves.precision import EXACT, SCREEN
from tinhalo.core.geometry.placement.find_place import REACH, PlaceFound, SliverLimits, covers, find_place
from tinhalo.core.geometry.regions.offset import offset
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.runtime.memo import Memo


def count(block: Region, channel: Region, dx: float, dy: float, sliver: SliverLimits) -> int:
    """Slivers at one place: the whole difference, and each piece's width by its widest circle."""
    left = shapely.difference(block.area, translate(channel.area, dx, dy))
    found = 0
    for piece in shapely.get_parts(left):
        if piece.area >= 1e-4:
            narrow = piece.area < piece.length and 2 * shapely.maximum_inscribed_circle(piece).length < sliver.width
            found += piece.area < sliver.area or narrow
    return found


def full_search(block: Region, channel: Region, ends: np.ndarray, sliver: SliverLimits) -> PlaceFound:
    """Every place within 6 mm on a grid of 0.25 mm, as the search's own rule has it."""
    grid = [(x / 4, y / 4) for x in range(-24, 25) for y in range(-24, 25)]
    grid.sort(key=lambda at: (at[0] ** 2 + at[1] ** 2, at[0], at[1]))
    covered = [at for at in grid if shapely.contains_xy(block.area, *(ends + at).T).all()]
    counts = [(at, count(block, channel, *at, sliver)) for at in covered or grid]
    around = [(x, y) for x in (-0.1, 0, 0.1) for y in (-0.1, 0, 0.1) if x or y]
    clean = [at for at, slivers in counts if slivers == 0]
    for x, y in clean:
        if all(count(block, channel, x + a, y + b, sliver) == 0 for a, b in around):
            return PlaceFound(x, y, 0, True, bool(covered))
    if clean:
        return PlaceFound(*clean[0], 0, False, bool(covered))
    fewest = min(slivers for _, slivers in counts)
    return PlaceFound(*next(at for at, slivers in counts if slivers == fewest), fewest, False, bool(covered))


def knockout(block_font: str, font: str, text: str = "Fenna") -> tuple[Region, Region, np.ndarray]:
    """A block word, the channel of a name across its middle, and the name's ends."""
    block = lettering("KITES", block_font, 50, SCREEN)
    name = lettering(text, font, 20, SCREEN)
    (x0, y0, x1, y1), (a0, b0, a1, b1) = block.area.bounds, name.area.bounds
    name = name.moved((x0 + x1 - a0 - a1) / 2, (y0 + y1 - b0 - b1) / 2)
    points = shapely.get_coordinates(name.area)
    ends = points[[points[:, 0].argmin(), points[:, 0].argmax()]]
    return block, offset(name, 1.5, SCREEN), ends


class FindPlace(unittest.TestCase):
    def test_against_a_full_search(self) -> None:
        """The other pairs of fonts are compared in the benchmarks: a full search takes many seconds."""
        pairs = (
            ("anton", "pacifico", SliverLimits(6, 1)),
            ("alfa-slab-one", "kaushan-script", SliverLimits()),
            ("bebas-neue", "allura", SliverLimits()),
            ("work-sans", "pacifico", SliverLimits(6, 1)),
            ("bevan", "lobster", SliverLimits(6, 1)),
            ("baloo-2", "allura", SliverLimits()),
        )
        for block_font, font, sliver in sampled(pairs, 1 / 3):
            block, channel, ends = knockout(block_font, font)
            with self.subTest(block=block_font, name=font):
                self.assertEqual(find_place(block, channel, ends, sliver), full_search(block, channel, ends, sliver))

    def test_a_bar_that_leaves_a_strip_is_moved_just_far_enough(self) -> None:
        """A bar 1.2 mm under the edge of a sheet leaves too narrow a strip: 0.5 mm lower is the first steady place."""
        sheet, bar = Region.of(box(0, 0, 100, 40)), Region.of(box(-5, 30, 105, 38.8))
        found = find_place(sheet, bar, np.array([[50, 34]]), SliverLimits())
        self.assertEqual(found, PlaceFound(0, -0.5, 0, True, True))

    def test_where_there_is_none_the_fewest_slivers_are_told(self) -> None:
        comb = Region.of(shapely.union_all([box(10 * i, 0, 10 * i + 4, 40) for i in range(3)]))
        bars = Region.of(shapely.union_all([box(-9, 2.5 * i, 60, 2.5 * i + 1) for i in range(-4, 22)]))
        found = find_place(comb, bars, np.zeros((0, 2)), SliverLimits(area=15, width=0.5))
        self.assertFalse(found.steady)
        self.assertGreater(found.slivers, 20)


def falls(area: shapely.MultiPolygon, by: float) -> int:
    """How many more parts pieces fall into once ``by`` mm is taken off all edges."""
    parts = [[one for one in shapely.get_parts(piece.buffer(-by)) if one.area > 1e-3] for piece in area.geoms]
    return sum(max(0, len(one) - 1) for one in parts)


def document(steps: list[dict[str, Any]] | None = None, **art: Any) -> dict[str, Any]:
    cut = {"op": "subtract", "operand": {"from": ["name"], "steps": [{"op": "offset", "by": 1.5}]}}
    return {
        "format": "tin-halo/1",
        "art": [
            {"id": "block", "kind": "lettering", "text": "KITES", "font": "anton", "size": 60},
            {"id": "name", "kind": "lettering", "text": "Fenna", "font": "pacifico", "size": 20}
            | {"place": {"y": 12}}
            | art,
        ],
        "layers": [{"id": "word", "recipe": {"from": ["block"], "steps": steps or [cut]}}],
    }


class Documents(unittest.TestCase):
    def seek(self, data: dict[str, Any], step: int = 0) -> Any:
        return seek_place(parse_design(data), LIBRARY, "word", step, SliverLimits(6, 1), Memo())

    def test_the_words_are_moved_and_a_second_search_leaves_them_there(self) -> None:
        data = document()
        sought = self.seek(data)
        self.assertEqual(sought.art, "name")
        self.assertEqual(sought.found.slivers, 0, sought.sentence)
        data["art"][1]["place"] = {"x": sought.found.dx, "y": 12 + sought.found.dy}
        again = self.seek(data)
        self.assertEqual((again.found.dx, again.found.dy, again.now), (0, 0, 0))
        self.assertIn("stands well", again.sentence)

    def test_what_is_promised_holds_for_the_outlines_that_leave(self) -> None:
        """By erosion: no piece is too small, vanishes, or falls apart that did not before it was cut."""
        clean = 0
        cases = (
            ("anton", "kaushan-script", "Fenna"),
            ("bevan", "pacifico", "Fenna"),
            ("anton", "allura", "Fenna"),
            ("bevan", "dancing-script", "Merle"),
            ("work-sans", "courgette", "Ingrid"),
        )
        for block, font, text in sampled(cases, 2 / 5):
            data = document(font=font, text=text)
            data["art"][0]["font"] = block
            data["layers"][0]["material"] = "vinyl"
            memo = Memo()
            sought = seek_place(parse_design(data), LIBRARY, "word", 0, SliverLimits(4, 0.8), memo)
            if not sought.found.clean:
                continue
            clean += 1
            data["art"][1]["place"] = {"x": sought.found.dx, "y": 12 + sought.found.dy}
            made = build(parse_design(data), LIBRARY, exact=False, precision=EXACT, memo=memo)
            (cut,), letters = [one.region.area for one in made.layers], made.art[0].region.area
            with self.subTest(block=block, font=font):
                self.assertGreater(min(piece.area for piece in cut.geoms), 4)
                self.assertFalse([piece for piece in cut.geoms if piece.buffer(-0.38).is_empty])
                self.assertLessEqual(falls(cut, 0.38), falls(letters, 0.38))
                findings = findings_of(parse_design(data), LIBRARY, memo)
                self.assertFalse(
                    [f.sentence for f in findings if f.layer == "word" and f.kind in ("sliver", "thin_spot")]
                )
        self.assertGreaterEqual(clean, 3 if FUZZ else 0)

    def test_words_too_long_to_be_covered_are_offered_the_largest_size_that_is(self) -> None:
        """Against a search in steps of half a per cent; and one click sets that size and finds a place."""
        data = document(font="pacifico", text="Fenna")
        data["art"][0] |= {"font": "alfa-slab-one"}
        design, memo = parse_design(data), Memo()
        find = FindPlaceChange(layer="word", step=0, least_area=4, least_width=0.8)
        first = mended(design, Mend(title="", changes=(find,)), LIBRARY, memo)
        assert first.offer
        (smaller, again) = first.offer.changes
        assert isinstance(smaller, ScaleArt)
        self.assertEqual(again, find)
        block = build(design, LIBRARY, exact=False, memo=memo).art[0].region
        for factor in np.arange(1, 0.5, -0.005):
            made = build(with_art_scaled(first.design, "name", float(factor)), LIBRARY, exact=False, memo=memo)
            if covers(block, made.art[1].drawn.ends, REACH):
                self.assertAlmostEqual(smaller.factor / factor, 1, delta=0.02)
                break
        else:
            self.fail("no size is covered")
        second = mended(first.design, first.offer, LIBRARY, memo)
        self.assertIsNone(second.offer)
        self.assertNotIn("too long", second.told or "too long")

    def test_what_cannot_be_placed_is_told(self) -> None:
        both = {"op": "subtract", "operand": {"from": ["name", "block"]}}
        own = {"op": "subtract", "operand": {"from": ["block"]}}
        for data, step, said in (
            (document([both]), 0, "several pieces of art"),
            (document([own]), 0, "the same art"),
            (document([{"op": "offset", "by": 1}]), 0, "cut away"),
            (document(), 3, "no step number 4"),
            (document(against={"art": "block"}), 0, "set by other art"),
        ):
            with self.assertRaises(DesignError) as caught:
                self.seek(data, step)
            self.assertIn(said, str(caught.exception))
