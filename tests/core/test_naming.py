"""What the pieces of a layer are called."""

from __future__ import annotations

import unittest
from typing import Any

from shapely import Polygon, box

from tests.support import build_of, document
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.built import Build
from tinhalo.core.findings.naming import Naming


def built(steps: list[dict[str, Any]], text: str = "HI", **dash: Any) -> Build:
    """Capitals with a dash across them, and one layer of them."""
    data = document(font="anton", text=text, size=60)
    data["art"].append({"id": "bar", "text": "—", "font": "anton", "size": 120} | dash)
    data["layers"] = [{"id": "face", "recipe": {"from": ["name"], "steps": steps}}]
    return build_of(parse_design(data))


def names(made: Build, *made_from: str) -> list[str]:
    pieces: list[Polygon] = list(made.layers[0].region.area.geoms)
    naming = Naming(made)
    return sorted(naming.called(piece, made_from).name for piece in pieces)


class Names(unittest.TestCase):
    def test_whole_letters_are_called_by_themselves_shrunk_or_grown(self) -> None:
        for by, expected in ((-2, ["the H", "the I"]), (0.3, ["the H", "the I"]), (3, ["“HI”"])):
            self.assertEqual(names(built([{"op": "offset", "by": by}]), "name"), expected)

    def test_what_is_cut_off_is_a_part_of_its_letter(self) -> None:
        cut = built([{"op": "subtract", "operand": {"from": ["bar"], "steps": [{"op": "offset", "by": 1}]}}])
        self.assertGreaterEqual(len(cut.layers[0].region.area.geoms), 4)
        self.assertEqual(set(names(cut, "name")), {"a part of the H", "a part of the I"})

    def test_what_is_in_no_letter_is_told_by_the_nearest(self) -> None:
        made = built([])
        _, bottom, right, _ = made.layers[0].region.area.bounds
        naming = Naming(made)
        for away, called, letter in ((1, "a piece by the I", "the I"), (9, "a piece", None)):
            piece = box(right + away, bottom, right + away + 1, bottom + 3)
            self.assertEqual(naming.called(piece, {"name"}).name, called)
            self.assertEqual(naming.part((right + away, bottom), {"name"}), letter)

    def test_words_that_only_lie_over_it_do_not_count(self) -> None:
        over = built([{"op": "offset", "by": 0.5}], text="I", font="pacifico", size=12)
        (x0, y0, x1, y1) = over.layers[0].region.area.bounds
        self.assertTrue(box(x0, y0, x1, y1).intersects(over.art[1].region.area))
        self.assertEqual(names(over, "name"), ["the I"])
        self.assertEqual(names(over, "name", "bar"), ["“I —”"])
