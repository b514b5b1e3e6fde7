"""Words that cannot be drawn, or not all of them."""

from __future__ import annotations

from collections.abc import Callable

from tinhalo.core.artwork.lettering.block import MOST_LETTERS, Lettering
from tinhalo.core.artwork.lettering.face import Face, FontError
from tinhalo.core.artwork.lettering.substitute import substitute
from tinhalo.core.artwork.lettering.typeset import Typeset, describe
from tinhalo.core.design.design import Design
from tinhalo.core.findings.finding import Finding, Kind
from tinhalo.core.findings.mends.mend import Mend, SetFont


def check_words(art: Lettering, font: str, typeset: Typeset | FontError, face: Callable[[str], Face]) -> list[Finding]:
    """Findings of one lettering block.

    Args:
        art: the block.
        font: the font's family name.
        typeset: how it was set, or why its font could not be used.
        face: gives another font's face by its id.
    """
    called = f"“{_short(art.text)}”" if art.text.strip() else f"the words “{art.id}”"
    if isinstance(typeset, FontError):
        return [_error("unknown_font", art, str(typeset), _other_font(art, face))]
    if len(typeset.letters) > MOST_LETTERS:
        return [
            _error(
                "text_too_long",
                art,
                f"{called} has {len(typeset.letters):,} letters; one block can draw {MOST_LETTERS:,}. "
                "The text is kept: shorten it, or spread it over several blocks.",
            )
        ]
    if not art.text.strip():
        return [_error("empty_words", art, f"There is nothing to cut in the words “{art.id}”: type something.")]
    if not typeset.missing:
        return []
    listed = ", ".join(describe(c) for c in typeset.missing[:8])
    more = f" and {len(typeset.missing) - 8} more" if len(typeset.missing) > 8 else ""
    noun = "the character" if len(typeset.missing) == 1 else "the characters"
    rest = "The rest is drawn." if typeset.glyphs else "Nothing else is left to draw."
    sentence = f"{font} lacks {noun} {listed}{more} in {called}. {rest} Try another font for it."
    return [
        Finding(
            kind="missing_character",
            severity="warning" if typeset.glyphs else "error",
            art=art.id,
            sentence=sentence,
            mends=_other_font(art, face),
        )
    ]


def _other_font(art: Lettering, face: Callable[[str], Face]) -> tuple[Mend, ...]:
    found = substitute(art.text, art.font, face)
    if found is None:
        return ()
    return (Mend(title=f"Set it in {found.family}", changes=(SetFont(art=art.id, font=found.id),)),)


def check_against(art: Lettering, design: Design) -> list[Finding]:
    """Tell that a block cannot touch the one it is set against: sliding straight, it would pass it by."""
    against = art.against
    if against is None:
        return []
    other = next((one.text for one in design.art if one.id == against.art), against.art)
    sentence = f"“{_short(art.text)}” stands beside “{_short(other)}”, so it cannot be set against it. Move it closer."
    return [Finding(kind="cannot_touch", severity="warning", art=art.id, sentence=sentence)]


def _error(kind: Kind, art: Lettering, sentence: str, mends: tuple[Mend, ...] = ()) -> Finding:
    return Finding(kind=kind, severity="error", art=art.id, sentence=sentence, mends=mends)


def _short(text: str) -> str:
    line = " ".join(text.split())
    return line if len(line) <= 30 else line[:29] + "…"
