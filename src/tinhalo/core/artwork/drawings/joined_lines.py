"""Lines of cut files whose ends meet, across elements: drawing programs often write an outline as single lines."""

from __future__ import annotations

from tinhalo.core.artwork.drawings.chains import chained
from tinhalo.core.artwork.drawings.drawing_file import Element
from tinhalo.core.artwork.drawings.track import closed_up
from tinhalo.core.geometry.curves.outline import Outline
from tinhalo.core.geometry.curves.painted import filled

#: Lines up to this wide, in mm, are those of a cut file: what they go round is meant (common practice: one point).
HAIRLINE = 0.36
#: Ends nearer than this are one, in mm.
JOINED = 0.05


def joined_up(elements: list[Element]) -> list[Element]:
    """Elements, the lowest first, with those open hairlines as one that close only together."""
    lines = {number: one.lines for number, one in enumerate(elements) if one.ends and one.line <= HAIRLINE}
    alike: dict[tuple[str, str], list[int]] = {}
    for number, contours in lines.items():
        one = elements[number]
        if not all(contour.closed for contour in contours):
            alike.setdefault((one.colour, one.hidden), []).append(number)
    gone: set[int] = set()
    made = list(elements)
    for numbers in alike.values():
        if len(numbers) < 2:
            continue
        chains = chained([contour for number in numbers for contour in lines[number]], JOINED)
        closed = [one for one in chains if one.closed]
        ends = 2 * (len(chains) - len(closed))
        # Nothing closed by it: each stays by itself.
        if not closed or ends == sum(elements[number].ends for number in numbers):
            continue
        first = elements[numbers[0]]
        painted = Outline.joined([elements[number].painted for number in numbers])
        enclosed = filled(closed_up(closed), "evenodd")
        name = f"{first.name} and {len(numbers) - 1} more, joined"[:60]
        made[numbers[0]] = Element(
            name,
            first.colour,
            filled(painted, "nonzero"),
            enclosed,
            first.line,
            ends,
            first.hidden,
            Outline.from_contours(chains),
        )
        gone.update(numbers[1:])
    return [one for number, one in enumerate(made) if number not in gone]
