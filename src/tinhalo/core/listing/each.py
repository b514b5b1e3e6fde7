"""The design of one row: its words in place of the design's, made to fit as asked."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from tinhalo.core.artwork.kinds import AnyArt
from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.artwork.library import Library
from tinhalo.core.design.design import Design
from tinhalo.core.design.names import Column, Fit, Names
from tinhalo.core.engine.build import build
from tinhalo.core.runtime.memo import Memo
from tinhalo.core.units import length

#: Words are made to fit within this, in mm, and letters are no smaller than this.
_WITHIN, _LEAST_SIZE = 0.01, 0.5
_TRIES = 8


@dataclass(frozen=True)
class Row:
    """One row of a list.

    Attributes:
        number: from 1.
        words: what it is called: all its words.
        design: the design with them.
        copies: how many of it are made.
        told: where words were made to fit, or could not be, and what else to know.
    """

    number: int
    words: str
    design: Design
    copies: int
    told: tuple[str, ...]


def row_of(design: Design, names: Names, index: int, library: Library, memo: Memo | None = None) -> Row:
    """The design of a row, by its index; the list itself is not in it."""
    memo = memo or Memo()
    cells = names.rows[index]
    told: list[str] = []
    used: list[tuple[Column, str]] = list(zip(names.columns, cells, strict=False))
    words = {column.art: text.strip() for column, text in used if column.use == "words" and column.art}
    made = design.model_copy(update={"names": None, "art": _worded(design, words)})
    for column, text in used:
        if column.use == "colour_way" and text.strip():
            way = next((one for one in design.colour_ways if one.name.casefold() == text.strip().casefold()), None)
            if way is None:
                told.append(f"There is no colour way “{text.strip()}”: it stays as the design is.")
            else:
                made = made.dressed(way)
    for fit in names.fits:
        made, sentence = _fitted(made, fit, library, memo)
        told += [sentence] if sentence else []
    if words and not any(words.values()):
        told.append("This row has no words.")
    copies, sentence = _copies(used)
    told += [sentence] if sentence else []
    called = " ".join(text for text in words.values() if text) or f"row {index + 1}"
    return Row(index + 1, called.replace("\n", " "), made, copies, tuple(told))


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
