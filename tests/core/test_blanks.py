"""Offcuts, areas kept free, quantities and places set by hand: where pieces may lie and how many of them do."""

from __future__ import annotations

import random
import unittest
from collections import Counter
from typing import Any

import shapely
from shapely import Polygon

from tests.core.test_laying import keyrings, laid
from tests.sampling import SEED
from tests.support import BRIEFLY
from tinhalo.core.artwork.error import ArtError
from tinhalo.core.design.laying import Laying, Margins, Offcut
from tinhalo.core.output.blank import Blank, Blanks
from tinhalo.core.output.items import laid_boards
from tinhalo.core.output.names import Names
from tinhalo.core.output.nesting import nest
from tinhalo.core.output.parts import download_parts
from tinhalo.core.output.raster_nesting import Nested, fill, placed
from tinhalo.core.output.sheets import fill_sheets, is_current, lay_out, sheets_of

#: An offcut with a bite taken out of it, in mm.
BITTEN = ((0.0, 0.0), (200.0, 0.0), (200.0, 60.0), (90.0, 60.0), (90.0, 150.0), (0.0, 150.0))


#: Plywood alone, on sheets that no search is made for: items are laid one after the other beside a corner kept free.
QUICK: dict[str, Any] = {
    "quantities": [{"layer": "film", "count": 0}],
    "sizes": [
        {
            "material": "ply-3",
            "width": 300,
            "height": 200,
            "kept_free": [{"x": 0, "y": 0, "width": 6, "height": 6}],
        }
    ],
}


def laying(**given: Any) -> Laying:
    return Laying.model_validate(given)


class Filling(unittest.TestCase):
    def test_nothing_lies_over_an_edge_or_nearer_than_it_should(self) -> None:
        chance = random.Random(SEED)
        star = Polygon([(12, 0), (3, 3), (0, 12), (-3, 3), (-12, 0), (-3, -3), (0, -12), (3, -3)])
        hulls = [star, shapely.box(-15, -4, 15, 4), shapely.Point(0, 0).buffer(7)]
        free = shapely.difference(Polygon(BITTEN).buffer(-4, join_style="mitre"), shapely.box(10, 10, 40, 30))
        blank = Blank((200.0, 150.0), Margins.all(4), Polygon(BITTEN), ((10.0, 10.0, 40.0, 30.0),))
        for spacing in (0.0, 1.5, chance.uniform(2, 8)):
            with self.subTest(spacing=spacing):
                found = fill(blank, hulls, [40, 40, 40], [[0.0, 45.0, 90.0]] * 3, spacing, 0)
                on = [placed(hulls[one.item], one) for one in found]
                self.assertTrue(all(free.buffer(1e-5).covers(one) for one in on))
                apart = min(one.distance(other) for k, one in enumerate(on) for other in on[:k])
                self.assertGreaterEqual(apart, spacing - 1e-9)
                self.assertGreater(sum(one.area for one in on) / free.area, 0.35)

    def test_what_fits_exactly_is_laid_and_what_is_wider_is_not(self) -> None:
        blank = Blank((100.0, 50.0), Margins(left=7, right=3, top=2, bottom=8), kept_free=((0.0, 0.0, 1.0, 1.0),))
        (one,) = fill(blank, [shapely.box(-45, -20, 45, 20)], [3], [[0.0]], 2, 0)
        self.assertEqual((52.0, 28.0), (round(one.x, 6), round(one.y, 6)))
        self.assertEqual([], fill(blank, [shapely.box(-45.1, -20, 45.1, 20)], [1], [[0.0]], 2, 0))

    def test_what_lies_there_is_left_alone(self) -> None:
        hull = shapely.box(-10, -10, 10, 10)
        blank = Blank((100.0, 60.0), Margins.all(0))
        lying = [Nested(0, 0, 47.3, 30.1, 17.0)]
        found = fill(blank, [hull], [20], [[0.0, 90.0]], 1, 0, lying)
        there = placed(hull, lying[0])
        self.assertGreater(len(found), 4)
        self.assertTrue(all(placed(hull, one).distance(there) >= 1 for one in found))


