"""Copies in the front end: within a design and between designs, with what layers are made from."""

from __future__ import annotations

import unittest
from typing import Any

from tests.support import document
from tests.web.node import call
from tinhalo.core.design.reading import parse_design


def completed(data: dict[str, Any]) -> dict[str, Any]:
    """The document as the server completes it; it has to be one."""
    return parse_design(data).model_dump(mode="json", by_alias=True)


class Copies(unittest.TestCase):
    def setUp(self) -> None:
        self.data = completed(document([{"op": "offset", "by": 2}]))

    def pasted(self, into: dict[str, Any], *ids: str) -> tuple[dict[str, Any], list[str]]:
        (clip,) = call("copying", "copied", [self.data, list(ids)])
        (made,) = call("copying", "pasted", [into, clip])
        return completed(made["design"]), made["ids"]

    def test_a_layer_goes_to_another_design_with_what_it_is_made_from(self) -> None:
        other = completed(document(text="Zoë"))
        other["layers"] = other["layers"][:1]
        made, (id,) = self.pasted(other, "backer")
        layer = made["layers"][0]
        self.assertEqual(layer["id"], id)
        # The name in the other design is another one: the copy brings its own.
        self.assertEqual([one["text"] for one in made["art"]], ["Zoë", self.data["art"][0]["text"]])
        self.assertEqual(layer["recipe"]["from"], [made["art"][1]["id"]])
        self.assertEqual(layer["recipe"]["steps"], self.data["layers"][1]["recipe"]["steps"])

    def test_what_is_there_already_is_not_brought_again(self) -> None:
        made, (id,) = self.pasted(self.data, "backer")
        self.assertEqual(made["art"], self.data["art"])
        self.assertEqual((len(made["layers"]), made["layers"][0]["id"]), (3, id))
        self.assertEqual(made["layers"][0]["recipe"], self.data["layers"][1]["recipe"])

    def test_words_are_duplicated_into_all_layers_that_the_original_is_in(self) -> None:
        name = self.data["art"][0]["id"]
        (made,) = call("copying", "duplicated", [self.data, [name]])
        design, (id,) = completed(made["design"]), made["ids"]
        self.assertEqual([one["id"] for one in design["art"]], [name, id])
        self.assertNotEqual(design["art"][0]["place"], design["art"][1]["place"])
        for layer in design["layers"]:
            self.assertEqual(layer["recipe"]["from"], [name, id])

    def test_blocks_take_the_place_of_one_in_all_that_is_made_from_it(self) -> None:
        name = self.data["art"][0]["id"]
        blocks = [self.data["art"][0] | {"text": text} for text in ("One", "Two", "Three")]
        (made,) = call("copying", "splitInto", [self.data, name, blocks])
        design = completed(made)
        self.assertEqual([one["text"] for one in design["art"]], ["One", "Two", "Three"])
        self.assertEqual([one["id"] for one in design["art"]], [name, f"{name}-2", f"{name}-3"])
        for layer in design["layers"]:
            self.assertEqual(layer["recipe"]["from"], [name, f"{name}-2", f"{name}-3"])

    def test_other_text_on_the_clipboard_is_none_of_ours(self) -> None:
        self.assertEqual(call("copying", "readCopied", ["plain"], ["{}"], [None], ["[1]"], ["null"]), [None] * 5)
