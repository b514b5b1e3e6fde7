"""Words that cannot be drawn, or not all of them, or that do not reach what they are set by."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import TYPE_CHECKING
from unicodedata import category

from tinhalo.core.artwork.art import Remedy, Trouble
from tinhalo.core.artwork.error import ArtError
from tinhalo.core.artwork.lettering.settings import MOST_LETTERS
from tinhalo.core.artwork.lettering.substitute import substitute
from tinhalo.core.artwork.lettering.typeset import Typeset, describe

if TYPE_CHECKING:
    from tinhalo.core.artwork.lettering.block import Lettering
    from tinhalo.core.artwork.library import Library

#: Words are told in sentences up to this many letters.
_LONGEST = 30

#: Letters are spaced further in steps of this share of their size, so many times at most.
_SPREAD, _TRIES = 0.02, 16


def cannot_draw(block: Lettering, set_as: Typeset | ArtError, library: Library) -> list[Trouble]:
    """What of a block of words cannot be drawn, given how it was set or why it could not be."""
    if isinstance(set_as, ArtError):
        return [Trouble("unknown_font", "error", str(set_as), _other_font(block, library))]
    shows = any(category(character) != "Cf" for character in block.title)
    called = f"“{shortened(block.title)}”" if shows else f"the words “{block.id}”"
    if len(set_as.letters) > MOST_LETTERS:
        sentence = (
            f"{called} has {len(set_as.letters):,} letters; one block can draw {MOST_LETTERS:,}. "
            "The text is kept: shorten it, or spread it over several blocks."
        )
        return [Trouble("text_too_long", "error", sentence)]
    if not shows:
        return [Trouble("empty_words", "error", f"There is nothing to cut in {called}: type something.")]
    return _missing(block, called, set_as, library) + _overrun(block, called, set_as)


def _missing(block: Lettering, called: str, set_as: Typeset, library: Library) -> list[Trouble]:
    if not set_as.missing:
        return []
    listed = ", ".join(describe(c) for c in set_as.missing[:8])
    more = f" and {len(set_as.missing) - 8} more" if len(set_as.missing) > 8 else ""
    noun = "the character" if len(set_as.missing) == 1 else "the characters"
    rest = "The rest is drawn." if set_as.glyphs else "Nothing else is left to draw."
    family = library.family(block.font)
    sentence = f"{family} lacks {noun} {listed}{more} in {called}. {rest} Try another font for it."
    severity = "warning" if set_as.glyphs else "error"
    return [Trouble("missing_character", severity, sentence, _other_font(block, library))]


def _overrun(block: Lettering, called: str, set_as: Typeset) -> list[Trouble]:
    if not set_as.line or set_as.overrun <= 0:
        return []
    sentence = (
        f"{called} is longer than the circle that it stands on, so that its ends overlap. Make the circle larger."
    )
    length = set_as.line.baseline(0).length
    radius = round(set_as.line.radius * (length + set_as.overrun) / length + 0.05, 1)
    larger = "Make the circle larger"
    remedy = Remedy(larger, larger, {"line": {"radius": radius}})
    return [Trouble("line_too_short", "warning", sentence, (remedy,))]


def _other_font(block: Lettering, library: Library) -> tuple[Remedy, ...]:
    found = substitute(block.text, block.font, library.face)
    if found is None:
        return ()
    title = f"Set it in {found.family}"
    # Another font's axes and features are others.
    return (Remedy(title, title, {"font": found.id, "axes": None, "features": None}),)


def not_settled(
    block: Lettering, settled: bool, adrift: Sequence[str], title: Callable[[str], str], gather: Remedy | None
) -> list[Trouble]:
    """That words do not reach the art they are set against, or do not hold to the shape they are set into."""
    words = shortened(block.title)
    if block.against and not settled:
        other = shortened(title(block.against.art))
        sentence = f"“{words}” stands beside “{other}”, so it cannot be set against it. Move it closer."
        return [Trouble("cannot_touch", "warning", sentence)]
    if not block.into:
        return []
    shape = title(block.into.art)
    if not settled:
        sentence = (
            f"“{words}” cannot be stretched until it holds to the {shape}. Move it into the middle of the {shape}, "
            "or make the frame narrower."
        )
        return [Trouble("not_held", "warning", sentence)]
    if not adrift:
        return []
    listed = adrift[0] if len(adrift) == 1 else ", ".join(adrift[:-1]) + f" and {adrift[-1]}"
    verb = "does" if len(adrift) == 1 else "do"
    sentence = f"“{words}” does not all hold to the {shape}: {listed} {verb} not reach it."
    return [Trouble("not_held", "warning", sentence, (gather,) if gather else ())]


def running_together(
    block: Lettering,
    meeting: Sequence[tuple[int, int]],
    texts: Mapping[int, str],
    library: Library,
    meets_with: Callable[..., list[tuple[int, int]]],
) -> list[Trouble]:
    """That letters run together where their line bends, while none do where it is straight.

    Args:
        block: the words.
        meeting: letters that follow each other in a word and lie over each other.
        texts: what the letters are called.
        library: gives the font.
        meets_with: the same for the block with other settings.
    """
    if not meeting:
        return []
    if meets_with(library, line=None):
        # Letters of a script are meant to join.
        return []
    names = " and ".join(f"the {texts[index]}" for index in meeting[0])
    others = len(meeting) - 1
    more = f", and {others} more {'pairs' if others > 1 else 'pair'}," if others else ""
    sentence = f"In “{shortened(block.title)}” {names}{more} run together where the line bends."
    wider = (round(block.letter_spacing + _SPREAD * block.size * k, 2) for k in range(1, _TRIES))
    enough = next((by for by in wider if not meets_with(library, letter_spacing=by)), None)
    title = "Space the letters so that they keep apart"
    remedies = () if enough is None else (Remedy(title, title, {"letter_spacing": enough}),)
    return [Trouble("running_together", "warning", sentence, remedies)]


def shortened(words: str) -> str:
    """Words as a sentence tells them."""
    return words if len(words) <= _LONGEST else words[: _LONGEST - 1] + "…"
