"""What was set for a letter stays with that letter when the text is edited: the front end's code, run by Node."""

from __future__ import annotations

import random
import unittest
from typing import Any

from tests.web.node import call
from tinhalo.core.artwork.lettering.lines import graphemes

# Plain and doubled letters, combining accents, letters that fonts join, an emoji of several code points, spaces, lines.
LETTERS = ("a", "n", "n", "f", "i", "l", "e\u0301", "c\u030c", "Z", "ë", "ß", "👩\u200d🚀", " ", "\n", "A")


def units(text: str) -> int:
    """Length as a browser counts it."""
    return len(text.encode("utf-16-le")) // 2


class Edits(unittest.TestCase):
    def test_the_right_letters_follow(self) -> None:
        """3,000 edits by chance (seeded): typing, pasting over, Backspace, Delete, and an accent put on a letter."""
        chance = random.Random(7)
        edits: list[Any] = []
        wanted: list[dict[int, int]] = []
        for _ in range(3000):
            before = [chance.choice(LETTERS) for _ in range(chance.randint(0, 9))]
            start = chance.randint(0, len(before))
            end = chance.randint(start, len(before))
            at, to = (units("".join(before[:n])) for n in (start, end))
            how = chance.choice(("type", "replace", "backspace", "delete", "accent"))
            put = [chance.choice(LETTERS) for _ in range(chance.randint(1, 3))]
            selected = {"start": at, "end": to}
            after, kept_from = [*before[:start], *put, *before[end:]], start + len(put)
            caret = at + units("".join(put))
            if how == "type":
                end, selected = start, {"start": at, "end": at}
                after = [*before[:start], *put, *before[start:]]
            elif how in ("backspace", "delete"):
                after, kept_from, caret = [*before[:start], *before[end:]], start, at
                if end - start == 1:
                    # Nothing was selected: the caret stood behind the letter, or before it.
                    selected = {"start": to, "end": to} if how == "backspace" else {"start": at, "end": at}
            elif how == "accent":
                if start == 0 or before[start - 1] in (" ", "\n"):
                    continue
                end, selected, kept_from = start, {"start": at, "end": at}, start
                after = [*before[: start - 1], before[start - 1] + "\u0323", *before[start:]]
                caret = at + 1
            edits.append(["".join(before), "".join(after), caret, selected])
            shifted = kept_from - end
            wanted.append({i: i if i < start else i + shifted for i in range(len(before)) if i < start or i >= end})
            self.assertEqual(graphemes("".join(after)), after)
        found = [dict(pairs) for pairs in call("letters", "movedLetters", *edits)]
        for edit, got, expected in zip(edits, found, wanted, strict=True):
            self.assertEqual(got, expected, edit)

    def test_everything_that_is_set_by_letter_follows(self) -> None:
        art = {
            "text": "Fenna",
            "nudges": {"2": -0.4, "4": 1},
            "moves": {"0": {"dy": 1.5}, "3": {"dx": 1}},
            "lowered": {"1": 0.3},
            "join": {"overlap": 0.3, "apart": [0, 3]},
        }
        (made,) = call("letters", "retext", [art, "O Fenna", 2, {"start": 0, "end": 0}])
        self.assertEqual((made["moves"], made["lowered"]), ({"2": {"dy": 1.5}, "5": {"dx": 1}}, {"3": 0.3}))
        self.assertEqual((made["nudges"], made["join"]["apart"]), ({"4": -0.4, "6": 1}, [2, 5]))
        (made,) = call("letters", "retext", [art, "Fenn", 4, {"start": 5, "end": 5}])
        self.assertEqual((made["nudges"], made["join"]["apart"]), ({"2": -0.4}, [0, 3]))

    def test_both_ends_count_letters_alike(self) -> None:
        texts = ["Zoë", "e\u0301x", "Ağça", "👩\u200d🚀!", "a\r\nb", "\u0301", "ffi", "नमस्ते", "🇵🇹🇵🇹", ""]
        self.assertEqual(call("letters", "graphemes", *[[text] for text in texts]), [graphemes(text) for text in texts])
