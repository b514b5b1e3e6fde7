"""Reading a document: what is wrong is said in a maker's words; older documents are read as they were meant."""

from __future__ import annotations

import re
import unittest
from dataclasses import replace
from typing import Any

import shapely

from tests.support import LIBRARY, build_of, document, words
from tinhalo.core.artwork.lettering.parts import LetterParts
from tinhalo.core.artwork.lettering.pieces import pieces_by_word
from tinhalo.core.design.problem import DesignError
from tinhalo.core.design.reading import parse_design
from tinhalo.core.engine.build import build
from tinhalo.core.geometry.curves.precision import EXACT
from tinhalo.core.runtime.memo import Memo

#: Names of types that mean something to programmers only.
_TYPE_NAMES = re.compile(r"\b(tuple|str|string|dict|dictionary|instance|float|int|literal|bool|boolean|model)\b", re.I)


def broken() -> dict[str, dict[str, Any]]:
    """Documents with one value of a kind that does not belong there."""

    def changed(change: Any) -> dict[str, Any]:
        data = document([{"op": "offset", "by": 4}])
        change(data)
        return data

    return {
        "from is text": changed(lambda d: d["layers"][0]["recipe"].update({"from": "name"})),
        "from is a number": changed(lambda d: d["layers"][0]["recipe"].update({"from": 3})),
        "size is text": changed(lambda d: d["art"][0].update(size="big")),
        "size is a list": changed(lambda d: d["art"][0].update(size=[1])),
        "text is a number": changed(lambda d: d["art"][0].update(text=3)),
        "place is text": changed(lambda d: d["art"][0].update(place="left")),
        "hidden is text": changed(lambda d: d["layers"][0].update(hidden="perhaps")),
        "steps is an object": changed(lambda d: d["layers"][1]["recipe"].update(steps={})),
        "a step is text": changed(lambda d: d["layers"][1]["recipe"].update(steps=["offset"])),
        "no such step": changed(lambda d: d["layers"][1]["recipe"].update(steps=[{"op": "grow"}])),
        "process is unknown": changed(lambda d: d["layers"][0].update(process="melt")),
        "layers is nothing": changed(lambda d: d.update(layers=None)),
        "art is text": changed(lambda d: d.update(art="Fenna")),
        "no such shape": changed(lambda d: d["art"].append({"id": "s", "kind": "shape", "shape": "blob"})),
        "no such kind": changed(lambda d: d["art"].append({"id": "s", "kind": "smell"})),
        "a shape without a size": changed(
            lambda d: d["art"].append({"id": "s", "kind": "shape", "shape": "heart", "width": "wide"})
        ),
        "no such format": changed(lambda d: d.update(hand_over={"formats": ["gif"]})),
        "no format": changed(lambda d: d.update(hand_over={"formats": []})),
        "colour is a word": changed(lambda d: d.update(hand_over={"table": {"cut": {"colour": "red"}}})),
        "into nothing": changed(lambda d: d["art"][0].update(into={"art": "nobody"})),
        "into itself": changed(lambda d: d["art"][0].update(into={"art": "name"})),
    }


class Reading(unittest.TestCase):
    def test_no_sentence_leaks_the_name_of_a_type(self) -> None:
        for case, data in broken().items():
            with self.subTest(case):
                with self.assertRaises(DesignError) as caught:
                    parse_design(data)
                said = str(caught.exception)
                self.assertNotRegex(said, _TYPE_NAMES)
                self.assertRegex(said, r"[.!]$")

    def test_sources_given_as_one_text_are_told_to_be_a_list(self) -> None:
        with self.assertRaises(DesignError) as caught:
            parse_design(broken()["from is text"])
        self.assertIn("list", str(caught.exception))

    def test_art_without_a_kind_is_what_it_was(self) -> None:
        plain, kind = document(), document()
        kind["art"][0]["kind"] = "lettering"
        self.assertEqual(parse_design(plain), parse_design(kind))

    def test_a_break_of_two_characters_is_one_letter(self) -> None:
        """Letters are counted alike with \\r\\n and \\n, so what hangs on a letter of a later line stays on it."""
        for text in ("Ab\nCd\nEf", "Ab\r\nCd\r\nEf", "Ab\rCd\rEf"):
            made = words(text, moves={"7": {"dy": 100}})
            self.assertEqual([made.letters[i] for i in (0, 1, 3, 4, 6, 7)], list("AbCdEf"))
            lone = build_of(parse_design(document(text=text, moves={"7": {"dy": 100}})))
            parts = lone.art[0].drawn.parts
            self.assertEqual(sorted(parts), [0, 1, 3, 4, 6, 7])
            tops = {index: max(piece.bounds[3] for piece in part.pieces) for index, part in parts.items()}
            self.assertEqual(max(tops, key=lambda index: tops[index]), 7)


class Keys(unittest.TestCase):
    def test_what_is_kept_hangs_on_what_was_drawn_and_not_on_names(self) -> None:
        """Other ids of art and layers find the kept results; another place of a picked piece does not."""
        memo = Memo()
        data = document([{"op": "offset", "by": 4}, {"op": "fill_holes"}])
        build(parse_design(data), LIBRARY, memo=memo, exact=False)
        done = memo.computed
        data["art"][0]["id"] = "other"
        for layer in data["layers"]:
            layer["id"] += "-2"
            layer["recipe"]["from"] = ["other"]
        build(parse_design(data), LIBRARY, memo=memo, exact=False)
        self.assertEqual(memo.computed, done)

    def test_a_picked_hole_is_told_from_another(self) -> None:
        memo = Memo()
        filled = []
        for part in (1, 2):
            spot = {"art": "name", "part": part, "x": 0, "y": 0.05}
            data = document([{"op": "fill_holes", "only": [spot]}], text="Bee")
            filled.append(build(parse_design(data), LIBRARY, memo=memo, exact=False).layers[1].region)
        self.assertGreater(filled[0].area.symmetric_difference(filled[1].area).area, 0.01)


class Touching(unittest.TestCase):
    def test_pieces_that_meet_in_a_point_are_two_as_their_layer_counts_them(self) -> None:
        made = words("ll", "anton")
        left, right = (part for _, part in sorted(made.parts(EXACT).items()))
        x = 3.0

        def tips(letter: LetterParts, points: list[tuple[float, float]]) -> LetterParts:
            return replace(letter, pieces=(shapely.Polygon(points),), body=1)

        parts = {
            left.index: tips(left, [(0, 0), (x, 5), (0, 10)]),
            right.index: tips(right, [(2 * x, 0), (2 * x, 10), (x, 5)]),
        }
        (word,) = pieces_by_word(made, parts)
        self.assertEqual(word.pieces, 2)
        parts[right.index] = tips(right, [(2 * x, 0), (2 * x, 10), (x - 0.1, 5)])
        (word,) = pieces_by_word(made, parts)
        self.assertEqual(word.pieces, 1)


if __name__ == "__main__":
    unittest.main()
