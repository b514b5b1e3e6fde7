"""The design of one row: its words in place of the design's, made to fit as asked."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from tinhalo.core.artwork.kinds import AnyArt
from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.artwork.library import Library
from tinhalo.core.design.design import Design
from tinhalo.core.design.names import Column, Fit, Names
from tinhalo.core.engine.build import build
from tinhalo.core.listing.own import own_of, with_own
from tinhalo.core.materials import MATERIALS
from tinhalo.core.runtime.memo import Memo
from tinhalo.core.units import length, length_in

#: Words are made to fit within this, in mm, and letters are no smaller than this.
_WITHIN, _LEAST_SIZE = 0.01, 0.5
_TRIES = 8
_MOST_SIZE = 2_000.0
_STAYS = "it stays as the design is."


@dataclass(frozen=True)
class Row:
    """One row of a list.

    Attributes:
        number: from 1.
        words: what it is called: all its words.
        usual: the design with them, without what is different for this name alone.
        design: the same with that.
        copies: how many of it are made.
        told: where words were made to fit, or could not be, and what else to know.
    """

    number: int
    words: str
    usual: Design
    design: Design
    copies: int
    told: tuple[str, ...]


def called(names: Names, index: int, number: int | None = None) -> str:
    """What a row is called: all its words, or its number."""
    words = _words(zip(names.columns, names.rows[index], strict=False))
    return " ".join(text for text in words.values() if text).replace("\n", " ") or f"row {number or index + 1}"


def copies_of(names: Names, index: int) -> int:
    """How many are made of a row, by its index."""
    return _copies(list(zip(names.columns, names.rows[index], strict=False)))[0]


def row_of(
    design: Design, names: Names, index: int, library: Library, memo: Memo | None = None, number: int | None = None
) -> Row:
    """The design of a row, by its index; the list itself is not in it.

    ``number`` is told as the row's where that is not one more than the index.
    """
    memo = memo or Memo()
    number = number or index + 1
    told: list[str] = []
    used: list[tuple[Column, str]] = list(zip(names.columns, names.rows[index], strict=False))
    words = _words(used)
    usual = design.model_copy(update={"names": None, "of_list": None, "art": _worded(design, words)})
    for column, text in used:
        usual, sentence = _set(usual, column, text.strip())
        told.append(sentence)
    for fit in names.fits:
        usual, sentence = _fitted(usual, fit, library, memo)
        told.append(sentence)
    if words and not any(words.values()):
        told.append("This row has no words.")
    copies, sentence = _copies(used)
    told.append(sentence)
    title = called(names, index, number)
    made, sentence = with_own(usual, own_of(names, title))
    told.append(sentence)
    return Row(number, title, usual, made, copies, tuple(filter(None, told)))


def _words(used: Iterable[tuple[Column, str]]) -> dict[str, str]:
    """The words of each block; those of several columns stand beside each other."""
    found: dict[str, list[str]] = {}
    for column, text in used:
        if column.use == "words" and column.art:
            found.setdefault(column.art, []).append(text.strip())
    return {art: " ".join(filter(None, texts)) for art, texts in found.items()}


def _set(design: Design, column: Column, text: str) -> tuple[Design, str]:
    """The design with what a cell says, and a sentence where that cannot be."""
    if not text:
        return design, ""
    if column.use == "colour_way":
        way = next((one for one in design.colour_ways if one.name.casefold() == text.casefold()), None)
        return (design, f"There is no colour way “{text}”: {_STAYS}") if way is None else (design.dressed(way), "")
    if column.use == "size" and column.art:
        size = length_in(text, design.unit)
        if size is None or not _LEAST_SIZE <= size <= _MOST_SIZE:
            return design, f"“{text}” is no size of letters: {_STAYS}"
        art = tuple(
            one.model_copy(update={"size": size}) if one.id == column.art and isinstance(one, Lettering) else one
            for one in design.art
        )
        return design.model_copy(update={"art": art}), ""
    if column.use == "material" and column.layer:
        known = (*design.materials, *MATERIALS)
        found = next((one for one in known if text.casefold() in (one.name.casefold(), one.id.casefold())), None)
        if found is None:
            return design, f"There is no material “{text}”: {_STAYS}"
        # A colour that was chosen of the old one is none of the new one's.
        worn = {"material": found.id, "colour": None}
        layers = tuple(one.model_copy(update=worn) if one.id == column.layer else one for one in design.layers)
        return design.model_copy(update={"layers": layers}), ""
    return design, ""


def _worded(design: Design, words: Mapping[str, str]) -> tuple[AnyArt, ...]:
    """Other words in blocks; what was set for single letters of the old ones goes."""

    def worded(one: AnyArt) -> AnyArt:
        if not isinstance(one, Lettering) or words.get(one.id, one.text) == one.text:
            return one
        return one.model_copy(update={"text": words[one.id], "moves": {}, "nudges": {}, "lowered": {}})

    return tuple(worded(one) for one in design.art)


def _copies(used: list[tuple[Column, str]]) -> tuple[int, str]:
    """How many pieces a row asks for."""
    asked = next((text.strip() for column, text in used if column.use == "copies"), "")
    if not asked:
        return 1, ""
    if asked.isdecimal() and int(asked) <= 1_000:
        return int(asked), ""
    return 1, f"“{asked}” is no number of pieces up to 1000: one is made."


def _fitted(design: Design, fit: Fit, library: Library, memo: Memo) -> tuple[Design, str]:
    """The design with a block made to fit, and what was done, where anything was."""
    index = next((k for k, one in enumerate(design.art) if one.id == fit.art), None)
    block = design.art[index] if index is not None else None
    if index is None or not isinstance(block, Lettering) or not block.text.strip():
        return design, ""
    wide = _width(block, library, memo)
    title, unit = f"“{block.text.replace(chr(10), ' ')}”", design.unit
    if wide <= fit.width + _WITHIN and (fit.rule != "stretch" or wide >= fit.width - _WITHIN or wide == 0):
        return design, ""
    if fit.rule == "keep":
        return design, f"{title} is {length(wide, unit)} wide, {length(wide - fit.width, unit)} more than it may be."
    if fit.rule == "shrink":
        made, said = _shrunk(block, fit, wide, library, memo)
        told = f"{title} was made smaller, from {length(block.size, unit)} to {length(made.size, unit)}{said}."
    elif fit.rule == "stretch":
        made, told = _stretched(block, fit, wide, design)
    else:
        made, told = _broken(block, fit, library, memo, design)
    art = (*design.art[:index], made, *design.art[index + 1 :])
    return design.model_copy(update={"art": art}), told


def _shrunk(block: Lettering, fit: Fit, wide: float, library: Library, memo: Memo) -> tuple[Lettering, str]:
    """Smaller until it fits: spacing that is set in mm does not shrink along, so it is tried again."""
    for _ in range(_TRIES):
        size = max(_LEAST_SIZE, block.size * fit.width / wide * (1 - 1e-6))
        block = block.model_copy(update={"size": round(size, 4)})
        wide = _width(block, library, memo)
        if wide <= fit.width + _WITHIN:
            return block, ""
        if block.size <= _LEAST_SIZE:
            break
    return block, ", and is still too wide"


def _stretched(block: Lettering, fit: Fit, wide: float, design: Design) -> tuple[Lettering, str]:
    """As wide as asked, within the limit either way."""
    wanted = fit.width / wide
    share = min(max(wanted, fit.least), 1 / fit.least)
    place = block.place.model_copy(update={"scale_x": block.place.scale_x * share})
    title = f"“{block.text}”"
    told = f"{title} was made {share * 100:.0f} % as wide"
    if abs(share - wanted) > 1e-9:
        told += f", and is {length(wide * share, design.unit)} wide then: further it may not be stretched"
    return block.model_copy(update={"place": place}), told + "."


def _broken(block: Lettering, fit: Fit, library: Library, memo: Memo, design: Design) -> tuple[Lettering, str]:
    """On as many lines as it takes, broken between words; a word that is too long alone stays so."""
    lines: list[str] = []
    for word in block.text.split():
        longer = f"{lines[-1]} {word}" if lines else word
        fits = lines and _width(block.model_copy(update={"text": longer}), library, memo) <= fit.width + _WITHIN
        lines = [*lines[:-1], longer] if fits else [*lines, word]
    made = block.model_copy(update={"text": "\n".join(lines)})
    wide = _width(made, library, memo)
    title = f"“{' '.join(lines)}”"
    told = f"{title} stands on {len(lines)} lines" if len(lines) > 1 else f"{title} has no place to be broken at"
    if wide > fit.width + _WITHIN:
        told += f", and is {length(wide, design.unit)} wide"
    return made, told + "."


def _width(block: Lettering, library: Library, memo: Memo) -> float:
    """How wide words are by themselves, at their place's scale, in mm."""
    alone = block.model_copy(update={"against": None, "into": None})
    made = build(Design(format="tin-halo/1", art=(alone,)), library, exact=False, memo=memo)
    box = made.art[0].box
    return abs(block.place.scale_x) * (box[2] - box[0]) if box else 0.0