class Blanking(unittest.TestCase):
    def test_offcuts_come_first_and_the_rest_goes_on_sheets(self) -> None:
        hull = shapely.box(-18, -18, 18, 18)
        blanks = Blanks(
            Blank((300.0, 200.0), Margins.all(5)), (Blank((200.0, 150.0), Margins.all(5), Polygon(BITTEN)),)
        )
        found = nest([hull], [20], blanks, 2, "quarter", BRIEFLY)
        count = Counter(one.sheet for one in found)
        self.assertEqual(20, sum(count.values()))
        self.assertGreaterEqual(count[0], 5)
        self.assertEqual({0, 1}, set(count))
        inside = Polygon(BITTEN).buffer(-5 + 1e-5, join_style="mitre")
        self.assertTrue(all(inside.covers(placed(hull, one)) for one in found if one.sheet == 0))

    def test_what_no_sheet_takes_beside_what_is_kept_free_is_told(self) -> None:
        blanks = Blanks(Blank((100.0, 100.0), Margins.all(0), kept_free=((40.0, 0.0, 60.0, 100.0),)))
        with self.assertRaisesRegex(ArtError, "A piece of Plate of 50 × 10 mm does not fit .* kept free"):
            nest([shapely.box(-25, -5, 25, 5)], [1], blanks, 0, "none", BRIEFLY, names=["Plate"])

    def test_designs_of_before_have_one_margin(self) -> None:
        self.assertEqual(Margins.all(3), laying(margin=3).margins)
        self.assertEqual(Margins(left=1), laying(margins={"left": 1}).margins)

    def test_an_offcut_leaves_as_a_file_of_its_own_and_keeps_its_margin(self) -> None:
        offcut = {"material": "ply-3", "outline": [(0, 0), (160, 0), (160, 60), (0, 60)]}
        made = laid(keyrings(), laying(**QUICK, copies=4, offcuts=[offcut]))
        titles = [(one.board.board.material, "{} {}".format(*one.called), one.size) for one in sheets_of(made)]
        self.assertEqual([("ply-3", "offcut 1"), ("ply-3", "sheet 1")], [t[:2] for t in titles])
        self.assertEqual((160.0, 60.0), titles[0][2])
        self.assertEqual([()] * 2, [one.wrong for one in sheets_of(made)])
        stems = [one.stem for one in download_parts(made, Names.for_people(made))]
        self.assertIn("Keyrings - Plywood 3 mm offcut 1", stems)

    def test_another_offcut_means_another_layout(self) -> None:
        made = laid(keyrings(), laying(**QUICK))
        known = made.design.hand_over.laying
        assert known
        offcut = Offcut(material="ply-3", outline=BITTEN)
        self.assertTrue(is_current(laid_boards(made, known), known))
        more = known.model_copy(update={"offcuts": (offcut,)})
        self.assertFalse(is_current(laid_boards(made, more), more))


class Quantities(unittest.TestCase):
    def test_a_layer_and_a_piece_have_numbers_of_their_own(self) -> None:
        wanted = [
            {"layer": "film", "count": 0},
            {"layer": "back", "count": 2},
            {"layer": "back", "piece": 1, "count": 3},
        ]
        made = laid(keyrings(), laying(**QUICK | {"copies": 2, "quantities": wanted}))
        film, ply = laid_boards(made)
        self.assertEqual([0], [item.count for item in film.items])
        self.assertEqual({("back", 0): 2, ("back", 1): 6}, {item.of: item.count for item in ply.items})
        known = made.design.hand_over.laying
        assert known
        self.assertEqual({1: 16}, Counter(one.board for one in known.placed))

    def test_sheets_are_filled_with_whole_jobs(self) -> None:
        made = keyrings()
        boards = laid_boards(made, laying(**QUICK))
        full = fill_sheets(boards, laying(**QUICK), BRIEFLY)
        self.assertEqual({0}, {one.sheet for one in full.placed})
        self.assertEqual({1: 2 * full.copies}, Counter(one.board for one in full.placed))
        self.assertGreater(full.copies, 2)
        # Where nothing is laid, nothing is filled.
        self.assertEqual(1, fill_sheets([], laying(), BRIEFLY).copies)
        more = lay_out(boards, full.model_copy(update={"copies": full.copies + 1}), BRIEFLY)
        self.assertEqual(1, max(one.sheet for one in more.placed))


class ByHand(unittest.TestCase):
    def test_places_set_by_hand_stay_while_other_pieces_change(self) -> None:
        made = laid(keyrings(), laying(**QUICK, copies=2))
        known = made.design.hand_over.laying
        assert known
        index = next(k for k, one in enumerate(known.placed) if one.board == 1)
        mine = known.placed[index].model_copy(update={"x": 200.0, "y": 101.0, "turn": 30.0, "by_hand": True})
        moved = known.model_copy(
            update={"placed": tuple(mine if k == index else p for k, p in enumerate(known.placed))}
        )
        boards = laid_boards(made, moved)
        again = lay_out(boards, moved.model_copy(update={"copies": 3, "spacing": 4.0}), BRIEFLY)
        kept = [one for one in again.placed if one.by_hand]
        self.assertEqual([(200.0, 101.0, 30.0, mine.shape)], [(p.x, p.y, p.turn, p.shape) for p in kept])
        self.assertEqual({1: 6}, Counter(one.board for one in again.placed))
        others = [p.model_copy(update={"shape": "of another piece"}) for p in moved.placed]
        anew = lay_out(boards, moved.model_copy(update={"placed": tuple(others)}), BRIEFLY)
        self.assertEqual([], [one for one in anew.placed if one.by_hand])


if __name__ == "__main__":
    unittest.main()
