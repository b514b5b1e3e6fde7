"""Whether things made with a font may be sold, in the words of its licence."""

from __future__ import annotations

from tinhalo.core.artwork.lettering.font_file import FontFacts

#: The last sentence of the preamble of the SIL Open Font License 1.1, under which all shipped fonts are.
OFL_WORDS = (
    "The requirement for fonts to remain under this license does not apply to any document created using the fonts or "
    "their derivatives."
)
#: What is made with a shipped font.
SHIPPED = f"Yes. SIL Open Font License 1.1: “{OFL_WORDS}”"
_MOST = 160


def of_own(facts: FontFacts, note: str = "") -> str:
    """One line on a font of the maker's own: what its licence text begins with, and its embedding bits.

    ``note`` is what the maker noted of a licence that was bought: it comes first.
    """
    if note:
        return f"A licence is noted: “{note}” {facts.embedding}"
    text = " ".join(facts.licence.split())
    if not text:
        return f"The font does not say: ask where you got it. {facts.embedding}"
    cut = text if len(text) <= _MOST else text[:_MOST].rsplit(" ", 1)[0] + " …"
    return f"Its licence decides: “{cut}” {facts.embedding}"
