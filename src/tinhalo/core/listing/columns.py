"""What the columns of a table are most likely for."""

from __future__ import annotations

from collections.abc import Sequence

from tinhalo.core.artwork.lettering.block import Lettering
from tinhalo.core.design.design import Design
from tinhalo.core.design.names import Column, Names

_COPIES = {"copies", "count", "number", "pieces", "quantity"}
_COLOURS = {"colour way", "color way", "colours", "colors", "colour", "color"}
_SIZES = {"size", "letter size", "height"}
_MATERIAL = "material"
#: What stands behind a first name, where there is one place for both.
_BEHIND = {"last name", "surname", "family name"}


def usual_columns(design: Design, titles: Sequence[str], rows: Sequence[Sequence[str]]) -> Names:
    """Columns as they are most likely meant: by their titles, numbers as copies, the rest in order to the words."""
    free = [one.id for one in design.art if isinstance(one, Lettering)]
    every = list(free)
    columns: list[Column] = []
    for k in range(len(rows[0]) if rows else 0):
        title = titles[k].strip() if k < len(titles) else ""
        said = title.casefold()
        numbers = k > 0 and all(row[k].isdecimal() for row in rows if row[k])
        if said in _COPIES or (numbers and not title):
            columns.append(Column(title=title, use="copies"))
        elif said in _COLOURS:
            columns.append(Column(title=title, use="colour_way"))
        elif said in _SIZES and every:
            columns.append(Column(title=title, use="size", art=every[0]))
        elif layer := _layer(design, said):
            columns.append(Column(title=title, use="material", layer=layer))
        elif free or (every and said in _BEHIND):
            named = title if title in free else free[0] if free else every[-1]
            free = [one for one in free if one != named]
            columns.append(Column(title=title, use="words", art=named))
        else:
            columns.append(Column(title=title))
    return Names(columns=tuple(columns))


def _layer(design: Design, title: str) -> str | None:
    """Whose material a column is: “material” is the first layer's, “material of Face” that layer's."""
    if title == _MATERIAL:
        return design.layers[0].id if design.layers else None
    named = title.removeprefix(f"{_MATERIAL} of ")
    return next((one.id for one in design.layers if named != title and one.title.casefold() == named), None)
