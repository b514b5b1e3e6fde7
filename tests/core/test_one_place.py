"""A mend for one place changes that place, and leaves all others as they are."""

from __future__ import annotations

import unittest
from typing import Any

import numpy as np
import shapely
from shapely import box

from tests.core.test_advice import designed, of_kind, plate, regions
from tests.support import LIBRARY
from tinhalo.core.design.design import Design
from tinhalo.core.findings.causes import causes_of
from tinhalo.core.findings.finding import Finding
from tinhalo.core.findings.mends.changes import mended
from tinhalo.core.findings.survey import findings_of
from tinhalo.core.geometry.regions.at_places import changed_at
from tinhalo.core.geometry.regions.region import Region
from tinhalo.core.runtime.memo import Memo


def one_after_the_other(design: Design, kind: str) -> list[tuple[int, float]]:
    """How many findings of a kind are left after each mend for one place, and what area that changed."""
    steps: list[tuple[int, float]] = []
    while found := of_kind(design, kind):
        here = next(mend for mend in found[0].mends if mend.here or len(found) == 1)
        before = regions(design)["layer"].area
        design = mended(design, here, LIBRARY, Memo())
        after = regions(design)["layer"].area
        steps.append((len(of_kind(design, kind)), shapely.symmetric_difference(before, after).area))
    return steps


class OnePlace(unittest.TestCase):
    def test_only_the_changes_at_a_place_are_kept_and_leave_no_slit(self) -> None:
        before = Region.of(box(0, 0, 100, 10))
        # Two corners filled outside, two bites taken off: all as far from each other as can be.
        after = Region.of(
            shapely.union_all([box(0, 0, 100, 10), box(10, 10, 12, 14), box(80, 10, 82, 14)])
            - box(30, 0, 33, 3)
            - box(60, 0, 63, 3)
        )
        for place, more in (((11, 12), box(10, 10, 12, 14)), ((81, 10), box(80, 10, 82, 14))):
            made = changed_at(before, after, [place]).area
            self.assertAlmostEqual(made.symmetric_difference(before.area.union(more)).area, 0, places=9)
            self.assertEqual(1, len(made.geoms))
        made = changed_at(before, after, [(31.5, 4)], reach=1.5).area
        self.assertAlmostEqual(made.symmetric_difference(before.area - box(30, 0, 33, 3)).area, 0, places=9)
        self.assertIs(before, changed_at(before, after, [(50, 5)]))
        self.assertIs(before, changed_at(before, after, []))

    def test_gaps_are_widened_one_by_one(self) -> None:
        slits = [
            {"op": "subtract", "operand": {"from": ["t"], "steps": [_bar(0.15), {"op": "place", "dx": dx}]}}
            for dx in (-15, 0, 15)
        ]
        design = designed("i", "anton", 20, [("layer", "vinyl", [plate(60, 30), *slits])])
        counts, areas = zip(*one_after_the_other(design, "tight_gap"), strict=True)
        self.assertEqual((2, 1, 0), counts)
        # Each slit of 0.15 x 20 mm becomes 0.31 wide, with a round end on both: 20 x 0.16 mm² and a little.
        np.testing.assert_allclose(areas, 3.2, atol=0.1)

    def test_corners_are_rounded_one_by_one(self) -> None:
        hole = {"op": "subtract", "operand": {"from": ["t"], "steps": [plate(20, 20)]}}
        design = designed("i", "anton", 20, [("layer", "board-12", [plate(60, 60), hole])])
        found = of_kind(design, "sharp_corner")
        self.assertEqual(4, len(found))
        radius = found[0].limit or 0
        counts, areas = zip(*one_after_the_other(design, "sharp_corner"), strict=True)
        self.assertEqual((3, 2, 1, 0), counts)
        # A rounded square corner: r² (1 - pi / 4).
        np.testing.assert_allclose(areas, radius**2 * (1 - np.pi / 4), rtol=0.02)

    def test_closed_holes_are_kept_open_one_by_one(self) -> None:
        holes = [
            {"op": "subtract", "operand": {"from": ["t"], "steps": [plate(wide, wide), {"op": "place", "dx": dx}]}}
            for wide, dx in ((1, -15), (1, 0), (8, 15))
        ]
        design = designed("i", "anton", 20, [("layer", "ply-3", [plate(60, 30), *holes, {"op": "offset", "by": 1}])])
        counts, _ = zip(*one_after_the_other(design, "closed_hole"), strict=True)
        self.assertEqual((1, 0), counts)

    def test_alike_mends_at_two_places_are_one_step(self) -> None:
        hole = {"op": "subtract", "operand": {"from": ["t"], "steps": [plate(20, 20)]}}
        design = designed("i", "anton", 20, [("layer", "board-12", [plate(60, 60), hole])])
        for _ in range(2):
            here = next(mend for mend in of_kind(design, "sharp_corner")[0].mends if mend.here)
            design = mended(design, here, LIBRARY, Memo())
        self.assertEqual(3, len(design.layers[0].recipe.steps))
        self.assertEqual(2, len(getattr(design.layers[0].recipe.steps[-1], "only", ())))

    def test_rims_of_several_steps_are_mended_together(self) -> None:
        holes: list[dict[str, Any]] = [
            {"op": "hole", "diameter": 4, "at": {"x": x, "y": 0.5, "inset": 2.3}} for x in (0, 1)
        ]
        design = designed("i", "anton", 20, [("layer", "ply-3", [plate(60, 30), *holes])])
        cause = next(
            one for one in causes_of(findings_of(design, LIBRARY, Memo()), design) if one.kind == "hole_near_edge"
        )
        self.assertEqual(2, cause.count)
        after = mended(design, cause.mends[0], LIBRARY, Memo())
        self.assertEqual([], _open(after, "hole_near_edge"))


def _open(design: Design, kind: str) -> list[Finding]:
    return [one for one in findings_of(design, LIBRARY, Memo()) if one.kind == kind and one.open]


def _bar(width: float) -> dict[str, Any]:
    return plate(width, 20)
