"""Letters, words and lines of a text.

Letters are user-perceived characters (extended grapheme clusters of Unicode Annex 29), line breaks included, so that an
index means what a maker would point at. A carriage return with its line feed is one of them.
"""

from __future__ import annotations

from collections.abc import Sequence

import regex

_GRAPHEME = regex.compile(r"\X")
#: The mandatory breaks of Unicode Annex 14.
_BREAKS = "\r\n\v\f\x85\u2028\u2029"


def graphemes(text: str) -> list[str]:
    """User-perceived characters of a text, in order."""
    return _GRAPHEME.findall(text)


def is_break(letter: str) -> bool:
    """Whether a letter begins a new line."""
    return letter[0] in _BREAKS


def lines_of(letters: Sequence[str]) -> list[list[int]]:
    """The letters of each line, in order; a line may have none."""
    lines: list[list[int]] = [[]]
    for index, letter in enumerate(letters):
        if is_break(letter):
            lines.append([])
        else:
            lines[-1].append(index)
    return lines


def words_of(letters: Sequence[str]) -> list[list[int]]:
    """The letters of each word: what stands between spaces and line breaks, in order."""
    words: list[list[int]] = [[]]
    for index, letter in enumerate(letters):
        if letter.isspace():
            words.append([])
        else:
            words[-1].append(index)
    return [word for word in words if word]


def codepoints(letters: Sequence[str]) -> list[int]:
    """What is shaped of a line's letters: a tabulator counts as a blank."""
    return [ord(character) for letter in letters for character in (" " if letter == "\t" else letter)]
