"""What would be lost without a word: layers with nothing in them, prints that nothing cuts, names beside their word."""

from __future__ import annotations

import unittest
from typing import Any

from tests.support import LIBRARY
from tinhalo.core.design.reading import parse_design
from tinhalo.core.findings.finding import Finding
from tinhalo.core.findings.mends.changes import mended
from tinhalo.core.findings.survey import findings_of
from tinhalo.core.runtime.memo import Memo


def words(text: str, **more: Any) -> dict[str, Any]:
    return {"id": "words", "kind": "lettering", "text": text, "font": "anton", "size": 30, **more}


def layer(id: str, source: str, *steps: dict[str, Any], **more: Any) -> dict[str, Any]:
    return {
        "id": id,
        "name": id.title(),
        "material": "vinyl",
        "recipe": {"from": [source], "steps": list(steps)},
        **more,
    }


def document(*art: dict[str, Any], layers: list[dict[str, Any]]) -> dict[str, Any]:
    return {"format": "tin-halo/1", "art": list(art), "layers": layers}


def told(data: dict[str, Any]) -> list[Finding]:
    return [one for one in findings_of(parse_design(data), LIBRARY, Memo()) if one.open]


class Empty(unittest.TestCase):
    def test_layers_with_nothing_in_them_are_told(self) -> None:
        outline = {"id": "words", "kind": "outline"}
        for art in (
            outline | {"path": ""},
            # Contours fill what they go round counter-clockwise.
            outline | {"path": "M0 0 L0 10 L10 10 L10 0 Z"},
            {"id": "words", "kind": "drawing", "file": "kite", "name": "kite.svg", "left_out": [0, 1, 2, 3, 4]},
            words("Fenna", size=0.5, place={"scale_x": 0.001, "scale_y": 0.001}),
        ):
            face, backer = layer("face", "words"), layer("backer", "face", {"op": "offset", "by": 3})
            with self.subTest(art=art):
                found = told(document(art, layers=[face, backer]))
                self.assertEqual(
                    [("nothing_left", "face"), ("nothing_left", "backer")], [(f.kind, f.layer) for f in found]
                )
                self.assertIn("“Face” is empty", found[1].sentence)

    def test_words_of_nothing_that_shows_are_told_once(self) -> None:
        for text in ("", "  ", "\u200b\u200b", "\u2060"):
            (found,) = told(document(words(text), layers=[layer("face", "words"), layer("backer", "face")]))
            self.assertEqual(("empty_words", "words"), (found.kind, found.art))


class Uncut(unittest.TestCase):
    def test_a_print_on_what_nothing_cuts_is_told(self) -> None:
        print_ = layer("print", "words", process="print")
        card = layer("base", "words", {"op": "offset", "by": 4}, {"op": "fill_holes"}, material="card")
        (found,) = told(document(words("KITES"), layers=[print_, card]))
        self.assertEqual("“Print” is printed on Vinyl, and no layer cuts Vinyl.", found.sentence)
        cut = card | {"material": "vinyl"}
        self.assertNotIn("nothing_cuts_it", [one.kind for one in told(document(words("KITES"), layers=[print_, cut]))])
        # One that is hidden cuts nothing.
        hidden = [print_, cut | {"hidden": True}]
        self.assertIn("nothing_cuts_it", [one.kind for one in told(document(words("KITES"), layers=hidden))])

    def test_a_name_beside_the_word_is_told_and_finds_a_place(self) -> None:
        name = words("Fenna", id="name", font="pacifico", size=12, place={"y": 90})
        cut = {"op": "subtract", "operand": {"from": ["name"], "steps": [{"op": "offset", "by": 1}]}}
        data = document(
            words("KITES", size=50), name, layers=[layer("word", "words", cut), layer("name-layer", "name")]
        )
        (found,) = [one for one in told(data) if one.kind == "cuts_nothing"]
        self.assertEqual("“Fenna” does not touch “Word”, so nothing is cut away.", found.sentence)
        after = mended(parse_design(data), found.mends[0], LIBRARY, Memo())
        kinds = [one.kind for one in told(after.model_dump(mode="json", by_alias=True))]
        self.assertNotIn("cuts_nothing", kinds)


class Bent(unittest.TestCase):
    def test_letters_that_run_together_where_the_line_bends_are_told_and_spaced(self) -> None:
        face = [layer("face", "words")]
        bent = words("WILLOW", line={"path": "arc_below", "radius": 60})
        (found,) = [one for one in told(document(bent, layers=face)) if one.kind == "running_together"]
        self.assertIn("the W and the I", found.sentence)
        after = mended(parse_design(document(bent, layers=face)), found.mends[0], LIBRARY, Memo())
        kinds = [one.kind for one in told(after.model_dump(mode="json", by_alias=True))]
        self.assertNotIn("running_together", kinds)

    def test_letters_that_join_on_a_straight_line_too_are_not_told(self) -> None:
        script = words("Fenna", font="pacifico", line={"path": "arc_below", "radius": 60})
        kinds = [one.kind for one in told(document(script, layers=[layer("face", "words")]))]
        self.assertNotIn("running_together", kinds)
