"""An SVG file as it is walked: its elements by id, its style sheets, where an element stands, and what was told."""

from __future__ import annotations

import math
from collections import Counter
from dataclasses import dataclass

from tinhalo.core.artwork.drawings.error import DrawingError
from tinhalo.core.artwork.drawings.svg_shapes import Lengths, draw, length
from tinhalo.core.artwork.drawings.svg_style import SVG, Node, Sheets, Style
from tinhalo.core.artwork.drawings.track import Track
from tinhalo.core.geometry.arrays import Floats
from tinhalo.core.geometry.curves.contour import Contour
from tinhalo.core.geometry.curves.outline import Outline

HREF = "{http://www.w3.org/1999/xlink}href"
SHAPES = {"path", "rect", "circle", "ellipse", "line", "polyline", "polygon"}
GROUPS = {"g", "a", "switch"}
MOST_SEGMENTS, MOST_DEPTH = 200_000, 100
#: Characters of one outline, about 15 for each curve.
_LONGEST = 15 * MOST_SEGMENTS


@dataclass(frozen=True)
class Context:
    """Where an element stands: its map to CSS pixels of the page, what it inherits, what clips it, what hides it."""

    matrix: Floats
    style: Style
    width: float
    height: float
    clip: Outline | None = None
    hidden: str = ""
    uses: tuple[str, ...] = ()
    depth: int = 0


def tag_of(element: Node) -> str:
    """The name of an SVG element; empty for those of other kinds."""
    name = element.tag
    if not isinstance(name, str):
        return ""
    # Files without a namespace are drawn by nobody, and meant as drawings all the same.
    return name.removeprefix(SVG) if name.startswith(SVG) or "}" not in name else ""


def font_size(context: Context) -> float:
    """The size of an em there, in user units."""
    return length(context.style["font-size"], 16, 16) or 16.0


class Scene:
    """What every part of reading a file asks.

    Attributes:
        told: sentences on what is not drawn, and how often.
    """

    def __init__(self, root: Node) -> None:
        self.sheets = Sheets(root)
        self._by_id = {one.get("id"): one for one in reversed(list(root.iter())) if one.get("id")}
        self.told: Counter[str] = Counter()
        self._segments = 0

    def reference(self, value: str | None) -> Node | None:
        """What url(#id) or #id names in this file; files elsewhere are never looked at."""
        value = (value or "").strip()
        if value.lower().startswith("url("):
            value = value[4:].partition(")")[0].strip(" \"'")
        return self._by_id.get(value[1:]) if value.startswith("#") else None

    def length(self, element: Node, name: str, context: Context, along: str = "") -> float:
        """A length that an element says, in user units; 0 where it says none."""
        return self.lengths(element, context)(name, along or name[-1]) or 0.0

    def lengths(self, element: Node, context: Context) -> Lengths:
        """All lengths of an element."""
        said = self.sheets.said(element) if tag_of(element) in SHAPES else element
        whole = {"x": context.width, "y": context.height}
        diagonal = math.hypot(context.width, context.height) / math.sqrt(2)

        def at(name: str, along: str) -> float | None:
            text = said.get(name) or element.get(name)
            return length(text, whole.get(along, diagonal), font_size(context))

        return at

    def contours(self, element: Node, tag: str, context: Context) -> list[Contour]:
        """What a shape draws, in its own units.

        Raises:
            DrawingError: when it holds too much.
        """
        track = Track()
        said = self.sheets.said(element)
        # Told by its length: reading it first would take many seconds.
        if len(said.get("d", "")) > _LONGEST:
            raise DrawingError(f"its outlines have more than {MOST_SEGMENTS:,} curves")
        attributes: dict[str, str] = {"d": said.get("d", ""), "points": element.get("points", "")}
        if not draw(tag, attributes, self.lengths(element, context), track):
            self.told["{} outlines break off in the middle: what comes before that is drawn."] += 1
        contours = track.contours()
        self._segments += sum(len(one.segments) for one in contours)
        if self._segments > MOST_SEGMENTS:
            raise DrawingError(f"its outlines have more than {MOST_SEGMENTS:,} curves")
        return contours
